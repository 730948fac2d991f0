import { english, type FunnelStage, funnelStages, type SignalWord } from '@sprig/core/text';
import { useState } from 'react';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';

type Props = {
  signals: SignalWord[] | null;
  onKeep: (signals: SignalWord[] | null) => void;
  onClose: () => void;
};

/** The words that tell the stage, as lines in the order in which they are looked for. */
export function SignalWords({ signals, onKeep, onClose }: Props) {
  const [text, setText] = useState(() => writeSignals(signals ?? english.signalWords));
  const { words, wrong } = readSignals(text);
  return (
    <Dialog title="Words that tell the stage" onClose={onClose} wide>
      <div className="flex flex-col gap-3">
        <Help>
          Each line is a stage and its words: early: how to, what is. The first word, from the top, that a
          keyword has tells its stage, in any number; places of the brief count as ready after all others.
        </Help>
        <textarea
          autoFocus
          aria-label="Stages and their words"
          aria-invalid={wrong.length > 0}
          className="textarea h-56 w-full"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {wrong.length > 0 && (
          <p role="alert" className="text-[12.5px] text-error">
            Line {wrong.join(', ')}: begin it with early:, comparing: or ready:.
          </p>
        )}
        <div className="flex justify-end gap-2">
          <button type="button" className="btn btn-sm" onClick={() => onKeep(null)}>
            Back to the usual words
          </button>
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={wrong.length > 0}
            onClick={() => onKeep(words)}
          >
            Keep {words.length} words
          </button>
        </div>
      </div>
    </Dialog>
  );
}

/** Words of the same stage that follow each other stand in one line. */
export function writeSignals(signals: readonly SignalWord[]): string {
  const lines: { stage: FunnelStage; words: string[] }[] = [];
  for (const { text, stage } of signals) {
    const last = lines.at(-1);
    if (last?.stage === stage) last.words.push(text);
    else lines.push({ stage, words: [text] });
  }
  return lines.map(({ stage, words }) => `${stage}: ${words.join(', ')}`).join('\n');
}

/** The words of such lines, each once; and the numbers of lines that begin with no stage. */
export function readSignals(text: string): { words: SignalWord[]; wrong: number[] } {
  const words = new Map<string, FunnelStage>();
  const wrong: number[] = [];
  text.split(/\r?\n/).forEach((line, at) => {
    if (line.trim() === '') return;
    const [, lead = '', rest = ''] = /^\s*(\p{L}+)\s*:(.*)$/u.exec(line) ?? [];
    const stage = funnelStages.find((one) => one === lead.toLowerCase());
    if (!stage) wrong.push(at + 1);
    else
      for (const word of rest.split(',').map((one) => one.trim().toLowerCase()))
        if (word !== '' && !words.has(word)) words.set(word, stage);
  });
  return { words: Array.from(words, ([word, stage]) => ({ text: word, stage })), wrong };
}
