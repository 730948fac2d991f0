import type { BuildKeyword } from '@sprig/core/build';
import { hashOf } from '@sprig/core/text';
import type { Sequelize } from 'sequelize';
import type { LaidOut } from './lay-out.ts';
import type { InputReader, Inputs } from './load-inputs.ts';

/**
 * What this process built last: most rebuilds come after a small edit of the same plan, and need neither read the pool
 * again nor go through all rows. It is used only if what stands in the database was made of it, and each part of it only
 * while all that it is made of is the same, told by a key.
 */
export type LastBuild = {
  database: Sequelize;
  plan: number;
  builtRevision: number;
  placedKey: string;
  keywords: BuildKeyword[];
  laidKey: string;
  laid: LaidOut;
  /** Of the rows that fences are made of; null where fences were off. */
  fencedRows: number;
};

/** A larger plan is not kept. */
const MOST_KEPT = 250_000;
let last: LastBuild | null = null;

export function lastBuild(database: Sequelize, plan: number, builtRevision: number): LastBuild | null {
  const isIt =
    last !== null &&
    addressOf(last.database) === addressOf(database) &&
    last.plan === plan &&
    last.builtRevision === builtRevision;
  return isIt ? last : null;
}

/** Two pools may be of one database. */
const addressOf = ({ config }: Sequelize): string => `${config.host}:${config.port}/${config.database}`;

export function keepBuild(build: LastBuild): void {
  last = build.keywords.length > MOST_KEPT ? null : build;
}

/** Of all that tells where keywords stand: the pool, the themes but for their names, what is held, the words. */
export async function placedKeyOf(reader: InputReader, inputs: Inputs): Promise<string> {
  const [pool] = await reader.rows<{ stamp: string }>(
    `select concat_ws(' ', max(changed_revision), count(*), (select max(revision) from removed_keywords where plan_id = $1),
       (select count(*) || ' ' || max(id) from sources where plan_id = $1)) as stamp from keywords where plan_id = $1`,
  );
  const { themes, placed, sortSettings, facts, brief } = inputs;
  const shapes = themes.map(({ id, parent, sift, stage }) => [id, parent, sift, stage]);
  const words = [sortSettings.signals, facts.places, facts.functionWords, brief.language];
  return `${pool?.stamp} ${hashOf(JSON.stringify([shapes, placed, words]))}`;
}

/** Of all that tells which rows there are and what fences them: everything but names and what ads say. */
export function laidKeyOf(inputs: Inputs, placedKey: string): string {
  const { layout, themes, holds, brief } = inputs;
  const { campaignName: _, groupName: __, themeName: ___, ...shape } = layout;
  const {
    revision,
    patterns,
    address,
    day,
    refused,
    extrasAt,
    phonesAt,
    extraTexts,
    outlets,
    sources,
    settingSets,
    ...others
  } = inputs;
  const parts = {
    ...others,
    layout: shape,
    brief: [brief.currency, brief.language],
    themes: themes.map(({ id, parent, idea }) => [id, parent, idea]),
    holds: holds.filter(({ rowKey, field }) => field !== 'name' && !rowKey.includes('/')),
    sources: [...sources.keys()],
    settingSets: settingSets.length,
  };
  return `${placedKey} ${hashOf(JSON.stringify(parts))}`;
}
