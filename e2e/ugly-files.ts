import exceljs from 'exceljs';

/** Four lists as they come from elsewhere, all about the same few searches. */

/** UTF-16 with a mark, tabs, title lines above the header and a totals row. */
export const utf16Report = Buffer.from(
  `\ufeff${[
    'Search report',
    '1 October to 31 October',
    '',
    'Keyword\tAvg. monthly searches\tCPC (GBP)\tCompetition',
    'kayak hire\t1,300\t0.80\t66%',
    'hire kayak\t110\t0.74\t66%',
    'kyak hire\t20\t0.70\t40%',
    'kayak jobs\t90\t0.10\t5%',
    'paddle board\t2,400\t0.62\t50%',
    'Total\t3,920\t\t',
  ].join('\r\n')}`,
  'utf16le',
);

/** Windows-1252 with semicolons, decimal commas and thousands points; amounts in another currency. */
export const semicolons = Buffer.from(
  [
    'Suchbegriff;Search volume;CPC',
    'caf\u00e9 canoe;1.300;0,40 \u0080',
    'paddleboard;880;1,00 \u0080',
    'paddle boards;720;\u0096',
    'kayak hire;1.500;1,00 \u0080',
    'canoe free plans;40;0,10 \u0080',
  ].join('\n'),
  'latin1',
);

/** A workbook whose second sheet is the list, with a formula, a date and a text that looks like a formula. */
export async function workbook(): Promise<Buffer> {
  const book = new exceljs.Workbook();
  book.addWorksheet('Notes').addRow(['Nothing to see here']);
  const sheet = book.addWorksheet('Keywords');
  sheet.addRow(['Keyword', 'Searches', 'Seen on']);
  sheet.addRow(['[canoe hire]', { formula: '100+50', result: 150 }, new Date('2026-10-01')]);
  sheet.addRow(['"sea kayak"', 70, null]);
  sheet.addRow(['=cmd()', 5, null]);
  sheet.addRow(['dry bag', 'many', null]);
  return Buffer.from(await book.xlsx.writeBuffer());
}

/** A paste without a header, in every notation. */
export const mixedPaste = [
  'sit-on-top kayak\t320',
  // As a spreadsheet copies a cell that holds quotes.
  '"""sit on top kayak"""\t210',
  '+sea +kayak\t',
  '[kayak hire]\t',
  '-"free plans"\t',
  'fathom & reed kayak\t60',
  'how to store a kayak\t30',
  'rare kayak thing\t3',
  '[open\t9',
].join('\n');
