import type { ThemeRow } from '@sprig/contracts';
import type { BranchRule, CampaignBy, Grouping, Layout } from '@sprig/core/build';
import { matchTypes } from '@sprig/core/match';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip, MoneyChip, PercentChip, TextChip } from '../../kit/chips.tsx';
import { LinesChip } from '../../kit/LinesChip.tsx';
import { matchWords } from '../../kit/match-words.ts';
import * as choices from '../../plan/rule-choices.ts';
import type { LiveBuild } from '../../pool/building.ts';
import { useExamples } from '../../pool/use-examples.ts';
import { Branches } from './Branches.tsx';
import { Lanes } from './Lanes.tsx';
import * as rules from './rule-words.ts';
import { TopConditions } from './TopConditions.tsx';

type Props = {
  layout: Document<Layout>;
  currency: string;
  live: LiveBuild | null;
  themes: readonly ThemeRow[];
  sources: readonly { id: number; name: string }[];
  planName: string;
};

export type Fields = {
  field: (at: string) => {
    onDraft: (typed: unknown) => void;
    onUndraft: () => void;
    onKeep: (typed: unknown) => Promise<string | null>;
  };
  choose: (at: string, chosen: unknown) => Promise<void>;
};

/** How a field of a document is drafted and kept, and how one is chosen. */
function fieldsOf<T>({ draft, undraft, edit }: Document<T>): Fields {
  return {
    field: (at) => ({
      onDraft: (typed) => draft(at, typed),
      onUndraft: undraft,
      onKeep: (typed) => edit(at, typed),
    }),
    choose: async (at, chosen) => {
      const words = await edit(at, chosen);
      if (words) toast.error(words);
    },
  };
}

type PartProps = Props & { value: Layout } & Fields;

/** The build rules, read and written as sentences. */
export function LayoutSentences(props: Props) {
  const { value } = props.layout;
  if (!value) return null;
  const part: PartProps = { ...props, ...fieldsOf(props.layout), value };
  return (
    <div className="flex flex-col divide-y divide-hair leading-8">
      <CampaignRules {...part} />
      <GroupRules {...part} />
      <MatchRules {...part} />
      <BidRules {...part} />
      <FenceRules {...part} />
    </div>
  );
}

/** By what campaigns are made, their names and budgets. */
function CampaignRules({ currency, live, planName, value, choose, field }: PartProps) {
  const chooseBy = async (by: CampaignBy) => {
    await choose('campaignBy', by);
    if (by !== value.campaignBy) await choose('campaignName', rules.campaignPattern[by] || planName);
  };
  return (
    <Part title="Campaigns">
      <Sentence>
        <ChoiceChip
          label="Campaigns are made by"
          value={value.campaignBy}
          choices={choices.campaignChoices}
          onChoose={(by) => void chooseBy(by)}
        />
        , named{' '}
        <TextChip
          label="Campaign names"
          value={value.campaignName}
          read={rules.readPattern}
          {...field('campaignName')}
          width={18}
        />
        , each with{' '}
        <MoneyChip
          label="Daily budget"
          value={value.dailyBudget}
          currency={currency}
          {...field('dailyBudget')}
        />{' '}
        a day.
        <Names list={live?.campaignNames} more={(live?.campaigns ?? 0) - 3} />
      </Sentence>
    </Part>
  );
}

