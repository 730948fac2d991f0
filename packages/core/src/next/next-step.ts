/** What is known of a plan when the next step is looked for; counts unless said otherwise. */
export type Progress = {
  /** Keywords that take part, and those that were taken out. */
  keywords: number;
  out: number;
  /** Keywords that could be folded into look-alikes; null where nobody has looked yet. */
  lookAlikes: number | null;
  /** Negatives, and words that were judged to belong. */
  judged: number;
  themes: number;
  /** Keywords without a theme; null where nobody has looked yet. */
  unplaced: number | null;
  hasSite: boolean;
  hasLocation: boolean;
  /** Languages of those to whom ads are shown. */
  hasLanguage: boolean;
  groups: number;
  /** Campaigns without a budget. */
  unbudgeted: number;
  /** Ads, and those that do not fit. */
  ads: number;
  misfits: number;
  /** Outlets that the plan ships to. */
  outlets: number;
  blockers: number;
  /** Outlets that have the plan as it is now, and sets of sheets of which nothing was heard. */
  shipped: number;
  unanswered: number;
};

export const stepCodes = [
  'gather',
  'fold',
  'block',
  'group',
  'site',
  'locate',
  'language',
  'budget',
  'choose',
  'write',
  'mend',
  'clear',
  'ship',
  'hand-in',
] as const;
export type StepCode = (typeof stepCodes)[number];

/** `count`: how many things it is about; 0 where it is about none in particular. */
export type NextStep = { code: StepCode; count: number };

/** What has to be looked at before the next step can be told. */
export type Unknown = 'lookAlikes' | 'unplaced';

export type Looked =
  | { kind: 'step'; step: NextStep }
  | { kind: 'ask'; what: Unknown }
  /** Nothing is left to do, but for what was skipped. */
  | { kind: 'done' };

/** More than this share of the keywords without a theme is worth another look. */
const MANY_UNPLACED = 0.25;

/** How many things a step is about; 0: it is not to be done. Infinity: it is, about nothing in particular. */
const due: Record<StepCode, (plan: Progress) => number> = {
  gather: ({ keywords, out }) => (keywords + out === 0 ? Number.POSITIVE_INFINITY : 0),
  fold: ({ lookAlikes }) => lookAlikes ?? 0,
  block: ({ judged, keywords }) => (judged === 0 ? keywords : 0),
  group: ({ themes, unplaced, keywords }) => {
    const without = themes === 0 ? keywords : (unplaced ?? 0);
    return themes === 0 || without > keywords * MANY_UNPLACED ? without : 0;
  },
  site: ({ hasSite }) => (hasSite ? 0 : Number.POSITIVE_INFINITY),
  locate: ({ hasLocation }) => (hasLocation ? 0 : Number.POSITIVE_INFINITY),
  language: ({ hasLanguage }) => (hasLanguage ? 0 : Number.POSITIVE_INFINITY),
  budget: ({ unbudgeted }) => unbudgeted,
  choose: ({ outlets }) => (outlets === 0 ? Number.POSITIVE_INFINITY : 0),
  write: ({ groups, ads, misfits }) => (groups > 0 && ads === misfits ? groups : 0),
  mend: ({ misfits }) => misfits,
  clear: ({ blockers }) => blockers,
  // Where no outlet was chosen, plain sheets are written.
  ship: ({ shipped, outlets }) => Math.max(1, outlets) - shipped,
  'hand-in': ({ unanswered }) => unanswered,
};

/** What has to be known before a step can be judged. */
const asks: Partial<Record<StepCode, (plan: Progress) => Unknown | null>> = {
  fold: ({ lookAlikes }) => (lookAlikes === null ? 'lookAlikes' : null),
  group: ({ themes, unplaced }) => (themes > 0 && unplaced === null ? 'unplaced' : null),
};

/** The first step in the order of the work that is to be done and was not skipped. */
export function nextStep(plan: Progress, skipped: ReadonlySet<StepCode>): Looked {
  for (const code of stepCodes) {
    if (skipped.has(code)) continue;
    const what = asks[code]?.(plan) ?? null;
    if (what !== null) return { kind: 'ask', what };
    const count = due[code](plan);
    if (count > 0) return { kind: 'step', step: { code, count: Number.isFinite(count) ? count : 0 } };
    // Without a keyword nothing else is to be done.
    if (code === 'gather' && plan.keywords === 0) return { kind: 'done' };
  }
  return { kind: 'done' };
}
