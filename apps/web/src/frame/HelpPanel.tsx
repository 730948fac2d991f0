import { useLocation } from 'react-router';
import { Dialog } from '../kit/Dialog.tsx';

type Keys = [keys: string, what: string][];

const everywhere: Keys = [
  ['g then 1–8', 'go to Brief, Gather, Mix, Prune, Sort, Build, Write, Ship'],
  ['g then n', 'go to what is worth doing next'],
  ['Ctrl K', 'find or do anything by name'],
  ['/', 'filter'],
  ['Ctrl Z', 'undo'],
  ['Ctrl Shift Z', 'redo'],
  ['?', 'this list'],
  ['Esc', 'back out of a field or a panel'],
];
const table: Keys = [
  ['j k or ↓ ↑', 'move'],
  ['Shift with them', 'select on the way'],
  ['x or Space', 'select the row'],
  ['Ctrl A', 'select all'],
  ['Enter or F2', 'edit the row'],
  ['Ctrl C', 'copy the selection with headings'],
];
const byStage: Record<string, Keys> = {
  gather: [
    ...table,
    ['c', 'cut the selection'],
    ['b', 'put it back, or unfold it'],
    ['r', 'change its text: find and replace, prefix, suffix, case'],
    ['v', 'match variants of the selection'],
    ['Ctrl V', 'bring in what is on the clipboard'],
    ['Ctrl Enter', 'take in the list that is open'],
  ],
  mix: [
    ['Enter in + list or word', 'add a slot to the pattern'],
    ['← →', 'move along the slots, or the cells of the matrix'],
    ['Alt ← →', 'move the slot, or the recipe'],
    ['Alt ↑ ↓', 'move the pattern'],
    ['o', 'the slot may be left out, or not'],
    ['f', 'flip: the pattern in reverse order as well'],
    ['Delete', 'take the slot out'],
    ['m l', 'matrix, list'],
    ['w', 'more room for them, and back'],
    ['c or Space', 'cut the cell or the selection, or put the cell back'],
    ['r v', 'cut or put back the row, the column'],
    ['b', 'put the selection of the list back'],
    ['v in the list', 'match variants of the selection'],
  ],
  prune: [
    ['←', 'keep the word in the middle'],
    ['→ or Enter', 'block it'],
    ['↓ ↑ or j k', 'next and previous word'],
    ['b p e', 'block as broad, phrase or exact'],
    ['l', 'look up what is known of it'],
    ['f', 'fold the look-alikes under the cursor'],
    ['a', 'keep them apart'],
  ],
  sort: [
    ['/', 'sift: type a term, Enter adds it, Tab goes on; Enter in an empty field saves the theme'],
    ['a o s', 'map, outline, stages'],
    ['u', 'up, out of what is open'],
    ['q', 'to the suggestions'],
    ['t r d i', 'there: take it, take it under another name, dismiss it, look inside'],
    ['p', 'the whole plan at once'],
    ['n', 'a theme for each pasted name'],
    ['Enter on the map', 'open the theme; arrows go from patch to patch'],
    ['c i Delete', 'colour the theme, make it an idea only, remove it'],
    ['e v r w', 'early, comparing, ready, what words tell: of the theme, or of the selected keywords'],
    ['m l', 'in the table: move the selection to a theme, let it go'],
    ['[ ] < >', 'in the outline: up, down, out, into the one above'],
    ['m', 'in the outline: merge the selected themes'],
  ],
  build: [
    ['i r a w f', 'picture, rules, ad groups, keywords, fences'],
    ['t', 'try a search'],
    ['← → ↑ ↓', 'in the picture: to the next block, up to the campaign, down to its ad groups'],
    ['z', 'in the picture: let a campaign fill the width, and back'],
    ['↑ ↓ on a step', 'the ladder, by 1%; with Shift by 10%'],
    ['← → on the curve', 'aim these bids at a position; Esc leaves them'],
    ...table,
    ['b', 'bids of the selection'],
    ['p e', 'pause, enable'],
    ['o', 'open the ad group'],
    ['l', 'let go of what is held'],
  ],
  write: [
    ['j k or → ←', 'next and previous ad'],
    ['n', 'next ad that does not fit'],
    ['m', 'those that do not fit to the front'],
    ['f', 'write the ad in view by hand, where it does not fit'],
    ['1 2 3', 'add a line that fits most misfits'],
    ['v', 'the other version of a split test'],
    ['l s a u e', 'lines, searcher, all ads, final URLs, extras'],
    ['b r', 'in all ads: change texts, keep a review'],
  ],
  ship: [['s o a r', 'ship, outlets, accounts, read back']],
};

/** The keys of this screen. */
export function HelpPanel({ onClose }: { onClose: () => void }) {
  const stage = useLocation().pathname.split('/').pop() ?? '';
  return (
    <Dialog title="Keys of this screen" onClose={onClose}>
      <div className="grid grid-cols-2 gap-6">
        <KeyList title="Everywhere" keys={everywhere} />
        {(byStage[stage]?.length ?? 0) > 0 && <KeyList title="Here" keys={byStage[stage] as Keys} />}
      </div>
    </Dialog>
  );
}

const KeyList = ({ title, keys }: { title: string; keys: Keys }) => (
  <section>
    <h3 className="mb-2 font-semibold">{title}</h3>
    <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-3 gap-y-1.5">
      {keys.map(([key, what]) => (
        <div key={key} className="contents">
          <dt>
            <span className="key">{key}</span>
          </dt>
          <dd className="text-[13px]">{what}</dd>
        </div>
      ))}
    </dl>
  </section>
);
