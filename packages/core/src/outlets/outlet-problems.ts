import { itemAt } from '../access/index.ts';
import { type CellValue, type RowKind, rowKinds, valuesOfKind } from '../columns/index.ts';
import { matchTypes } from '../match/index.ts';
import { kindsOf, type Outlet, plainHeading, type SheetProfile, tells } from './outlet.ts';

/** What is wrong with an outlet's profile, and where: `sheets.2.columns.4.heading`. */
export type OutletProblem = { at: string; words: string };

/** Without these values a sheet says nothing that the outlet could use. */
const NEEDED: Record<RowKind, readonly (readonly CellValue[])[]> = {
  campaign: [['campaign']],
  group: [['campaign'], ['group']],
  keyword: [['campaign'], ['group'], ['keyword', 'keyword-notation']],
  negative: [['campaign'], ['keyword', 'keyword-notation']],
  ad: [['campaign'], ['group'], ['headline1']],
  extra: [['extra-kind']],
};

const VALUE_WORDS: Partial<Record<CellValue, string>> = {
  campaign: 'the campaign',
  group: 'the ad group',
  keyword: 'the keyword',
  headline1: 'headline 1',
  'extra-kind': 'the kind of extra',
};

/** What a profile's parts say against each other, once each of them is sound by itself. */
export function outletProblems(outlet: Outlet): OutletProblem[] {
  const problems: OutletProblem[] = [];
  const say = (at: string, words: string) => problems.push({ at, words });
  checkSheets(outlet, say);
  checkMatching(outlet, say);
  checkWords(outlet, say);
  checkMoney(outlet, say);
  checkAds(outlet, say);
  for (const form of ['plain', 'assembled'] as const)
    if (outlet.advised[form].least > outlet.advised[form].most)
      say(`advised.${form}.least`, 'More ads are advised at least than at most.');
  checkOwn(outlet, say);
  checkReport(outlet, say);
  const { file } = outlet;
  if (file.encoding === 'windows-1252' && file.byteOrderMark)
    say('file.byteOrderMark', 'Windows-1252 has no byte order mark. Take it off, or choose UTF-8.');
  if (outlet.adultSites.taken && outlet.adultSites.networks.length === 0)
    say('adultSites.networks', 'Sites for adults are taken, but may be shown nowhere. Choose a network.');
  sameTwice(outlet.needs.map(({ key }) => key)).forEach((at) => {
    say(`needs.${at}.key`, `“${outlet.needs[at]?.key}” is there twice. Each needs a key of its own.`);
  });
  return problems;
}

/** Its own checks look at what some sheet tells, and for something. */
function checkOwn(outlet: Outlet, say: Say) {
  outlet.checks.forEach(({ value, kind, is, text }, at) => {
    const kinds = kind === null ? rowKinds : [kind];
    if (!kinds.some((one) => valuesOfKind[one].includes(value) && tells(outlet, one, value)))
      say(`checks.${at}.value`, 'No sheet tells this of such rows, so there is nothing to look at.');
    if (is === 'over' && !/^[1-9]\d{0,4}$/.test(text))
      say(`checks.${at}.text`, 'Say how many characters are too many: a whole number.');
    if ((is === 'with' || is === 'without') && text.trim() === '')
      say(`checks.${at}.text`, 'Say which text is looked for.');
  });
}

/** Each heading of a report tells one thing, and each thing has one heading. */
function checkReport({ report }: Outlet, say: Say) {
  for (const at of sameTwice(report.headings.map(({ heading }) => heading)))
    say(`report.headings.${at}.heading`, `“${report.headings[at]?.heading}” is there twice.`);
  for (const at of sameTwice(report.headings.map(({ role }) => role)))
    say(`report.headings.${at}.role`, 'Two headings of its reports tell the same. Take one of them out.');
}

type Say = (at: string, words: string) => void;

/** The places of texts that stand before, too. */
function sameTwice(texts: readonly string[]): number[] {
  const seen = new Set<string>();
  return texts.flatMap((text, at) => {
    if (seen.has(plainHeading(text))) return [at];
    seen.add(plainHeading(text));
    return [];
  });
}

function checkSheets({ sheets }: Outlet, say: Say) {
  sameTwice(sheets.map(({ kind }) => kind)).forEach((at) => {
    say(`sheets.${at}.kind`, `There are two sheets of ${sheets[at]?.kind}. Put their columns into one.`);
  });
  sameTwice(sheets.map(({ fileName }) => fileName)).forEach((at) => {
    say(
      `sheets.${at}.fileName`,
      `Two sheets are named “${sheets[at]?.fileName}”. Name one of them otherwise.`,
    );
  });
  const headings = sheets.map(({ columns }) =>
    columns
      .map(({ heading }) => plainHeading(heading))
      .sort()
      .join('\n'),
  );
  sameTwice(headings).forEach((at) => {
    say(
      `sheets.${at}.columns`,
      'Another sheet has the same headings: which one is read back could not be told.',
    );
  });
  sheets.forEach((sheet, at) => {
    checkSheet(sheet, `sheets.${at}`, say);
  });
}

