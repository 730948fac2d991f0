import { shipResult, startShip, stopJob, viewShip } from '@sprig/contracts';
import type { Finding, SheetFormat, SheetKind } from '@sprig/core/ship';
import { useQuery } from '@tanstack/react-query';
import { CircleAlert, CircleCheck, Lightbulb, OctagonAlert } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { call, wordsOf } from '../../api/call.ts';
import { finishJob, useJob } from '../../api/jobs.ts';
import { planKey, useOpenPlan } from '../../api/plan.ts';
import { count, counted } from '../../kit/format.ts';
import { Help, Progress } from '../../kit/marks.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { findingWords } from './finding-words.ts';
import { SheetSample } from './SheetSample.tsx';
import { SheetSet, type Shipped } from './SheetSet.tsx';

const sheetWords: Record<SheetKind, string> = {
  campaigns: 'Campaigns',
  groups: 'Ad groups',
  keywords: 'Keywords',
  negatives: 'Negative keywords',
  ads: 'Ads',
  combined: 'All in one sheet',
};

/** Findings on the left, the outlet and its sheets on the right. */
export function ShipStage() {
  const plan = useOpenPlan();
  const { data: view } = useQuery({
    queryKey: [...planKey(plan.id), 'ship'],
    queryFn: () => call(viewShip, { params: { plan: plan.id } }),
  });
  const [format, setFormat] = useState<SheetFormat>('csv');
  const [without, setWithout] = useState<SheetKind[]>([]);
  const [job, setJob] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [shipped, setShipped] = useState<Shipped | null>(null);
  const { data: running } = useJob(plan.id, job);
  if (!view)
    return <div className="grid flex-1 place-items-center text-faint">Looking through the plan …</div>;
  const { outlet, findings, counts } = view;
  const rowsOf: Record<SheetKind, number> = {
    campaigns: counts.campaigns,
    groups: counts.groups,
    keywords: counts.keywords,
    negatives: counts.negatives * counts.campaigns,
    ads: counts.ads,
    combined:
      counts.campaigns + counts.groups + counts.keywords + counts.negatives * counts.campaigns + counts.ads,
  };
  const blockers = findings.filter(({ severity }) => severity === 'blocker');
  const behind = view.builtRevision < plan.revision;
  const chosen = outlet.sheets.filter(({ kind }) => !without.includes(kind));
  const total = chosen.reduce((sum, { kind }) => sum + rowsOf[kind], 0);
  const write = async () => {
    setRefusal(null);
    try {
      const started = await call(startShip, {
        params: { plan: plan.id },
        body: { outlet: 'plain', format, sheets: chosen.map(({ kind }) => kind) },
      });
      setJob(started.job);
      const done = await finishJob(plan.id, started.job);
      if (done.status === 'stopped') setRefusal('Stopped. No sheet was kept.');
      else setShipped({ ...shipResult.parse(done.result), at: new Date().toISOString() });
    } catch (error) {
      setRefusal(wordsOf(error));
    }
    setJob(null);
  };
  return (
    <>
      <section
        aria-label="Outlets"
        className="flex h-12 shrink-0 items-center gap-2 border-hair border-b px-4"
      >
        <span className="flex h-8 items-center gap-1.5 rounded-md bg-wash px-2 ring-1 ring-primary">
          {outlet.name} <span className="font-semibold">{count(rowsOf.combined)}</span>{' '}
          <span className="text-faint">rows</span>
        </span>
        <span className="ml-auto text-[12.5px] text-faint" role="status">
          {behind ? 'Building …' : ''}
        </span>
      </section>
      <div className="grid min-h-0 flex-1 grid-cols-[1fr_1fr]">
        <section aria-label="Findings" className="min-h-0 overflow-auto border-hair border-r px-6 py-4">
          <h1 className="mb-2 font-semibold text-[15px]">{headline(blockers.length, findings.length)}</h1>
          {findings.length === 0 && counts.groups > 0 && (
            <p className="flex items-center gap-2 text-primary">
              <CircleCheck size={16} aria-hidden /> Every field is filled and within its limit.
            </p>
          )}
          <ul className="flex flex-col">
            {findings.map((finding) => (
              <FindingLine key={`${finding.rule}:${finding.field}`} finding={finding} />
            ))}
          </ul>
          {shipped && <SheetSample plan={plan.id} shipped={shipped} />}
        </section>
        <section aria-label="Sheets" className="min-h-0 overflow-auto px-6 py-4">
          <div className="mb-2 flex items-center justify-between">
            <h2 className="font-semibold text-[15px]">Sheets</h2>
            <fieldset className="join" aria-label="File form">
              {outlet.file.formats.map((one) => (
                <button
                  key={one}
                  type="button"
                  aria-pressed={format === one}
                  className={`btn join-item btn-xs ${format === one ? 'btn-active' : ''}`}
                  onClick={() => setFormat(one)}
                >
                  {one === 'csv' ? 'Commas (csv)' : 'Tabs (tsv)'}
                </button>
              ))}
            </fieldset>
          </div>
          <ul className="divide-y divide-base-300 border-hair border-y">
            {outlet.sheets.map(({ kind, columns }) => (
              <li key={kind}>
                <label className="grid cursor-pointer grid-cols-[24px_150px_80px_1fr] items-center gap-2 py-1.5">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    checked={!without.includes(kind)}
                    onChange={() =>
                      setWithout(
                        without.includes(kind) ? without.filter((one) => one !== kind) : [...without, kind],
                      )
                    }
                  />
                  <span>{sheetWords[kind]}</span>
                  <span className="text-right">{count(rowsOf[kind])}</span>
                  <span className="truncate text-[12px] text-faint">
                    {columns.map(({ heading }) => heading).join(', ')}
                  </span>
                </label>
              </li>
            ))}
          </ul>
          <div className="mt-3 flex items-center gap-3">
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={job !== null || blockers.length > 0 || chosen.length === 0 || behind}
              onClick={() => void write()}
            >
              Write {counted(total, 'row')}
            </button>
            {blockers.length > 0 && (
              <span className="text-error">{counted(blockers.length, 'blocker')} first</span>
            )}
            {job && running && (
              <Progress
                words={
                  running.total > 0
                    ? `${count(running.done)} of ${counted(running.total, 'ad group')}`
                    : 'Starting'
                }
                done={running.done}
                total={running.total}
                onStop={() =>
                  void call(stopJob, { params: { plan: plan.id, job } }).catch((error) =>
                    toast.error(wordsOf(error)),
                  )
                }
              />
            )}
          </div>
          {refusal && (
            <p role="alert" className="mt-2 text-error">
              {refusal}
            </p>
          )}
          {shipped ? (
            <SheetSet
              plan={plan.id}
              shipped={shipped}
              sheetWords={sheetWords}
              stale={shipped.revision < plan.revision}
            />
          ) : (
            <div className="mt-4">
              <Help>
                Sheets are written as the outlet needs them, to the letter. To look at them in a spreadsheet,
                use Copy: it marks every cell as text.
              </Help>
            </div>
          )}
        </section>
      </div>
      <Yield
        terms={[
          {
            id: 'campaigns',
            figure: count(counts.campaigns),
            words: counts.campaigns === 1 ? 'campaign' : 'campaigns',
          },
          { id: 'groups', figure: count(counts.groups), words: 'ad groups' },
          { id: 'keywords', figure: count(counts.keywords), words: 'keyword rows' },
          { id: 'ads', figure: count(counts.ads), words: 'ads' },
          { id: 'negatives', figure: count(rowsOf.negatives), words: 'negative rows' },
          {
            id: 'blockers',
            figure: count(blockers.length),
            words: blockers.length === 1 ? 'blocker' : 'blockers',
            tone: blockers.length > 0 ? 'bad' : 'plain',
          },
          { id: 'rows', figure: count(total), words: 'rows in the chosen sheets' },
        ]}
      />
    </>
  );
}

