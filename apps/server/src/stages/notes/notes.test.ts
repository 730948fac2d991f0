import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import { startTestServer, type TestServer } from '../../testing/start-test-server.ts';
import { firstOwner, joined, me, refusal, type Visitor } from '../../testing/visitor.ts';
import { mentionsIn } from './mentions.ts';

let server: TestServer;
let olive: Visitor;
let tom: Visitor;
let rita: Visitor;
let plan: number;
let hidden: number;
const actors: Record<string, number> = {};
beforeAll(async () => {
  server = await startTestServer({ door: true });
  olive = await firstOwner(server);
  tom = await joined(olive, 'tom@tea.example', { role: 'writer' });
  rita = await joined(olive, 'rita@tea.example', { role: 'reader' });
  for (const [name, who] of Object.entries({ olive, tom, rita })) actors[name] = (await me(who)).actor;
  const make = async (name: string) =>
    (await olive.call(api.makePlan, { body: { name, currency: 'EUR', language: 'en', site: '' } })).id;
  [plan, hidden] = [await make('Teeth'), await make('Secret')];
  await olive.call(api.setPlanRole, {
    params: { plan: hidden, actor: actors.tom as number },
    body: { here: 'none' },
  });
});
afterAll(() => server.stop());

const here = { kind: 'plan', key: '' } as const;
type New = Partial<typeof api.addNote.body._input>;
const add = async (by: Visitor, text: string, more: New = {}, at = plan) =>
  (
    await by.call(api.addNote, {
      params: { plan: at },
      body: { about: here, text, for: null, due: null, ...more },
    })
  ).id;
const list = async (by: Visitor, query: object = {}) =>
  (await by.call(api.listNotes, { params: { plan }, query })).notes;
const change = (by: Visitor, note: number, body: object) =>
  by.call(api.changeNote, { params: { plan, note }, body });

