import {
  type ChosenOutlet,
  chooseOutlet,
  downloadKeywords,
  downloadLosses,
  type PlanOutletBody,
  type ShipPart as ShipPartBody,
  shipResult,
  startShip,
  stopJob,
  urlOf,
} from '@sprig/contracts';
import { kindsIn, networkNames, type SheetFormat, type SheetKind } from '@sprig/core/outlets';
import { Copy, Download, FileOutput } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { call, send, wordsOf } from '../../data/call.ts';
import { finishJob, useJob } from '../../data/jobs.ts';
import { Only } from '../../kit/allowed.tsx';
import { PercentChip } from '../../kit/chips.tsx';
import { copyCells } from '../../kit/clipboard.ts';
import { count, counted } from '../../kit/format.ts';
import { networkWords } from '../../kit/network-words.ts';
import { Progress } from '../../kit/Progress.tsx';
import { ChangedRows } from './ChangedRows.tsx';
import { DifferenceBar } from './DifferenceBar.tsx';
import { differing, rowsIn, toldBy } from './look.ts';
import { ShipPart } from './ShipPart.tsx';
import { formatWords, lossWords, sheetWords } from './ship-words.ts';
import { refreshShip } from './use-ship.ts';

type Props = {
  plan: number;
  chosen: ChosenOutlet;
  blockers: number;
  /** Whether the plan is being built or looked through. */
  busy: boolean;
  marked: boolean;
  onShipped: (set: string) => void;
};

/** One outlet: what differs from what it has, what it can't carry, what has to be in place, and its sheets. */
export function OutletColumn({ plan, chosen, blockers, busy, marked, onShipped }: Props) {
  const { outlet, check } = chosen;
  const first = check?.difference.receipt === null;
  const since = check && (first ? 'nothing shipped yet' : 'since the last receipt');
  return (
    <section
      aria-label={outlet.name}
      className={`flex min-w-[330px] max-w-[440px] flex-1 flex-col gap-2.5 border-hair border-r px-4 py-3 ${marked ? 'bg-wash' : ''}`}
    >
      <header className="flex items-baseline justify-between gap-2">
        <h2 className="truncate font-semibold text-[15px]">{outlet.name}</h2>
        <span className={`shrink-0 text-[12.5px] ${blockers > 0 ? 'text-error' : 'text-faint'}`}>
          {blockers > 0 ? counted(blockers, 'blocker') : since}
        </span>
      </header>
      {check ? (
        <DifferenceBar difference={check.difference} />
      ) : (
        <p className="text-[12.5px] text-faint">Not looked through yet.</p>
      )}
      {check && !first && <ChangedRows rows={check.difference.rows} total={differing(check)} />}
      {check && check.losses.length > 0 && <Losses plan={plan} chosen={chosen} />}
      <Needs plan={plan} chosen={chosen} />
      <Writing plan={plan} chosen={chosen} blockers={blockers} busy={busy} onShipped={onShipped} />
    </section>
  );
}

function Losses({ plan, chosen }: { plan: number; chosen: ChosenOutlet }) {
  const { outlet, check } = chosen;
  return (
    <details className="text-[12.5px]">
      <summary className="cursor-pointer text-warning">What it can’t carry of the plan</summary>
      <ul className="mt-1 flex flex-col gap-1">
        {check?.losses.map(({ rule, count: number, samples }) => (
          <li key={rule}>
            {lossWords(rule, number)}
            <span className="block truncate text-faint">
              {samples
                .slice(0, 3)
                .map(({ text, becomes }) => (becomes === '' ? text : `${text} → ${becomes}`))
                .join(' · ')}
            </span>
          </li>
        ))}
      </ul>
      <a
        className="btn btn-ghost btn-xs mt-1 font-normal"
        href={urlOf(downloadLosses, { params: { plan, outlet: outlet.key } })}
        download
      >
        <Download size={13} aria-hidden /> Every row of them
      </a>
    </details>
  );
}

