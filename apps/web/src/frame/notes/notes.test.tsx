import {
  addNote,
  changeNote,
  listNotes,
  listPlanPeople,
  type NoteView,
  readNoteMarks,
} from '@sprig/contracts';
import { screen, within } from '@testing-library/react';
import { afterEach, describe, expect, test } from 'vitest';
import { refusing, servedBy, shownAt } from '../../testing/rendered.tsx';
import { NotesPanel } from './NotesPanel.tsx';
import { aboutPlace, aboutWords, dueWords, mentionAt, piecesOf } from './note-words.ts';
import { closeNotes, type Subject } from './open-notes.ts';

afterEach(closeNotes);

const note = (id: number, more: Partial<NoteView> = {}): NoteView => ({
  id,
  about: { kind: 'group', key: 'k7', name: 'Crowns', isThere: true },
  text: `note ${id}`,
  by: { actor: 2, name: 'Tobin' },
  at: '2026-12-01T10:00:00Z',
  editedAt: null,
  mentions: [],
  for: null,
  due: null,
  done: null,
  isYours: false,
  ...more,
});
const people = [
  { actor: 1, name: 'Maren Oakhill', role: 'owner', here: null },
  { actor: 2, name: 'Tobin', role: 'writer', here: null },
  { actor: 3, name: 'Nobody Here', role: 'reader', here: 'none' },
];

function open(notes: NoteView[], about: Subject | null = null, adding: () => unknown = () => ({ id: 9 })) {
  const asked = servedBy([
    [listPlanPeople, () => ({ people })],
    [readNoteMarks, () => ({ open: notes.length, mine: 1, marks: [] })],
    [listNotes, () => ({ notes, total: notes.length, today: '2026-12-02' })],
    [addNote, adding],
    [changeNote, () => ({})],
  ]);
  return { ...shownAt('/', <NotesPanel plan={7} about={about} />), asked };
}
const sent = (asked: ReturnType<typeof servedBy>, method: string) =>
  asked.filter((one) => one.method === method).map(({ body }) => body);

test('a note says about what it is, for whom until when, and is done by one press', async () => {
  const { user, asked } = open([
    note(1, { for: { actor: 1, name: 'Maren Oakhill' }, due: '2026-12-01', text: 'ask @Tobin' }),
    note(2, { about: { kind: 'theme', key: '3', name: 'Gone', isThere: false } }),
  ]);
  const [first, second] = await screen.findAllByRole('listitem');
  expect(
    within(first as HTMLElement)
      .getByRole('link')
      .getAttribute('href'),
  ).toBe('/plans/7/build?at=k7');
  expect(within(first as HTMLElement).getByText('was due on 1 Dec 2026', { exact: false })).toBeTruthy();
  expect(within(first as HTMLElement).getByText('@Tobin').tagName).toBe('B');
  expect(within(second as HTMLElement).queryByRole('link')).toBeNull();
  expect(second?.textContent).toContain('theme Gone, which is there no more');
  await user.click(screen.getByRole('button', { name: 'Done: ask @Tobin' }));
  await user.selectOptions(screen.getByLabelText('Given to: note 2'), 'for Tobin');
  expect(sent(asked, 'PATCH')).toEqual([{ done: true }, { for: 2 }]);
  // Who does not see the plan is not offered.
  expect(screen.queryAllByText('for Nobody Here')).toEqual([]);
});

test('somebody is called by @ and the first letters, by keys alone; what is refused stays', async () => {
  let isRefused = true;
  const subject: Subject = { kind: 'keyword', key: '12', name: 'crown price' };
  const { user, asked } = open([], subject, () =>
    isRefused ? refusing({ code: 'unavailable', message: 'Try again.' }, 503) : { id: 1 },
  );
  const field = await screen.findByLabelText('New note on keyword crown price');
  await screen.findAllByRole('option', { name: 'for Tobin' });
  await user.type(field, 'see @ma');
  expect(screen.getByRole('option', { name: 'Maren Oakhill' }).getAttribute('aria-selected')).toBe('true');
  await user.keyboard('{Enter}please{Control>}{Enter}{/Control}');
  expect((await screen.findByRole('alert')).textContent).toBe('Try again.');
  expect((field as HTMLTextAreaElement).value).toBe('see @Maren Oakhill please');
  isRefused = false;
  await user.click(screen.getByRole('button', { name: 'Note it' }));
  await expect.poll(() => (field as HTMLTextAreaElement).value).toBe('');
  expect(sent(asked, 'POST').at(-1)).toEqual({
    about: { kind: 'keyword', key: '12' },
    said: 'crown price',
    text: 'see @Maren Oakhill please',
    for: null,
    due: null,
  });
});

test('what was begun is there again when the notes are opened anew', async () => {
  const subject: Subject = { kind: 'group', key: 'k9', name: 'Caps' };
  const first = open([], subject);
  await first.user.type(await screen.findByLabelText('New note on ad group Caps'), 'half a thought');
  first.unmount();
  open([], subject);
  expect(((await screen.findByLabelText('New note on ad group Caps')) as HTMLTextAreaElement).value).toBe(
    'half a thought',
  );
});

describe('words of notes', () => {
  test.each([
    ['@', 1, ''],
    ['hello @To', 9, 'To'],
    ['hello @Tobin Wex', 16, 'Tobin Wex'],
    ['ada@shop', 8, null],
    ['@Tobin and then more', 20, null],
  ])('in %j at %i somebody is being called: %j', (text, caret, typed) => {
    expect(mentionAt(text, caret)?.typed ?? null).toBe(typed);
  });

  test('names are set apart, the longest first, and no others', () => {
    expect(
      piecesOf('@Ada Thornwick and @adam, (@ada)', ['Ada', 'Ada Thornwick'])
        .filter(({ isName }) => isName)
        .map(({ text }) => text),
    ).toEqual(['@Ada Thornwick', '@ada']);
    expect(piecesOf('a+b @C++', ['C++']).map(({ text }) => text)).toEqual(['a+b ', '@C++']);
  });

  test('each thing has its words and its place', () => {
    expect(aboutWords({ kind: 'plan', name: '' })).toBe('the plan');
    expect(aboutPlace({ kind: 'keyword', key: '1' }, 'a & b')).toBe('gather?filter=a%20%26%20b');
    expect(aboutPlace({ kind: 'plan', key: '' }, '')).toBeNull();
    expect([dueWords('2026-12-02', '2026-12-02'), dueWords('2026-12-03', '2026-12-02')]).toEqual([
      'today',
      'by 3 Dec 2026',
    ]);
  });
});
