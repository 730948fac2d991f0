import {
  editPreferences,
  preferencesSchema,
  readJob,
  readMe,
  startImport,
  uploadList,
} from '@sprig/contracts';
import { QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { queryClient } from '../../data/query-client.ts';
import { meOf, refusing, servedBy } from '../../testing/rendered.tsx';
import { type Taking, useGivenList } from './use-given-list.ts';
import { useTakeIn } from './use-take-in.ts';

const UPLOAD = '0b6f6f3e-7b4a-4f0e-9d0a-3f1f2d9b1c11';
const JOB = '0b6f6f3e-7b4a-4f0e-9d0a-3f1f2d9b1c22';
const layout = { roles: ['keyword', 'searches'], headings: ['Keyword', 'Searches'], headerLine: 1 };
const summary = { layout, keywords: 3, negatives: 0, counts: { lines: 4, repeated: 0 } };

const worker = {
  readText: vi.fn(async (_text: string, _options: unknown): Promise<unknown> => summary),
  readFile: vi.fn(async (_bytes: Uint8Array, _options: unknown): Promise<unknown> => summary),
  openWorkbook: vi.fn(async (_bytes: Uint8Array): Promise<unknown> => ({ sheets: ['First', 'Second'] })),
  sheetText: vi.fn(async (sheet: number) => `sheet ${sheet}`),
};
const around = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={queryClient}>{children}</QueryClientProvider>
);
const given = (taking: Taking) =>
  renderHook(() => useGivenList(taking, worker as never), { wrapper: around });
const me = (preferences = {}) => meOf({ preferences: preferencesSchema.parse(preferences) });

beforeEach(() => {
  queryClient.clear();
  for (const told of Object.values(worker)) told.mockClear();
  servedBy([[readMe, () => me()]]);
});

describe('a list that is to be taken in', () => {
  test('what is pasted is read as it is typed, and nothing of an empty one', async () => {
    const { result } = given({ kind: 'paste', text: '' });
    await act(async () => {});
    expect(worker.readText).not.toHaveBeenCalled();
    act(() => result.current.setText('tea\nmug'));
    await waitFor(() => expect(result.current.summary).toEqual(summary));
    expect(worker.readText.mock.calls.at(-1)).toEqual(['tea\nmug', {}]);
    expect(await result.current.body().text()).toBe('tea\nmug');
  });

  test('a file is read whole, a workbook sheet by sheet; another sheet forgets what was picked for the first', async () => {
    const plain = new File(['tea'], 'tea.csv');
    const first = given({ kind: 'file', file: plain });
    await waitFor(() => expect(first.result.current.summary).toEqual(summary));
    expect(new TextDecoder().decode(worker.readFile.mock.calls[0]?.[0])).toBe('tea');
    expect(first.result.current.body()).toBe(plain);

    const book = new File([Uint8Array.of(0x50, 0x4b, 3, 4)], 'tea.xlsx');
    const { result } = given({ kind: 'file', file: book });
    await waitFor(() => expect(result.current.sheets).toEqual(['First', 'Second']));
    await waitFor(() => expect(worker.readText.mock.calls.at(-1)).toEqual(['sheet 0', { delimiter: '\t' }]));
    act(() => result.current.setOptions({ decimal: ',' }));
    await act(() => result.current.chooseSheet(1));
    await waitFor(() => expect(worker.readText.mock.calls.at(-1)).toEqual(['sheet 1', { delimiter: '\t' }]));
    expect(await result.current.body().text()).toBe('sheet 1');
  });

  test('a file that can’t be read says why, and one that is too heavy is not even opened', async () => {
    worker.openWorkbook.mockRejectedValueOnce(new Error('torn'));
    const torn = given({ kind: 'file', file: new File([Uint8Array.of(0x50, 0x4b, 3, 4)], 'torn.xlsx') });
    await waitFor(() => expect(torn.result.current.problem).toMatch(/no workbook that can be read/));
    worker.readFile.mockResolvedValueOnce({ problem: 'binary-file' });
    const picture = given({ kind: 'file', file: new File(['…'], 'picture.png') });
    await waitFor(() => expect(picture.result.current.problem).toMatch(/This is no text/));

    worker.readFile.mockClear();
    const heavy = new File(['tea'], 'heavy.csv');
    Object.defineProperty(heavy, 'size', { value: 5_000_000_000 });
    const { result } = given({ kind: 'file', file: heavy });
    await act(async () => {});
    expect(result.current.problem).toMatch(/split the file/);
    expect(worker.readFile).not.toHaveBeenCalled();
  });

  test('what was picked for its columns is kept for the next of its kind, and picked again', async () => {
    const asked = servedBy([
      [readMe, () => me()],
      [editPreferences, ({ body }) => me(body as object)],
    ]);
    const { result } = given({ kind: 'paste', text: 'Keyword\tSearches\ntea\t4' });
    await waitFor(() => expect(result.current.summary).toEqual(summary));
    result.current.remember();
    expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
    act(() => result.current.setOptions({ roles: ['keyword', 'skip'] }));
    await act(async () => result.current.remember());
    const [kept] = asked.filter(({ method }) => method === 'PATCH');
    const { columnRoles } = (kept?.body ?? { columnRoles: {} }) as { columnRoles: Record<string, unknown> };
    const roles = Object.values(columnRoles);
    expect(roles).toEqual([['keyword', 'skip']]);
    const again = given({ kind: 'paste', text: 'Keyword\tSearches\nmug\t4' });
    await waitFor(() => expect(again.result.current.options.roles).toEqual(['keyword', 'skip']));
  });
});

