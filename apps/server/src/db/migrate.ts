import { runMigrations } from 'graphile-worker';
import type { Sequelize, Transaction } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { log } from '../platform/log.ts';
import { execute, select } from './connect.ts';
import * as foundation from './migrations/001-foundation.ts';
import * as prune from './migrations/002-prune.ts';
import * as mix from './migrations/003-mix.ts';
import * as planEstimates from './migrations/004-plan-estimates.ts';
import * as sort from './migrations/005-sort.ts';
import * as build from './migrations/006-build.ts';
import * as write from './migrations/007-write.ts';
import * as ship from './migrations/008-ship.ts';
import * as readBack from './migrations/009-read-back.ts';
import * as knownRows from './migrations/010-known-rows.ts';
import * as checksAtOnce from './migrations/011-checks-at-once.ts';
import * as queueGoesOn from './migrations/012-queue-goes-on.ts';
import * as fencesOfAnyType from './migrations/013-fences-of-any-type.ts';
import * as builtDay from './migrations/014-built-day.ts';
import * as negativesOfThePlan from './migrations/015-negatives-of-the-plan.ts';
import * as origins from './migrations/016-origins.ts';
import * as extras from './migrations/017-extras.ts';
import * as learn from './migrations/018-learn.ts';
import * as shippedAds from './migrations/019-shipped-ads.ts';
import * as verdicts from './migrations/020-verdicts.ts';
import * as terms from './migrations/021-terms.ts';
import * as worth from './migrations/022-worth.ts';
import * as uploadEncoding from './migrations/023-upload-encoding.ts';
import * as fencesOut from './migrations/024-fences-out.ts';
import * as outsets from './migrations/025-outsets.ts';
import * as parts from './migrations/026-parts.ts';
import * as rowLooks from './migrations/027-row-looks.ts';
import * as extrasOutlets from './migrations/028-extras-outlets.ts';
import * as keywordUrls from './migrations/029-keyword-urls.ts';
import * as extrasStatus from './migrations/030-extras-status.ts';
import * as readBackCampaigns from './migrations/031-read-back-campaigns.ts';
import * as acceptedBy from './migrations/032-accepted-by.ts';
import * as findingLists from './migrations/033-finding-lists.ts';
import * as rivalNotes from './migrations/034-rival-notes.ts';
import * as sharedSettings from './migrations/035-shared-settings.ts';
import * as people from './migrations/036-people.ts';
import * as wall from './migrations/037-wall.ts';
import * as work from './migrations/038-work.ts';
import * as rest from './migrations/039-rest.ts';
import * as archivedKeywords from './migrations/040-archived-keywords.ts';
import { raiseWall } from './wall.ts';

export const migrations = [
  { name: '001-foundation', sql: foundation.up },
  { name: '002-prune', sql: prune.up },
  { name: '003-mix', sql: mix.up },
  { name: '004-plan-estimates', sql: planEstimates.up },
  { name: '005-sort', sql: sort.up },
  { name: '006-build', sql: build.up },
  { name: '007-write', sql: write.up },
  { name: '008-ship', sql: ship.up },
  { name: '009-read-back', sql: readBack.up },
  { name: '010-known-rows', sql: knownRows.up },
  { name: '011-checks-at-once', sql: checksAtOnce.up },
  { name: '012-queue-goes-on', sql: queueGoesOn.up },
  { name: '013-fences-of-any-type', sql: fencesOfAnyType.up },
  { name: '014-built-day', sql: builtDay.up },
  { name: '015-negatives-of-the-plan', sql: negativesOfThePlan.up },
  { name: '016-origins', sql: origins.up },
  { name: '017-extras', sql: extras.up },
  { name: '018-learn', sql: learn.up },
  { name: '019-shipped-ads', sql: shippedAds.up },
  { name: '020-verdicts', sql: verdicts.up },
  { name: '021-terms', sql: terms.up },
  { name: '022-worth', sql: worth.up },
  { name: '023-upload-encoding', sql: uploadEncoding.up },
  { name: '024-fences-out', sql: fencesOut.up },
  { name: '025-outsets', sql: outsets.up },
  { name: '026-parts', sql: parts.up },
  { name: '027-row-looks', sql: rowLooks.up },
  { name: '028-extras-outlets', sql: extrasOutlets.up },
  { name: '029-keyword-urls', sql: keywordUrls.up },
  { name: '030-extras-status', sql: extrasStatus.up },
  { name: '031-read-back-campaigns', sql: readBackCampaigns.up },
  { name: '032-accepted-by', sql: acceptedBy.up },
  { name: '033-finding-lists', sql: findingLists.up },
  { name: '034-rival-notes', sql: rivalNotes.up },
  { name: '035-shared-settings', sql: sharedSettings.up },
  { name: '036-people', sql: people.up },
  { name: '037-wall', sql: wall.up },
  { name: '038-work', sql: work.up },
  { name: '039-rest', sql: rest.up },
  { name: '040-archived-keywords', sql: archivedKeywords.up },
];

/** The database has been used by a newer version, which may keep things otherwise. */
export class NewerDatabase extends Error {}

/** The migrations that a database knows, in their order. */
async function doneIn(database: Sequelize, transaction: Transaction): Promise<string[]> {
  const [table] = await select<{ there: boolean }>(
    database,
    `select to_regclass('migrations') is not null as there`,
    [],
    { transaction },
  );
  if (!table?.there) return [];
  const rows = await select<{ name: string }>(database, 'select name from migrations order by name', [], {
    transaction,
  });
  return rows.map(({ name }) => name);
}

function refuseNewer(done: readonly string[], list: readonly { name: string }[]): void {
  const known = new Set(list.map(({ name }) => name));
  const newer = done.filter((name) => !known.has(name));
  if (newer.length > 0)
    throw new NewerDatabase(
      `This data was used by a newer version of Green Sprig (it has ${newer.join(', ')}). Start that version, or set SPRIG_DATA_DIR or DATABASE_URL to other data. Nothing was changed.`,
    );
}

/** Two servers that start at once must not migrate at once. */
const MIGRATION_LOCK = 4_600_001;

type Options = {
  /** Called before what is there already is changed, with the last migration that it knows. */
  copy?: (after: string) => Promise<unknown>;
  list?: readonly { name: string; sql: string }[];
};

/** Brings the database up to date. Each migration is one transaction; running it again does nothing. */
export async function migrate(
  database: Sequelize,
  url: string,
  { copy = async () => {}, list = migrations }: Options = {},
): Promise<void> {
  await database.transaction(async (lock) => {
    await execute(database, 'select pg_advisory_xact_lock($1)', [MIGRATION_LOCK], { transaction: lock });
    const done = await doneIn(database, lock);
    refuseNewer(done, list);
    const umzug = new Umzug({
      storage: new SequelizeStorage({ sequelize: database, tableName: 'migrations' }),
      logger: {
        ...console,
        info: () => {},
        debug: () => {},
        warn: log.warn.bind(log),
        error: log.error.bind(log),
      },
      migrations: list.map(({ name, sql }) => ({
        name,
        up: () =>
          database.transaction(async (transaction) => void (await database.query(sql, { transaction }))),
      })),
    });
    const last = done.at(-1);
    if (last !== undefined && done.length < list.length) await copy(last);
    // The queue's own tables first: one of ours tells of them.
    await runMigrations({ connectionString: url });
    await umzug.up();
    await raiseWall(database);
  });
}
