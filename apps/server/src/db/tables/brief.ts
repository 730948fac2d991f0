import { documents, flag, int, table, text } from './define.ts';

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

export const facts = documents('facts');