describe('taking it in', () => {
  const job = (status: string, result: unknown = null) => ({
    id: JOB,
    plan: 7,
    kind: 'import',
    status,
    phase: '',
    done: 0,
    total: 0,
    result,
    failure: null,
  });
  const done = vi.fn();
  const list = { asked: { decimal: ',' }, summary, remember: vi.fn(), body: () => new Blob(['tea']) };
  const taking = () => {
    done.mockClear();
    const { result } = renderHook(() => useTakeIn(7, { kind: 'paste', text: 'tea' }, list as never, done), {
      wrapper: around,
    });
    return result;
  };
  const as = { name: ' ', onlyFigures: false, figuresOn: '' };
  const ends = (end: unknown) =>
    servedBy([
      [uploadList as never, () => ({ upload: UPLOAD, bytes: 3 })],
      [startImport, () => ({ job: JOB })],
      [readJob, () => end],
    ]);
  const sent = (asked: ReturnType<typeof servedBy>) =>
    asked.find(({ path, method }) => method === 'POST' && path.endsWith('/imports'))?.body;

  test('goes in with its name, or one made for it, as it was read; then it is over', async () => {
    const asked = ends(job('done', { source: 1, added: 3, alreadyThere: 0, negatives: 0, problems: 0 }));
    const result = taking();
    await act(() => result.current.takeIn(as));
    expect(done).toHaveBeenCalledTimes(1);
    expect(sent(asked)).toEqual({
      upload: UPLOAD,
      kind: 'paste',
      name: 'Paste of 4 lines',
      options: { decimal: ',' },
      figuresOn: null,
    });
  });

  test('as figures alone, of a day', async () => {
    const figures = { met: 2, alike: 0, unmet: 1 };
    const asked = ends(
      job('done', { source: 1, added: 0, alreadyThere: 0, negatives: 0, problems: 0, figures }),
    );
    const result = taking();
    await act(() => result.current.takeIn({ name: 'March', onlyFigures: true, figuresOn: '2026-03-01' }));
    expect(sent(asked)).toMatchObject({ kind: 'figures', name: 'March', figuresOn: '2026-03-01' });
    expect(done).toHaveBeenCalledTimes(1);
  });

  test('stopped, refused or failed it stays, and says so', async () => {
    ends(job('stopped'));
    const stopped = taking();
    await act(() => stopped.current.takeIn(as));
    expect(stopped.current.refusal).toMatch(/Nothing went in/);
    expect([done.mock.calls.length, stopped.current.job]).toEqual([0, null]);

    servedBy([
      [uploadList as never, () => ({ upload: UPLOAD, bytes: 3 })],
      [startImport, () => refusing({ code: 'invalid', message: 'A source needs a name.' })],
    ]);
    const refused = taking();
    await act(() => refused.current.takeIn(as));
    expect(refused.current.refusal).toBe('A source needs a name.');

    ends({ ...job('failed'), failure: { code: 'invalid', message: 'No space is left.' } });
    const failed = taking();
    await act(() => failed.current.takeIn(as));
    expect(failed.current.refusal).toBe('No space is left.');
    expect(done).not.toHaveBeenCalled();
  });
});
