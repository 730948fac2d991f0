/**
 * The pool as columns: how it crosses from the server to the web worker, whole or as the delta since a revision.
 *
 * One buffer: the length of the head (uint32, little-endian), the head as JSON, padding to 8 bytes, then the
 * columns one after another, each padded to 8 bytes, in the order of `poolLayout`; last the texts as UTF-8, joined
 * by line feeds, which no keyword holds. Numbers are little-endian. -1 stands for "no figure".
 */
export type PoolColumns = {
  revision: number;
  /** True: these rows replace nothing but themselves. */
  delta: boolean;
  ids: Uint32Array;
  /** What hand or lists told: micros, -1 none; searches a month; below, competition. */
  cpc: Float64Array;
  /** An estimate of the CPC that was taken, and the CPC that the stand-in market made up; -1 none. */
  takenCpc: Float64Array;
  madeCpc: Float64Array;
  searches: Int32Array;
  madeSearches: Int32Array;
  /** The source of the figures; 0 none. */
  figuresFrom: Uint32Array;
  /** The keyword it is folded into; 0 none. */
  foldedInto: Uint32Array;
  /** The negative that blocks it; minus the id of a shared one; 0 none. */
  blockedBy: Int32Array;
  /** 0 to 100; -1 none. */
  competition: Int8Array;
  madeCompetition: Int8Array;
  /** Which told figures were set by hand; bits of `BY_HAND`. */
  hand: Uint8Array;
  asked: Uint8Array;
  /** Bit 1: cut. Bit 2: searches approximate. Bit 4: CPC approximate. Bit 8: stands apart from its look-alikes. */
  flags: Uint8Array;
  /** The look-alike that the searches were told of, where it was one; most keywords have none. */
  toldOf: ReadonlyMap<number, string>;
  /** The words marked for modified broad, from 0, by keyword; most keywords have none. */
  marks: ReadonlyMap<number, readonly number[]>;
  texts: string[];
  norms: string[];
  /** Sources per keyword, by id. */
  sources: number[][];
  /** Keywords gone since the revision that was asked for. */
  removed: number[];
};

export const CUT = 1;
export const SEARCHES_ABOUT = 2;
export const CPC_ABOUT = 4;
export const APART = 8;

const poolLayout = [
  ['ids', Uint32Array],
  ['cpc', Float64Array],
  ['takenCpc', Float64Array],
  ['madeCpc', Float64Array],
  ['searches', Int32Array],
  ['madeSearches', Int32Array],
  ['figuresFrom', Uint32Array],
  ['foldedInto', Uint32Array],
  ['blockedBy', Int32Array],
  ['competition', Int8Array],
  ['madeCompetition', Int8Array],
  ['hand', Uint8Array],
  ['asked', Uint8Array],
  ['flags', Uint8Array],
] as const;

type Head = {
  revision: number;
  delta: boolean;
  rows: number;
  removed: number[];
  sourceSets: number[][];
  toldOf: [number, string][];
  marks: [number, readonly number[]][];
  textBytes: number;
};

const padded = (length: number) => Math.ceil(length / 8) * 8;

/** The text encoder and decoder that the caller's platform has. */
export type TextCodec = { encode(text: string): Uint8Array; decode(bytes: Uint8Array): string };

