import { Command } from 'cmdk';
import { useMemo, useState } from 'react';
import { counted } from '../../kit/format.ts';
import { allOf, pathTo, type ThemeTree } from './theme-tree.ts';

type Props = {
  tree: ThemeTree;
  count: number;
  onMove: (theme: number | null, name: string) => void;
  onMake: (name: string) => void;
  onClose: () => void;
};

const MOST_LISTED = 100;

const OUT = 'Out of all themes, and hold them there';
const BACK = 'Let go: where their words put them';

/** Where the selection goes: a theme by its name, a new one, out of all, or back to the rules. */
export function MoveTo({ tree, count, onMove, onMake, onClose }: Props) {
  const [typed, setTyped] = useState('');
  const keywords = counted(count, 'keyword');
  const all = useMemo(
    () =>
      allOf(tree.roots).map((node) => ({
        node,
        path: pathTo(tree, node.id)
          .map((theme) => theme.name)
          .join(' › '),
      })),
    [tree],
  );
  const words = typed.toLowerCase().split(/\s+/);
  const says = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  const found = all.filter(({ path }) => says(path)).slice(0, MOST_LISTED);
  const item =
    'flex cursor-pointer items-baseline justify-between gap-4 rounded px-2.5 py-1.5 data-[selected=true]:bg-wash';
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      label={`Move ${keywords}`}
      shouldFilter={false}
      overlayClassName="fixed inset-0 z-40 bg-neutral/25"
      contentClassName="fixed top-24 left-1/2 z-50 w-[560px] -translate-x-1/2 overflow-hidden rounded-md border border-hair bg-base-100"
      onKeyDown={(event) => {
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey) && typed.trim() !== '')
          onMake(typed.trim());
      }}
    >
      <Command.Input
        className="plain-field h-11 w-full border-hair border-b px-4 text-[15px]"
        placeholder={`Move ${keywords} to which theme?`}
        value={typed}
        onValueChange={setTyped}
      />
      <Command.List className="max-h-96 overflow-auto p-1.5">
        <Command.Empty className="px-3 py-4 text-faint">
          No theme is called that. Ctrl Enter makes one of it.
        </Command.Empty>
        {found.map(({ node: { id, name, sum }, path }) => (
          <Command.Item key={id} value={`theme ${id}`} className={item} onSelect={() => onMove(id, name)}>
            <span className="truncate">{path}</span>
            <span className="shrink-0 text-[12px] text-faint">{counted(sum.all.keywords, 'keyword')}</span>
          </Command.Item>
        ))}
        {says(OUT) && (
          <Command.Item value="out" className={item} onSelect={() => onMove(0, '')}>
            {OUT}
          </Command.Item>
        )}
        {says(BACK) && (
          <Command.Item value="back" className={item} onSelect={() => onMove(null, '')}>
            {BACK}
          </Command.Item>
        )}
      </Command.List>
    </Command.Dialog>
  );
}
