import { english, lengthOf } from '../text/index.ts';
import { type AdPattern, patternOf } from './ad-pattern.ts';
import { type AdField, type AdForm, adForms, type FormLimits, limitsOf } from './fields.ts';

/** What an ad asks its reader to do, by what a plan is to bring. */
const CALLS = {
  sales: ['Order today', 'Order now'],
  leads: ['Ask for a quote today', 'Ask for a quote'],
  visits: ['Plan your visit today', 'Plan your visit'],
  calls: ['Call us today', 'Call us'],
  awareness: ['Find out more today', 'Find out more'],
  none: ['See what we offer', 'Find out more'],
} as const;
export type StartingGoal = keyof typeof CALLS;

/** What starting lines are made of: what the plan says of its client, and nothing else. */
export type StartingInput = {
  language: string;
  /** How the client is called; else the site in words. Empty where neither is known. */
  client: string;
  goal: StartingGoal;
  hasOffer: boolean;
  hasPlaces: boolean;
  /** What the site's own pages are called, and their first sentences. */
  ofSite: readonly string[];
  forms: Readonly<Record<AdForm, FormLimits | null>>;
};

export const startingCodes = ['keyword', 'offer', 'place', 'proof', 'site', 'set'] as const;
export type StartingCode = (typeof startingCodes)[number];

/** A whole ad pattern to start from; `gaps`: fields in which something is still to be written, which keeps its ads from shipping. */
export type StartingLines = { code: StartingCode; body: AdPattern; gaps: number };

type Lines = Partial<Record<AdField, string[]>>;

const OFFER_GAP = '@gap(what you offer: a price, a saving, a date)';
const PROOF_GAP = '@gap(what speaks for you: a figure, a guarantee, a prize)';
const NAME_GAP = '@gap(your name, as people know it)';
const CALL_GAP = '@gap(what the reader is to do now)';
const SENTENCE_GAP = '@gap(a sentence on what people get from you)';

/**
 * Sets of lines to start from, the plainest first. Every field that an outlet asks for ends in a line that fits any ad group,
 * or in a gap: nothing is claimed that the plan does not say. Words of our own are English; in another language there are gaps
 * in their place.
 */
export function startingLines(input: StartingInput): StartingLines[] {
  const sets: StartingLines[] = [];
  for (const form of adForms) {
    const limits = input.forms[form];
    if (limits) sets.push(...setsOf(form, limits, input));
  }
  return sets;
}

function setsOf(form: AdForm, limits: FormLimits, input: StartingInput): StartingLines[] {
  const made = new Maker(limits, input);
  if (form === 'assembled') return [made.set('set', 'assembled', made.assembled())];
  const sets = [made.set('keyword', 'plain', made.plain({}))];
  const offer = input.hasOffer ? ['@offer', OFFER_GAP] : [OFFER_GAP];
  sets.push(made.set('offer', 'plain', made.plain({ second: offer, third: made.call })));
  if (input.hasPlaces)
    sets.push(made.set('place', 'plain', made.plain({ second: ['In @place', ...made.call] })));
  sets.push(made.set('proof', 'plain', made.plain({ second: [PROOF_GAP], third: made.call })));
  const own = made.ofSite();
  if (own) sets.push(made.set('site', 'plain', made.plain(own)));
  return sets;
}

class Maker {
  /** What the reader is asked to do, the longest first. */
  readonly call: string[];
  private readonly name: string[];
  private readonly isEnglish: boolean;

  constructor(
    private readonly limits: FormLimits,
    private readonly input: StartingInput,
  ) {
    const { language, client, goal } = input;
    this.isEnglish = language === english.code;
    this.call = this.isEnglish ? this.fitting('headlines', CALLS[goal], CALL_GAP) : [CALL_GAP];
    this.name = this.fitting('headlines', client === '' ? [] : [client], NAME_GAP);
  }

  set(code: StartingCode, form: AdForm, lines: Lines): StartingLines {
    const gaps = Object.values(lines).filter((list) => list.every((line) => line.startsWith('@gap('))).length;
    return { code, body: patternOf(lines, 'title', { form }), gaps };
  }

