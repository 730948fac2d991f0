import { useSources } from '../../plan/use-sources.ts';
import { SiftAnswerLine } from './SiftAnswerLine.tsx';
import { SiftLimits } from './SiftLimits.tsx';
import { SiftSentence } from './SiftSentence.tsx';
import { addTerm } from './sift-edits.ts';
import type { Place } from './state/use-place.ts';
import type { Sifting } from './state/use-sift.ts';
import type { Sorted } from './state/use-sorted.ts';

type Props = {
  sorted: Sorted;
  place: Place;
  sifting: Sifting;
  onSelect: (ids: Uint32Array) => void;
};

/** The sentence over the keywords, and what is known of those that meet it. */
export function SiftBar({ sorted: { plan }, place: { go, where }, sifting, onSelect }: Props) {
  const { data: sources = [] } = useSources(plan.id);
  const { kept, sift, typing, isSifting, answer } = sifting;
  return (
    <section
      aria-label="Sift the keywords"
      className="flex shrink-0 flex-col gap-1 border-hair border-b px-4 py-1.5"
    >
      <SiftSentence
        sift={kept}
        typing={typing}
        onSift={sifting.set}
        onTyping={sifting.setTyping}
        onDone={() => void sifting.save()}
        more={<SiftLimits sift={kept} sources={sources} currency={plan.brief.currency} onSet={go} />}
      />
      {isSifting && answer && (
        <SiftAnswerLine
          answer={answer}
          where={where}
          canSave={!sift.state}
          onNarrow={(word) => sifting.set(addTerm(sift, sift.has.length, word))}
          onForm={(term) =>
            sifting.set(addTerm(sift, typing?.slot ?? Math.max(0, sift.has.length - 1), term))
          }
          onSave={() => void sifting.save()}
          onSelect={() => onSelect(answer.ids)}
          onClear={sifting.clear}
        />
      )}
    </section>
  );
}