/** Packs columns into one buffer; `sourceSetOf` columns share equal sets of sources. */
export function packPool(columns: PoolColumns, codec: TextCodec): Uint8Array {
  const rows = columns.ids.length;
  const { sets, places } = shareSets(columns.sources);
  const texts = codec.encode([...columns.texts, ...differing(columns)].join('\n'));
  const head: Head = {
    revision: columns.revision,
    delta: columns.delta,
    rows,
    removed: columns.removed,
    sourceSets: sets,
    toldOf: [...columns.toldOf],
    marks: [...columns.marks],
    textBytes: texts.length,
  };
  const headBytes = codec.encode(JSON.stringify(head));
  const start = padded(4 + headBytes.length);
  const sizes = poolLayout.map(([, kind]) => padded(rows * kind.BYTES_PER_ELEMENT));
  const placeBytes = padded(rows * 4);
  const total = start + sizes.reduce((sum, size) => sum + size, 0) + placeBytes + texts.length;
  const out = new Uint8Array(total);
  new DataView(out.buffer).setUint32(0, headBytes.length, true);
  out.set(headBytes, 4);
  let at = start;
  poolLayout.forEach(([name], column) => {
    const values = columns[name];
    out.set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), at);
    at += sizes[column] as number;
  });
  out.set(new Uint8Array(places.buffer), at);
  out.set(texts, at + placeBytes);
  return out;
}

/** Normal forms, empty where the text is its own. */
const differing = ({ texts, norms }: PoolColumns): string[] =>
  norms.map((norm, at) => (norm === texts[at] ? '' : norm));

function shareSets(sources: readonly number[][]): { sets: number[][]; places: Uint32Array } {
  const known = new Map<string, number>();
  const sets: number[][] = [];
  const places = Uint32Array.from(sources, (set) => {
    const name = set.join(',');
    const place = known.get(name) ?? sets.push(set) - 1;
    known.set(name, place);
    return place;
  });
  return { sets, places };
}

/** Unpacks what `packPool` made. Throws on a buffer that is cut short. */
export function unpackPool(bytes: Uint8Array, codec: TextCodec): PoolColumns {
  const { buffer, byteOffset } = bytes.byteOffset % 8 === 0 ? bytes : bytes.slice();
  const headLength = new DataView(buffer, byteOffset).getUint32(0, true);
  const head = JSON.parse(codec.decode(new Uint8Array(buffer, byteOffset + 4, headLength))) as Head;
  let at = byteOffset + padded(4 + headLength);
  const take = <T>(kind: {
    new (buffer: ArrayBufferLike, at: number, length: number): T;
    BYTES_PER_ELEMENT: number;
  }): T => {
    const column = new kind(buffer, at, head.rows);
    at += padded(head.rows * kind.BYTES_PER_ELEMENT);
    return column;
  };
  const ids = take(Uint32Array);
  const cpc = take(Float64Array);
  const takenCpc = take(Float64Array);
  const madeCpc = take(Float64Array);
  const searches = take(Int32Array);
  const madeSearches = take(Int32Array);
  const figuresFrom = take(Uint32Array);
  const foldedInto = take(Uint32Array);
  const blockedBy = take(Int32Array);
  const competition = take(Int8Array);
  const madeCompetition = take(Int8Array);
  const hand = take(Uint8Array);
  const asked = take(Uint8Array);
  const flags = take(Uint8Array);
  const places = take(Uint32Array);
  const lines = head.rows === 0 ? [] : codec.decode(new Uint8Array(buffer, at, head.textBytes)).split('\n');
  const texts = lines.slice(0, head.rows);
  const norms = texts.map((text, row) => lines[head.rows + row] || text);
  const sources = Array.from(places, (place) => head.sourceSets[place] ?? []);
  const { revision, delta, removed } = head;
  return {
    revision,
    delta,
    ids,
    cpc,
    takenCpc,
    madeCpc,
    searches,
    madeSearches,
    figuresFrom,
    foldedInto,
    blockedBy,
    competition,
    madeCompetition,
    hand,
    asked,
    flags,
    toldOf: new Map(head.toldOf),
    marks: new Map(head.marks),
    texts,
    norms,
    sources,
    removed,
  };
}

/** A packed part of the pool with its length before it (uint32, little-endian), so that parts can follow each other. */
export function framed(packed: Uint8Array): Uint8Array {
  const out = new Uint8Array(packed.length + 4);
  new DataView(out.buffer).setUint32(0, packed.length, true);
  out.set(packed, 4);
  return out;
}

