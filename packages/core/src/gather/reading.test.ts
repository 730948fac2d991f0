import { describe, expect, test } from 'vitest';
import {
  decoderOf,
  guessEncoding,
  ListStream,
  LONGEST_LINE,
  MOST_COLUMNS,
  type ReadOptions,
  readList,
  readRecords,
} from './index.ts';

const texts = (list: string, options = {}) => readList(list, options).keywords.map(({ norm }) => norm);
const figures = (list: string, options = {}) =>
  readList(list, options).keywords.map(({ norm, searches, cpc }) => [norm, searches?.value, cpc?.value]);
const aside = (list: string, options = {}) =>
  readList(list, options).setAside.map(({ line, raw, why }) => `${line} ${why}: ${raw}`);

describe('totals', () => {
  const rows = 'kayak\t200\ncanoe\t100\n';
  test.each([
    ['a keyword that begins with the word', 'total station hire\t300\nkayak\t200\n', []],
    ['the same in the middle', 'kayak\t200\ntotal station hire\t300\ncanoe\t100\n', []],
    ['the same at the end', `${rows}total station hire\t300\n`, []],
    ['the word alone behind the last keyword', `${rows}Total\t300\n`, ['3 totals: Total\t300']],
    ['the word alone above the first', `Total\t300\n${rows}`, ['1 totals: Total\t300']],
    ['the word alone in the middle is a keyword', 'kayak\t200\ntotal\t90\ncanoe\t100\n', []],
    ['the word alone at the end with a figure that is no sum', `${rows}total\t90\n`, []],
    ['no word at the end', `${rows}\t300\n`, ['3 totals: \t300']],
    ['the word in another language', `${rows}Gesamt\t300\n`, ['3 totals: Gesamt\t300']],
    ['the word with a sum that was rounded', `${rows}Grand total:\t310\n`, ['3 totals: Grand total:\t310']],
  ])('%s', (_, list, expected) => expect(aside(list)).toEqual(expected));

  test('no row in the middle without a keyword is taken for a total: it is told', () => {
    const reading = readList('kayak\t200\n\t300\ncanoe\t100\n');
    expect(reading.setAside).toEqual([]);
    expect(reading.problems).toMatchObject([{ line: 2, code: 'empty' }]);
  });

  test('what was set aside is taken in where it is said to be a keyword', () => {
    expect(texts(`${rows}total\t300\n`)).toEqual(['kayak', 'canoe']);
    expect(figures(`${rows}total\t300\n`, { taken: [3] }).at(-1)).toEqual(['total', 300, undefined]);
    expect(texts('My list\nKeyword,Searches\nkayak,2', { taken: [1] })).toContain('my list');
  });
});

