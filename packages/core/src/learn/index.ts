export { type BudgetDays, budgetDays, LEAST_LOST, NEARLY_SPENT } from './budget-days.ts';
export { type Comparison, compareFacts } from './compare-facts.ts';
export { type CtrCurve, type CtrPoint, ctrAt, ctrCurve } from './ctr-curve.ts';
export {
  asDay,
  type Day,
  dayOf,
  daysOf,
  daysOn,
  isoDay,
  LATE_DAYS,
  readIsoDay,
  type Time,
  timeKey,
  weekdayOf,
} from './day.ts';
export { dispersionOf } from './dispersion.ts';
export {
  type FactColumns,
  type OpenFacts,
  openFacts,
  packFacts,
  unpackFacts,
  wholeFacts,
} from './fact-part.ts';
export { type FactTable, FactTableBuilder, StandingImports } from './fact-table.ts';
export {
  type CountedFigure,
  countedFigures,
  FigureSums,
  type PlainRatio,
  plainRatios,
  type ResultFigure,
  resultFigures,
} from './figure-sums.ts';
export {
  type Dimension,
  dimensions,
  dimensionsOf,
  type Grain,
  grainCode,
  grainOf,
  type Level,
  levels,
  readGrain,
  type Split,
  splits,
  type TimeStep,
  timeSteps,
} from './grain.ts';
export {
  type Asked,
  adds,
  type GrainFound,
  type GrainOnHand,
  grainFor,
  type NoGrain,
} from './grain-for.ts';
export { type FactGroup, type GroupedBy, groupFacts, notBrokenDown } from './group-facts.ts';
export { GroupSums } from './group-sums.ts';
export {
  addedTimes,
  askedBy,
  byFigure,
  type FigureCondition,
  groupPlaces,
  groupsThat,
  groupTimes,
  type LookGrouping,
  lookGroupings,
  type NameCondition,
  type PlaceGroups,
  placesThat,
  sumPlaces,
  sumTimes,
  type Today,
} from './look.ts';
export { countsDifferMoreThanChance, differMoreThanChance, type Share } from './more-than-chance.ts';
export { NotMetList, type NotMetOf } from './not-met.ts';
export { type PickedTimes, pickTimes } from './pick-times.ts';
export { placeKey, type ReportNames } from './place-keys.ts';
export { PlaceList, type PlacePart } from './place-list.ts';
export { type Met, type NotMet, PlanNames } from './plan-names.ts';
export { type DayOrder, dayOrderOf, rangeIn, readDay, readWeek } from './read-day.ts';
export { type ReportReading, readReport, timesSaid } from './read-report.ts';
export { type ReportHeadings, type ReportRole, reportRoleOf, reportRoles } from './report-columns.ts';
export {
  type Claim,
  claimOf,
  claims,
  type Replacing,
  type ReportFact,
  type ReportImport,
  replacing,
  standing,
} from './report-imports.ts';
export {
  isAccount,
  type ReportLayout,
  type ReportOptions,
  type ReportQuestion,
  type ReportRecord,
  reportLayout,
} from './report-layout.ts';
export {
  type ReadFact,
  type ReportProblem,
  ReportRows,
  type ReportSink,
  reportProblems,
  type ToldOtherwise,
} from './report-rows.ts';
export { AccountLines, type BrokenLine, layoutOfText, ReportStream } from './report-stream.ts';
export { onlyCosting, type TermFigures, type TermRun, termRuns } from './term-runs.ts';
export {
  eligibleOf,
  noneTold,
  type ToldFigure,
  type ToldFigures,
  toldFigures,
} from './told-figures.ts';
