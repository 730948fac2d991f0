import {
  type DeskGroup,
  handOver,
  judgeAds,
  listDesk,
  openPlan,
  type PlanState,
  readGroup,
  readNoteMarks,
} from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import { stateOf } from '../../../data/plan.ts';
import { queryClient } from '../../../data/query-client.ts';
import { Allowed } from '../../../kit/allowed.tsx';
import { planState } from '../../../testing/plan-state.ts';
import { heard, servedBy, shownAt } from '../../../testing/rendered.tsx';
import { DeskView } from './DeskView.tsx';
import { givenText, standsAs, stateText } from './desk-words.ts';

const group = (name: string, more: Partial<DeskGroup> = {}): DeskGroup => ({
  key: name,
  name,
  campaign: 'Teeth',
  keyword: name.toLowerCase(),
  searches: 900,
  ads: 1,
  misfits: 0,
  state: 'open',
  hasChanged: false,
  stamp: `stamp of ${name}`,
  reason: '',
  by: null,
  at: null,
  given: null,
  ...more,
});
const nothing = { todo: 0, mine: 0, handed: 0, back: 0, accepted: 0, all: 0 };

type Opening = {
  groups?: DeskGroup[];
  may?: string[];
  revision?: number;
  built?: () => number;
  judged?: { moved: number; left: number };
  from?: string;
};

function open({
  groups = [group('Crowns'), group('Fillings')],
  may = ['read', 'write', 'approve'],
  revision = 4,
  built = () => 4,
  judged = { moved: 1, left: 2 },
  from = '/?desk=all',
}: Opening = {}) {
  const asked = servedBy([
    [
      listDesk,
      () => ({
        groups,
        total: groups.length,
        counts: { ...nothing, all: groups.length },
        asksAcceptance: true,
        builtRevision: built(),
        today: '2026-12-02',
      }),
    ],
    [openPlan, () => ({ ...planState, id: 7, revision })],
    [handOver, () => ({ moved: 1, left: 0 })],
    [judgeAds, () => judged],
    [readGroup, () => ({ rows: [], group: {}, fences: [] })],
    [readNoteMarks, () => ({ open: 0, mine: 0, marks: [] })],
  ]);
  const plan = { id: 7, revision, brief: { name: 'Teeth' } } as unknown as PlanState;
  const writing = { pool: { worker: { writeGroup: async () => null } }, fit: undefined, asked: '' };
  const page = (
    <Allowed may={(access) => may.includes(access)}>
      <DeskView plan={plan} writing={writing as never} made={null} />
    </Allowed>
  );
  const screened = shownAt(from, page);
  queryClient.setQueryData(stateOf(7).queryKey, { ...planState, id: 7, revision });
  return { ...screened, asked };
}
const sent = (asked: ReturnType<typeof servedBy>) =>
  asked.filter(({ method }) => method === 'POST').map(({ path, body }) => [path.split('/').at(-1), body]);
const here = async () =>
  (await screen.findByRole('region', { name: /^The ads of/ })).getAttribute('aria-label');

