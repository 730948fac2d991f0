import { stringAt } from '../access/index.ts';
import type { RowKind, SheetColumn } from '../outlets/index.ts';
import type { CellRow, ToldValues } from './cells.ts';
import { fixedTexts, pickColumns } from './write-sheet.ts';

const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';

/** Rows that a sheet of a workbook can hold, its heading among them. */
export const MOST_XLSX_ROWS = 1_048_576;

/** The parts of a workbook with one sheet (ECMA-376), but for the sheet itself; in the order in which they are packed. */
export const workbookParts: readonly (readonly [name: string, text: string])[] = [
  [
    '[Content_Types].xml',
    `${HEAD}<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml"/></Types>`,
  ],
  [
    '_rels/.rels',
    `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="rId1" Type="${OFFICE}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
  ],
  [
    'xl/workbook.xml',
    `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><sheets><sheet name="Sheet" sheetId="1" r:id="rId1"/></sheets></workbook>`,
  ],
  [
    'xl/_rels/workbook.xml.rels',
    `${HEAD}<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="rId1" Type="${OFFICE}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="${OFFICE}/styles" Target="styles.xml"/></Relationships>`,
  ],
  [
    'xl/styles.xml',
    // The second format is that of text: what is typed into such a cell stays a text, too.
    `${HEAD}<styleSheet xmlns="${MAIN}"><fonts count="1"><font><sz val="11"/><name val="sans-serif"/></font></fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs><cellXfs count="2"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/><xf numFmtId="49" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1"/></cellXfs></styleSheet>`,
  ],
];
export const SHEET_PART = 'xl/worksheets/sheet1.xml';

const NOT_XML = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/u;
const ESCAPED = /[&<>"]|[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]|\r/gu;
const PLAIN = /^[\w .,:;/()@=+'-]*$/;
const ENTITIES: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  '\r': '&#13;',
};

const inXml = (text: string): string =>
  PLAIN.test(text)
    ? text
    : text.replace(ESCAPED, (character) =>
        NOT_XML.test(character) ? '\ufffd' : (ENTITIES[character] as string),
      );

/** `A`, `B`, … `Z`, `AA`, … */
function columnName(at: number): string {
  const letter = String.fromCharCode(65 + (at % 26));
  return at < 26 ? letter : columnName(Math.floor(at / 26) - 1) + letter;
}

/** Writes the rows of a workbook's sheet as XML, every cell as a text. */
export class XlsxSheet {
  private readonly places: Record<RowKind, number[]>;
  private readonly letters: string[];
  private readonly fixed: readonly string[];
  private rows = 0;

  constructor(
    private readonly columns: readonly SheetColumn[],
    values: ToldValues,
  ) {
    this.places = pickColumns(columns, values);
    this.fixed = fixedTexts(columns);
    this.letters = columns.map((_, at) => columnName(at));
  }

  header(): string {
    const headings = this.columns.map(({ heading }) => heading);
    this.rows = 0;
    return `${HEAD}<worksheet xmlns="${MAIN}"><sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews><sheetData>${this.line(headings)}`;
  }

  row({ kind, cells }: Pick<CellRow, 'kind' | 'cells'>): string {
    return this.line(
      this.places[kind].map((place, at) => (place < 0 ? stringAt(this.fixed, at) : stringAt(cells, place))),
    );
  }

  private line(texts: readonly string[]): string {
    const row = ++this.rows;
    let line = `<row r="${row}">`;
    for (let at = 0; at < texts.length; at++) {
      const text = stringAt(texts, at);
      const place = `r="${this.letters[at]}${row}" s="1"`;
      line +=
        text === ''
          ? `<c ${place}/>`
          : `<c ${place} t="inlineStr"><is><t xml:space="preserve">${inXml(text)}</t></is></c>`;
    }
    return `${line}</row>`;
  }

  end(): string {
    return '</sheetData></worksheet>';
  }
}