describe('headings', () => {
  test('a lone word that is also a heading, amid others, is a keyword', () => {
    expect(texts('lawn care\nquery\nhedge cutting')).toEqual(['lawn care', 'query', 'hedge cutting']);
    expect(aside('lawn care\nquery\nhedge cutting')).toEqual([]);
    expect(texts('lawn care\t20\nvolume\t30\nhedge cutting\t10')).toHaveLength(3);
  });

  test('it is a heading as the first line', () => expect(texts('Query\nlawn care')).toEqual(['lawn care']));

  test.each([
    ['German', 'Suchbegriff;Suchvolumen;Klickpreis;Wettbewerb'],
    ['French', 'Mot clé;Volume de recherche;Coût par clic;Concurrence'],
    ['Spanish', 'Palabra clave;Búsquedas mensuales;Coste por clic;Competencia'],
    ['Italian', 'Parola chiave;Ricerche mensili;Costo per clic;Concorrenza'],
    ['Dutch', 'Zoekwoord;Zoekvolume;Kosten per klik;Concurrentie'],
    ['Portuguese', 'Palavra-chave;Volume de pesquisa;Custo por clique;Concorrência'],
    ['Polish', 'Słowo kluczowe;Liczba wyszukiwań;Koszt kliknięcia;Konkurencja'],
  ])('%s', (_, header) =>
    expect(readList(`${header}\nzelt;90;0,40;0,5\n`).layout.roles).toEqual([
      'keyword',
      'searches',
      'cpc',
      'competition',
    ]),
  );

  test.each([
    'Kampagne;Anzeigengruppe;Suchbegriff;Klicks;Impressionen;Kosten',
    'Campagne;Groupe d’annonces;Mot clé;Clics;Impressions;Coût',
    'Campaña;Grupo de anuncios;Palabra clave;Clics;Impresiones;Coste',
  ])('columns that are kept as they are: %s', (header) => {
    const { layout } = readList(`Bericht\n${header}\na;b;zelt;1;2;3\n`);
    expect(layout.headerLine).toBe(2);
    expect(layout.roles).toEqual(['extra', 'extra', 'keyword', 'extra', 'extra', 'extra']);
  });

  test('a bid to expect for a position is a column of its own, not the CPC', () => {
    const { layout } = readList(
      'Keyword,CPC (top of page),CPC (position 3),CPC (GBP)\nkayak,1.20,0.60,0.40\n',
    );
    expect(layout.roles).toEqual(['keyword', 'extra', 'extra', 'cpc']);
    expect(readList('Keyword,CPC (top of page)\nkayak,1.20\n').keywords[0]).toMatchObject({
      cpc: null,
      extra: { 'CPC (top of page)': '1.20' },
    });
  });
});

describe('decimal marks', () => {
  test('whole numbers with three figures behind a mark are thousands', () => {
    expect(figures('zelt\t1.300\nstuhl\t22.400\n')).toEqual([
      ['zelt', 1300, undefined],
      ['stuhl', 22_400, undefined],
    ]);
    expect(readList('zelt\t1.300\n').keywords[0]?.searches?.approximate).toBe(false);
  });

  test('each column has a mark of its own', () => {
    expect(figures('Keyword\tSearches\tCPC\nzelt\t1.300\t0.40\nstuhl\t22.400\t1.25\n')).toEqual([
      ['zelt', 1300, 400_000],
      ['stuhl', 22_400, 1_250_000],
    ]);
    expect(figures('Keyword\tSearches\tCPC\nzelt\t1,300\t0,40\n')).toEqual([['zelt', 1300, 400_000]]);
  });

  test('a column that leaves it open follows one that tells', () => {
    const list = 'Keyword\tSearches\tCPC\nzelt\t1.300\t1.200\n';
    expect(figures(list)).toEqual([['zelt', 1300, 1_200_000_000]]);
    expect(readList(list).layout.open).toEqual([]);
  });

  test('where nothing tells, it is asked, and what is said holds', () => {
    const list = 'Keyword\tCPC\nzelt\t1.300\nstuhl\t2.400\n';
    expect(readList(list).layout.open).toEqual(['decimal']);
    expect(readList(list, { decimal: '.' }).layout.open).toEqual([]);
    expect(figures(list, { decimal: '.' })[0]?.[2]).toBe(1_300_000);
    expect(figures(list, { decimal: ',' })[0]?.[2]).toBe(1_300_000_000);
  });

  test('searches that are no whole number are told as approximate', () => {
    expect(
      readList('kayak\t1.5\ncanoe\t12.25\n', { roles: ['keyword', 'searches'] }).keywords[0]?.searches,
    ).toEqual({
      value: 2,
      approximate: true,
    });
  });

  test.each([
    ['US$0.40', 'CPC', 400_000],
    ['A$1,300.50', 'CPC', 1_300_500_000],
    ['1,30,000', 'Searches', 130_000],
    ['12,34,567', 'Searches', 1_234_567],
    ['10,000+', 'Searches', 10_000],
  ])('%s', (cell, heading, value) => {
    const [kayak] = readList(`Keyword\t${heading}\nkayak\t${cell}\n`).keywords;
    expect(heading === 'CPC' ? kayak?.cpc?.value : kayak?.searches?.value).toBe(value);
  });

  test('a figure that is only a least one is approximate', () =>
    expect(readList('Keyword\tSearches\nkayak\t10,000+').keywords[0]?.searches?.approximate).toBe(true));
});

