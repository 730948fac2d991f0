/** What a stage is for: the question that it answers, and what is done there. */
export const stagesInWords: readonly [path: string, name: string, question: string, done: string][] = [
  [
    'brief',
    'Brief',
    'What is built, for whom, within which limits?',
    'The client’s facts as sentences: site, places, offers, words not to use, where ads show and what may be spent.',
  ],
  [
    'gather',
    'Gather',
    'Which keywords are there, from where, how big?',
    'Lists are pasted or brought in as files, ideas are found in what is there. All of it is the pool.',
  ],
  [
    'mix',
    'Mix',
    'Which combinations of words are missing?',
    'Word lists times patterns make keywords; a matrix shows which of them anybody searches for.',
  ],
  [
    'prune',
    'Prune',
    'What is noise?',
    'Look-alikes are folded, words are kept or blocked, and what nobody searches for is cut.',
  ],
  [
    'sort',
    'Sort',
    'Which keywords belong together, and how close to buying is a searcher?',
    'Themes are rules that pick keywords. The first theme among its siblings whose rule a keyword meets has it.',
  ],
  [
    'build',
    'Build',
    'Which campaigns and ad groups, match types, bids and negatives?',
    'Rules lay all of it out; what is set by hand is held on top of them.',
  ],
  [
    'write',
    'Write',
    'What does a searcher read?',
    'Patterns of lines make the ads of every ad group: the first line that fits is used.',
  ],
  [
    'ship',
    'Ship',
    'Is it right, and how does it get out?',
    'Findings are cleared, sheets are written by each outlet’s rules, and a receipt keeps what was shipped.',
  ],
  [
    'learn',
    'Learn',
    'What came of it?',
    'Reports of outlets are taken in and met with the plan; looks at them tell what was shown, clicked, spent and sold. Verdicts, search terms, bids and ads tell what to do about it, and each change shows what came of it.',
  ],
];

/** Words that are ours, and what they mean. */
export const ourWords: readonly [word: string, meaning: string][] = [
  ['trail', 'the row of stages at the top, each with its count'],
  ['yield', 'the sum at the foot of every stage, from what is worked on to what ships; each term opens'],
  ['pool', 'all keywords of a plan'],
  ['worth doing', 'the list of what is worth doing now, by the money at stake, over a plan or over all'],
  ['source', 'where keywords came from; one that is removed takes what only it brought'],
  [
    'in, cut, folded, blocked',
    'a keyword takes part; or was taken out, stands under a look-alike, or meets a negative',
  ],
  [
    'look-alikes',
    'keywords that are the same search in other clothes: a plural, another order, a slip of typing',
  ],
  ['look', 'what is looked at in reports of results, as a sentence; kept by name, and sent as an address'],
  ['sift', 'a rule that picks keywords, read as a sentence: has … and has … but not …'],
  ['recipe', 'word lists and patterns that make keywords; a pattern is a row of slots'],
  ['theme', 'a named rule, within others or with some within it; ad groups are made of it'],
  ['lanes', 'whether match types stand together, or each in an ad group or campaign of its own'],
  ['ladder', 'the steps of bids: a base times the step of its match type, its funnel stage, and others'],
  ['fences', 'negatives that keep each search in the ad group that is for it'],
  ['held, let go', 'set by hand on top of the rule; given back to the rule'],
  ['orphan', 'something held of what the rules make no more: it is set aside, not lost'],
  ['plain, assembled', 'an ad with its fields in order; a set of lines from which the engine picks'],
  ['line', 'one way to fill a field; the first that fits is used, the others are what is fallen back on'],
  ['gap', '@gap(…): what is still to be written; an ad that needs it does not ship'],
  ['live', 'filled in by the engine when somebody searches, not when it was written'],
  ['extra', 'a sitelink, a callout or a phone number shown with an ad'],
  ['outlet', 'where sheets go: its limits, words, columns and files, all of it data'],
  [
    'outset',
    'what plans begin with: rules of a plan, kept under a name; taken into another, it adds and sets, and takes nothing away',
  ],
  ['finding', 'what stands against the plan: a blocker, a warning or a tip'],
  ['receipt', 'what was shipped, to whom, and what became of it; the next sheets tell only what differs'],
  [
    'told, taken, estimated, made up',
    'where a figure comes from; only what is told, taken or set by hand decides anything',
  ],
];

/** How things are worked out, in short. */
export const workedOut: readonly [what: string, how: string][] = [
  [
    'A bid',
    'Its base (the keyword’s own CPC, else its theme’s median, else the plan’s) times all steps that apply, rounded once to what the outlet takes, between your least and greatest. £0.40 × 125% × 115% is £0.58.',
  ],
  [
    'Which line of an ad',
    'Lines are tried in their order with the ad group’s words filled in; the first that is no longer than the field is used. Wide characters count two.',
  ],
  [
    'How tight an ad group is',
    'Of each keyword’s words, the share that more than half of the others have too; the mean over the keywords, from 0 to 1. Little words do not count, and a plural is the same word.',
  ],
  [
    'What an ad says of its keywords',
    'Of each keyword’s words, those in the headlines count 0.6, in the descriptions 0.2, in the paths 0.2; the mean over the keywords.',
  ],
  [
    'Which keyword answers a search',
    'Of those that may, with no negative in the way: an exact keyword that is the search, then any exact one, then one with the same text, then the others; within each the greatest bid × relevance. “Try a search” says which and why.',
  ],
  [
    'Fences',
    'Each keyword is tried as a search: every other ad group that could answer gets a negative for it. The audit tries all of them again and lists what still goes elsewhere.',
  ],
  [
    'An estimate',
    'Learned from keywords with told figures, by their words; how good it is, is measured on keywords that were kept aside. It informs: nothing is built of it unless you take it.',
  ],
  [
    'A forecast',
    'Each search once, at its keyword’s highest bid, along a curve of eight positions with the least bid of each. It says its range, and on what it rests.',
  ],
  [
    'Many at once',
    'What is selected in a table is changed as one: before and after are shown first, and one step takes all of it back. What is changed so is held, as if by hand.',
  ],
  [
    'A part that ships',
    'Chosen campaigns and ad groups, or those with a label, are told by themselves; a campaign that the outlet does not have yet goes before its ad groups. All else stays there as it is, and is told the next time.',
  ],
  [
    'A difference',
    'What each row would say to the outlet, against what its last receipt says. A row that says the same is not told again.',
  ],
];