/** What has to be in place there, and what is bid on each network. */
function Needs({ plan, chosen }: { plan: number; chosen: ChosenOutlet }) {
  const { outlet } = chosen;
  // What was just ticked is shown before it is kept.
  const [shown, setShown] = useState<PlanOutletBody | null>(null);
  const body = shown ?? chosen.body;
  if (outlet.needs.length === 0 && !outlet.bids.perNetwork) return null;
  /** Answers why it was not kept, or null. */
  const keep = async (next: PlanOutletBody): Promise<string | null> => {
    setShown(next);
    try {
      await call(chooseOutlet, { params: { plan, outlet: outlet.key }, body: { chosen: true, body: next } });
      await refreshShip(plan);
      return null;
    } catch (error) {
      return wordsOf(error);
    } finally {
      setShown(null);
    }
  };
  const tick = async (key: string, isTicked: boolean) => {
    const others = body.ticks.filter((one) => one !== key);
    const refusal = await keep({ ...body, ticks: isTicked ? [...others, key] : others });
    if (refusal !== null) toast.error(refusal);
  };
  return (
    <div className="flex flex-col gap-1 text-[12.5px]">
      {outlet.needs.map(({ key, words, before }) => (
        <label key={key} className="flex min-h-6 cursor-pointer items-start gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs mt-0.5"
            checked={body.ticks.includes(key)}
            onChange={({ target }) => void tick(key, target.checked)}
          />
          <span>
            {words}{' '}
            <span className="text-faint">
              {before === 'sheets' ? 'before sheets are taken' : 'before anything is shown'}
            </span>
          </span>
        </label>
      ))}
      {outlet.bids.perNetwork && (
        <p className="flex flex-wrap items-center gap-x-2">
          Bids{' '}
          {networkNames.map((name) => (
            <span key={name} className="flex items-center gap-1">
              {networkWords[name]}
              <PercentChip
                label={`Percent of the bid ${networkWords[name]}`}
                value={body.steps[name]}
                onKeep={(step) => keep({ ...body, steps: { ...body.steps, [name]: step as number } })}
              />
            </span>
          ))}
        </p>
      )}
    </div>
  );
}