describe('delimiters', () => {
  test('marks inside notes are not what parts the columns', () => {
    const list = 'Keyword,Searches,Note\nkayak,20,a; b\ncanoe,30,c; d; e\nraft,40,f; g\n';
    expect(readList(list).layout.delimiter).toBe(',');
    expect(figures(list).map(([, searches]) => searches)).toEqual([20, 30, 40]);
  });

  test('without headings the one that makes the most lines alike', () => {
    expect(readList('kayak,20,a; b\ncanoe,30,c; d; e\nraft,40,f\n').layout.delimiter).toBe(',');
    expect(readList('kayak;0,20\ncanoe;1,30\nraft;2\n').layout.delimiter).toBe(';');
  });

  test('keywords between commas are offered as keywords of their own, and told as long as nobody says so', () => {
    const list = 'kayak, canoe, sup\nraft\n';
    expect(readList(list).layout).toMatchObject({ delimiter: null, commaLines: 1, commasPart: false });
    expect(readList(list).problems).toMatchObject([{ line: 1, code: 'not-allowed', character: ',' }]);
    expect(texts(list, { commasPart: true })).toEqual(['kayak', 'canoe', 'sup', 'raft']);
    expect(readList('kayak,200\ncanoe,100').layout).toMatchObject({ delimiter: ',', commaLines: 0 });
  });
});

describe('match words and bullets', () => {
  test.each([
    ['Broad match', 1],
    ['Phrase match', 4],
    ['Exact match', 8],
    ['exact', 8],
    ['Modified broad match', 2],
  ])('%s', (word, asked) =>
    expect(readList(`Keyword\tMatch type\nkayak\t${word}\n`).keywords[0]?.asked).toBe(asked),
  );

  test('a dash before nearly every line is a bullet', () => {
    const reading = readList('- raft\n- sea kayak\n- canoe');
    expect(reading.keywords.map(({ norm }) => norm)).toEqual(['raft', 'sea kayak', 'canoe']);
    expect(reading.layout).toMatchObject({ bullets: true, open: [] });
    expect(texts('• raft\n• canoe')).toEqual(['raft', 'canoe']);
  });

  test('a dash before some lines is asked about', () => {
    const list = '- raft\nsea kayak\ncanoe';
    expect(readList(list).layout.open).toEqual(['bullets']);
    expect(readList(list, { bullets: true }).layout.open).toEqual([]);
    expect(texts(list, { bullets: true })).toEqual(['raft', 'sea kayak', 'canoe']);
    expect(readList(list, { bullets: false }).negatives.map(({ norm }) => norm)).toEqual(['raft']);
  });

  test('a dash right before a word is the mark of a negative, on however many lines', () => {
    const reading = readList('-raft\n-canoe');
    expect(reading.negatives).toHaveLength(2);
    expect(reading.layout.open).toEqual([]);
  });
});

