import type { LanguagePack } from '@sprig/core/text';

export type MarkedPart = { text: string; repeats: boolean };

/** A headline in parts: those whose words repeat the search, in any form, and the rest. Function words mark nothing. */
export function markRepeated(text: string, search: string, pack: LanguagePack): MarkedPart[] {
  const bare = (word: string) => word.toLowerCase().replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '');
  const stems = new Set(
    search
      .split(/\s+/)
      .map(bare)
      .filter((word) => word !== '' && !pack.functionWords.has(word))
      .map(pack.stem),
  );
  const parts: MarkedPart[] = [];
  for (const piece of text.split(/(\s+)/)) {
    if (piece === '') continue;
    const word = bare(piece);
    const isGap = word === '';
    const repeats = !isGap && !pack.functionWords.has(word) && stems.has(pack.stem(word));
    const last = parts.at(-1);
    const before = parts.at(-2);
    if (repeats && before?.repeats && last?.text.trim() === '') {
      // Two words that repeat are one stretch, with what is between them.
      before.text += last.text + piece;
      parts.pop();
      continue;
    }
    if (last && (last.repeats === repeats || (isGap && !last.repeats))) last.text += piece;
    else parts.push({ text: piece, repeats });
  }
  return parts;
}
