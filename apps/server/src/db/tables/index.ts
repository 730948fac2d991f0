import * as brief from './brief.ts';
import * as build from './build.ts';
import type { RowOf as Row, Table } from './define.ts';
import * as gather from './gather.ts';
import * as learn from './learn.ts';
import * as mix from './mix.ts';
import * as people from './people.ts';
import * as prune from './prune.ts';
import * as ship from './ship.ts';
import * as sort from './sort.ts';
import * as work from './work.ts';
import * as write from './write.ts';

export * from './define.ts';

/** Every table, listed so that what is referred to comes before what refers to it. */
const all = [
  people.workspaces,
  people.people,
  people.actors,
  people.plans,
  people.planRoles,
  people.sessions,
  people.links,
  people.tokens,
  people.clientLinks,
  people.mails,
  people.attempts,
  people.auditEntries,
  people.outsets,
  brief.briefs,
  brief.facts,
  build.layouts,
  write.adPatterns,
  write.addressRules,
  write.extras,
  write.rivalNotes,
  write.adReviews,
  ship.outlets,
  ship.planOutlets,
  ship.acceptedFindings,
  gather.sources,
  gather.keywords,
  gather.mentions,
  gather.dismissedIdeas,
  gather.lineProblems,
  prune.negatives,
  prune.wordVerdicts,
  prune.sharedLists,
  prune.sharedNegatives,
  mix.recipes,
  mix.recipeCuts,
  mix.wordLists,
  prune.attachedLists,
  sort.themes,
  sort.placedByHand,
  sort.sortSettings,
  build.placedNegatives,
  build.fencesOut,
  build.sharedSettings,
  build.settingSets,
  build.copies,
  build.holds,
  learn.reportImports,
  learn.looks,
  learn.verdictActs,
  learn.termJudgements,
  learn.worthMarks,
  build.campaigns,
  build.adGroups,
  build.keywordRows,
  build.fences,
  build.buildStates,
  write.ads,
  ship.outletGroups,
  ship.findings,
  ship.findingLists,
  ship.shipChecks,
  gather.estimateModels,
  write.addressChecks,
  sort.sortSeen,
  work.changes,
  work.jobs,
  work.removedKeywords,
  work.archivedRows,
  gather.archivedKeywords,
  gather.archivedMentions,
  work.notes,
  work.handOvers,
  gather.uploads,
  gather.uploadParts,
  ship.sheetSets,
  ship.sheetParts,
  ship.outletStates,
  ship.refusedRows,
  ship.knownSets,
  ship.knownRows,
  ship.shippedNames,
  ship.shippedAds,
  ship.standInAccounts,
  ship.standInDays,
  learn.reportReadings,
  learn.reportParts,
  learn.reportPlaces,
  learn.planWorth,
  ship.rowLooks,
  ship.rowLookParts,
  ship.readBacks,
  ship.readBackRows,
] as const;

export type TableName = (typeof all)[number]['name'];
type Named<N extends TableName> = Extract<(typeof all)[number], { name: N }>;
/** A row of a table by its name, without the columns of its scope. */
export type TableRow<N extends TableName> = Row<Named<N>>;

export const allTables: readonly Table[] = all;
const byName = new Map<string, Table>(all.map((table) => [table.name, table]));
export const tableOf = (name: TableName): Table => byName.get(name) as Table;

/** The tables of what people decide. */
export type InputName = (typeof all)[number] extends infer T
  ? T extends { name: infer N extends TableName; holds: 'input' }
    ? N
    : never
  : never;
export const inputNames = all.flatMap((table) => (table.holds === 'input' ? [table.name] : []));