/** How themes and single keywords become ad groups. */
function GroupRules({ layout, currency, live, themes, value, choose, field }: PartProps) {
  return (
    <Part title="Ad groups">
      <Sentence>
        Make{' '}
        <ChoiceChip
          label="How themes are laid out"
          value={value.grouping.kind}
          choices={choices.groupingChoices}
          onChoose={(kind) => void choose('grouping', withStart(value.grouping, kind))}
        />
        {value.grouping.kind === 'top' && (
          <>
            {' '}
            <TopConditions
              grouping={value.grouping}
              currency={currency}
              onKeep={(grouping) => layout.edit('grouping', grouping)}
            />
          </>
        )}
        , named{' '}
        <TextChip
          label="Names of themed ad groups"
          value={value.themeName.pattern}
          read={rules.readPattern}
          {...field('themeName.pattern')}
        />{' '}
        <ChoiceChip
          label="Case of themed names"
          value={value.themeName.style}
          choices={choices.caseChoices}
          onChoose={(style) => void choose('themeName.style', style)}
        />{' '}
        by theme and{' '}
        <TextChip
          label="Names of single-keyword ad groups"
          value={value.groupName.pattern}
          read={rules.readPattern}
          {...field('groupName.pattern')}
        />{' '}
        <ChoiceChip
          label="Case of single-keyword names"
          value={value.groupName.style}
          choices={choices.caseChoices}
          onChoose={(style) => void choose('groupName.style', style)}
        />{' '}
        by keyword. <Names list={live?.groupNames} more={(live?.groups ?? 0) - 3} />
      </Sentence>
      <Sentence>
        An ad group holds at most{' '}
        <TextChip
          label="Keywords in an ad group"
          value={value.keywordsPerGroup === null ? '' : String(value.keywordsPerGroup)}
          shown={value.keywordsPerGroup ?? 'any number of'}
          read={rules.readCount(1, 10_000)}
          {...field('keywordsPerGroup')}
          width={6}
        />{' '}
        keywords, more go to numbered parts; keywords that no theme has{' '}
        <ChoiceChip
          label="The unplaced"
          value={value.unplaced}
          choices={choices.unplacedChoices}
          onChoose={(unplaced) => void choose('unplaced', unplaced)}
        />
        .
      </Sentence>
      <Branches
        branches={value.branches}
        themes={themes}
        currency={currency}
        onKeep={(branches: BranchRule[]) => layout.edit('branches', branches)}
      />
    </Part>
  );
}

/** Lanes, and which words modified broad marks. */
function MatchRules({ layout, sources, value, choose, live }: PartProps) {
  const usesModified = (live?.rowsByType.modified ?? 0) > 0;
  const examples = useExamples();
  return (
    <Part title="Match types">
      <Lanes layout={layout} sources={sources} />
      {usesModified && (
        <Sentence>
          Modified broad marks{' '}
          <ChoiceChip
            label="Marked words"
            value={value.marks.which}
            choices={[
              { value: 'every', words: 'every word' },
              { value: 'content', words: 'content words' },
              { value: 'listed', words: 'the words of a list' },
            ]}
            onChoose={(which) => void choose('marks.which', which)}
          />
          {value.marks.which === 'listed' && (
            <>
              {' '}
              <LinesChip
                label="Words to mark"
                shown={value.marks.words.length === 0 ? 'none yet' : value.marks.words.slice(0, 4).join(', ')}
                text={value.marks.words.join('\n')}
                placeholder={`${examples.word}\n${examples.other}`}
                help="A word to a line, plural or not. A keyword that holds none of them has its content words marked."
                read={(typed) => ({ value: wordsOf(typed) })}
                onKeep={(words) => layout.edit('marks.words', words)}
              />
            </>
          )}
          , unless a keyword was pasted with marks of its own.
        </Sentence>
      )}
    </Part>
  );
}