  /** Lines as long as they may be; what is to be written instead where none is. */
  private fitting(part: keyof FormLimits, lines: readonly string[], instead: string): string[] {
    const fit = lines.filter((line) => lengthOf(line) <= this.least(part));
    return fit.length > 0 ? fit : [instead];
  }

  /** The room of the shortest field of a part. */
  private least(part: keyof FormLimits): number {
    const { limit, each } = this.limits[part];
    return Math.min(limit, ...(each ?? []));
  }

  /** The keyword, and what stands for it where it is too long. */
  private get keyword(): string[] {
    const { client } = this.input;
    const name = client !== '' && lengthOf(client) <= this.least('headlines') ? [client] : [];
    return ['@keyword', '@theme', '@branch', ...(name.length > 0 ? name : this.call)];
  }

  /** Sentences about what people look for, from the one that says most to one that fits any ad group. */
  sentences(): string[] {
    if (!this.isEnglish) return [SENTENCE_GAP];
    const [call = ''] = this.call;
    const { client } = this.input;
    const from = client === '' ? '' : ` from ${client}`;
    const said = ['@keyword', '@theme', '@branch'].map((subject) => `${subject}${from}. ${call}.`);
    return [
      ...new Set([
        ...said,
        ...this.fitting('descriptions', [client === '' ? `${call}.` : `${client}. ${call}.`], `${call}.`),
      ]),
    ];
  }

  plain({
    second = this.call,
    third = this.name,
    description = this.sentences(),
  }: {
    second?: string[];
    third?: string[];
    description?: string[];
  }): Lines {
    const fields = limitsOf(this.limits);
    const lines: Lines = { headline1: this.keyword, headline2: second, description1: description };
    if (fields.headline3) lines.headline3 = third;
    if (fields.description2?.required) lines.description2 = this.seconds();
    return onlyOf(lines, fields);
  }

  /** A second description, where an outlet asks for one. */
  private seconds(): string[] {
    if (!this.isEnglish) return [SENTENCE_GAP];
    const { hasOffer } = this.input;
    const [call = ''] = this.call;
    return [...(hasOffer ? [`@offer. ${call}.`, '@offer.'] : []), SENTENCE_GAP];
  }

  assembled(): Lines {
    const { hasOffer, hasPlaces } = this.input;
    const fields = limitsOf(this.limits);
    const headlines = [
      this.keyword,
      this.call,
      this.name,
      ...(hasOffer ? [['@offer', OFFER_GAP]] : []),
      ...(hasPlaces ? [['In @place', PROOF_GAP]] : []),
      [OFFER_GAP],
      [PROOF_GAP],
    ];
    const descriptions = [this.sentences(), this.seconds(), [SENTENCE_GAP]];
    const lines: Lines = {};
    const { headlines: first, descriptions: second } = this.limits;
    const most = Math.max(first.least, 3 + Number(hasOffer) + Number(hasPlaces));
    headlines.slice(0, Math.min(most, first.most)).forEach((list, at) => {
      lines[`headline${at + 1}` as AdField] = list;
    });
    descriptions.slice(0, Math.min(Math.max(second.least, 1), second.most)).forEach((list, at) => {
      lines[`description${at + 1}` as AdField] = list;
    });
    return onlyOf(lines, fields);
  }

  /** What the site says of itself, where it has something that fits. */
  ofSite(): { second: string[]; description?: string[] } | null {
    const said = this.input.ofSite
      .map((text) => text.trim())
      .filter((text) => text !== '' && !/[@{}[\]<>]/.test(text));
    const short = said.find((text) => lengthOf(text) <= this.least('headlines'));
    const long = said.find(
      (text) => lengthOf(text) > this.least('headlines') && lengthOf(text) <= this.least('descriptions'),
    );
    if (!short && !long) return null;
    return { second: short ? [short] : this.call, ...(long && { description: [long] }) };
  }
}

const onlyOf = (lines: Lines, fields: Partial<Record<AdField, unknown>>): Lines =>
  Object.fromEntries(Object.entries(lines).filter(([field]) => fields[field as AdField]));