function headline(blockers: number, findings: number): string {
  if (blockers > 0) return `${counted(blockers, 'blocker')} before anything ships`;
  return findings > 0 ? `Ready to ship, with ${counted(findings, 'thing')} to know` : 'Ready to ship';
}

const MARKS = { blocker: OctagonAlert, warning: CircleAlert, tip: Lightbulb } as const;
const TONES = { blocker: 'text-error', warning: 'text-warning', tip: 'text-info' } as const;

/** One finding: what it is, how to mend it, and the first few it speaks of, each a way to its place. */
function FindingLine({ finding }: { finding: Finding }) {
  const { severity, place, samples, count: number } = finding;
  const { title, remedy } = findingWords(finding);
  const Mark = MARKS[severity];
  const to = (key?: string, text?: string) => {
    if (place.stage === 'write')
      return `../write?${new URLSearchParams({ ...(key ? { group: key } : {}), ...(place.field ? { field: place.field } : {}) })}`;
    if (place.stage === 'prune') return '../prune?view=negatives';
    if (place.stage === 'brief') return '../brief';
    return `../${place.stage}?${new URLSearchParams({ ...(text ? { filter: text } : {}), ...(place.stage === 'gather' ? { state: 'all' } : {}) })}`;
  };
  return (
    <li className="grid grid-cols-[20px_1fr] gap-2 border-base-200 border-b py-2.5">
      <Mark size={16} className={`mt-0.5 ${TONES[severity]}`} aria-label={severity} />
      <div className="min-w-0">
        <p>
          <span className="sr-only">{severity}: </span>
          {title}{' '}
          <Link to={to(samples[0]?.key, undefined)} className="text-primary underline underline-offset-2">
            {remedy}
          </Link>
        </p>
        {samples.length > 0 && (
          <p className="mt-0.5 flex flex-wrap gap-x-3 text-[12.5px] text-faint">
            {samples.map(({ key, text }) => (
              <Link
                key={key}
                to={to(key, text)}
                className="max-w-60 truncate hover:text-base-content hover:underline"
              >
                {text}
              </Link>
            ))}
            {number > samples.length && <span>and {count(number - samples.length)} more</span>}
          </p>
        )}
      </div>
    </li>
  );
}
