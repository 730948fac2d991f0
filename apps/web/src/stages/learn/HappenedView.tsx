import {
  accountCode,
  isOfOneAccount,
  type Look,
  type PlanState,
  type ReportAccount,
  type ReportImport,
  type ShownLook,
} from '@sprig/contracts';
import { type LookGrouping, type ResultFigure, resultFigures } from '@sprig/core/learn';
import { useMemo, useState } from 'react';
import { wordsOf } from '../../data/call.ts';
import { useAddress } from '../../kit/address.ts';
import { useCommands } from '../../kit/commands.ts';
import { Empty } from '../../kit/Empty.tsx';
import { counted } from '../../kit/format.ts';
import { Part } from '../../kit/Part.tsx';
import { useSelection } from '../../kit/table/selection.ts';
import { figureAt, figureHeadings } from '../../plan/results/result-words.ts';
import { AccountsLook } from './AccountsLook.tsx';
import { happenedCommands } from './commands.ts';
import { DaysPicture } from './DaysPicture.tsx';
import { LearnYield, ReportsYield } from './LearnYield.tsx';
import { LookSentence } from './LookSentence.tsx';
import { LookTable } from './LookTable.tsx';
import { figureCells, groupingWords, groupName, noLookWords, toldFiguresOf } from './look-words.ts';
import { PointsPicture } from './PointsPicture.tsx';
import { SavedLooks } from './SavedLooks.tsx';
import { TableOut } from './TableOut.tsx';
import { type ShownRow, useLook, useLooked } from './use-look.ts';

const pictures = ['points', 'days', 'spent'] as const;
const pictureWords: Record<(typeof pictures)[number], string> = {
  points: 'Position against CTR',
  days: 'By day',
  spent: 'Cost against conversions',
};

type Props = {
  plan: PlanState;
  imports: readonly ReportImport[] | undefined;
  onReports: () => void;
};

/** What happened: a sentence that says what is looked at, a picture of it, and its table. */
export function HappenedView({ plan, imports, onReports }: Props) {
  const { look, change } = useLook();
  if (!isOfOneAccount(look))
    return (
      <>
        <AccountsLook plan={plan} look={look} onChange={change} onReports={onReports} />
        <ReportsYield imports={imports} />
      </>
    );
  return <AccountLook plan={plan} imports={imports} look={look} onChange={change} onReports={onReports} />;
}

type LookProps = Props & { look: Look; onChange: (part: Partial<ShownLook>) => void };

function AccountLook({ plan, imports, look, onChange: change, onReports }: LookProps) {
  const accounts = useMemo(() => accountsOf(imports ?? []), [imports]);
  const [params, set] = useAddress();
  const { found, source, isOld, error } = useLooked(plan.id, look);
  const selection = useSelection<number>();
  const picture = pictures.find((one) => one === params.get('picture')) ?? usualPicture(found?.totals ?? []);
  const figure = resultFigures.find((one) => one === params.get('figure')) ?? 'cost';
  useCommands(happenedCommands, {
    picture: () => set({ picture: pictures[(pictures.indexOf(picture) + 1) % pictures.length] ?? '' }),
  });
  const [isAlone, setAlone] = useState(false);
  const select = (rows: readonly number[]) => {
    selection.clear();
    if (rows.length > 0) selection.all(rows);
    else setAlone(false);
  };
  const chosen = useMemo(
    () => (isAlone && selection.size > 0 ? selection.listIn(source.ids) : null),
    [isAlone, selection, source],
  );
  const shownSource = useMemo(() => (chosen ? { ...source, ids: chosen } : source), [source, chosen]);
  const open = (row: ShownRow) => {
    const next = within(look, row);
    if (next) change(next);
  };
  if (error)
    return (
      <p role="alert" className="p-5 text-error">
        {wordsOf(error)}
      </p>
    );
  if (!found) return <div className="grid flex-1 place-items-center text-faint">Adding up …</div>;
  if (found.why?.none === 'reports') return <NoReports onReports={onReports} />;
  const shared = { plan: plan.id, look, found };
  const words = found.why && noLookWords(found.why, look.by);
  return (
    <>
      <LookSentence plan={plan.id} look={look} found={found} accounts={accounts} onChange={change} />
      {words ? (
        <div className="grid flex-1 place-items-center p-6">
          <Empty title={words[0]}>
            <p>{words[1]}</p>
          </Empty>
        </div>
      ) : (
        <>
          <div className="flex h-10 shrink-0 items-center gap-1.5 px-4">
            {pictures.map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={picture === one}
                className={`rounded-md px-2 py-0.5 ${picture === one ? 'bg-wash ring-1 ring-primary' : 'hover:bg-base-200'}`}
                onClick={() => set({ picture: one })}
              >
                {pictureWords[one]}
              </button>
            ))}
            <span className="ml-4 text-faint" aria-live="polite">
              {isOld ? 'Adding up …' : counted(found.order.length, groupingWords[look.by][0])}
              {found.order.length < found.all ? ` of ${found.all.toLocaleString('en')}` : ''}
              {selection.size > 0 ? `, ${selection.size.toLocaleString('en')} selected` : ''}
            </span>
            {selection.size > 0 && (
              <button
                type="button"
                aria-pressed={isAlone}
                className={`btn btn-xs font-normal ${isAlone ? 'btn-primary' : ''}`}
                title="The table shows only what is selected, here or in the picture"
                onClick={() => setAlone(!isAlone)}
              >
                Only these
              </button>
            )}
            <span className="ml-auto flex items-center gap-1.5">
              <SavedLooks plan={plan.id} look={look} onLook={change} />
              <TableOut
                name={`${plan.brief.name} by ${groupingWords[look.by][0]}`}
                isEmpty={found.order.length === 0}
                cells={async () =>
                  cellsOf(look, await source.fetchAll((chosen ?? found.order).slice(0, MOST_OUT)))
                }
              />
            </span>
          </div>
          <Part name="The picture" of={picture}>
            {picture === 'days' ? (
              <DaysPicture
                {...shared}
                figure={figure}
                onFigure={(name) => set({ figure: name })}
                onRange={(range) => change({ range })}
              />
            ) : (
              <PointsPicture
                key={picture}
                {...shared}
                {...AXES[picture]}
                has={selection.has}
                onSelect={select}
              />
            )}
          </Part>
          <Part name="The table">
            <LookTable
              look={look}
              found={found}
              source={shownSource}
              selection={selection}
              onSort={(sort, down) => change({ sort, down })}
              onOpen={open}
            />
          </Part>
        </>
      )}
      <LearnYield look={look} found={found} />
    </>
  );
}

