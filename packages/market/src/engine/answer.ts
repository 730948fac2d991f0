/** A file as it is handed in. A workbook is handed in as its cells. */
export type HandedIn = { name: string; bytes: Uint8Array } | { name: string; cells: string[][] };

/** What the engine says of one row; no reason: it was taken. Of a file as a whole the line is 0. */
export type Verdict = { file: string; line: number; reason: string };

export type Answer = {
  /** Nothing at all was read, and why. */
  refused: string;
  verdicts: Verdict[];
  taken: number;
  /** For each file with refused rows, a sheet of them with the reasons in a column more. */
  answers: { name: string; text: string }[];
};
