import { flag, int, json, table, text } from './define.ts';

export const briefs = table('briefs', 'input', {
  key: ['id'],
  columns: {
    id: int,
    name: text,
    currency: text,
    language: text,
    site: text,
    archived: flag,
  },
});

export const facts = table('facts', 'input', {
  key: ['id'],
  columns: {
    id: int,
    body: json,
  },
});
