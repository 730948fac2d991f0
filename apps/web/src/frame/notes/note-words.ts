import type { AboutKey, NoteKind } from '@sprig/contracts';
import { date } from '../../kit/format.ts';

const KINDS: Record<NoteKind, string> = {
  plan: 'the plan',
  campaign: 'campaign',
  group: 'ad group',
  ad: 'ad of',
  keyword: 'keyword',
  theme: 'theme',
  finding: 'finding:',
  worth: 'worth doing:',
};

/** `the plan`, `ad group Folding kayaks`. */
export const aboutWords = ({ kind, name }: { kind: NoteKind; name: string }): string =>
  kind === 'plan' ? KINDS.plan : `${KINDS[kind]} ${name}`;

/** Where what a note is about stands, within the plan; null: nowhere by itself. */
export function aboutPlace({ kind, key }: AboutKey, name: string): string | null {
  const at = (value: string) => encodeURIComponent(value);
  if (kind === 'keyword') return `gather?filter=${at(name)}`;
  if (kind === 'theme') return `sort?open=${at(key)}`;
  if (kind === 'campaign' || kind === 'group') return `build?at=${at(key)}`;
  if (kind === 'ad') return `write?view=ads&filter=${at(name)}`;
  if (kind === 'finding') return 'ship';
  return kind === 'worth' ? 'learn?view=worth' : null;
}

/** `by 4 Dec 2026`, `was due on 4 Dec 2026`, `today`. */
export function dueWords(due: string, today: string): string {
  if (due === today) return 'today';
  return due < today ? `was due on ${date(due)}` : `by ${date(due)}`;
}

type Piece = { text: string; isName: boolean };

/** A text with the names in it set apart. */
export function piecesOf(text: string, names: readonly string[]): Piece[] {
  const longest = [...names].sort((a, b) => b.length - a.length).map(escaped);
  if (longest.length === 0) return [{ text, isName: false }];
  const found = new RegExp(`(@(?:${longest.join('|')}))(?![\\p{L}\\p{N}])`, 'giu');
  return text
    .split(found)
    .map((piece, at) => ({ text: piece, isName: at % 2 === 1 }))
    .filter((piece) => piece.text !== '');
}

const escaped = (name: string) => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** What is typed behind the @ that the caret stands in; null: it stands in none. */
export function mentionAt(text: string, caret: number): { from: number; typed: string } | null {
  const found = /(?:^|[\s(])@([\p{L}\p{N}.'’-]{0,40}(?: [\p{L}\p{N}.'’-]{0,40})?)$/u.exec(
    text.slice(0, caret),
  );
  const typed = found?.[1];
  return typed === undefined ? null : { from: caret - typed.length - 1, typed };
}