describe('encodings', () => {
  const utf16 = (text: string, little: boolean) => {
    const bytes = new Uint8Array(text.length * 2);
    for (let at = 0; at < text.length; at++) {
      const code = text.charCodeAt(at);
      bytes[at * 2 + (little ? 0 : 1)] = code & 0xff;
      bytes[at * 2 + (little ? 1 : 0)] = code >> 8;
    }
    return bytes;
  };
  const isSound = (bytes: Uint8Array) => {
    try {
      new TextDecoder('utf-8', { fatal: true }).decode(bytes);
      return true;
    } catch {
      return false;
    }
  };
  test.each(['zelt\nstühle\n', 'байдарка\t200\nканоэ\t100\n', 'カヤック 100\nカヌー 20\n', 'καγιάκ\nκανό\n'])(
    'UTF-16 without a mark: %j',
    (text) => {
      expect(guessEncoding(utf16(text, true), isSound)).toMatchObject({ encoding: 'utf-16le' });
      expect(guessEncoding(utf16(text, false), isSound)).toMatchObject({ encoding: 'utf-16be' });
    },
  );

  test('Windows-1252 is decoded the same in one go and in pieces', () => {
    const bytes = Uint8Array.from([0x80, 0x20, 0x92, 0x93, 0x94, 0x96, 0xe9, 0x41]);
    const whole = decoderOf('windows-1252', (name) => new TextDecoder(name)).decode(bytes);
    const pieces = decoderOf('windows-1252', (name) => new TextDecoder(name));
    const parts = [...bytes].map((byte) => pieces.decode(Uint8Array.of(byte), { stream: true }));
    expect(whole).toBe('€ ’“”–éA');
    expect(parts.join('') + pieces.decode()).toBe(whole);
  });
});

describe('lines of any length', () => {
  const problems = (list: string, options: ReadOptions = {}) =>
    readList(list, options).problems.map(({ line, code }) => `${line} ${code}`);

  test('one that is too long is told with its number, and its neighbours are read', () => {
    const long = 'kayak '.repeat(LONGEST_LINE / 6 + 1);
    expect(problems(`canoe\n${long}\nraft`)).toEqual(['2 long-line']);
    expect(texts(`canoe\n${long}\nraft`)).toEqual(['canoe', 'raft']);
    expect(problems(`canoe\t3\n${','.repeat(LONGEST_LINE + 1)}\nraft\t2`)).toEqual(['2 long-line']);
    expect(problems(long)).toEqual(['1 long-line']);
  });

  test('one at the limit is read, and tells that it is no keyword', () =>
    expect(problems(`canoe\n${'a'.repeat(LONGEST_LINE)}`)).toEqual(['2 too-long']));

  test('one of too many columns is told; one at the limit is read', () => {
    const row = (columns: number) => `raft\t${'x\t'.repeat(columns - 2)}x`;
    expect(problems(`canoe\t3\n${row(MOST_COLUMNS)}\n${row(MOST_COLUMNS + 1)}`)).toEqual(['3 many-columns']);
    expect(problems(`canoe\t3\n"raft"\t${'"x"\t'.repeat(MOST_COLUMNS)}`)).toEqual(['2 many-columns']);
  });

  test('a quote that does not close is not followed further than a line may be long', () => {
    const lines = ['"raft', ...Array.from({ length: 40 }, () => 'a'.repeat(100_000)), 'end"'];
    const { records, problems: told } = readRecords(lines, ',', 1);
    expect(told).toMatchObject([{ line: 1, code: 'open-quote' }]);
    expect(records).toHaveLength(41);
  });

  test('the layout is told by a bounded part, wherever the pieces are cut', () => {
    const lines = Array.from({ length: 30 }, (_, at) => `kayak ${at},${'"a, b",'.repeat(40_000)}`);
    const text = `${lines.join('\n')}\nKeyword;Searches\n`;
    const layoutIn = (size: number) => {
      const said: string[] = [];
      const stream = new ListStream(
        {},
        {
          keyword: ({ norm }) => said.push(norm),
          negative: () => {},
          problem: ({ line, code }) => said.push(`${line} ${code}`),
          setAside: ({ line, why }) => said.push(`${line} ${why}`),
          noted: () => {},
        },
      );
      for (let at = 0; at < text.length; at += size) stream.push(text.slice(at, at + size));
      return { layout: stream.end(), said };
    };
    const whole = layoutIn(text.length);
    expect(whole.said).toHaveLength(31);
    for (const size of [65_536, 1_048_576, 3_333_333]) expect(layoutIn(size)).toEqual(whole);
  }, 30_000);
});
