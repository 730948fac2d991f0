/** Lines by `\n`, `\r\n` or a lone `\r`. */
export const linesOf = (text: string): string[] =>
  (text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text).split('\n');
