import type { WordList } from '@sprig/contracts';
import type { WordProblem } from '@sprig/core/mix';
import { lazy, type RefObject, Suspense, useId, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { useAnchored } from '../../kit/anchored.ts';
import { count, counted } from '../../kit/format.ts';
import type { LinesEditorHandle } from '../../kit/LinesEditor.tsx';
import { usePressElsewhere } from '../../kit/use-press-elsewhere.ts';
import { wordProblemWords } from './mix-words.ts';

const LinesEditor = lazy(() => import('../../kit/LinesEditor.tsx'));

type Props = {
  name: string;
  text: string;
  takes: readonly number[];
  /** Shared lists that can be taken in. */
  takable: readonly WordList[];
  /** Of its own lines only. */
  problems: readonly WordProblem[];
  /** Forms said before, and lines whose marks are left out. */
  repeated: number;
  marked: number;
  /** What is to be known before one types: where else it is used. */
  note: string | null;
  onDraft: (text: string) => void;
  onKeep: (text: string) => Promise<string | null>;
  onTakes: (takes: number[]) => Promise<string | null>;
  onClose: () => void;
  /** What it opens under. */
  under: RefObject<HTMLElement | null>;
};

/** A list as text, one entry to a line; its effect shows while one types, and it is kept when it is left. */
export function ListText(props: Props) {
  const {
    name,
    text,
    takes,
    takable,
    problems,
    repeated,
    marked,
    note,
    onDraft,
    onKeep,
    onTakes,
    onClose,
    under,
  } = props;
  const style = useAnchored(under, true, 384);
  const [typed, setTyped] = useState(text);
  // What is kept: `text` follows what is typed.
  const kept = useRef(text);
  const [refusal, setRefusal] = useState<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const field = useRef<LinesEditorHandle>(null);
  const id = useId();
  const now = useRef(typed);
  now.current = typed;
  const keep = async () => {
    const sent = typed;
    const words = sent === kept.current ? null : await onKeep(sent);
    if (words) return setRefusal(words);
    kept.current = sent;
    // What was typed meanwhile is not kept yet: it stays open.
    if (now.current === sent) onClose();
  };
  /** Leaves without keeping; what was typed can still be had. */
  const leaveAsItWas = () => {
    const lost = typed;
    onClose();
    if (lost !== kept.current)
      toast(`What was typed in ${name} is not kept.`, {
        action: { label: 'Keep it', onClick: () => void onKeep(lost) },
        duration: 12_000,
      });
  };
  usePressElsewhere(box, true, () => void keep());
  const lines = useMemo(() => (typed === '' ? 0 : typed.split('\n').length), [typed]);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys of the field inside
    <div
      ref={box}
      style={style}
      className="z-30 flex flex-col overflow-auto gap-2 rounded-md border border-hair bg-base-100 p-3 shadow-sm"
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') leaveAsItWas();
      }}
    >
      <Suspense fallback={<div className="lines-editor" />}>
        <LinesEditor
          label={`${name}, one to a line`}
          text={text}
          hint={'mug | mugs\nteapot'}
          wrong={problems.map(({ line }) => line)}
          onType={(next) => {
            setTyped(next);
            setRefusal(null);
            onDraft(next);
          }}
          onKeep={() => void keep()}
          handle={field}
        />
      </Suspense>
      {problems.length > 0 && (
        <ul className="max-h-28 overflow-auto text-[12.5px] text-error" aria-label="Lines with errors">
          {problems.map((problem) => (
            <li key={`${problem.line}:${problem.at}`}>
              <button
                type="button"
                className="text-left hover:underline"
                onClick={() => field.current?.goTo(problem.line)}
              >
                Line {count(problem.line)}, “{problem.raw.slice(0, 40)}”: {wordProblemWords(problem)}
              </button>
            </li>
          ))}
        </ul>
      )}
      {(repeated > 0 || marked > 0) && (
        <p className="text-[12.5px] text-faint">
          {repeated > 0 && `${counted(repeated, 'form')} said before, used once. `}
          {marked > 0 &&
            `The marks of ${counted(marked, 'line')} are left out: match types are chosen in Build.`}
        </p>
      )}
      {takable.length > 0 && (
        <div className="flex flex-wrap items-center gap-1.5 text-[12.5px]">
          <span className="text-faint">and all of</span>
          {takable.map((list) => {
            const isTaken = takes.includes(list.id);
            return (
              <button
                key={list.id}
                type="button"
                aria-pressed={isTaken}
                className={`chip ${isTaken ? '' : 'chip-off'}`}
                onClick={async () =>
                  setRefusal(
                    await onTakes(isTaken ? takes.filter((one) => one !== list.id) : [...takes, list.id]),
                  )
                }
              >
                {list.name}
              </button>
            );
          })}
        </div>
      )}
      <div className="flex items-start justify-between gap-3">
        <span
          id={id}
          className={`text-[12px] ${refusal ? 'text-error' : 'text-faint'}`}
          role={refusal ? 'alert' : undefined}
        >
          {refusal ?? note ?? `${counted(lines, 'line')}. An entry to a line; put its other forms behind |.`}
        </span>
        <button type="button" className="btn btn-primary btn-xs" onClick={() => void keep()}>
          Keep
        </button>
      </div>
    </div>
  );
}
