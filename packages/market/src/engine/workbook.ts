const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

const plain = (xml: string): string =>
  xml.replace(/&(?:#(\d+)|#x([0-9a-f]+)|(\w+));/gi, (whole, decimal, hex, name) =>
    decimal
      ? String.fromCodePoint(Number(decimal))
      : hex
        ? String.fromCodePoint(Number.parseInt(hex, 16))
        : (ENTITIES[name] ?? whole),
  );

/** The cells of a workbook's sheet whose texts stand in it, as its XML says; row by row. */
export function cellsOfSheet(xml: string): string[][] {
  return [...xml.matchAll(/<row[^>]*>(.*?)<\/row>/gs)].map(([, row = '']) =>
    [...row.matchAll(/<c\b[^>]*?(?:\/>|>(.*?)<\/c>)/gs)].map(([, cell]) =>
      cell === undefined
        ? ''
        : plain([...cell.matchAll(/<t[^>]*>(.*?)<\/t>/gs)].map(([, text]) => text).join('')),
    ),
  );
}
