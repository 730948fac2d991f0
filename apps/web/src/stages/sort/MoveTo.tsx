import { Command } from 'cmdk';
import { counted } from '../../kit/format.ts';
import { allOf, pathTo, type ThemeTree } from './theme-tree.ts';

type Props = {
  tree: ThemeTree;
  count: number;
  onMove: (theme: number | null, name: string) => void;
  onMake: (name: string) => void;
  onClose: () => void;
};

const MOST_LISTED = 500;

/** Where the selection goes: a theme by its name, a new one, out of all, or back to the rules. */
export function MoveTo({ tree, count, onMove, onMake, onClose }: Props) {
  const keywords = counted(count, 'keyword');
  const item =
    'flex cursor-pointer items-baseline justify-between gap-4 rounded px-2.5 py-1.5 data-[selected=true]:bg-wash';
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      label={`Move ${keywords}`}
      overlayClassName="fixed inset-0 z-40 bg-neutral/25"
      contentClassName="fixed top-24 left-1/2 z-50 w-[560px] -translate-x-1/2 overflow-hidden rounded-md border border-hair bg-base-100"
      onKeyDown={(event) => {
        const typed = (event.target as HTMLInputElement).value?.trim() ?? '';
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey) && typed !== '') onMake(typed);
      }}
    >
      <Command.Input
        className="plain-field h-11 w-full border-hair border-b px-4 text-[15px]"
        placeholder={`Move ${keywords} to which theme?`}
      />
      <Command.List className="max-h-96 overflow-auto p-1.5">
        <Command.Empty className="px-3 py-4 text-faint">
          No theme is called that. Ctrl Enter makes one of it.
        </Command.Empty>
        {allOf(tree.roots)
          .slice(0, MOST_LISTED)
          .map(({ id, name, sum }) => {
            const path = pathTo(tree, id).map((theme) => theme.name);
            return (
              <Command.Item
                key={id}
                value={`${path.join(' ')} ${id}`}
                className={item}
                onSelect={() => onMove(id, name)}
              >
                <span className="truncate">{path.join(' › ')}</span>
                <span className="shrink-0 text-[12px] text-faint">
                  {counted(sum.all.keywords, 'keyword')}
                </span>
              </Command.Item>
            );
          })}
        <Command.Item value="out of all themes unplaced" className={item} onSelect={() => onMove(0, '')}>
          Out of all themes, and hold them there
        </Command.Item>
        <Command.Item value="let go back to the rules" className={item} onSelect={() => onMove(null, '')}>
          Let go: where their words put them
        </Command.Item>
      </Command.List>
    </Command.Dialog>
  );
}
