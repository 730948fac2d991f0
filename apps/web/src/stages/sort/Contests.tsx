import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';
import { pathTo, type ThemeTree } from './theme-tree.ts';

type Props = {
  worker: ReturnType<typeof usePool>['worker'];
  stamp: string;
  tree: ThemeTree;
  /** Has the theme that lost tried before the one that won. */
  onBefore: (theme: number, wonBy: number) => void;
  onClose: () => void;
};

/** Keywords that several themes want: who got them, who would have, and a way to turn it round. */
export function Contests({ worker, stamp, tree, onBefore, onClose }: Props) {
  const { data: contests } = useWorked(() => worker.contests(), `contests ${stamp}`);
  const nameOf = (theme: number) =>
    pathTo(tree, theme)
      .map(({ name }) => name)
      .join(' › ');
  return (
    <Dialog title="Wanted by several themes" onClose={onClose} wide>
      {contests === undefined && (
        <p className="text-faint" role="status">
          Looking who wants what …
        </p>
      )}
      {contests?.length === 0 && (
        <p className="text-faint">No keyword meets the rules of two themes that stand side by side.</p>
      )}
      {contests && contests.length > 0 && (
        <ul>
          {contests.map(({ theme, wonBy, keywords, examples }) => (
            <li
              key={`${theme}:${wonBy}`}
              className="flex items-center gap-3 border-base-200 border-b py-1.5 last:border-0"
            >
              <span className="min-w-0">
                <b>{nameOf(wonBy)}</b> got {counted(keywords, 'keyword')} that <b>{nameOf(theme)}</b> wants
                too
                <span className="block truncate text-[12.5px] text-faint">{examples.join(', ')}</span>
              </span>
              <button
                type="button"
                className="btn btn-xs ml-auto shrink-0"
                title={`${nameOf(theme)} is tried before ${nameOf(wonBy)} from then on`}
                onClick={() => onBefore(theme, wonBy)}
              >
                Give {count(keywords)} to {tree.byId.get(theme)?.name ?? 'it'}
              </button>
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}
