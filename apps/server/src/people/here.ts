import type { Sequelize } from 'sequelize';
import { execute } from '../db/connect.ts';
import { CHANNEL } from '../platform/jobs/notify.ts';
import { log } from '../platform/log.ts';

/** Somebody at a plan: at which stage, and in which field they write. */
export type Here = { plan: number; actor: number; place: string; field: string };

/** Tells all windows that are open on their plans, at every server: one statement, and nothing is kept. */
export const tellHere = (database: Sequelize, all: readonly Here[]): Promise<void> =>
  execute(
    database,
    `select pg_notify($1, json_build_object('type', 'here', 'plan', h.plan, 'actor', a.id, 'name', a.name, 'place', h.place, 'field', h.field)::text)
     from json_to_recordset($2::json) as h(plan int4, actor int4, place text, field text) join actors a on a.id = h.actor`,
    [CHANNEL, JSON.stringify(all)],
  );

/** What is said within so long is told together. */
const TOGETHER_MS = 500;

/** Tells who is where twice a second, of each only what they said last. */
export class HereTogether {
  private waiting = new Map<string, Here>();
  private timer: NodeJS.Timeout | null = null;

  /** @param database which sees the people of every workspace */
  constructor(private readonly database: Sequelize) {}

  add(here: Here): void {
    this.waiting.set(`${here.plan} ${here.actor}`, here);
    this.timer ??= setTimeout(() => this.flush(), TOGETHER_MS).unref();
  }

  private flush(): void {
    this.timer = null;
    const all = [...this.waiting.values()];
    this.waiting.clear();
    tellHere(this.database, all).catch((error: unknown) => log.warn({ error }, 'who is where was not told'));
  }
}