describe('a note', () => {
  test('is written by whoever sees the plan, and says by whom, about what and whether it is there', async () => {
    const fields = 'dental implants\t900\nteeth whitening\t400\n';
    const upload = await olive.fetch(`/api/plans/${plan}/uploads`, {
      method: 'POST',
      headers: { 'content-type': 'text/plain' },
      body: fields,
    });
    const { upload: id } = (await upload.json()) as { upload: string };
    await olive.call(api.startImport, {
      params: { plan },
      body: { upload: id, kind: 'paste', name: 'List', options: {} },
    });
    let keyword: { id: number; text: string } | undefined;
    for (let times = 0; times < 400 && !keyword; times++) {
      [keyword] = await select<{ id: number; text: string }>(
        server.database,
        `select id, text from keywords where plan_id = $1 and text = 'teeth whitening'`,
        [plan],
      );
      await new Promise((go) => setTimeout(go, 25));
    }
    const about = { kind: 'keyword', key: String(keyword?.id) } as const;
    const note = await add(rita, 'Is this ours?', { about });
    const [read] = await list(tom, about);
    expect(read).toMatchObject({
      id: note,
      about: { ...about, name: 'teeth whitening', isThere: true },
      by: { actor: actors.rita },
      isYours: false,
      done: null,
    });
    expect(await refusal(add(rita, 'x', { about: { kind: 'keyword', key: '999999' } }))).toMatchObject({
      status: 404,
    });
    for (const key of ['', '1 or 1=1', '-1', '12345678901234567890'])
      expect(await refusal(add(rita, 'x', { about: { kind: 'keyword', key } }))).toMatchObject({
        status: 404,
      });
    await olive.call(api.removeSource, {
      params: { plan, source: (await olive.call(api.listSources, { params: { plan } })).sources[0]?.id ?? 0 },
    });
    expect((await list(tom, about))[0]?.about).toEqual({ ...about, name: 'teeth whitening', isThere: false });
  });

  test('is refused where it says nothing, or is about nothing that there is', async () => {
    expect(await refusal(add(tom, '  \n'))).toMatchObject({ at: 'text' });
    for (const about of [
      { kind: 'finding', key: 'no-such-rule' },
      { kind: 'worth', key: 'gold' },
      { kind: 'group', key: 'k1' },
      { kind: 'plan', key: 'x' },
    ] as const)
      expect(await refusal(add(tom, 'x', { about }))).toMatchObject({ status: 404 });
    const said = await add(tom, 'Mend it', {
      about: { kind: 'finding', key: 'no-ad' },
      said: '12 ad groups without an ad',
    });
    expect((await list(tom)).find(({ id }) => id === said)?.about).toMatchObject({
      name: '12 ad groups without an ad',
    });
  });

  test('calls those whose names stand in it, and is for whom it is given to', async () => {
    const before = (await rita.call(api.readNoteMarks, { params: { plan } })).mine;
    const called = await add(tom, '@rita, look at this please');
    const given = await add(olive, 'Write the rest', { for: actors.rita as number, due: '2026-12-24' });
    expect((await list(rita, { only: 'mine' })).map(({ id }) => id)).toEqual([given, called]);
    expect((await rita.call(api.readNoteMarks, { params: { plan } })).mine).toBe(before + 2);
    expect((await list(tom, { only: 'mine' })).map(({ id }) => id)).not.toContain(given);
    const work = await rita.call(api.listMyWork);
    expect(work.notes.map(({ planName, note }) => [planName, note.id, note.due])).toEqual([
      ['Teeth', given, '2026-12-24'],
      ['Teeth', called, null],
    ]);
    await change(rita, given, { done: true });
    expect((await list(rita, { only: 'done' }))[0]).toMatchObject({ id: given, done: { by: 'rita' } });
    expect((await rita.call(api.listMyWork)).total).toBe(1);
    await change(tom, given, { done: false });
    expect((await rita.call(api.listMyWork)).total).toBe(2);
  });

  test('is given only to somebody who sees the plan, and is told to nobody else', async () => {
    expect(await refusal(add(olive, 'x', { for: actors.tom as number }, hidden))).toMatchObject({
      at: 'for',
    });
    expect(await refusal(add(tom, 'x', {}, hidden))).toMatchObject({ status: 404 });
    await add(olive, '@tom should not hear of this', {}, hidden);
    expect((await tom.call(api.listMyWork)).notes.map((one) => one.planName)).not.toContain('Secret');
    expect(await refusal(add(olive, 'x', { for: 999_999 }))).toMatchObject({ at: 'for' });
  });

  test('is changed in words by who has written it, and taken away by them or an owner', async () => {
    const note = await add(tom, 'first');
    expect(await refusal(change(rita, note, { text: 'mine now' }))).toMatchObject({ status: 403 });
    expect(await refusal(change(olive, note, { text: 'mine now' }))).toMatchObject({ status: 403 });
    await change(tom, note, { text: 'second, @rita' });
    expect((await list(rita)).find(({ id }) => id === note)).toMatchObject({
      text: 'second, @rita',
      mentions: [actors.rita],
    });
    await change(rita, note, { due: '2027-01-04' });
    const remove = (by: Visitor) => by.call(api.removeNote, { params: { plan, note } });
    expect(await refusal(remove(rita))).toMatchObject({ status: 403 });
    await remove(olive);
    expect(await refusal(remove(olive))).toMatchObject({ status: 404 });
    expect(await refusal(change(tom, note, { done: true }))).toMatchObject({ status: 404 });
    expect(await refusal(change(tom, note, {}))).toMatchObject({ status: 400 });
  });

  test('of another plan is not there', async () => {
    const note = await add(olive, 'here', {}, hidden);
    expect(await refusal(change(olive, note, { done: true }))).toMatchObject({ status: 404 });
  });

  test('keeps what stands in it as it is', async () => {
    const text = '<img src=x onerror=alert(1)> & “so on”\n\nsecond line';
    const note = await add(tom, text);
    expect((await list(tom)).find(({ id }) => id === note)?.text).toBe(text);
  });
});

test('a hundred notes come at a time, those with the nearest day first', async () => {
  const own = (
    await olive.call(api.makePlan, { body: { name: 'Many', currency: 'EUR', language: 'en', site: '' } })
  ).id;
  await server.database.query(
    `insert into notes (workspace_id, plan_id, about_kind, about_key, about_name, text, by_actor, due)
     select workspace_id, id, 'plan', '', '', 'note ' || n, created_by, case when n <= 2 then date '2027-01-01' - n end
     from plans, generate_series(1, 150) n where id = ${own}`,
  );
  const page = (from: number) => olive.call(api.listNotes, { params: { plan: own }, query: { from } });
  const [first, second] = [await page(0), await page(100)];
  expect([first.notes.length, second.notes.length, first.total]).toEqual([100, 50, 150]);
  expect(first.notes.slice(0, 3).map(({ text }) => text)).toEqual(['note 2', 'note 1', 'note 150']);
  expect(new Set([...first.notes, ...second.notes].map(({ id }) => id)).size).toBe(150);
});

const people = [
  { actor: 1, name: 'Ada' },
  { actor: 2, name: 'Ada Thornwick' },
  { actor: 3, name: 'Jörg' },
  { actor: 4, name: 'ada thornwick' },
];
test.each([
  ['@Ada, look', [1]],
  ['@ada thornwick and @JÖRG.', [2, 4, 3]],
  ['@Adam is somebody else', []],
  ['write to ada@shop.example', []],
  ['no name here @', []],
  ['(@Jörg)', [3]],
])('%s calls %j', (text, called) => {
  expect(mentionsIn(text, people).sort()).toEqual([...called].sort());
});