/** The sheets that are written, as what files, and of what: all of the plan, or what differs. */
function Writing({ plan, chosen, blockers, busy, onShipped }: Omit<Props, 'marked'>) {
  const { outlet, check } = chosen;
  const [format, setFormat] = useState<SheetFormat>(outlet.file.formats[0] ?? 'csv');
  const [without, setWithout] = useState<SheetKind[]>(outlet.sheets.length > 1 ? ['combined'] : []);
  const [note, setNote] = useState('');
  const [job, setJob] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [part, setPart] = useState(false);
  const { data: running } = useJob(plan, job);
  const sheets = outlet.sheets.filter(({ kind }) => !without.includes(kind));
  const rowsOf = (kind: SheetKind) =>
    kind === 'combined'
      ? rowsIn(check)
      : (check?.rows[kind.slice(0, -1) as keyof NonNullable<typeof check>['rows']] ?? 0);
  const all = sheets.reduce((sum, { kind }) => sum + rowsOf(kind), 0);
  const difference = toldBy(sheets, check);
  const isPart = sheets.length > 0 && kindsIn(sheets).size < kindsIn(outlet.sheets).size;
  const isFirst = !check || check.difference.receipt === null;
  const write = async (what: 'all' | 'difference', part: ShipPartBody | null = null) => {
    setPart(false);
    setRefusal(null);
    try {
      const started = await call(startShip, {
        params: { plan },
        body: { outlet: outlet.key, format, what, note, sheets: sheets.map(({ kind }) => kind), part },
      });
      setJob(started.job);
      const done = await finishJob(plan, started.job);
      if (done.status === 'stopped') setRefusal('Stopped. No sheet was kept.');
      else {
        const { sheetSet, files } = shipResult.parse(done.result);
        toast(
          `Wrote ${counted(
            files.reduce((sum, { rows }) => sum + rows, 0),
            'row',
          )} for ${outlet.name}.`,
        );
        // What is typed meanwhile is of the next one.
        setNote((now) => (now === note ? '' : now));
        onShipped(sheetSet);
        await refreshShip(plan);
      }
    } catch (error) {
      setRefusal(wordsOf(error));
    }
    setJob(null);
  };
  const disabled = job !== null || blockers > 0 || sheets.length === 0 || busy || !check;
  return (
    <div className="mt-auto flex flex-col gap-2 border-hair border-t pt-2.5">
      <div className="flex items-center justify-between gap-2">
        <span className="text-[12.5px] text-faint">
          {outlet.file.encoding}
          {outlet.file.rowsPerFile !== null && `, ${counted(outlet.file.rowsPerFile, 'row')} a file`}
        </span>
        <fieldset className="join" aria-label={`File form for ${outlet.name}`}>
          {outlet.file.formats.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={format === one}
              className={`btn join-item btn-xs font-normal ${format === one ? 'btn-active' : ''}`}
              onClick={() => setFormat(one)}
            >
              {formatWords[one]}
            </button>
          ))}
        </fieldset>
      </div>
      {outlet.sheets.length > 1 && (
        <ul className="grid grid-cols-2 gap-x-3 text-[12.5px]" aria-label={`Sheets for ${outlet.name}`}>
          {outlet.sheets.map(({ kind }) => (
            <li key={kind}>
              <label className="flex min-h-6 cursor-pointer items-center gap-1.5">
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
                <span className="min-w-0 flex-1 truncate">{sheetWords[kind]}</span>
                <span>{count(rowsOf(kind))}</span>
              </label>
            </li>
          ))}
        </ul>
      )}
      {isPart && <p className="text-[12.5px] text-faint">What is left out is told the next time.</p>}
      <input
        className="input input-sm w-full"
        aria-label={`Note on the receipt for ${outlet.name}`}
        placeholder="A note on the receipt"
        value={note}
        maxLength={500}
        onChange={({ target }) => setNote(target.value)}
      />
      <Only access="ship" className="flex flex-wrap items-center gap-2">
        {!isFirst && (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            data-step="ship"
            disabled={disabled || difference === 0}
            onClick={() => void write('difference')}
          >
            <FileOutput size={15} aria-hidden /> Ship {counted(difference, 'change')}
          </button>
        )}
        <button
          type="button"
          className={`btn btn-sm ${isFirst ? 'btn-primary' : ''}`}
          data-step={isFirst ? 'ship' : undefined}
          disabled={disabled}
          onClick={() => void write('all')}
        >
          {isFirst && <FileOutput size={15} aria-hidden />}{' '}
          {isFirst ? `Ship ${counted(all, 'row')}` : `All ${counted(all, 'row')}`}
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm font-normal"
          disabled={disabled}
          title="Chosen campaigns, ad groups, labels or kinds of rows"
          onClick={() => setPart(true)}
        >
          A part …
        </button>
      </Only>
      {part && (
        <ShipPart
          plan={plan}
          outlet={outlet}
          sheets={sheets}
          isFirst={isFirst}
          onWrite={(what, chosen) => void write(what, chosen)}
          onClose={() => setPart(false)}
        />
      )}
      <CopyKeywords plan={plan} outlet={outlet.key} />
      {job && running && (
        <Progress
          words={
            running.total > 0 ? `${count(running.done)} of ${counted(running.total, 'ad group')}` : 'Starting'
          }
          done={running.done}
          total={running.total}
          onStop={() =>
            void call(stopJob, { params: { plan, job } }).catch((error) => toast.error(wordsOf(error)))
          }
        />
      )}
      {refusal && (
        <p role="alert" className="text-[12.5px] text-error">
          {refusal}
        </p>
      )}
    </div>
  );
}

/** Keywords and negatives in the outlet's notation, on the clipboard, each beside its campaign and ad group. */
function CopyKeywords({ plan, outlet }: { plan: number; outlet: string }) {
  const copy = async () => {
    try {
      const text = await (await send(urlOf(downloadKeywords, { params: { plan, outlet } }))).text();
      const lines = text.split('\n').slice(0, -1);
      await copyCells(
        lines.map((line) => line.split('\t')),
        text,
      );
      toast(`Copied ${counted(lines.length - 1, 'row')} with headings.`);
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs self-start font-normal"
      title="Keywords and negatives in its notation, each beside its campaign and ad group, for pasting"
      onClick={() => void copy()}
    >
      <Copy size={13} aria-hidden /> Copy keywords by ad group
    </button>
  );
}