/** The ladder of bids, and how they start. */
function BidRules({ currency, value, choose, field }: PartProps) {
  const { ladder } = value;
  return (
    <Part title="Bids">
      <Sentence>
        Bid{' '}
        <ChoiceChip
          label="Base of bids"
          value={ladder.baseBy}
          choices={[
            { value: 'estimate', words: 'its CPC, else the theme’s median' },
            { value: 'theme', words: 'the median estimate of the theme' },
            { value: 'default', words: 'one base for all' },
          ]}
          onChoose={(by) => void choose('ladder.baseBy', by)}
        />
        , {ladder.baseBy === 'default' ? 'which is' : 'without one'}{' '}
        <MoneyChip
          label="Base without an estimate"
          value={ladder.defaultBase}
          currency={currency}
          {...field('ladder.defaultBase')}
        />
        :{' '}
        {matchTypes.map((type) => (
          <span key={type} className="whitespace-nowrap">
            <PercentChip
              label={`Step for ${matchWords[type]}`}
              value={ladder.steps[type]}
              {...field(`ladder.steps.${type}`)}
            />{' '}
            on {matchWords[type]},{' '}
          </span>
        ))}
        and{' '}
        {stageNames.map(([stage, words], at) => (
          <span key={stage} className="whitespace-nowrap">
            <PercentChip
              label={`Step for ${words}`}
              value={ladder.stages[stage]}
              {...field(`ladder.stages.${stage}`)}
            />{' '}
            {words}
            {at < stageNames.length - 1 ? ', ' : ''}
          </span>
        ))}
        ; between{' '}
        <MoneyChip label="Least bid" value={ladder.floor} currency={currency} {...field('ladder.floor')} />{' '}
        and{' '}
        <MoneyChip
          label="Greatest bid"
          value={ladder.ceiling}
          currency={currency}
          {...field('ladder.ceiling')}
        />
        .
      </Sentence>
      <Sentence>
        Bids start{' '}
        <ChoiceChip
          label="How bids start"
          value={value.startHigh.on ? 'high' : 'ladder'}
          choices={[
            { value: 'ladder', words: 'as the ladder says' },
            { value: 'high', words: 'high, to gather results early:' },
          ]}
          onChoose={(how) => void choose('startHigh.on', how === 'high')}
        />
        {value.startHigh.on && (
          <>
            {' '}
            <PercentChip
              label="Start of narrow types"
              value={value.startHigh.narrow}
              {...field('startHigh.narrow')}
            />{' '}
            on phrase and exact,{' '}
            <PercentChip
              label="Start of wide types"
              value={value.startHigh.wide}
              {...field('startHigh.wide')}
            />{' '}
            on broad and modified, until{' '}
            <TextChip
              label="Until"
              value={value.startHigh.until ?? ''}
              shown={value.startHigh.until ?? 'a day to be set'}
              read={rules.readDay}
              {...field('startHigh.until')}
              width={12}
            />
          </>
        )}
        .
      </Sentence>
    </Part>
  );
}

/** How each search is kept in its own ad group. */
function FenceRules({ value, choose }: PartProps) {
  return (
    <Part title="Fences">
      <Sentence>
        Keep each search in its own ad group by{' '}
        <ChoiceChip
          label="Fences"
          value={value.fences}
          choices={choices.fenceChoices}
          onChoose={(fences) => void choose('fences', fences)}
        />
        .
      </Sentence>
      <Help>{rules.fenceHelp[value.fences]}</Help>
    </Part>
  );
}

const stageNames = [
  ['early', 'early'],
  ['comparing', 'comparing'],
  ['ready', 'ready to buy'],
  ['none', 'without a stage'],
] as const;

const wordsOf = (typed: string): string[] => [
  ...new Set(
    typed
      .toLowerCase()
      .split(/[\s,]+/)
      .filter((word) => word !== ''),
  ),
];

/** Conditions to begin with, so that choosing the top ones changes something. */
const withStart = (grouping: Grouping, kind: Grouping['kind']): Grouping =>
  kind === 'top' && grouping.searchesFrom === null && grouping.first === null && grouping.cpcFrom === null
    ? { ...grouping, kind, first: 5 }
    : { ...grouping, kind };

const Names = ({ list, more }: { list: readonly string[] | undefined; more: number }) =>
  list && list.length > 0 ? (
    <span className="text-[12.5px] text-faint">
      {' '}
      → {list.join(' · ')}
      {more > 0 ? ' …' : ''}
    </span>
  ) : null;

export const Sentence = ({ children }: { children: ReactNode }) => <p className="text-[14px]">{children}</p>;

export const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title} className="grid grid-cols-[92px_1fr] gap-2 py-1.5">
    <h3 className="pt-0.5 font-semibold text-[12.5px] text-faint">{title}</h3>
    <div>{children}</div>
  </section>
);
