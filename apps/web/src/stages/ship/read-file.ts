import { type Decoder, decoderOf, encodings } from '@sprig/core/gather';
import { recordsOf } from '@sprig/core/sheets';
import { send } from '../../data/call.ts';

/** The delimiter of a written sheet, by its heading: cells of headings hold none. */
export function delimiterIn(name: string, text: string): '\t' | ';' | ',' | '|' {
  if (name.endsWith('.tsv')) return '\t';
  const [heading = ''] = text.split('\n', 1);
  const count = (mark: string) => heading.split(mark).length;
  return ([',', ';', '|'] as const).reduce((best, mark) => (count(mark) > count(best) ? mark : best));
}

/** By the encoding that the server says a sheet is in. */
const decoderFor = (answer: Response): Decoder => {
  const said = /charset=([\w-]+)/.exec(answer.headers.get('content-type') ?? '')?.[1];
  const encoding = encodings.find((name) => name === said?.toLowerCase()) ?? 'utf-8';
  return decoderOf(encoding, (name) => new TextDecoder(name));
};

const recordsIn = (name: string, text: string) => recordsOf(text, delimiterIn(name, text));
const cellsOf = ({ fields }: { fields: readonly string[] }): string[] => [...fields];

/** The cells of a whole sheet. */
export async function readTable(address: string, name: string): Promise<string[][]> {
  const answer = await send(address);
  return recordsIn(name, decoderFor(answer).decode(new Uint8Array(await answer.arrayBuffer()))).map(cellsOf);
}

/** Enough of a sheet to read its beginning. */
const SAMPLE_LENGTH = 24_000;

/** The first rows of a sheet; no more of it is fetched than they need. */
export async function readStart(address: string, name: string, rows: number): Promise<string[][]> {
  const answer = await send(address);
  const reader = answer.body?.getReader();
  const decoder = decoderFor(answer);
  let text = '';
  let whole = false;
  while (reader && !whole && text.length < SAMPLE_LENGTH) {
    const { done, value } = await reader.read();
    whole = done;
    text += decoder.decode(value, { stream: !done });
  }
  if (!whole) await reader?.cancel();
  const records = recordsIn(name, text);
  // The last record may be cut short, also within its quotes.
  const cut = whole ? -1 : records.findIndex(({ broken }) => broken !== undefined);
  const sound = whole ? records : records.slice(0, cut < 0 ? -1 : cut);
  return sound.slice(0, rows + 1).map(cellsOf);
}
