import { MOST_EXTRAS } from '@sprig/contracts';
import { type Status, statuses } from '@sprig/core/build';
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

type KnownExtra = {
  id: number;
  body: ExtraBody;
  at: Set<string>;
  outlets: string[];
  status: Status;
  isChanged: boolean;
};

/** Extras of the plan, its campaigns and ad groups; the same one of one status at several places is one. */
export class ExtrasTaken {
  private readonly there = new Map<string, KnownExtra>();

  constructor(
    private readonly change: Change,
    private readonly notes: Notes,
    /** Whose sheets are read. */
    private readonly outlet: string,
  ) {}

  async open(): Promise<void> {
    const rows = await this.change.find('extras', {
      columns: ['id', 'at', 'body', 'outlets', 'status'],
      order: ['id'],
    });
    for (const { id, at, body, outlets, status } of rows)
      this.there.set(said(body, status ?? 'enabled'), {
        id,
        body,
        at: new Set(at),
        outlets: [...(outlets ?? [])],
        status: status ?? 'enabled',
        isChanged: false,
      });
  }

  add({ extra, status: typed }: ExtraSheetRow, place: string): boolean {
    const [problem] = checkExtra(extra, anyExtraLimits);
    const status = typed === 'paused' ? typed : 'enabled';
    const key = said(extra, status);
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
    } else
      this.there.set(key, {
        id: 0,
        body: extra,
        at: new Set([place]),
        outlets: [],
        status,
        isChanged: true,
      });
    return true;
  }

  /** An extra that runs or is paused now: at this place alone, others of its places stay as they are. */
  changeStatus(row: ExtraSheetRow, place: string): boolean {
    return this.remove(row.extra, place) && this.add(row, place);
  }

  remove(extra: ExtraBody, place: string): boolean {
    let isTaken = false;
    for (const status of statuses) {
      const there = this.there.get(said(extra, status));
      if (!there?.at.delete(place)) continue;
      there.isChanged = true;
      isTaken = true;
    }
    return isTaken;
  }

  async write(): Promise<void> {
    for (const { id, body, at, outlets, status, isChanged } of this.there.values()) {
      if (!isChanged) continue;
      if (id === 0) {
        if (at.size > 0)
          await this.change.insert('extras', [
            { id: this.change.takeIds(1), at: [...at], body, outlets, status },
          ]);
      } else if (at.size === 0) await this.change.remove('extras', [{ id }]);
      else await this.change.update('extras', [id], { at: [...at], outlets });
    }
  }
}

const said = (body: ExtraBody, status: Status): string => [status, ...Object.values(body)].join('\n');
