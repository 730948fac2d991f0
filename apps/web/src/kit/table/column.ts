import type { ReactNode } from 'react';

/** What a typed or pasted cell is as a value, or why it can't be one. */
export type ReadCell = { value: string | number | null } | { words: string };

export type TableColumn<Row> = {
  id: string;
  heading: string;
  /** Pixels; one column without a width takes what is left. */
  width?: number;
  right?: boolean;
  sortable?: boolean;
  cell: (row: Row) => ReactNode;
  /** What is copied of it. */
  text: (row: Row) => string;
  hint?: string;
  /** Reads what is pasted into it; a column without it can't be changed. */
  read?: (typed: string, row: Row) => ReadCell;
};

/** `words`: the refusal, or what is to be said instead of how many values went in. */
export type PutAnswer = { done: true; words?: string } | { done: false; words: string };

/** What became of a put that goes in as a whole or not at all, by its refusal. */
export const allOrNone = (refusal: string | null): PutAnswer =>
  refusal === null ? { done: true } : { done: false, words: refusal };

/** A value to be put into a cell. */
export type Put<Row> = {
  row: Row;
  column: string;
  value: string | number | null;
  /** The column's heading, what stands in the cell now, and what was pasted. */
  heading: string;
  before: string;
  typed: string;
};
