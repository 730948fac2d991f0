import { english, lengthOf } from '../text/index.ts';
import { contentWords } from './compile.ts';
import type { ResolvedList } from './lists.ts';
import type { DropReason } from './mix.ts';
import type { Recipe, Side, Slot } from './recipe.ts';
import { readWords } from './words.ts';

type Piece = { text: string; list: number | null };

/**
 * What a recipe makes, found the plain way, text by text, as its definition reads: what the fast way is tested against.
 */
export function plainMix(
  recipe: Recipe,
  lists: readonly ResolvedList[],
  limits: { words: number; length: number },
): { made: string[]; dropped: Record<DropReason, string[]> } {
  const made = new Set<string>();
  const dropped: Record<DropReason, string[]> = {
    empty: [],
    'repeated-word': [],
    'never-together': [],
    alone: [],
    'made-before': [],
    'too-long': [],
  };
  const optionsOf = (slot: Slot): (Piece | null)[] => {
    if (slot.kind === 'word') return [{ text: slot.text, list: null }];
    const list = lists.find(({ id }) => id === slot.list);
    const forms = readWords(list?.text ?? '', recipe.firstFormOnly).forms;
    const pieces = forms.map(({ text }) => ({ text, list: slot.list }));
    return slot.optional ? [...pieces, null] : pieces;
  };
  const judge = (pieces: readonly Piece[]) => {
    const text = pieces.map((piece) => piece.text).join(' ');
    const words = contentWords(text.split(' '), english).map(english.numberFold);
    const reason: DropReason | null =
      text === ''
        ? 'empty'
        : !recipe.repeats && new Set(words).size < words.length
          ? 'repeated-word'
          : recipe.never.some(([one, other]) => meet(pieces, one, other))
            ? 'never-together'
            : pieces.length === 1 && isKeptFromStanding(recipe, pieces[0] as Piece)
              ? 'alone'
              : made.has(text)
                ? 'made-before'
                : text.split(' ').length > limits.words || lengthOf(text) > limits.length
                  ? 'too-long'
                  : null;
    if (reason) dropped[reason].push(text);
    else made.add(text);
  };
  const turn = (slots: readonly Slot[], pieces: readonly Piece[]) => {
    const [slot, ...rest] = slots;
    if (!slot) return judge(pieces);
    for (const option of optionsOf(slot)) turn(rest, option ? [...pieces, option] : pieces);
  };
  for (const { slots, flip } of recipe.patterns) {
    if (slots.length > 0) turn(slots, []);
    if (flip && slots.length > 1) turn(slots.toReversed(), []);
  }
  return { made: [...made], dropped };
}

/** Every place in which a side stands, as the slots that it covers. */
function placesOf(pieces: readonly Piece[], side: Side): string[] {
  if (side.kind === 'list') return pieces.flatMap(({ list }, at) => (list === side.list ? [String(at)] : []));
  const words = pieces.flatMap(({ text }, at) =>
    text.split(' ').map((word) => ({ word: english.numberFold(word), at })),
  );
  const run = side.text.split(' ').map(english.numberFold);
  return words.flatMap((_, start) =>
    run.every((word, next) => words[start + next]?.word === word)
      ? [[...new Set(words.slice(start, start + run.length).map(({ at }) => at))].join()]
      : [],
  );
}

function meet(pieces: readonly Piece[], one: Side, other: Side): boolean {
  const bothWords = one.kind === 'word' && other.kind === 'word' && foldedOf(one) !== foldedOf(other);
  return placesOf(pieces, one).some((left) =>
    placesOf(pieces, other).some((right) => bothWords || left !== right),
  );
}

/** Whether a rule says that what one slot brings is no keyword by itself. */
const isKeptFromStanding = ({ alone }: Recipe, { text, list }: Piece): boolean => {
  const said = foldedOf({ kind: 'word', text });
  const isWord = alone.some(({ side }) => side.kind === 'word' && foldedOf(side) === said);
  const ofList = alone.filter(({ side }) => side.kind === 'list' && side.list === list);
  const isExcepted = ofList.some(({ but }) =>
    but.some((one) => foldedOf({ kind: 'word', text: one }) === said),
  );
  return isWord || (ofList.length > 0 && !isExcepted);
};

const foldedOf = (side: Side): string =>
  side.kind === 'word' ? side.text.split(' ').map(english.numberFold).join(' ') : String(side.list);
