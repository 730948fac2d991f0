const CHARSET = /charset\s*=\s*["']?\s*([\w.:-]+)/i;
/** Within so many bytes a page says what it is written in. */
const HEAD_BYTES = 2_048;

/**
 * The text of a page's bytes: by the mark at its beginning, else by what the server says, else by what the page says of
 * itself, else UTF-8 where it is sound, else Windows-1252.
 */
export function textOfPage(bytes: Uint8Array, type: string): string {
  const marked =
    bytes[0] === 0xef && bytes[1] === 0xbb
      ? 'utf-8'
      : bytes[0] === 0xff && bytes[1] === 0xfe
        ? 'utf-16le'
        : null;
  const head = Buffer.from(bytes.subarray(0, HEAD_BYTES)).toString('latin1');
  const said = marked ?? CHARSET.exec(type)?.[1] ?? CHARSET.exec(head)?.[1];
  if (said !== undefined && said !== null)
    try {
      return new TextDecoder(said).decode(bytes);
    } catch {
      // An encoding that nobody knows by that name: what follows is likelier than nothing.
    }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
