import { isDeepStrictEqual } from 'node:util';
import type { Change } from '../../../plan/change/index.ts';
import { isShipped } from '../../../plan/outlets.ts';
import { unsound } from './archive.ts';

type Row = Record<string, unknown>;
type Named = { id: number; name: string };

/**
 * What a plan file shares, in the workspace that it is opened in: what says the same under the same name is taken for
 * the same; else it is made, under a name of its own where that one is taken.
 */
export class SharedWithin {
  private readonly lists = new Map<number, number>();
  private readonly wordLists = new Map<number, number>();
  private readonly outlets = new Map<string, string>();
  private waitingLists: Row[] = [];
  private isLocked = false;

  constructor(private readonly change: Change) {}

  list(number: number): number {
    return known(this.lists.get(number), `a shared list of negatives (${number})`);
  }

  words(number: number): number {
    return known(this.wordLists.get(number), `a shared list of words (${number})`);
  }

  outlet(key: string): string {
    return this.outlets.get(key) ?? key;
  }

  async take(table: string, rows: Row[]): Promise<void> {
    if (rows.length > 0 && !this.isLocked) {
      await this.change.lockShared();
      this.isLocked = true;
    }
    if (table === 'shared_lists') this.waitingLists = rows;
    else if (table === 'shared_negatives') await this.takeLists(rows);
    else if (table === 'word_lists') await this.takeWords(rows);
    else for (const row of rows) await this.takeOutlet(row);
  }

  private async takeLists(negatives: Row[]): Promise<void> {
    for (const { id, name, about } of this.waitingLists) {
      const own = negatives.filter((row) => row.list_id === id);
      const there = await this.change.rows<Named & { about: string; negatives: string[] }>(
        `select l.id, l.name, l.about, coalesce((select array_agg(n.match_type || ':' || n.norm order by n.match_type || ':' || n.norm)
           from shared_negatives n where n.workspace_id = l.workspace_id and n.list_id = l.id), '{}') as negatives
         from shared_lists l join plans p on p.workspace_id = l.workspace_id where p.id = $1`,
      );
      const says = own.map((row) => `${row.match_type}:${row.norm}`).sort();
      const same = there.find(
        (list) =>
          list.name.toLowerCase() === String(name).toLowerCase() &&
          list.about === about &&
          isDeepStrictEqual([...list.negatives].sort(), says),
      );
      if (same) {
        this.lists.set(Number(id), same.id);
        continue;
      }
      const [list = 0] = await this.change.takeSharedIds(1);
      await this.change.insert('shared_lists', [
        { id: list, name: freeName(String(name), there), about: String(about) },
      ]);
      const ids = await this.change.takeSharedIds(own.length);
      await this.change.insert(
        'shared_negatives',
        own.map(({ text, norm, match_type: type }, at) => ({
          id: ids[at] as number,
          list_id: list,
          text: String(text),
          norm: String(norm),
          match_type: String(type),
        })),
      );
      this.lists.set(Number(id), list);
    }
  }

  /** A list that takes others in comes after them. */
  private async takeWords(rows: Row[]): Promise<void> {
    let left = rows;
    while (left.length > 0) {
      const ready = left.filter((row) => (row.takes as number[]).every((one) => this.wordLists.has(one)));
      if (ready.length === 0) throw unsound('its shared lists of words take one another in.');
      for (const row of ready) await this.takeWordList(row);
      left = left.filter((row) => !ready.includes(row));
    }
  }

  private async takeWordList({ id, name, text, takes }: Row): Promise<void> {
    const taken = (takes as number[]).map((one) => this.words(one));
    const there = await this.change.rows<Named & { text: string; takes: number[] }>(
      'select w.id, w.name, w.text, w.takes from word_lists w join plans p on p.workspace_id = w.workspace_id where p.id = $1',
    );
    const same = there.find(
      (list) =>
        list.name.toLowerCase() === String(name).toLowerCase() &&
        list.text === text &&
        isDeepStrictEqual(list.takes, taken),
    );
    if (same) return void this.wordLists.set(Number(id), same.id);
    const [list = 0] = await this.change.takeSharedIds(1);
    await this.change.insert('word_lists', [
      { id: list, name: freeName(String(name), there), text: String(text), takes: taken },
    ]);
    this.wordLists.set(Number(id), list);
  }

  private async takeOutlet({ key, body }: Row): Promise<void> {
    const there = await this.change.rows<{ key: string; body: unknown }>(
      'select o.key, o.body from outlets o join plans p on p.workspace_id = o.workspace_id where p.id = $1',
    );
    const name = String(key);
    if (there.find((one) => one.key === name && isDeepStrictEqual(one.body, body))) return;
    let free = name;
    for (let n = 2; isShipped(free) || there.some((one) => one.key === free); n++)
      free = `${name.slice(0, 36)}-${n}`;
    const [id = 0] = await this.change.takeSharedIds(1);
    await this.change.insert('outlets', [{ id, key: free, body: { ...(body as Row), key: free } }]);
    this.outlets.set(name, free);
  }
}

function known<T>(value: T | undefined, what: string): T {
  if (value === undefined) throw unsound(`it speaks of ${what} that it does not have.`);
  return value;
}

/** `Never (2)` where another list is called `Never`. */
function freeName(name: string, there: readonly Named[]): string {
  const taken = new Set(there.map((one) => one.name.toLowerCase()));
  let free = name;
  for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${name.slice(0, 110)} (${n})`;
  return free;
}
