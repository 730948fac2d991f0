const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

const plain = (xml: string): string =>
  xml.replace(/&(?:#(\d+)|#x([0-9a-f]+)|(\w+));/gi, (whole, decimal, hex, name) =>
    decimal
      ? String.fromCodePoint(Number(decimal))
      : hex
        ? String.fromCodePoint(Number.parseInt(hex, 16))
        : (ENTITIES[name] ?? whole),
  );

const ROW_END = '</row>';

const cellsOfRow = (row: string): string[] =>
  [...row.matchAll(/<c\b[^>]*?(?:\/>|>(.*?)<\/c>)/gs)].map(([, cell]) =>
    cell === undefined
      ? ''
      : plain([...cell.matchAll(/<t[^>]*>(.*?)<\/t>/gs)].map(([, text]) => text).join('')),
  );

/** The cells of a workbook's sheet whose texts stand in it, as its XML says, row by row; the XML comes in pieces. */
export class SheetCells {
  readonly rows: string[][] = [];
  private rest = '';

  push(xml: string): void {
    const text = this.rest + xml;
    let start = 0;
    for (let end = text.indexOf(ROW_END); end >= 0; end = text.indexOf(ROW_END, start)) {
      this.rows.push(cellsOfRow(text.slice(text.indexOf('<row', start), end)));
      start = end + ROW_END.length;
    }
    this.rest = text.slice(start);
  }
}