/** Accounts that anything was told of. */
function accountsOf(imports: readonly ReportImport[]): ReportAccount[] {
  return [...new Map(imports.map(({ account }) => [accountCode(account), account])).values()];
}

const AXES: Record<'points' | 'spent', { x: ResultFigure; y: ResultFigure; size: ResultFigure }> = {
  points: { x: 'position', y: 'ctr', size: 'cost' },
  spent: { x: 'cost', y: 'conversions', size: 'clicks' },
};

/** Where no position is told, its picture would have nothing in it. */
const usualPicture = (totals: readonly (number | null)[]): (typeof pictures)[number] =>
  figureAt('position', totals) === null ? 'days' : 'points';

/** What stands within a row of each kind. */
const WITHIN: Partial<Record<LookGrouping, LookGrouping>> = {
  campaign: 'group',
  group: 'keyword',
  theme: 'group',
  stage: 'keyword',
  source: 'keyword',
  brand: 'keyword',
  label: 'keyword',
  match: 'keyword',
  device: 'campaign',
  network: 'campaign',
  place: 'campaign',
  page: 'group',
  hour: 'campaign',
  keyword: 'day',
  term: 'day',
  ad: 'day',
  extra: 'day',
};

/** The look at what stands within a row. */
function within(look: Look, { names }: ShownRow): Partial<Look> | null {
  const { by } = look;
  const next = WITHIN[by];
  const [is = ''] = names;
  if (!next || by === 'day' || by === 'weekday') return null;
  // Two ad groups of one name are told apart by their campaign, and keywords by their ad group and match type.
  const beside: Partial<Record<LookGrouping, readonly LookGrouping[]>> = {
    keyword: ['match', 'group', 'campaign'],
    group: ['campaign'],
    ad: ['group', 'campaign'],
  };
  const more = (beside[by] ?? []).map((one, at) => ({ by: one, is: names[at + 1] ?? '' }));
  const all = [{ by, is }, ...more].filter(
    (one) => !look.names.some((there) => there.by === one.by && there.is === one.is),
  );
  return { by: next, names: [...look.names, ...(all as Look['names'])], figures: [] };
}

const NoReports = ({ onReports }: { onReports: () => void }) => {
  const [title, words] = noLookWords({ none: 'reports' }, 'campaign');
  return (
    <>
      <div className="grid flex-1 place-items-center p-6">
        <Empty title={title}>
          <p>{words}</p>
          <button type="button" className="btn btn-primary btn-sm mt-3" onClick={onReports}>
            Take in reports …
          </button>
        </Empty>
      </div>
      <ReportsYield imports={[]} />
    </>
  );
};

/** So many rows are copied or downloaded. */
const MOST_OUT = 100_000;

const BESIDE: Partial<Record<LookGrouping, readonly string[]>> = {
  keyword: ['Match type', 'Ad group', 'Campaign'],
  group: ['Campaign'],
  ad: ['Ad group', 'Campaign'],
};

function cellsOf({ by }: Look, rows: readonly ShownRow[]): string[][] {
  const told = toldFiguresOf(rows);
  const beside = BESIDE[by] ?? [];
  return [
    [groupingWords[by][0], ...beside, ...told.map((name) => figureHeadings[name])],
    ...rows.map(({ names, figures }) => [
      groupName(by, names[0] ?? ''),
      ...beside.map((_, at) => names[at + 1] ?? ''),
      ...figureCells(told, figures),
    ]),
  ];
}
