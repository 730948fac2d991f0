import { bidFields } from '@sprig/contracts';
import { rowKeyOf } from '@sprig/core/build';
import { BY_HAND, type SaidKeyword } from '@sprig/core/gather';
import { bitOf, LONGEST_KEYWORD, type MatchType, typeOf } from '@sprig/core/match';
import type { Micros } from '@sprig/core/money';
import type { KeywordSheetRow } from '@sprig/core/sheets';
import { firstNotAllowed, type NormalText, normalise, tidy } from '@sprig/core/text';
import { CopyRows, copyText } from '../../../db/copy.ts';
import type { Change } from '../../../plan/change/index.ts';
import { giveTypes, takeInKeywords } from '../../gather/index.ts';
import type { Amounts } from './amounts.ts';
import type { Held } from './held.ts';
import type { Notes } from './notes.ts';
import type { GroupPlace } from './places.ts';

/** A keyword that the plan has not in this ad group in this match type. */
export type NewKeyword = { row: KeywordSheetRow; line: number; place: GroupPlace };
type TakenKeyword = NewKeyword & { norm: NormalText };

/** What is bid on a network where nothing else is said of it. */
export type ShareOf = (bid: Micros, network: 'partners' | 'display') => Micros;

/** Takes keywords of sheets into the pool, in the match types that they have there, and places them where they stand. */
export class KeywordsTaken {
  private readonly places = new Map<string, GroupPlace>();
  private taken: TakenKeyword[] = [];

  constructor(
    private readonly change: Change,
    private readonly from: { name: string; job: string },
    private readonly amounts: Amounts,
    private readonly shareOf: ShareOf,
    private readonly held: Held,
    private readonly notes: Notes,
  ) {}

  add({ row, line, place }: NewKeyword): void {
    const norm = normalise(row.text);
    if (norm === '' || norm.length > LONGEST_KEYWORD || firstNotAllowed(norm)) {
      this.notes.add('keyword-refused', row.text);
      return;
    }
    const there = this.places.get(norm);
    if (there && there.theme !== place.theme) {
      this.notes.add('keyword-elsewhere', `${row.text} (${row.type}): ${row.campaign}, ${row.group}`);
      return;
    }
    if (place.isSingle) this.notes.add('group-single', `${row.text}: ${row.group}`);
    this.places.set(norm, place);
    this.taken.push({ row, line, place, norm });
  }

  /** What new keywords bid, wanted as they are to be. */
  *bids(): Generator<{ group: string; type: MatchType; bid: Micros }> {
    for (const { row, place } of this.taken) {
      const bid = this.amounts.bid(bidOfRow(row));
      if (bid !== null) yield { group: place.key, type: row.type, bid };
    }
  }

  /** Keywords that would have to leave an ad group in which the sheets have them still: a plan has each once. */
  private async leaveElsewhere(
    built: ReadonlyMap<string, Built>,
    gone: () => Promise<ReadonlyMap<string, number>>,
  ) {
    const moving = [...this.places].filter(([norm, place]) => {
      const before = built.get(norm);
      return before && !staysIn(before, place);
    });
    if (moving.length === 0) return;
    const goneThere = await gone();
    const left = new Set<string>();
    for (const [norm] of moving)
      if ((goneThere.get(norm) ?? 0) < (built.get(norm)?.types.length ?? 0)) left.add(norm);
    this.taken = this.taken.filter(({ row, norm }) => {
      if (!left.has(norm)) return true;
      this.notes.add('keyword-elsewhere', `${row.text} (${row.type}): ${row.campaign}, ${row.group}`);
      this.places.delete(norm);
      return false;
    });
  }

  /** Bids at partners and on pages that are not their share of the bid. */
  private networkBids(key: string, { bids }: KeywordSheetRow) {
    if (!bids?.search) return;
    for (const network of ['partners', 'display'] as const) {
      const own = bids[network];
      if (own === undefined || own === this.shareOf(bids.search, network)) continue;
      const amount = this.amounts.bid(own);
      if (amount !== null) this.held.add(key, bidFields[network], amount);
    }
  }

  /**
   * `usualBid`: what a row bids where nothing is held of it; `gone`: of each keyword how many rows
   * the sheets have no more. Answers how many rows were taken.
   */
  async write(
    usualBid: (group: string, type: MatchType) => Micros | null,
    isEmpty: boolean,
    gone: () => Promise<ReadonlyMap<string, number>>,
  ): Promise<number> {
    const built = isEmpty ? new Map<string, Built>() : await this.builtTypes();
    await this.leaveElsewhere(built, gone);
    if (this.taken.length === 0) return 0;
    await takeInKeywords(this.change, this.said(built), { kind: 'file', ...this.from });
    const ids = await this.idsOf();
    await this.addTypes(ids);
    await this.placeAll(ids, built, isEmpty);
    for (const { row, place, norm } of this.taken) {
      const id = ids.get(norm);
      if (id === undefined) continue;
      const key = rowKeyOf(id, row.type);
      const bid = this.amounts.bid(bidOfRow(row));
      if (bid !== null && bid !== usualBid(place.key, row.type)) this.held.add(key, 'bid', bid);
      if (row.status === 'paused') this.held.add(key, 'status', 'paused');
      if (row.labels.length > 0) this.held.add(key, 'labels', row.labels.join(', '));
      if (row.finalUrl !== '') this.held.addAddress(key, row.finalUrl, this.notes);
      this.networkBids(key, row);
    }
    return this.taken.length;
  }