describe('the desk', () => {
  test('goes from one ad group to the next by keys, and hands over what is in view as it was seen', async () => {
    const { user, asked } = open();
    expect(await here()).toBe('The ads of Crowns');
    await user.keyboard('j');
    await waitFor(async () => expect(await here()).toBe('The ads of Fillings'));
    await user.keyboard('o');
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    expect(sent(asked)[0]).toEqual([
      'hand-over',
      { which: { groups: [{ key: 'Fillings', stamp: 'stamp of Fillings' }] }, state: 'handed' },
    ]);
  });

  test('waits with what is handed over until what was typed last is built', async () => {
    let built = 3;
    const { user, asked } = open({ revision: 4, built: () => built });
    await screen.findByRole('region', { name: 'The ads of Crowns' });
    await user.keyboard('o');
    expect(await screen.findByText('What was written is being built …')).toBeTruthy();
    expect(sent(asked)).toEqual([]);
    built = 4;
    await queryClient.invalidateQueries();
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
  });

  test('sends back with a reason, and says what stayed as it is', async () => {
    const said = heard();
    const { user, asked } = open({ groups: [group('Crowns', { state: 'handed', by: 'Tobin' })] });
    await screen.findByRole('region', { name: 'The ads of Crowns' });
    await user.keyboard('x');
    const reason = await screen.findByLabelText('What is to be changed');
    await user.type(reason, '   {Enter}');
    expect(sent(asked)).toEqual([]);
    await user.type(reason, 'Name the clinic{Enter}');
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    expect(sent(asked)[0]?.[1]).toMatchObject({ state: 'back', reason: '   Name the clinic' });
    await waitFor(() =>
      expect(said().at(-1)?.words).toContain(
        'Sent back: the ads of 1 ad group. 2 ad groups stayed as they are',
      ),
    );
    await waitFor(() => expect(screen.queryByLabelText('What is to be changed')).toBeNull());
  });

  test('keeps the reason where the ads were not sent back', async () => {
    const said = heard();
    const { user } = open({ groups: [group('Crowns')], judged: { moved: 0, left: 1 } });
    await screen.findByRole('region', { name: 'The ads of Crowns' });
    await user.keyboard('x');
    await user.type(await screen.findByLabelText('What is to be changed'), 'Name the clinic{Enter}');
    await waitFor(() => expect(said().at(-1)?.words).toContain('1 ad group stayed as it is'));
    expect(screen.getByDisplayValue('Name the clinic')).toBeTruthy();
  });

  test('asks for no reason where the ads can’t be sent back', async () => {
    const { user } = open({ groups: [group('Crowns', { misfits: 1 }), group('Fillings')] });
    await screen.findByRole('region', { name: 'The ads of Crowns' });
    await user.keyboard('x');
    expect(screen.queryByLabelText('What is to be changed')).toBeNull();
    await user.keyboard('jx');
    expect(await screen.findByLabelText('What is to be changed')).toBeTruthy();
  });

  test('offers each what is theirs', async () => {
    open({ may: ['read'], groups: [group('Crowns', { state: 'handed' })] });
    const ads = await screen.findByRole('region', { name: 'The ads of Crowns' });
    expect(within(ads).queryByRole('button', { name: /Accept|Send back|Hand over|Take it back/ })).toBeNull();
  });

  test('hands over no ads that do not fit', async () => {
    const { user, asked } = open({ groups: [group('Crowns', { misfits: 1 })] });
    const button = await screen.findByRole('button', { name: /^Hand over o?$/ });
    expect((button as HTMLButtonElement).disabled).toBe(true);
    await user.keyboard('o');
    await new Promise((go) => setTimeout(go, 30));
    expect(sent(asked)).toEqual([]);
  });

  test('says what an empty list means', async () => {
    open({ groups: [], from: '/' });
    expect(await screen.findByText('Nothing is to be done: every ad group has ads that fit.')).toBeTruthy();
  });
});

test.each<[Partial<DeskGroup>, string]>([
  [{ state: 'back', misfits: 1 }, 'sent back'],
  [{ ads: 0 }, 'has no ad'],
  [{ misfits: 2 }, '2 do not fit'],
  [{ state: 'handed' }, 'waits for a look'],
  [{ state: 'accepted' }, 'accepted'],
  [{ hasChanged: true }, 'changed since'],
  [{}, ''],
])('%j reads: %s', (more, words) => expect(standsAs(group('Crowns', more))[0]).toBe(words));

test('who said it, and until when it is to be done', () => {
  expect(stateText(group('A', { state: 'back', by: 'Ada', reason: 'Longer' }))).toBe(
    'Sent back by Ada: Longer',
  );
  const given = { note: 1, actor: 2, name: 'Tobin', text: '', isYou: false };
  expect(givenText({ ...given, due: null }, '2026-12-02')).toBe('for Tobin');
  expect(givenText({ ...given, isYou: true, due: '2026-12-01' }, '2026-12-02')).toBe(
    'yours, was due on 1 Dec 2026',
  );
});
