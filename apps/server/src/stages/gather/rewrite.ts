import { problemWords } from '@sprig/contracts';
import { bitOf, readNotation } from '@sprig/core/match';
import { normalise } from '@sprig/core/text';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { noteMadeAs } from '../mix/index.ts';
import { refreshBlocks } from '../prune/index.ts';
import { type GivenFigures, giveFigures } from './given-figures.ts';
import { giveTypes } from './given-types.ts';

export type TextEdit = { id: number; before: string; after: string };
type Refusal = { id: number; text: string; why: string };
type Rewritten = { id: number; text: string; norm: string };
/** A text with what its notation asks for. */
type Read = Rewritten & { types: number; marks: readonly number[] };

const MOST_TOLD = 200;

/**
 * Changes many texts in one step; what is written in the notation of a match type is asked for in it from then on. Each that
 * can't be is refused by itself; the others go through.
 */
export async function rewriteKeywords(
  caller: PlanCaller,
  edits: readonly TextEdit[],
): Promise<{ revision: number; changed: number; refusedCount: number; refused: Refusal[] }> {
  const label = ({ changed }: { changed: number }) => `Change the text of ${counted(changed, 'keyword')}`;
  const { revision, result } = await inChange(caller, label, (change) => rewriteAll(change, edits));
  const { changed, refused } = result;
  return { revision, changed, ...told(refused) };
}

const told = (refused: readonly Refusal[]) => ({
  refusedCount: refused.length,
  refused: refused.slice(0, MOST_TOLD),
});

async function rewriteAll(change: Change, edits: readonly TextEdit[]) {
  const { sound, refused } = await judged(change, edits);
  const before = new Map(edits.map((edit) => [edit.id, edit.before]));
  const written = sound.filter(({ id, text }) => text !== before.get(id));
  await noteMadeAs(
    change,
    written.map(({ id }) => id),
  );
  const texts = written.map(({ id, text, norm }): Rewritten => ({ id, text, norm }));
  if ((await change.updateEach('keywords', texts, ['text', 'norm'])) > 0) await refreshBlocks(change);
  await giveTypes(
    change,
    sound.flatMap(({ id, types, marks }) => (types > 0 ? [{ ids: [id], types, marks }] : [])),
  );
  return { changed: sound.length, refused };
}

/** Texts and figures of many keywords, in one step. Texts that can't be are refused by themselves. */
export async function fillKeywords(
  caller: PlanCaller,
  { texts, figures }: { texts: readonly TextEdit[]; figures: readonly GivenFigures[] },
): Promise<{ revision: number; refusedCount: number; refused: Refusal[] }> {
  const ids = new Set([...texts, ...figures].map(({ id }) => id));
  const { revision, result } = await inChange(
    caller,
    `Fill cells of ${counted(ids.size, 'keyword')}`,
    async (change) => {
      await giveFigures(change, 'hand', figures);
      const { refused } = await rewriteAll(change, texts);
      return refused;
    },
  );
  return { revision, ...told(result) };
}

async function judged(change: Change, edits: readonly TextEdit[]) {
  const stored = await change.find('keywords', {
    columns: ['id', 'text'],
    where: { id: edits.map(({ id }) => id) },
    lock: true,
  });
  const textOf = new Map(stored.map(({ id, text }) => [id, text]));
  const sound = new Map<string, Read>();
  const refused: Refusal[] = [];
  for (const { id, before, after } of edits) {
    const refuse = (why: string) => refused.push({ id, text: after, why });
    const read = readNotation(after);
    if (textOf.get(id) !== before) refuse('It was changed meanwhile, in another window or by somebody else.');
    else if (read.status === 'problem') refuse(problemWords(read));
    else if (read.negative) refuse('A negative is no keyword: it is blocked in Prune, or in Build.');
    else if (sound.has(normalise(read.text))) refuse('Another of them becomes the same.');
    else {
      const norm = normalise(read.text);
      const types = read.type === null ? 0 : bitOf(read.type);
      sound.set(norm, { id, text: read.text, norm, types, marks: read.marks });
    }
  }
  for (const { id, norm } of await taken(change, sound)) {
    const own = sound.get(norm);
    if (!own || own.id === id) continue;
    sound.delete(norm);
    refused.push({ id: own.id, text: own.text, why: `“${norm}” is in the pool already.` });
  }
  return { sound: [...sound.values()], refused };
}

/** Keywords that have one of the new texts already. One that is itself about to change still has it: better told. */
const taken = (change: Change, sound: ReadonlyMap<string, Rewritten>) =>
  change.find('keywords', { columns: ['id', 'norm'], where: { norm: [...sound.keys()] } });