/** The packed parts of a stream of frames. Throws where the last is cut short. */
export function framesOf(bytes: Uint8Array): Uint8Array[] {
  const frames: Uint8Array[] = [];
  for (let at = 0; at < bytes.length; ) {
    const length = new DataView(bytes.buffer, bytes.byteOffset + at).getUint32(0, true);
    if (at + 4 + length > bytes.length) throw new Error('The pool came in cut short.');
    frames.push(bytes.slice(at + 4, at + 4 + length));
    at += 4 + length;
  }
  return frames;
}

/** The parts of a pool as one, in the order of their ids. */
export function joinPools(parts: readonly PoolColumns[]): PoolColumns {
  const [first] = parts;
  if (!first || parts.length === 1) return first as PoolColumns;
  const joined = { ...first };
  for (const [name, kind] of poolLayout) {
    const column = new kind(parts.reduce((sum, part) => sum + part.ids.length, 0));
    let at = 0;
    for (const part of parts) {
      column.set(part[name], at);
      at += part.ids.length;
    }
    Object.assign(joined, { [name]: column });
  }
  const texts: string[] = [];
  const norms: string[] = [];
  const sources: number[][] = [];
  const toldOf = new Map(parts.flatMap((part) => [...part.toldOf]));
  const marks = new Map(parts.flatMap((part) => [...part.marks]));
  for (const part of parts)
    for (let row = 0; row < part.ids.length; row++) {
      texts.push(part.texts[row] as string);
      norms.push(part.norms[row] as string);
      sources.push(part.sources[row] as number[]);
    }
  return { ...joined, toldOf, marks, texts, norms, sources };
}

/** A pool of keywords by their ids, with nothing but texts; for what is made or tested without a server. */
export function bareColumns(norms: readonly string[], revision = 1): PoolColumns {
  const columns = Object.fromEntries(
    poolLayout.map(([name, kind]) => [
      name,
      MAY_LACK.has(name) ? new kind(norms.length).fill(-1) : new kind(norms.length),
    ]),
  ) as unknown as PoolColumns;
  return {
    ...columns,
    revision,
    delta: false,
    ids: Uint32Array.from({ length: norms.length }, (_, at) => at + 1),
    toldOf: new Map(),
    marks: new Map(),
    texts: [...norms],
    norms: [...norms],
    sources: norms.map(() => []),
    removed: [],
  };
}

const MAY_LACK = new Set<string>([
  'cpc',
  'takenCpc',
  'madeCpc',
  'searches',
  'madeSearches',
  'competition',
  'madeCompetition',
]);

/** Rows of several pools, each from its own place, as one pool. */
export function pickColumns(
  picks: readonly { from: PoolColumns; row: number }[],
  rest: Pick<PoolColumns, 'revision' | 'delta' | 'removed'>,
): PoolColumns {
  const columns = Object.fromEntries(
    poolLayout.map(([name, kind]) => {
      const column = new kind(picks.length);
      for (let at = 0; at < picks.length; at++) {
        const { from, row } = picks[at] as (typeof picks)[number];
        column[at] = from[name][row] as number;
      }
      return [name, column];
    }),
  ) as unknown as PoolColumns;
  const pickedOf = <T>(name: (from: PoolColumns) => ReadonlyMap<number, T>): Map<number, T> => {
    const picked = new Map<number, T>();
    for (const { from, row } of picks) {
      const id = from.ids[row] as number;
      const value = name(from).get(id);
      if (value !== undefined) picked.set(id, value);
    }
    return picked;
  };
  return {
    ...columns,
    ...rest,
    toldOf: pickedOf(({ toldOf }) => toldOf),
    marks: pickedOf(({ marks }) => marks),
    texts: picks.map(({ from, row }) => from.texts[row] as string),
    norms: picks.map(({ from, row }) => from.norms[row] as string),
    sources: picks.map(({ from, row }) => from.sources[row] as number[]),
  };
}
