import { readSentence, sentenceOf } from '@sprig/core/sort';
import { InlineEdit } from '../../kit/InlineEdit.tsx';
import { limitWords } from './SiftLimits.tsx';
import { siftProblemWords } from './sort-words.ts';
import type { ThemeNode } from './theme-tree.ts';
import type { SortActions } from './use-sort-actions.ts';

/** A theme's rule as its sentence, typed over in place. */
export function RuleEdit({
  node,
  actions,
  tabStop = false,
}: {
  node: ThemeNode;
  actions: SortActions;
  tabStop?: boolean;
}) {
  const sentence = node.sift ? sentenceOf(node.sift) : '';
  return (
    <InlineEdit
      label={`rule of ${node.name}`}
      shown={
        node.sift ? (
          <>
            {sentence} <span className="text-faint">{limitWords(node.sift)}</span>
          </>
        ) : (
          <span className="text-faint">by hand</span>
        )
      }
      text={sentence}
      wide
      tabStop={tabStop}
      onKeep={async (typed) => {
        if (typed.trim() === '') return actions.edit(node, 'sift', null);
        const read = readSentence(typed);
        if ('problems' in read) return read.problems.map(siftProblemWords).join(' ');
        return actions.edit(node, 'sift', { ...node.sift, ...read.sift });
      }}
    />
  );
}
