import { MOST_PATTERNS } from '@sprig/contracts';
import { adKeyOf, readAdText } from '@sprig/core/ads';
import type { Outlet } from '@sprig/core/outlets';
import type { AdSheetRow } from '@sprig/core/sheets';
import {
  type AdField,
  type AdPattern,
  adFields,
  isAdField,
  isFirstPattern,
  patternOf,
  readSite,
} from '@sprig/core/write';
import type { Change } from '../../../plan/change/index.ts';
import type { Inputs } from '../../../plan/rebuild/load-inputs.ts';
import { grouped } from '../../../platform/grouped.ts';

import type { Held } from './held.ts';
import { mostOf, type Notes } from './notes.ts';
import type { GroupPlace } from './places.ts';
import type { StagedRow } from './staged-body.ts';

type NewAd = { row: AdSheetRow; place: GroupPlace };
/** An ad with its texts as one would type them here. */
type ReadAd = NewAd & { sources: Partial<Record<AdField, string>>; order: number };

const LONGEST_LINE = 1_000;
const MOST_LABELS = 50;

/**
 * Takes ads of sheets into the plan. Those that have the same fields make one pattern for their ad groups: what most of
 * them say are its lines, and what others say is held there.
 */
export class AdsTaken {
  private readonly ads: NewAd[] = [];

  constructor(
    private readonly change: Change,
    private readonly inputs: Inputs,
    private readonly outlet: Outlet,
    private readonly held: Held,
    private readonly notes: Notes,
  ) {}

  add(row: AdSheetRow, place: GroupPlace): void {
    this.ads.push({ row, place });
  }

  /** What differs of an ad that the plan has. */
  changed({ ad, row, fields }: StagedRow): void {
    if (ad === null || row?.kind !== 'ad') return;
    for (const { value, after } of fields) {
      if (isAdField(value)) {
        const source = this.sourceOf(after);
        if (source !== null) this.held.add(ad, value, source);
      } else if (value === 'final-url') this.held.addAddress(ad, after, this.notes);
      else if (value === 'status') this.held.add(ad, 'status', statusOf(row));
      else if (value === 'labels') this.held.add(ad, 'labels', row.labels.join(', '));
      else if (value === 'mobile-url') this.notes.add('ad-mobile', after);
      else this.notes.add('ad-kept', row.texts.headline1 ?? '');
    }
  }

  private sourceOf(text: string): string | null {
    const read = readAdText(text, this.outlet.ad.insertion);
    if ('source' in read && read.source.length <= LONGEST_LINE) return read.source;
    this.notes.add('problem' in read && read.problem === 'insertion' ? 'ad-insertion' : 'ad-token', text);
    return null;
  }

  /** `groups`: how many ad groups the plan will have, where it had none before. Answers how many ads were taken. */
  async write(isEmpty: boolean, groups: number): Promise<number> {
    if (this.ads.length === 0) return 0;
    const { patterns } = this.inputs;
    const first = isEmpty ? patterns.filter(({ body }) => isFirstPattern(body)) : [];
    await this.change.remove(
      'ad_patterns',
      first.map(({ id }) => ({ id })),
    );
    let room = MOST_PATTERNS - (patterns.length - first.length);
    let position = patterns.length;
    let taken = 0;
    const usual = isEmpty ? await this.usualAddress() : null;
    for (const like of this.alike().values()) {
      if (room <= 0) {
        for (const { row } of like)
          this.notes.add('ad-patterns-full', `${row.group}: ${row.texts.headline1 ?? ''}`);
        continue;
      }
      room--;
      taken += like.length;
      const id = this.change.takeIds(1);
      const body = this.patternFor(like, isEmpty && like.length === groups, id);
      await this.change.insert('ad_patterns', [{ id, position: position++, body }]);
      for (const ad of like) this.hold(ad, body, adKeyOf(ad.place.key, id), usual);
    }
    return taken;
  }

  /** Ads of the same fields, the first of each ad group together, then the second ones. */
  private alike(): Map<string, ReadAd[]> {
    const read: ReadAd[] = this.ads.map(({ row, place }) => {
      const sources: ReadAd['sources'] = {};
      for (const field of adFields) {
        const text = row.texts[field];
        const source = text === undefined || text === '' ? null : this.sourceOf(text);
        if (source !== null) sources[field] = source;
      }
      return { row, place, sources, order: 0 };
    });
    const shapeOf = ({ row, sources }: ReadAd) =>
      `${row.form} ${Object.keys(sources).join()} ${JSON.stringify(row.kept)}`;
    const counts = new Map<string, number>();
    for (const ad of read) {
      const place = `${ad.place.key} ${shapeOf(ad)}`;
      ad.order = counts.get(place) ?? 0;
      counts.set(place, ad.order + 1);
    }
    return grouped(read, (ad) => `${ad.order} ${shapeOf(ad)}`);
  }

  private patternFor(like: readonly ReadAd[], forAll: boolean, id: number): AdPattern {
    const lines: Partial<Record<AdField, string[]>> = {};
    for (const field of adFields) {
      const most = mostOf(like.flatMap(({ sources }) => sources[field] ?? []));
      if (most !== undefined) lines[field] = [most];
    }
    const [first] = like as [ReadAd];
    const labels = mostOf(like.map(labelsOf));
    const body = patternOf(lines, 'as-is', {
      name: `Read back ${id}`,
      form: first.row.form,
      status: mostOf(like.map(({ row }) => statusOf(row))) ?? 'enabled',
      labels: [...(like.find((ad) => labelsOf(ad) === labels)?.row.labels ?? [])].slice(0, MOST_LABELS),
      groups: forAll
        ? { to: 'all', themes: [], groups: [], campaigns: [] }
        : { to: 'groups', themes: [], groups: like.map(({ place }) => place.key), campaigns: [] },
    });
    for (const [field, at] of Object.entries(first.row.kept))
      if (body.fields[field as AdField].lines.length > 0) body.fields[field as AdField].kept = at;
    return body;
  }

  private hold({ row, sources }: ReadAd, body: AdPattern, key: string, usual: string | null) {
    for (const [field, source] of Object.entries(sources))
      if (body.fields[field as AdField].lines[0] !== source) this.held.add(key, field as AdField, source);
    if (statusOf(row) !== body.status) this.held.add(key, 'status', statusOf(row));
    if (row.labels.join(', ') !== body.labels.join(', ')) this.held.add(key, 'labels', row.labels.join(', '));
    if (row.finalUrl !== '' && row.finalUrl !== usual) this.held.addAddress(key, row.finalUrl, this.notes);
    if (row.mobileUrl !== '') this.notes.add('ad-mobile', row.mobileUrl);
  }

  /** Where most ads lead is where the plan's ads lead, if nothing was said of that before. */
  private async usualAddress(): Promise<string | null> {
    const { address, brief } = this.inputs;
    const most = mostOf(this.ads.flatMap(({ row }) => (row.finalUrl === '' ? [] : [row.finalUrl])));
    const isUsual = address.base === '@site' && address.path === '' && address.parameters === '';
    if (most === undefined || !isUsual || most.includes('@')) return null;
    const read = readSite(most);
    if (read.status !== 'address') return null;
    await this.change.update('address_rules', [1], { body: { ...address, base: most } });
    if (brief.site.trim() === '')
      await this.change.update('briefs', [1], { site: new URL(read.href).origin });
    return read.href === most ? most : null;
  }
}

const statusOf = ({ status }: AdSheetRow) => (status === 'paused' ? 'paused' : 'enabled');
const labelsOf = ({ row }: NewAd): string => row.labels.join(', ');
