import * as api from '@sprig/contracts';
import { Router } from 'express';
import { execute, select } from '../db/connect.ts';
import type { Caller } from '../platform/caller.ts';
import { notFound } from '../platform/failure.ts';
import { log } from '../platform/log.ts';
import { mount } from './mount.ts';

type Me = { name: string; workspace: string; preferences: api.Preferences };

async function readMe({ database, workspace, actor }: Caller): Promise<Me> {
  const [me] = await select<{ name: string; workspace: string; preferences: unknown }>(
    database,
    `select a.name, w.name as workspace, a.preferences from actors a join workspaces w on w.id = a.workspace_id
     where a.id = $1 and a.workspace_id = $2`,
    [actor, workspace],
  );
  if (!me) throw notFound('user');
  return { ...me, preferences: api.preferencesSchema.parse(me.preferences) };
}

export const meRoutes = (): Router => {
  const router = Router();
  mount(router, api.readMe, readMe);
  mount(router, api.editPreferences, async (caller, { body }) => {
    await execute(
      caller.database,
      'update actors set preferences = preferences || $3 where id = $1 and workspace_id = $2',
      [caller.actor, caller.workspace, JSON.stringify(body)],
    );
    return readMe(caller);
  });
  mount(router, api.reportFault, async ({ actor }, { body }) => {
    log.error({ ...body, actor }, 'a part of a screen failed');
    return {};
  });
  return router;
};
