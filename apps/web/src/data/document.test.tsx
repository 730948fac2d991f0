import { editLayout, readLayout } from '@sprig/contracts';
import { act, screen, waitFor } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import { awaited, refusing, servedBy, shownAt } from '../testing/rendered.tsx';
import { type Document, useDocument, valueAt, withValue } from './document.ts';
import { queryClient } from './query-client.ts';

type Doc = { name: string; lanes: { step: number }[] };
const first: Doc = { name: 'Tea', lanes: [{ step: 100 }, { step: 125 }] };

let document: Document<Doc>;
function Shown() {
  document = useDocument<Doc>({ plan: 1, of: readLayout, read, write: editLayout });
  return (
    <p>
      {document.value ? `${document.value.name} ${document.value.lanes.map(({ step }) => step).join()}` : '…'}
    </p>
  );
}
let stored = first;
const read = async () => stored;
const text = () => screen.getByRole('paragraph').textContent;
type Sent = { edits: { at: string; before: unknown; after: unknown }[] };

async function open(answer: (body: Sent) => unknown = () => ({ revision: 2 })) {
  stored = first;
  const asked = servedBy([
    [readLayout, () => stored],
    [editLayout, ({ body }) => answer(body as Sent)],
  ]);
  shownAt('/', <Shown />);
  await waitFor(() => expect(text()).toBe('Tea 100,125'));
  return asked;
}

describe('a document of the plan', () => {
  test('what is typed shows at once, and is gone when it is left', async () => {
    await open();
    act(() => document.draft('lanes.1.step', 200));
    expect(text()).toBe('Tea 100,200');
    expect(document.kept).toEqual(first);
    act(() => document.undraft());
    expect(text()).toBe('Tea 100,125');
  });

  test('an edit says what it replaces, and shows before it is answered', async () => {
    const answer = awaited<object>();
    const asked = await open(() => answer.promise);
    let done: string | null | undefined;
    await act(async () => {
      void document.edit('lanes.1.step', 90).then((words) => {
        done = words;
      });
    });
    expect(text()).toBe('Tea 100,90');
    expect(done).toBeUndefined();
    expect(asked).toEqual([
      {
        method: 'PATCH',
        path: '/api/plans/1/layout',
        body: { edits: [{ at: 'lanes.1.step', before: 125, after: 90 }] },
      },
    ]);
    await act(async () => answer.answer({ revision: 2 }));
    expect(done).toBeNull();
    expect(text()).toBe('Tea 100,90');
  });

  test('edits go one after another, each on what the one before has left', async () => {
    const answers = [awaited<object>(), awaited<object>()];
    let sent = 0;
    const asked = await open(() => answers[sent++]?.promise);
    await act(async () => {
      void document.edit('name', 'Teas');
      void document.edit('name', 'Fine teas');
    });
    expect(asked).toHaveLength(1);
    await act(async () => answers[0]?.answer({ revision: 2 }));
    await waitFor(() => expect(asked).toHaveLength(2));
    expect((asked[1] as { body: Sent }).body.edits).toEqual([
      { at: 'name', before: 'Teas', after: 'Fine teas' },
    ]);
    await act(async () => answers[1]?.answer({ revision: 3 }));
    expect(text()).toBe('Fine teas 100,125');
  });

  test('unchanged, nothing is sent', async () => {
    const asked = await open();
    await act(async () => expect(await document.edit('lanes.0.step', 100)).toBeNull());
    expect(asked).toEqual([]);
  });

  test('refused, it is as it was, with the words; what is kept is read again', async () => {
    await open(() => refusing({ code: 'invalid', message: 'Not below 0.' }));
    stored = { ...first, name: 'Tea of others' };
    let words: string | null = null;
    await act(async () => {
      words = await document.edit('lanes.0.step', -5);
    });
    expect(words).toBe('Not below 0.');
    await waitFor(() => expect(text()).toBe('Tea of others 100,125'));
  });

  test('where another window was first, it says what is there now', async () => {
    await open(() =>
      refusing({ code: 'conflict', message: 'It was changed meanwhile.', current: 110 } as never, 409),
    );
    await act(async () =>
      expect(await document.edit('lanes.0.step', 90)).toBe('It was changed meanwhile. There now: 110.'),
    );
  });

  test('what came there while it was being typed is told before it is written over', async () => {
    const asked = await open();
    await act(async () => document.draft('name', 'My te'));
    // Another window has kept another name, and this one has heard of it.
    stored = { ...first, name: 'Tea of others' };
    await act(async () => void (await queryClient.invalidateQueries()));
    await act(async () => document.draft('name', 'My tea'));
    await act(async () =>
      expect(await document.edit('name', 'My tea')).toMatch(
        /^This was changed meanwhile. There now: "Tea of others"/,
      ),
    );
    expect(asked).toEqual([]);
    await act(async () => expect(await document.edit('name', 'My tea')).toBeNull());
    expect((asked[0] as { body: Sent }).body.edits).toEqual([
      { at: 'name', before: 'Tea of others', after: 'My tea' },
    ]);
  });

  test('a server that is gone', async () => {
    await open(() => {
      throw new Error('no network');
    });
    await act(async () =>
      expect(await document.edit('name', 'X')).toBe(
        'The server does not answer. What you typed is still here; try again in a moment.',
      ),
    );
    expect(text()).toBe('Tea 100,125');
  });
});

test('a value by its place, and a copy with another one there', () => {
  expect(valueAt(first, 'lanes.1.step')).toBe(125);
  expect(valueAt(first, 'lanes.7.step')).toBeUndefined();
  expect(valueAt(undefined, 'name')).toBeUndefined();
  const other = withValue(first, 'lanes.0.step', 5);
  expect(other).toEqual({ name: 'Tea', lanes: [{ step: 5 }, { step: 125 }] });
  expect(first.lanes[0]?.step).toBe(100);
});