function checkSheet(sheet: SheetProfile, place: string, say: Say) {
  const { columns, kind } = sheet;
  columns.forEach(({ heading }, at) => {
    if (heading.trim() === '') say(`${place}.columns.${at}.heading`, 'A column needs a heading.');
  });
  sameTwice(columns.map(({ heading }) => heading)).forEach((at) => {
    const heading = columns[at]?.heading ?? '';
    if (heading.trim() !== '')
      say(`${place}.columns.${at}.heading`, `Two columns have the heading “${heading}”. Rename one of them.`);
  });
  const told = columns.map(({ value }, at) => (value === 'fixed' ? `fixed ${at}` : value));
  sameTwice(told).forEach((at) => {
    say(
      `${place}.columns.${at}.value`,
      `Two columns hold the same value, “${columns[at]?.value}”. Take one of them out.`,
    );
  });
  const allowed = new Set(kindsOf(sheet).flatMap((one) => valuesOfKind[one]));
  columns.forEach(({ value }, at) => {
    if (!allowed.has(value))
      say(
        `${place}.columns.${at}.value`,
        `A sheet of ${kind} has nothing to put here: “${value}” is told of other rows. Take the column out.`,
      );
  });
  const has = (value: CellValue) => columns.some((column) => column.value === value);
  if (kind === 'combined') {
    if (!has('row-kind'))
      say(`${place}.columns`, 'A sheet of all kinds needs a column that tells what each row is.');
    if (!has('campaign')) say(`${place}.columns`, 'A column for the campaign is missing.');
    return;
  }
  for (const one of kindsOf(sheet))
    for (const values of NEEDED[one])
      if (!values.some(has))
        say(`${place}.columns`, `A column for ${VALUE_WORDS[itemAt(values, 0)] ?? values[0]} is missing.`);
}

function checkMatching(outlet: Outlet, say: Say) {
  const { match, words, matchTypes: known } = outlet;
  const tellsKeywords = tells(outlet, 'keyword', 'keyword') || tells(outlet, 'keyword', 'keyword-notation');
  for (const type of matchTypes)
    if (words.notation[type].split('@').length !== 2)
      say(`words.notation.${type}`, 'Write @ once, where the keyword stands.');
  if (words.negative.split('@').length !== 2)
    say('words.negative', 'Write @ once, where the keyword stands.');
  checkNegatives(outlet, say);
  if (!tellsKeywords) return;
  if (match === 'column') {
    if (!tells(outlet, 'keyword', 'match-type'))
      say('match', 'Match types are to be told in a column, but no sheet of keywords has one for them.');
    for (const at of sameTwice(known.map((type) => words.matchTypes[type])))
      say(
        `words.matchTypes.${known[at]}`,
        'Two match types have the same word: they could not be told apart.',
      );
    for (const type of known)
      if (words.matchTypes[type].trim() === '')
        say(`words.matchTypes.${type}`, 'This match type needs a word.');
  }
  if (match === 'notation') {
    if (!tells(outlet, 'keyword', 'keyword-notation'))
      say('match', 'Match types are to be told in notation, but no sheet of keywords has a column for it.');
    const bare = known.filter((type) => type !== 'modified');
    for (const at of sameTwice(bare.map((type) => words.notation[type])))
      say(
        `words.notation.${bare[at]}`,
        'Two match types have the same notation: they could not be told apart.',
      );
  }
  if (match === 'setting' && !tells(outlet, 'campaign', 'match-setting'))
    say('match', 'Matching is to be set by campaign, but no sheet of campaigns has a column for it.');
}

/** Negatives of several types have to say which they are, else a phrase would block like a broad one. */
function checkNegatives(outlet: Outlet, say: Say) {
  const isListed = tells(outlet, 'negative', 'keyword') || tells(outlet, 'negative', 'keyword-notation');
  const saysType = tells(outlet, 'negative', 'match-type') || tells(outlet, 'negative', 'keyword-notation');
  if (isListed && !saysType && outlet.negativeTypes.length > 1)
    say(
      'negativeTypes',
      'Negatives are of several match types, but no column of theirs tells which. Add one, or choose one type.',
    );
}

function checkWords({ words, sheets }: Outlet, say: Say) {
  const states = ['enabled', 'paused', 'removed'] as const;
  for (const at of sameTwice(states.map((state) => words[state])))
    say(`words.${states[at]}`, 'Two states have the same word: they could not be told apart.');
  if (!sheets.some(({ kind }) => kind === 'combined')) return;
  for (const at of sameTwice(rowKinds.map((kind) => words.rowKinds[kind])))
    say(
      `words.rowKinds.${rowKinds[at]}`,
      'Two kinds of rows have the same word: they could not be told apart.',
    );
}

function checkMoney(outlet: Outlet, say: Say) {
  const { bids, bidIncrement } = outlet;
  if (bids.perNetwork && !tells(outlet, 'keyword', 'bid-search') && !tells(outlet, 'group', 'bid-search'))
    say('bids.perNetwork', 'Bids are by network, but no sheet has a column for the bid in search.');
  if (!bids.perNetwork && bids.on === 'group' && tells(outlet, 'keyword', 'bid'))
    say('bids.on', 'Bids are by ad group, but the keywords’ sheet has a column for them.');
  if (bids.least !== null && bidIncrement !== null && bids.least % bidIncrement !== 0)
    say('bids.least', 'The least bid is no multiple of the bid step.');
}

function checkAds({ ad }: Outlet, say: Say) {
  for (const form of ['plain', 'assembled'] as const)
    for (const part of ['headlines', 'descriptions', 'paths'] as const) {
      const limits = ad[form]?.[part];
      if (!limits) continue;
      const place = `ad.${form}.${part}`;
      if (limits.least > limits.most) say(`${place}.least`, 'More are needed than are allowed.');
      if (limits.shown > limits.most) say(`${place}.shown`, 'More are shown than are allowed.');
    }
}
