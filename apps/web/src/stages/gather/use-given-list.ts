import { MOST_UPLOAD_BYTES } from '@sprig/contracts';
import { layoutName, type ReadOptions } from '@sprig/core/gather';
import type { Remote } from 'comlink';
import { useDeferredValue, useEffect, useState } from 'react';
import { usePreferences } from '../../data/me.ts';
import { bytes } from '../../kit/format.ts';
import { isWorkbook } from '../../pool/is-workbook.ts';
import { useWorked } from '../../pool/use-pool.ts';
import type { PoolWorker, ReadSummary } from '../../pool/worker.ts';
import { fileProblems } from './take-in-words.ts';

export type Taking = { kind: 'paste'; text: string } | { kind: 'file'; file: File };
type Problem = keyof typeof fileProblems;

/** A file that was brought in: its bytes, or the sheets of its workbook and the text of the one that is chosen. */
function useOpened(taking: Taking, tooHeavy: boolean, worker: Remote<PoolWorker>) {
  const [fileBytes, setFileBytes] = useState<Uint8Array | null>(null);
  const [sheets, setSheets] = useState<string[]>([]);
  const [sheet, setSheet] = useState(0);
  const [sheetText, setSheetText] = useState<string | null>(null);
  const [broken, setBroken] = useState<Problem | null>(null);
  useEffect(() => {
    if (taking.kind !== 'file' || tooHeavy) return;
    let wanted = true;
    const open = async () => {
      const buffer = new Uint8Array(await taking.file.arrayBuffer());
      if (!wanted) return;
      if (!isWorkbook(buffer)) return setFileBytes(buffer);
      const book = await worker.openWorkbook(buffer);
      if (!wanted) return;
      if ('problem' in book) return setBroken(book.problem);
      if (book.sheets.length === 0) return setBroken('empty-file');
      setSheets(book.sheets);
      setSheetText(await worker.sheetText(0));
    };
    open().catch(() => setBroken('no-workbook'));
    return () => {
      wanted = false;
    };
  }, [taking, tooHeavy, worker]);
  const choose = async (place: number) => {
    setSheet(place);
    setSheetText(await worker.sheetText(place));
  };
  return { fileBytes, sheets, sheet, sheetText, broken, choose };
}

export type GivenList = ReturnType<typeof useGivenList>;

/** The list that is to be taken in, how it is read, and what was understood of it. */
export function useGivenList(taking: Taking, worker: Remote<PoolWorker>) {
  const [text, setText] = useState(taking.kind === 'paste' ? taking.text : '');
  const [options, setOptions] = useState<ReadOptions>({});
  const weighs = taking.kind === 'file' ? taking.file.size : 0;
  const tooHeavy = weighs > MOST_UPLOAD_BYTES;
  const opened = useOpened(taking, tooHeavy, worker);
  const { fileBytes, sheets, sheet, sheetText, broken } = opened;
  const read = useDeferredValue(text);
  const isSheet = sheets.length > 0;
  const asked: ReadOptions = isSheet ? { ...options, delimiter: '\t' } : options;
  const question = JSON.stringify(asked);
  const ask = (): Promise<ReadSummary | { problem: Problem } | null> => {
    if (isSheet) return sheetText === null ? Promise.resolve(null) : worker.readText(sheetText, asked);
    if (taking.kind === 'file')
      return fileBytes ? worker.readFile(fileBytes, options) : Promise.resolve(null);
    return read.trim() === '' ? Promise.resolve(null) : worker.readText(read, options);
  };
  const { data: answer, error } = useWorked(
    ask,
    taking.kind === 'file'
      ? `${fileBytes?.length}:${sheet}:${sheetText?.length}:${question}`
      : `${question}:${read}`,
  );
  const summary = answer && 'layout' in answer ? answer : null;
  const code = broken || (answer && 'problem' in answer ? answer.problem : null);
  const unread = code ? fileProblems[code] : error;
  const problem = tooHeavy
    ? `This file weighs ${bytes(weighs)}. A list may weigh ${bytes(MOST_UPLOAD_BYTES)}: split the file and bring in the parts.`
    : unread;

  // What was picked for a file of this layout the last time is picked again.
  const { preferences, setAloud } = usePreferences();
  const layoutOf = summary ? layoutName(summary.layout) : null;
  const remembered = layoutOf === null ? undefined : preferences.columnRoles[layoutOf];
  useEffect(() => {
    if (remembered) setOptions((old) => (old.roles === undefined ? { ...old, roles: remembered } : old));
  }, [remembered]);
  const remember = () => {
    if (layoutOf !== null && options.roles !== undefined && options.roles !== remembered)
      setAloud({ columnRoles: { ...preferences.columnRoles, [layoutOf]: options.roles } });
  };
  const given = taking.kind === 'file' ? taking.file : new Blob([text]);
  return {
    text,
    setText,
    options,
    setOptions,
    asked,
    sheets,
    sheet,
    chooseSheet: (place: number) => {
      setOptions({});
      return opened.choose(place);
    },
    weighs,
    summary,
    problem,
    remember,
    /** What goes to the server. */
    body: () => (isSheet ? new Blob([sheetText ?? '']) : given),
  };
}
