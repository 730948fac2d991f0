/** `sit-on-top` as `sit`, `on`, `top`; `kid's` as `kids`. */
export function splitWord(word: string): string[] {
  const plain = word.includes("'") ? word.replaceAll("'", '') || word : word;
  if (!plain.includes('-')) return [plain];
  const parts = plain.split('-').filter((part) => part !== '');
  return parts.length > 0 ? parts : [plain];
}
