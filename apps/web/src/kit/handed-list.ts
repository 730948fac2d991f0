let handed: string | null = null;

/** Hands a list to the screen that opens next, however long it is. */
export function handList(lines: readonly string[]): void {
  handed = lines.join('\n');
}

/** The list that was handed over, once. */
export function takeHandedList(): string | null {
  const list = handed;
  handed = null;
  return list;
}
