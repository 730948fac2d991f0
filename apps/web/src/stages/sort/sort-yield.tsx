import type { SortSettings } from '@sprig/contracts';
import { funnelStages } from '@sprig/core/text';
import { count, counted, short } from '../../kit/format.ts';
import type { YieldTerm } from '../../kit/Yield.tsx';
import { stageWords } from '../../plan/rule-choices.ts';
import type { SortSummary } from '../../pool/sorting.ts';
import { shareOf } from './sort-words.ts';
import { allOf, type Flag, flagsOf, flagWords, type ThemeNode, type ThemeTree } from './theme-tree.ts';

const MOST_LISTED = 60;

/** From the pool to groups that can be built: what is placed, in how many themes, what is to be seen to. */
export function sortYield(
  summary: SortSummary,
  tree: ThemeTree,
  settings: SortSettings,
  onOpen: (theme: number) => void,
  onSeen: () => void,
  onContests: () => void,
): YieldTerm[] {
  const { all, unplaced, stages, fresh } = summary;
  const placed = { keywords: all.keywords - unplaced.keywords, searches: all.searches - unplaced.searches };
  const nodes = allOf(tree.roots);
  const groups = nodes.filter(({ sum, idea }) => !idea && sum.own.keywords > 0);
  const terms: YieldTerm[] = [
    { id: 'keywords', figure: count(all.keywords), words: 'keywords' },
    {
      id: 'placed',
      figure: count(placed.keywords),
      words: `placed, ${shareOf(placed.searches, all.searches)} of searches`,
      more: (
        <>
          <p className="mb-2">
            {counted(unplaced.keywords, 'keyword')} with {short(unplaced.searches)} searches are in no theme:{' '}
            {shareOf(unplaced.keywords, all.keywords)} of keywords, {shareOf(unplaced.searches, all.searches)}{' '}
            of searches.
          </p>
          <button type="button" className="btn btn-xs" onClick={onContests}>
            Keywords that several themes want
          </button>
        </>
      ),
    },
    { id: 'themes', figure: count(nodes.length), words: nodes.length === 1 ? 'theme' : 'themes' },
    { id: 'groups', figure: count(groups.length), words: groups.length === 1 ? 'group' : 'groups' },
  ];
  for (const flag of ['over', 'under', 'loose'] as const) {
    const found = groups.filter((node) => flagsOf(node, settings).includes(flag));
    if (found.length > 0)
      terms.push({
        id: flag,
        figure: count(found.length),
        words: flagWords[flag].name,
        tone: 'bad',
        more: <FlagList flag={flag} nodes={found} onOpen={onOpen} />,
      });
  }
  const told = all.searches - stages.none.searches;
  terms.push({
    id: 'stages',
    figure: shareOf(stages.ready.searches, all.searches),
    words: 'ready to buy',
    more: (
      <ul>
        {funnelStages.map((stage) => (
          <li key={stage}>
            {stageWords[stage]}: {counted(stages[stage].keywords, 'keyword')},{' '}
            {shareOf(stages[stage].searches, all.searches)} of searches
          </li>
        ))}
        <li className="text-faint">
          nothing tells it of {counted(stages.none.keywords, 'keyword')},{' '}
          {shareOf(all.searches - told, all.searches)}
        </li>
      </ul>
    ),
  });
  if (fresh.keywords > 0)
    terms.push({
      id: 'fresh',
      figure: count(fresh.keywords),
      words: `new, ${count(fresh.placed)} placed, ${count(fresh.keywords - fresh.placed)} to judge`,
      more: (
        <div className="flex items-center gap-3">
          <span>Keywords that came since you last looked.</span>
          <button type="button" className="btn btn-xs" onClick={onSeen}>
            I have seen them
          </button>
        </div>
      ),
    });
  return terms;
}

function FlagList({
  flag,
  nodes,
  onOpen,
}: {
  flag: Flag;
  nodes: readonly ThemeNode[];
  onOpen: (theme: number) => void;
}) {
  return (
    <>
      <p className="mb-1 text-faint">{flagWords[flag].about}:</p>
      <ul>
        {nodes.slice(0, MOST_LISTED).map(({ id, name, sum }) => (
          <li key={id}>
            <button type="button" className="hover:underline" onClick={() => onOpen(id)}>
              {name} <span className="text-faint">{count(sum.own.keywords)}</span>
            </button>
          </li>
        ))}
        {nodes.length > MOST_LISTED && (
          <li className="text-faint">and {count(nodes.length - MOST_LISTED)} more</li>
        )}
      </ul>
    </>
  );
}
