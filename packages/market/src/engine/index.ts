export {
  type Account,
  type AccountRow,
  emptyAccount,
  packAccount,
  rowsOfPacked,
  type Said,
  unpackAccount,
} from './account.ts';
export { type Answer, Engine, type HandedIn, type Verdict } from './engine.ts';
export { SheetCells } from './workbook.ts';
