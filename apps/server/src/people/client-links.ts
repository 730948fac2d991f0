import type {
  ClientLinkView,
  ClientView,
  makeClientLink,
  readSharedPlan,
  SharedPlan,
} from '@sprig/contracts';
import * as api from '@sprig/contracts';
import { Router } from 'express';
import type { Sequelize } from 'sequelize';
import type { z } from 'zod';
import { execute, select } from '../db/connect.ts';
import { inWorkspace } from '../db/workspace.ts';
import { mount, mountOpen } from '../http/mount.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { notFound, SprigFailure } from '../platform/failure.ts';
import { noteIn, planNamed } from './audit.ts';
import { type Asker, askerOf, type Doorway } from './doorway.ts';
import { keyOf, newToken } from './secrets.ts';

/** A plan has no more links that work. */
const MOST_LINKS = 100;

const IS_OPEN = 'ended_at is null and ends_at > now()';

type Row = Omit<ClientLinkView, 'madeAt' | 'endsAt' | 'readAt'> & {
  madeAt: Date;
  endsAt: Date;
  readAt: Date | null;
};

async function linksOf({ database, plan, workspace }: PlanCaller): Promise<ClientLinkView[]> {
  const rows = await select<Row>(
    database,
    `select l.id, l.name, l.body as view, a.name as from, l.made_at as "madeAt", l.ends_at as "endsAt", l.read_at as "readAt",
       l.times_read as "timesRead"
     from client_links l join actors a on a.id = l.made_by
     where l.plan_id = $1 and l.workspace_id = $2 and ${IS_OPEN} order by l.id desc`,
    [plan, workspace],
  );
  return rows.map(({ madeAt, endsAt, readAt, ...row }) => ({
    ...row,
    madeAt: madeAt.toISOString(),
    endsAt: endsAt.toISOString(),
    readAt: readAt?.toISOString() ?? null,
  }));
}

type Maker = PlanCaller & Asker;

async function noteBy(
  { database, workspace, plan, person, actor, address }: Maker,
  kind: 'client-link-made' | 'client-link-ended',
  name: string,
): Promise<void> {
  const about = `${name}: ${await planNamed(database, plan)}`;
  await noteIn(database, workspace, { kind, about, person, actor, address });
}

async function makeLink(
  { publicUrl }: Doorway,
  maker: Maker,
  { name, view, days }: z.output<typeof makeClientLink.body>,
): Promise<{ id: number; link: string }> {
  const { database, plan, workspace, actor } = maker;
  if ((await linksOf(maker)).length >= MOST_LINKS)
    throw new SprigFailure('too-many', `A plan has up to ${MOST_LINKS} links. Take one back first.`);
  const token = newToken();
  const [row] = await select<{ id: number }>(
    database,
    `insert into client_links (workspace_id, plan_id, key, name, body, made_by, ends_at)
     values ($1, $2, $3, $4, $5, $6, now() + $7 * interval '1 day') returning id`,
    [workspace, plan, keyOf(token), name.trim(), JSON.stringify(view), actor, days],
  );
  await noteBy(maker, 'client-link-made', name.trim());
  return { id: row?.id ?? 0, link: `${publicUrl}/door/client#${token}` };
}

async function endLink(maker: Maker, id: number): Promise<void> {
  const [gone] = await select<{ name: string }>(
    maker.database,
    `update client_links set ended_at = now() where id = $1 and plan_id = $2 and workspace_id = $3 and ${IS_OPEN} returning name`,
    [id, maker.plan, maker.workspace],
  );
  if (!gone) throw notFound('link');
  await noteBy(maker, 'client-link-ended', gone.name);
}

type Open = {
  id: number;
  workspace: number;
  plan: number;
  actor: number;
  view: ClientView;
  endsAt: Date;
  from: string;
};

/** What is read by a link, as long as it works. It is asked for with each reading, so that one taken back shows nothing from then on. */
async function readByLink(
  { database }: Doorway,
  walled: Sequelize,
  token: string,
  readPlan: (caller: PlanCaller, view: ClientView) => Promise<SharedPlan>,
): Promise<z.input<typeof readSharedPlan.answer>> {
  const [link] = await select<Open>(
    database,
    `update client_links l set read_at = now(), times_read = times_read + 1 from workspaces w
     where l.key = $1 and ${IS_OPEN} and w.id = l.workspace_id
     returning l.id, l.workspace_id as workspace, l.plan_id as plan, l.made_by as actor, l.body as view, l.ends_at as "endsAt", w.name as from`,
    [keyOf(token)],
  );
  if (!link)
    throw new SprigFailure(
      'not-found',
      'This link works no more: its time is over, or it was taken back. Ask whoever sent it for another one.',
    );
  const { workspace, plan, actor, view, endsAt, from } = link;
  const seen = api.clientView.parse(view);
  return {
    view: seen,
    endsAt: endsAt.toISOString(),
    from,
    plan: await inWorkspace(workspace, () => readPlan({ database: walled, workspace, plan, actor }, seen)),
  };
}

/** Takes away what ended long ago. */
export const clearOldLinks = (database: Sequelize): Promise<void> =>
  execute(
    database,
    `delete from client_links where coalesce(ended_at, ends_at) < now() - interval '30 days'`,
  );

/** Links by which a client reads one plan without an account. `readPlan`: what they read. */
export const clientLinkRoutes = (
  door: Doorway,
  walled: Sequelize,
  readPlan: Parameters<typeof readByLink>[3],
): Router => {
  const router = Router();
  mount(router, api.listClientLinks, async (caller, _input, request) => ({
    links: await linksOf(askerOf(door, caller, request)),
  }));
  mount(router, api.makeClientLink, (caller, { body }, request) =>
    makeLink(door, askerOf(door, caller, request), body),
  );
  mount(router, api.endClientLink, async (caller, { params }, request) => {
    await endLink(askerOf(door, caller, request), params.link);
    return {};
  });
  mountOpen(router, api.readSharedPlan, ({ body }) => readByLink(door, walled, body.token, readPlan));
  return router;
};
