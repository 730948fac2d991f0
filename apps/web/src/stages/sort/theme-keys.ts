import { THEME_COLOURS } from '@sprig/contracts';
import type { FunnelStage } from '@sprig/core/text';
import { toast } from 'sonner';
import { counted } from '../../kit/format.ts';
import { stageKeys } from './SortedTable.tsx';
import { mergedRule, stepOf } from './theme-edits.ts';
import type { ThemeNode, ThemeTree } from './theme-tree.ts';
import type { SortActions } from './use-sort-actions.ts';

type Given = {
  tree: ThemeTree;
  /** From the top to the theme that is open. */
  path: readonly ThemeNode[];
  actions: SortActions;
  openTheme: (theme: number | null) => void;
  onMerged: () => void;
};

/** What single keys do to themes: on the map to the one in focus, in the outline to the selected ones. */
export function themeKeys({ tree, path, actions, openTheme, onMerged }: Given) {
  const removeThemes = (list: readonly ThemeNode[]) => {
    const [first] = list;
    if (!first) return;
    const words = list.length === 1 ? `Removed ${first.name}.` : `Removed ${counted(list.length, 'theme')}.`;
    const open = path.at(-1);
    if (open && list.some(({ id }) => path.some((node) => node.id === id))) openTheme(open.parent);
    void actions.remove(
      list.map(({ id }) => id),
      words,
    );
  };
  const themeKey = (key: string, node: ThemeNode): boolean => {
    if (key === 'Delete') removeThemes([node]);
    else if (key === 'c') void actions.edit(node, 'colour', nextColour(node.colour));
    else if (key === 'i') void actions.edit(node, 'idea', !node.idea);
    else if (stageKeys[key]) void actions.edit(node, 'stage', stageKeys[key] as FunnelStage);
    else if (key === 'w') void actions.edit(node, 'stage', null);
    else return false;
    return true;
  };
  const step = (list: number[], way: Parameters<typeof stepOf>[2]) => {
    const node = tree.byId.get(list[0] ?? 0);
    const to = node && stepOf(tree, node, way);
    if (node && to) void actions.move([node.id], to.parent, to.before);
  };
  const merge = (list: number[]) => {
    const nodes = list.flatMap((id) => tree.byId.get(id) ?? []);
    const [first, ...others] = nodes;
    if (!first || others.length === 0) return void toast('Select two or more themes to merge them.');
    const rule = mergedRule(nodes.map((node) => node.sift));
    if (!rule)
      return void toast(
        'One rule can’t say what these pick together: they must be the same but for the terms of one condition. Put them into one theme with > instead.',
      );
    void (async () => {
      const refusal = await actions.edit(first, 'sift', rule);
      if (refusal) return void toast.error(refusal);
      await actions.remove(
        others.map(({ id }) => id),
        `Merged ${counted(nodes.length, 'theme')} into ${first.name}.`,
      );
      onMerged();
    })();
  };
  const outlineKeys: Record<string, (list: number[]) => void> = {
    o: ([id]) => id !== undefined && openTheme(id),
    m: merge,
    '[': (list) => step(list, 'up'),
    ']': (list) => step(list, 'down'),
    '>': (list) => step(list, 'in'),
    '<': (list) => step(list, 'out'),
    ...Object.fromEntries([
      ['Delete', (list: number[]) => removeThemes(list.flatMap((id) => tree.byId.get(id) ?? []))],
    ]),
    ...Object.fromEntries(
      ['c', 'i', 'w', ...Object.keys(stageKeys)].map((key) => [
        key,
        (list: number[]) => {
          const node = tree.byId.get(list[0] ?? 0);
          if (node) themeKey(key, node);
        },
      ]),
    ),
  };
  return { removeThemes, themeKey, outlineKeys };
}

/** From none through all the colours, and back to none. */
function nextColour(colour: number | null): number | null {
  if (colour === null) return 0;
  return colour === THEME_COLOURS - 1 ? null : colour + 1;
}
