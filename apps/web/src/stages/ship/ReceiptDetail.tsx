import {
  downloadSheet,
  downloadSheets,
  handIn,
  listRefusals,
  markReceipt,
  type Receipt,
  readAnswer,
  type SheetFile,
  urlOf,
} from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { Copy, Download, FileInput, FolderDown, Landmark, Undo2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { call, wordsOf } from '../../data/call.ts';
import { finishJob } from '../../data/jobs.ts';
import { question } from '../../data/question.ts';
import { uploadTo } from '../../data/upload.ts';
import { copyCells } from '../../kit/clipboard.ts';
import { bytes, count, counted, time } from '../../kit/format.ts';
import { readTable } from './read-file.ts';
import { SheetSample } from './SheetSample.tsx';
import { kindWords, partWords, sheetWords, stateWords } from './ship-words.ts';
import { refreshShip } from './use-ship.ts';

/** More than this is no longer something one pastes. */
const MOST_COPIED_BYTES = 30_000_000;

type Props = {
  plan: number;
  receipt: Receipt;
  isLatest: boolean;
  /** Rows that differ from what the outlet has by now. */
  differs: number;
  onAccount: (outlet: string) => void;
};

/** One receipt: its sheets to be fetched again, what became of them, and the rows that were refused. */
export function ReceiptDetail({ plan, receipt, isLatest, differs, onAccount }: Props) {
  const [busy, setBusy] = useState(false);
  const picker = useRef<HTMLInputElement>(null);
  const params = { plan, set: receipt.id };
  const urlOfFile = (file: string) => urlOf(downloadSheet, { params: { ...params, file } });
  const { counts, answer } = receipt;
  const run = async (work: () => Promise<string | null>) => {
    setBusy(true);
    try {
      const words = await work();
      if (words) toast(words);
      await refreshShip(plan);
    } catch (error) {
      toast.error(wordsOf(error));
    }
    setBusy(false);
  };
  const mark = (state: 'accepted' | 'withdrawn') =>
    run(async () => {
      await call(markReceipt, { params: { plan, set: receipt.id }, body: { state } });
      return state === 'accepted'
        ? 'Marked as accepted.'
        : 'Withdrawn: the next difference is measured against the receipt before.';
    });
  const give = () =>
    run(async () => {
      const { job } = await call(handIn, { params: { plan, set: receipt.id } });
      const done = await finishJob(plan, job);
      const { taken, refused } = done.result as { taken: number; refused: number };
      return refused === 0
        ? `${receipt.outletName} took all ${counted(taken, 'row')}.`
        : `${receipt.outletName} took ${counted(taken, 'row')} and refused ${count(refused)}.`;
    });
  const readFile = (file: File) =>
    run(async () => {
      const upload = await uploadTo(plan, file);
      const { summary, problems } = await call(readAnswer, {
        params: { plan, set: receipt.id },
        body: { upload, name: file.name.slice(0, 200) },
      });
      const unread = problems.length > 0 ? ` ${counted(problems.length, 'line')} could not be read.` : '';
      const strange =
        summary.strange > 0 ? ` ${counted(summary.strange, 'row')} are none of this set’s.` : '';
      return `${counted(summary.refused, 'row')} refused.${strange}${unread}`;
    });
  return (
    <section aria-label="Receipt" data-state={receipt.state} className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h3 className="font-semibold">
          {receipt.outletName} {receipt.n}
        </h3>
        <span className="text-[12.5px] text-faint">
          {time(receipt.at)} by {receipt.by}, {receipt.what === 'all' ? 'all rows' : 'the difference'}
          {receipt.part && ` of a part (${partWords(receipt.part)})`}: {count(counts.added)} new,{' '}
          {count(counts.changed)} changed, {count(counts.removed)} gone · {stateWords[receipt.state]}
          {answer && answer.refused > 0 && `, ${counted(answer.refused, 'row')} refused`} ·{' '}
          <span title={receipt.hash}>hash {receipt.hash.slice(0, 10)}</span>
        </span>
      </div>
      <Note plan={plan} receipt={receipt} />
      {differs > 0 && isLatest && receipt.state !== 'withdrawn' && (
        <p className="text-[12.5px] text-warning">
          {counted(differs, 'row')} of the plan {differs === 1 ? 'differs' : 'differ'} from what{' '}
          {receipt.outletName} has by now: ship the changes.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-1.5">
        <a
          className={`btn btn-sm ${receipt.zipped ? 'btn-primary' : ''}`}
          href={urlOf(downloadSheets, { params })}
          download
        >
          <FolderDown size={15} aria-hidden /> Download all as a zip
        </a>
        {isLatest && receipt.state !== 'withdrawn' && (
          <>
            {receipt.standIn && (
              <button
                type="button"
                data-step="hand-in"
                className="btn btn-sm"
                disabled={busy}
                onClick={() => void give()}
              >
                <Landmark size={15} aria-hidden /> Hand in to the simulated {receipt.outletName}
              </button>
            )}
            <button
              type="button"
              className="btn btn-sm font-normal"
              disabled={busy}
              onClick={() => picker.current?.click()}
            >
              <FileInput size={15} aria-hidden /> Read an answer sheet …
            </button>
            <input
              ref={picker}
              type="file"
              accept=".csv,.tsv,.txt"
              aria-label="Answer sheet"
              className="hidden"
              onChange={({ target }) => {
                const [file] = target.files ?? [];
                if (file) void readFile(file);
                target.value = '';
              }}
            />
            {receipt.state !== 'accepted' && (
              <button
                type="button"
                className="btn btn-sm font-normal"
                disabled={busy}
                onClick={() => void mark('accepted')}
              >
                Mark as accepted
              </button>
            )}
            <button
              type="button"
              className="btn btn-ghost btn-sm font-normal"
              disabled={busy}
              onClick={() => void mark('withdrawn')}
            >
              <Undo2 size={15} aria-hidden /> Never handed in
            </button>
          </>
        )}
        {receipt.standIn && (
          <button
            type="button"
            className="btn btn-ghost btn-sm font-normal"
            onClick={() => onAccount(receipt.outlet)}
          >
            Look at its account
          </button>
        )}
      </div>
      <Files urlOfFile={urlOfFile} receipt={receipt} />
      {answer && answer.refused > 0 && <Refusals plan={plan} receipt={receipt} />}
      <SheetSample urlOfFile={urlOfFile} receipt={receipt} />
    </section>
  );
}

function Note({ plan, receipt }: { plan: number; receipt: Receipt }) {
  const [note, setNote] = useState<string | null>(null);
  const keep = async () => {
    if (note === null || note === receipt.note) return setNote(null);
    try {
      await call(markReceipt, { params: { plan, set: receipt.id }, body: { note } });
      await refreshShip(plan);
    } catch (error) {
      toast.error(wordsOf(error));
    }
    setNote(null);
  };
  return (
    <input
      className="plain-field w-full max-w-xl text-[12.5px]"
      aria-label="Note on this receipt"
      placeholder="Add a note"
      maxLength={500}
      value={note ?? receipt.note}
      onChange={({ target }) => setNote(target.value)}
      onBlur={() => void keep()}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

function Files({ urlOfFile, receipt }: { urlOfFile: (file: string) => string; receipt: Receipt }) {
  const copy = async ({ name, rows }: SheetFile) => {
    try {
      await copyCells(await readTable(urlOfFile(name), name));
      toast(`Copied ${counted(rows, 'row')} with headings.`);
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  return (
    <ul className="max-h-44 divide-y divide-base-300 overflow-auto border-hair border-y" aria-label="Sheets">
      {receipt.files.map((file) => (
        <li key={file.name} className="grid grid-cols-[1fr_100px_80px_auto] items-center gap-2 py-0.5">
          <span className="truncate" title={sheetWords[file.kind]}>
            {file.name}
          </span>
          <span className="text-right">{counted(file.rows, 'row')}</span>
          <span className="text-right text-faint">{bytes(file.bytes)}</span>
          <span className="flex gap-1">
            {receipt.format !== 'xlsx' && (
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                disabled={file.bytes > MOST_COPIED_BYTES}
                title={
                  file.bytes > MOST_COPIED_BYTES
                    ? `Over ${bytes(MOST_COPIED_BYTES)}: download it instead`
                    : 'Copy for a spreadsheet'
                }
                aria-label={`Copy ${file.name}`}
                onClick={() => void copy(file)}
              >
                <Copy size={13} aria-hidden /> Copy
              </button>
            )}
            <a
              className="btn btn-ghost btn-xs"
              href={urlOfFile(file.name)}
              download
              aria-label={`Download ${file.name}`}
            >
              <Download size={13} aria-hidden /> Download
            </a>
          </span>
        </li>
      ))}
    </ul>
  );
}

function Refusals({ plan, receipt }: { plan: number; receipt: Receipt }) {
  const { data } = useQuery(question(listRefusals, { params: { plan, set: receipt.id } }));
  if (!data) return null;
  return (
    <div>
      <h4 className="font-semibold text-error">{counted(data.total, 'row')} refused</h4>
      <div className="max-h-56 overflow-auto border-hair border-y" tabIndex={0}>
        <table className="w-full text-[12.5px]" aria-label="Refused rows">
          <tbody>
            {data.rows.map((row) => (
              <tr
                key={`${row.file}:${row.line}:${row.kind}:${row.text}`}
                className="border-base-200 border-b align-top"
              >
                <td className="whitespace-nowrap py-0.5 pr-3 text-faint">
                  {row.file}, {row.line}
                </td>
                <td className="whitespace-nowrap pr-3 text-faint">{kindWords[row.kind]}</td>
                <td className="max-w-72 truncate pr-3" title={`${row.campaign} › ${row.group}`}>
                  {row.text}
                </td>
                <td className="text-error">{row.reason}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {data.total > data.rows.length && (
        <p className="text-[12.5px] text-faint">The first {count(data.rows.length)}.</p>
      )}
    </div>
  );
}
