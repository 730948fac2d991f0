import {
  dismissIdeas,
  makeRecipe,
  type PlanState,
  startSiteReading,
  stopJob,
  takeIdeas,
} from '@sprig/contracts';
import { filterWords, type GapClass } from '@sprig/core/gather';
import { languagePack } from '@sprig/core/text';
import { useDeferredValue, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { call, wordsOf } from '../../../data/call.ts';
import { hasEnded } from '../../../data/jobs.ts';
import { useWidths } from '../../../data/me.ts';
import { runChange } from '../../../data/run-change.ts';
import { ChoiceChip } from '../../../kit/chips.tsx';
import { Empty } from '../../../kit/Empty.tsx';
import { counted } from '../../../kit/format.ts';
import type { RowSource } from '../../../kit/table/row-source.ts';
import { useSelection } from '../../../kit/table/selection.ts';
import { Table } from '../../../kit/table/Table.tsx';
import { useFacts } from '../../../plan/use-facts.ts';
import type { IdeaRow } from '../../../pool/ideas.ts';
import { ClassMatrix } from './ClassMatrix.tsx';
import { recipeOf } from './class-recipe.ts';
import {
  ClassBar,
  type Filters,
  GroupBar,
  IdeaFilters,
  IdeasHead,
  IdeasYield,
  StartFrom,
} from './IdeasParts.tsx';
import { ideaColumns, sorted } from './idea-columns.tsx';
import { type GroupedBy, groupsOf } from './idea-groups.ts';
import { SiteProgress } from './SiteProgress.tsx';
import { type Asked, type From, useIdeas } from './use-ideas.ts';

const froms: { value: From; words: string; placeholder: string }[] = [
  { value: 'gaps', words: 'that the pool’s own words make likely', placeholder: '' },
  { value: 'site', words: 'that a site speaks of', placeholder: 'shop.example or https://shop.example/page' },
  { value: 'around', words: 'around these words', placeholder: 'one or more, with commas' },
  { value: 'typed', words: 'that begin with', placeholder: 'the first letters' },
];
const market = {
  value: 'market' as const,
  words: 'that the stand-in market makes up',
  placeholder: 'around words, or empty for the pool',
};

const groupings: { value: GroupedBy; words: string }[] = [
  { value: 'nothing', words: 'nothing' },
  { value: 'theme', words: 'the theme that they join' },
  { value: 'word', words: 'a word that they share' },
];

const none: IdeaRow[] = [];
const noClasses: GapClass[] = [];
const listOf = (typed: string) =>
  typed
    .split(/[,\n]/)
    .map((one) => one.trim())
    .filter(Boolean);

/** Ideas from the client's own world, ticked to be taken into the pool, or dismissed for good. */
export function IdeasView({ plan, start, onClose }: { plan: PlanState; start: string; onClose: () => void }) {
  const navigate = useNavigate();
  const [from, setFrom] = useState<From>(start === 'site' ? 'site' : 'gaps');
  const [typed, setTyped] = useState(start === 'site' ? plan.brief.site : '');
  const [job, setJob] = useState<string | null>(null);
  const [filters, setFilters] = useState<Filters>({ contains: '', excludes: '', least: 0 });
  const [chosenClass, setChosenClass] = useState<number | null>(null);
  const [groupedBy, setGroupedBy] = useState<GroupedBy>('nothing');
  const [groupName, setGroup] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [sort, setSort] = useState({ id: 'rank', down: false });
  const selection = useSelection<string>();
  const widths = useWidths('ideas');
  const asked = useDeferredValue(askedOf(from, typed, job));
  const { data, error, isFetching, job: reading, usesMarket, hasThemes } = useIdeas(plan, asked);
  const classes = data?.classes ?? noClasses;
  const found = data?.ideas ?? none;
  const left = useMemo(() => filtered(found, filters, chosenClass), [found, filters, chosenClass]);
  const own = useFacts(plan.id).value?.functionWords ?? null;
  const groups = useMemo(
    () => groupsOf(left, groupedBy, languagePack(plan.brief.language, own)),
    [left, groupedBy, plan.brief.language, own],
  );
  const group = groups.find(({ name }) => name === groupName);
  const ideas = group?.ideas ?? left;
  const rows = useMemo(() => sorted(ideas, sort), [ideas, sort]);
  const source = useSource(rows, isFetching);
  const columns = useMemo(
    () => ideaColumns(plan.brief.currency, hasThemes),
    [plan.brief.currency, hasThemes],
  );
  // Only what is ticked: nothing ticked is nothing taken.
  const chosen = selection.listIn(source.ids);
  const kind = [...froms, market].find(({ value }) => value === from);
  const choices = usesMarket ? [...froms, market] : froms;
  const isReading = reading !== null && !hasEnded(reading);

  const doing = async (work: () => Promise<void>) => {
    setBusy(true);
    await runChange(plan.id, work);
    setBusy(false);
  };
  const take = (texts: string[]) =>
    doing(async () => {
      const name = from === 'gaps' ? 'Gaps' : `Ideas: ${typed.trim().slice(0, 60) || kind?.words}`;
      const result = await call(takeIdeas, { params: { plan: plan.id }, body: { name, texts } });
      selection.clear();
      toast(`${counted(result.added, 'keyword')} went in. Ctrl+Z takes it back.`);
    });
  const dismiss = (texts: string[]) =>
    doing(async () => {
      await call(dismissIdeas, { params: { plan: plan.id }, body: { texts, dismissed: true } });
      selection.clear();
      toast(`${counted(texts.length, 'idea')} will not be proposed again. Ctrl+Z takes it back.`);
    });
  const toRecipe = (one: GapClass) =>
    doing(async () => {
      const recipe = recipeOf(one, `Gaps: ${one.fillers.slice(0, 3).join(', ')}`.slice(0, 80));
      const made = await call(makeRecipe, { params: { plan: plan.id }, body: { recipe } });
      void navigate(`../mix?recipe=${made.id}`);
    });
  const readSite = () =>
    doing(async () => {
      const started = await call(startSiteReading, { params: { plan: plan.id }, body: { address: typed } });
      selection.clear();
      setJob(started.job);
    });
  const shownClass = chosenClass === null ? null : (classes[chosenClass] ?? null);
  return (
    <>
      <IdeasHead
        isMadeUp={from === 'market'}
        chosen={chosen.length}
        busy={busy}
        onClose={onClose}
        onDismiss={() => void dismiss(chosen)}
        onTake={() => void take(chosen)}
      />
      <div className="flex shrink-0 flex-wrap items-center gap-2 border-hair border-b px-4 py-2 text-[14px]">
        Ideas{' '}
        <ChoiceChip
          label="Where ideas come from"
          value={from}
          choices={choices}
          onChoose={(value) => {
            setFrom(value);
            setTyped('');
            setChosenClass(null);
            selection.clear();
          }}
        />
        {from !== 'gaps' && (
          <StartFrom
            key={from}
            isSite={from === 'site'}
            typed={typed}
            placeholder={kind?.placeholder}
            isBusy={busy || isReading}
            onType={setTyped}
            onRead={() => void readSite()}
          />
        )}
        <IdeaFilters filters={filters} onFilters={setFilters} />, grouped by{' '}
        <ChoiceChip
          label="Grouped by"
          value={groupedBy}
          choices={groupings.filter(({ value }) => hasThemes || value !== 'theme')}
          onChoose={(value) => {
            setGroupedBy(value);
            setGroup(null);
          }}
        />
      </div>
      {error && (
        <p role="alert" className="border-hair border-b px-4 py-2 text-error">
          {wordsOf(error)}
        </p>
      )}
      {from === 'site' && (
        <SiteProgress
          job={reading}
          reading={data?.reading ?? null}
          onStop={() =>
            job &&
            void call(stopJob, { params: { plan: plan.id, job } }).catch((failure) =>
              toast.error(wordsOf(failure)),
            )
          }
        />
      )}
      {from === 'gaps' && classes.length > 0 && (
        <ClassBar classes={classes} chosen={chosenClass} onChoose={setChosenClass} />
      )}
      {from === 'gaps' && shownClass && (
        <ClassMatrix one={shownClass} onRecipe={() => void toRecipe(shownClass)} />
      )}
      {groupedBy !== 'nothing' && (
        <GroupBar
          groups={groups}
          by={groupedBy}
          chosen={group ? groupName : null}
          busy={busy}
          onChoose={setGroup}
          onTake={(texts) => void take(texts)}
          onDismiss={(texts) => void dismiss(texts)}
        />
      )}
      <Table
        label="Ideas"
        columns={columns}
        source={source}
        sort={sort}
        onSort={(id, down) => setSort({ id, down })}
        selection={selection}
        widths={widths}
        dim={({ inPool }) => inPool}
        actions={{ d: (texts) => void dismiss(texts) }}
        empty={
          <NoIdeas
            from={from}
            isFetching={isFetching}
            found={found.length}
            typed={typed}
            keywords={plan.counts.keywords}
          />
        }
      />
      <IdeasYield rows={rows} found={found.length} ticked={selection.size} />
    </>
  );
}

function askedOf(from: From, typed: string, job: string | null): Asked {
  switch (from) {
    case 'gaps':
      return { from };
    case 'site':
      return { from, job };
    case 'around':
      return { from, words: listOf(typed) };
    case 'typed':
      return { from, typed };
    case 'market':
      return { from, seeds: listOf(typed) };
  }
}

function filtered(
  ideas: readonly IdeaRow[],
  { contains, excludes, least }: Filters,
  one: number | null,
): IdeaRow[] {
  const wanted = filterWords(contains.toLowerCase()).wanted;
  const unwanted = filterWords(excludes.toLowerCase()).wanted;
  return ideas.filter(
    ({ text, searches, of }) =>
      (one === null || of === one) &&
      (least === 0 || (searches !== null && searches >= least)) &&
      wanted.every((word) => text.includes(word)) &&
      !unwanted.some((word) => text.includes(word)),
  );
}

type NoIdeasProps = { from: From; isFetching: boolean; found: number; typed: string; keywords: number };

function NoIdeas({ from, isFetching, found, typed, keywords }: NoIdeasProps) {
  if (isFetching) return <Empty title="Looking …">The pool’s own words are gone through.</Empty>;
  if (found > 0)
    return (
      <Empty title="No idea is left by these filters">Ask for fewer searches, or take a word away.</Empty>
    );
  if (from === 'gaps')
    return (
      <Empty title="No gap is found">
        {keywords === 0
          ? 'The pool is empty: bring in a list first.'
          : 'Gaps need words that stand in the same places: `red mug`, `blue mug`, `red jug`. Start from a site or from words instead.'}
      </Empty>
    );
  if (from === 'site')
    return <Empty title="Which site?">The client’s or a rival’s: type its address and have it read.</Empty>;
  return (
    <Empty title={typed.trim() === '' ? 'What are the ideas to be about?' : 'Nothing is found'}>
      {typed.trim() === '' ? 'Type a word or two.' : 'Try other words.'}
    </Empty>
  );
}

/** Ideas as rows of a table: all of them are there. */
function useSource(rows: readonly IdeaRow[], isFetching: boolean): RowSource<IdeaRow, string> {
  return useMemo<RowSource<IdeaRow, string>>(() => {
    const byText = new Map(rows.map((idea) => [idea.text, idea]));
    const fetchPage = async (texts: string[]) => texts.flatMap((text) => byText.get(text) ?? []);
    return {
      ids: rows.map(({ text }) => text),
      version: `${rows.length}:${rows.filter(({ joins }) => joins !== null).length}:${rows[0]?.text}:${rows.filter(({ inPool }) => inPool).length}:${rows.reduce((sum, { searches }) => sum + (searches ?? 0), 0)}`,
      loading: isFetching && rows.length === 0,
      fetchPage,
      fetchAll: fetchPage,
      keyOf: ({ text }) => text,
    };
  }, [rows, isFetching]);
}
