/** Where a figure comes from, from most to least trusted; a less trusted one never covers a more trusted one. */
export const origins = ['hand', 'told', 'taken', 'estimated', 'made-up'] as const;
/** `taken`: an estimate that was taken on some day, and stays as it was. */
export type Origin = (typeof origins)[number];

/** What the figures that a source brings are. Ideas and recipes bring a market's, and the only one there is is made up. */
export function originOf(kind: string): Origin {
  if (kind === 'hand') return 'hand';
  if (kind === 'estimates') return 'taken';
  return kind === 'ideas' || kind === 'recipe' ? 'made-up' : 'told';
}
