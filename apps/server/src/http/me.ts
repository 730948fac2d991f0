import * as api from '@sprig/contracts';
import { Router } from 'express';
import type { Sequelize } from 'sequelize';
import { execute, select } from '../db/connect.ts';
import type { Sender } from '../platform/caller.ts';
import { notFound } from '../platform/failure.ts';
import { log } from '../platform/log.ts';
import { mount } from './mount.ts';

type Row = Pick<api.Me, 'name' | 'email' | 'hasSecondFactor' | 'isDemo' | 'workspaces'> & {
  preferences: unknown;
};

async function readMe(database: Sequelize, { workspace, actor, role, permissions }: Sender): Promise<api.Me> {
  const [me] = await select<Row>(
    database,
    `select a.name, a.preferences, coalesce(p.email, '') as email, p.totp_since is not null as "hasSecondFactor",
       coalesce(p.is_demo, false) as "isDemo",
       (select jsonb_agg(jsonb_build_object('id', w.id, 'name', w.name) order by lower(w.name), w.id)
        from actors b join workspaces w on w.id = b.workspace_id
        where b.removed_at is null and (b.id = a.id or b.person_id = a.person_id)) as workspaces
     from actors a left join people p on p.id = a.person_id where a.id = $1 and a.workspace_id = $2`,
    [actor, workspace],
  );
  if (!me) throw notFound('user');
  return {
    ...me,
    actor,
    workspaceId: workspace,
    workspace: me.workspaces.find(({ id }) => id === workspace)?.name ?? '',
    role,
    permissions: [...permissions],
    preferences: api.preferencesSchema.parse(me.preferences),
  };
}

/** @param database that sees people too, of whatever workspace */
export const meRoutes = (database: Sequelize): Router => {
  const router = Router();
  mount(router, api.readMe, (caller) => readMe(database, caller));
  mount(router, api.editPreferences, async (caller, { body }) => {
    await execute(
      caller.database,
      'update actors set preferences = preferences || $3 where id = $1 and workspace_id = $2',
      [caller.actor, caller.workspace, JSON.stringify(body)],
    );
    return readMe(database, caller);
  });
  mount(router, api.reportFault, async ({ actor }, { body }) => {
    log.error({ ...body, actor }, 'a part of a screen failed');
    return {};
  });
  return router;
};
