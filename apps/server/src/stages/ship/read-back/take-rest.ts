import { MOST_EXTRAS } from '@sprig/contracts';
import type { ExtraSheetRow, NegativeSheetRow } from '@sprig/core/sheets';
import { normalise, tidy } from '@sprig/core/text';
import { anyExtraLimits, checkExtra, type ExtraBody } from '@sprig/core/write';
import type { Change, InputRow } from '../../../plan/change/index.ts';
import type { Notes } from './notes.ts';

const negativeKey = (place: string, norm: string, type: string) => `${place}\n${type} ${norm}`;

/** Negatives of campaigns and ad groups. */
export class NegativesTaken {
  private readonly there = new Map<string, number>();
  private readonly fresh: InputRow<'placed_negatives'>[] = [];
  private readonly gone: { id: number }[] = [];

  constructor(
    private readonly change: Change,
    private readonly notes: Notes,
  ) {}

  async open(): Promise<void> {
    const rows = await this.change.find('placed_negatives', {
      columns: ['id', 'place', 'norm', 'match_type'],
    });
    for (const { id, place, norm, match_type } of rows)
      this.there.set(negativeKey(place, norm, match_type), id);
  }

  add({ text, type }: NegativeSheetRow, place: string): void {
    const norm = normalise(text);
    const key = negativeKey(place, norm, type);
    if (norm === '' || this.there.has(key)) return;
    this.there.set(key, 0);
    this.fresh.push({ id: 0, place, text: tidy(text), norm, match_type: type });
  }

  /** Takes one out; the plan's own, a list's and fences are made by rules. */
  remove(text: string, type: string, place: string): boolean {
    const id = this.there.get(negativeKey(place, normalise(text), type));
    if (!id) {
      this.notes.add('negative-by-rule', `-${text} (${type})`);
      return false;
    }
    this.gone.push({ id });
    return true;
  }

  async write(): Promise<number> {
    const first = this.change.takeIds(this.fresh.length);
    this.fresh.forEach((row, at) => {
      row.id = first + at;
    });
    await this.change.insert('placed_negatives', this.fresh);
    await this.change.remove('placed_negatives', this.gone);
    return this.fresh.length;
  }
}

/** Extras of the plan, its campaigns and ad groups; the same one at several places is one. */
export class ExtrasTaken {
  private readonly there = new Map<
    string,
    { id: number; body: ExtraBody; at: Set<string>; outlets: string[]; isChanged: boolean }
  >();

  constructor(
    private readonly change: Change,
    private readonly notes: Notes,
    /** Whose sheets are read. */
    private readonly outlet: string,
  ) {}

  async open(): Promise<void> {
    const rows = await this.change.find('extras', {
      columns: ['id', 'at', 'body', 'outlets'],
      order: ['id'],
    });
    for (const { id, at, body, outlets } of rows)
      this.there.set(said(body), {
        id,
        body,
        at: new Set(at),
        outlets: [...(outlets ?? [])],
        isChanged: false,
      });
  }

  add({ extra }: ExtraSheetRow, place: string): boolean {
    const [problem] = checkExtra(extra, anyExtraLimits);
    const key = said(extra);
    const there = this.there.get(key);
    if (problem || (!there && this.there.size >= MOST_EXTRAS)) {
      this.notes.add(problem ? 'extra' : 'extras-full', Object.values(extra).slice(1).join(', '));
      return false;
    }
    if (there) {
      there.at.add(place);
      // The outlet has what was for others only.
      if (there.outlets.length > 0 && !there.outlets.includes(this.outlet)) there.outlets.push(this.outlet);
      there.isChanged = true;
    } else this.there.set(key, { id: 0, body: extra, at: new Set([place]), outlets: [], isChanged: true });
    return true;
  }

  remove(extra: ExtraBody, place: string): boolean {
    const there = this.there.get(said(extra));
    if (!there?.at.delete(place)) return false;
    there.isChanged = true;
    return true;
  }

  async write(): Promise<void> {
    for (const { id, body, at, outlets, isChanged } of this.there.values()) {
      if (!isChanged) continue;
      if (id === 0) {
        if (at.size > 0)
          await this.change.insert('extras', [{ id: this.change.takeIds(1), at: [...at], body, outlets }]);
      } else if (at.size === 0) await this.change.remove('extras', [{ id }]);
      else await this.change.update('extras', [id], { at: [...at], outlets });
    }
  }
}

const said = (body: ExtraBody): string => Object.values(body).join('\n');