  /** Where match types were set by hand, those of the sheet come to them: else they would not be built. */
  private async addTypes(ids: ReadonlyMap<string, number>): Promise<void> {
    const asked = new Map<number, number>();
    for (const { row, norm } of this.taken) {
      const id = ids.get(norm);
      if (id !== undefined) asked.set(id, (asked.get(id) ?? 0) | bitOf(row.type));
    }
    const byHand = await this.change.rows<{ id: number; asked: number }>(
      `select id, asked from keywords where plan_id = $1 and hand & ${BY_HAND.asked} > 0 and id = any($2::int[])`,
      [[...asked.keys()]],
    );
    await giveTypes(
      this.change,
      byHand.map(({ id, asked: own }) => ({ ids: [id], types: own | (asked.get(id) ?? 0) })),
    );
  }

  /** The ids of what was taken in, by norm; what was cut or folded of it is in the pool again. */
  private async idsOf(): Promise<Map<string, number>> {
    const { transaction, caller } = this.change;
    const rows = new CopyRows(
      await copyText(
        transaction,
        `select k.id, k.cut, k.folded_into is not null, k.blocked_by is not null, k.norm
         from incoming i join keywords k on k.plan_id = ${Number(caller.plan)} and k.norm = i.norm order by k.id`,
      ),
    );
    const ids = new Map<string, number>();
    const again: { cut: number[]; folded: number[] } = { cut: [], folded: [] };
    while (!rows.isDone) {
      const id = rows.whole();
      if (rows.text() === 't') again.cut.push(id);
      if (rows.text() === 't') again.folded.push(id);
      const isBlocked = rows.text() === 't';
      const norm = rows.text();
      // A negative of the plan is not taken back for it.
      if (isBlocked) this.notes.add('keyword-blocked', norm);
      ids.set(norm, id);
    }
    await this.change.update('keywords', again.cut, { cut: false });
    await this.change.update('keywords', again.folded, { folded_into: null, apart: true });
    return ids;
  }

  /** What was built of these keywords before: those that stay where they are keep their match types. */
  private async builtTypes(): Promise<Map<string, Built>> {
    const rows = await this.change.rows<{ text: string; types: number[]; keys: string[]; themes: number[] }>(
      `select k.text, array_agg(k.type) as types, array_agg(distinct k.group_key) as keys,
         array_agg(distinct coalesce(g.theme_id, 0)) as themes
       from keyword_rows k join ad_groups g on g.plan_id = k.plan_id and g.key = k.group_key
       where k.plan_id = $1 and k.text = any($2::text[]) group by k.text`,
      [[...this.places.keys()]],
    );
    return new Map(rows.map(({ text, types, keys, themes }) => [text, { types, keys, themes }]));
  }

  private *said(built: ReadonlyMap<string, Built>) {
    const kept = new Set<string>();
    for (const { row, line, place, norm } of this.taken) {
      const text = row.text === norm ? norm : tidy(row.text);
      yield saidOnce(line, text, norm, row.type, [...row.marks]);
      const before = built.get(norm);
      if (!before || !staysIn(before, place) || kept.has(norm)) continue;
      kept.add(norm);
      for (const at of new Set(before.types)) yield saidOnce(line, text, norm, typeOf(at), []);
    }
  }

  private async placeAll(
    ids: ReadonlyMap<string, number>,
    built: ReadonlyMap<string, Built>,
    isEmpty: boolean,
  ) {
    const wanted: { keyword_id: number; theme_id: number; stage: null }[] = [];
    for (const [norm, place] of this.places) {
      const id = ids.get(norm);
      const before = built.get(norm);
      if (id === undefined || (before && staysIn(before, place))) continue;
      if (place.theme !== null) wanted.push({ keyword_id: id, theme_id: place.theme, stage: null });
    }
    if (isEmpty) return this.change.insert('placed_by_hand', wanted);
    const there = await this.change.find('placed_by_hand', {
      columns: ['keyword_id'],
      where: { keyword_id: wanted.map(({ keyword_id }) => keyword_id) },
    });
    const held = new Set(there.map(({ keyword_id }) => keyword_id));
    await this.change.insert(
      'placed_by_hand',
      wanted.filter(({ keyword_id }) => !held.has(keyword_id)),
    );
    await this.change.updateEach(
      'placed_by_hand',
      wanted.filter(({ keyword_id }) => held.has(keyword_id)),
      ['theme_id'],
    );
  }
}

/** What is built of a keyword: the type of each of its rows, and the ad groups and themes that they stand in. */
type Built = { types: number[]; keys: string[]; themes: number[] };

const staysIn = ({ keys, themes }: Built, { key, theme }: GroupPlace): boolean =>
  keys.includes(key) || (theme !== null && themes.includes(theme));

const saidOnce = (
  line: number,
  text: string,
  norm: NormalText,
  type: MatchType,
  marks: number[],
): SaidKeyword => ({
  line,
  text,
  norm,
  type,
  marks,
  searches: null,
  cpc: null,
  competition: null,
  extra: null,
});

/** Where an outlet takes a bid for each network, that for searches counts. */
export const bidOfRow = ({ bid, bids }: Pick<KeywordSheetRow, 'bid' | 'bids'>): Micros | null =>
  bids?.search ?? bid;
