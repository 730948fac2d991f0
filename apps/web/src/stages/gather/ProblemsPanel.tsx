import {
  isSetAside,
  listProblems,
  mendProblem,
  type ProblemLine,
  problemWords,
  type SetAsideCode,
} from '@sprig/contracts';
import type { LineProblem } from '@sprig/core/gather';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { refusalOf } from '../../data/run-change.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';

type Props = { plan: number; source: number; total: number; onClose: () => void };

/** A source's lines that could not be read, each to be mended in its place or let go. */
export function ProblemsPanel({ plan, source, total, onClose }: Props) {
  const { data: problems } = useQuery({
    ...question(listProblems, { params: { plan, source } }),
    select: ({ problems: lines }) => lines,
  });
  if (problems?.length === 0)
    return (
      <Dialog title="Lines to look at" onClose={onClose}>
        <p>Nothing is left to look at.</p>
      </Dialog>
    );
  return (
    <Dialog title={`${counted(total, 'line')} to look at`} onClose={onClose} wide>
      {problems && problems.length < total && (
        <p className="mb-2 text-faint">
          The first {problems.length} of them; the others follow as these are mended.
        </p>
      )}
      <ul className="divide-y divide-base-300">
        {problems?.map((problem) => (
          <Line key={problem.id} plan={plan} problem={problem} />
        ))}
      </ul>
    </Dialog>
  );
}

function Line({ plan, problem }: { plan: number; problem: ProblemLine }) {
  const [text, setText] = useState(problem.raw);
  const [words, setWords] = useState(
    problemWords({
      ...problem,
      code: problem.code as LineProblem['code'] | SetAsideCode,
      character: problem.character ?? undefined,
    }),
  );
  const send = async (mended: string | null) => {
    const refusal = await refusalOf(plan, () =>
      call(mendProblem, { params: { plan, problem: problem.id }, body: { text: mended } }),
    );
    if (refusal !== null) setWords(refusal);
  };
  return (
    <li className="grid grid-cols-[60px_1fr_auto] items-start gap-2 py-2">
      <span className="pt-1 text-right text-faint">Line {problem.line}</span>
      <div>
        <input
          className="input input-sm w-full"
          aria-label={`Line ${problem.line}`}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && !problem.kept && void send(text)}
        />
        <p className={`mt-0.5 text-[12.5px] ${isSetAside(problem.code) ? 'text-faint' : 'text-error'}`}>
          {words}
        </p>
      </div>
      <div className="flex gap-1">
        {!problem.kept && (
          <button type="button" className="btn btn-sm" onClick={() => void send(text)}>
            Take in
          </button>
        )}
        <button type="button" className="btn btn-ghost btn-sm" onClick={() => void send(null)}>
          Let go
        </button>
      </div>
    </li>
  );
}
