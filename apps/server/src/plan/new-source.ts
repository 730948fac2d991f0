import type { Change } from './change/index.ts';

/** Makes a source that no list was read for: a recipe, or figures given here. Answers its number. */
export async function newSource(
  change: Change,
  kind: 'recipe' | 'hand' | 'estimates',
  name: string,
): Promise<number> {
  const id = change.takeIds(1);
  await change.insert('sources', [
    {
      id,
      kind,
      name,
      made_at: new Date().toISOString(),
      actor_id: change.caller.actor,
      lines: 0,
      repeated: 0,
      job_id: null,
      figures_on: null,
    },
  ]);
  return id;
}
