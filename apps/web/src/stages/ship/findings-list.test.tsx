import {
  acceptFinding,
  applyFix,
  listFinding,
  listReceipts,
  type OutletFinding,
  previewFix,
  readNoteMarks,
  viewShip,
} from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { Toaster } from 'sonner';
import { describe, expect, test } from 'vitest';
import { refusing, servedBy, shownAt } from '../../testing/rendered.tsx';
import { byRule, FindingsList } from './FindingsList.tsx';

const finding = (more: Partial<OutletFinding>): OutletFinding => ({
  rule: 'few-ads',
  severity: 'warning',
  field: null,
  count: 2,
  searches: 1_200,
  facts: 11,
  place: { stage: 'write', key: 'k1' },
  samples: [
    { key: 'k1', text: 'Teapots' },
    { key: 'k2', text: 'Cups' },
  ],
  outlet: 'plain',
  accepted: null,
  acceptedBy: null,
  acceptedAt: null,
  ...more,
});
const names = new Map([
  ['plain', 'Plain sheets'],
  ['quillmere', 'Quillmere'],
]);

function open(
  findings: OutletFinding[],
  more: Partial<Parameters<typeof FindingsList>[0]> = {},
  answers: {
    accept?: () => unknown;
    look?: () => unknown;
    list?: (asked: { query: URLSearchParams }) => unknown;
  } = {},
) {
  const asked = servedBy([
    [acceptFinding, answers.accept ?? (() => ({ revision: 2 }))],
    [
      previewFix,
      answers.look ??
        (() => ({
          words: 'Show 1 campaign to people in the places only',
          total: 1,
          changes: [{ of: 'The brief', before: 'either', after: 'in' }],
        })),
    ],
    [applyFix, () => ({ revision: 2, fixed: 1 })],
    [listFinding, answers.list ?? (() => ({ total: 0, rows: [] }))],
    [viewShip, () => ({})],
    [listReceipts, () => ({ receipts: [] })],
    [readNoteMarks, () => ({ open: 0, mine: 0, marks: [] })],
  ]);
  const shown = shownAt(
    '/plans/7/ship',
    <>
      <FindingsList
        plan={7}
        findings={findings}
        names={names}
        isEmpty={false}
        isWhole
        looked="whole"
        {...more}
      />
      <Toaster />
    </>,
    '/plans/:plan/ship',
  );
  // How many notes there are is asked too.
  return { ...shown, asked: () => asked.filter(({ path }) => !path.endsWith('/notes/marks')) };
}
const list = () => screen.getByRole('region', { name: 'Findings' });
const line = (rule: string) => list().querySelector<HTMLElement>(`[data-rule="${rule}"]`) as HTMLElement;

type Look = Pick<Parameters<typeof FindingsList>[0], 'findings' | 'isWhole' | 'looked'>;

/** The list as one look after another comes. */
function Again({ looks }: { looks: readonly Look[] }) {
  const [at, setAt] = useState(0);
  return (
    <>
      <button type="button" onClick={() => setAt(at + 1)}>
        next
      </button>
      <FindingsList plan={7} names={names} isEmpty={false} {...(looks[at] as Look)} />
    </>
  );
}

describe('what stands between the plan and its outlets', () => {
  test('one line a rule, with what it is of at each outlet, and a way to the place', () => {
    open([
      finding({}),
      finding({ outlet: 'quillmere', count: 7, searches: 3_000 }),
      finding({ rule: 'orphans', severity: 'tip', outlet: null, count: 1, searches: null, samples: [] }),
    ]);
    expect(within(list()).getAllByRole('listitem')).toHaveLength(2);
    const few = line('few-ads');
    expect(few.textContent).toContain('7 ad groups with fewer ads than are advised');
    expect(few.textContent).toContain('Plain sheets 2');
    expect(few.textContent).toContain('Quillmere 7');
    expect(few.textContent).toContain('3,000 searches a month at stake');
    expect(few.textContent).toContain('and 5 more');
    const link = within(few).getByRole('link', { name: 'Add a pattern, or split one' });
    expect(link.getAttribute('href')).toMatch(/\/write\?group=k1&outlet=plain$/);
    expect(within(few).getByRole('link', { name: 'Cups' }).getAttribute('href')).toContain('group=k2');
  });

  test('a list is opened in full, page by page, each line a way to its place; and closed again', async () => {
    const all = ['Teapots', 'Cups', 'Trays'].map((text, at) => ({ key: `k${at + 1}`, text, count: at + 1 }));
    const { user } = open(
      [finding({ count: 9 })],
      {},
      {
        list: ({ query }) => {
          expect([query.get('rule'), query.get('outlet')]).toEqual(['few-ads', 'plain']);
          const from = Number(query.get('from') ?? 0);
          return { total: 3, rows: all.slice(from, from + 2) };
        },
      },
    );
    await user.click(screen.getByRole('button', { name: 'and 7 more' }));
    const rows = () => within(screen.getByRole('list', { name: 'All that it speaks of' }));
    await waitFor(() => expect(rows().getAllByRole('link')).toHaveLength(2));
    await user.click(screen.getByRole('button', { name: 'Show more' }));
    await waitFor(() => expect(rows().getAllByRole('link')).toHaveLength(3));
    expect(rows().getByRole('link', { name: 'Trays' }).getAttribute('href')).toContain('group=k3');
    expect(screen.queryByRole('button', { name: 'Show more' })).toBeNull();
    expect(screen.getByText(/^3 more are not listed/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Show fewer' }));
    expect(screen.getByRole('button', { name: 'and 7 more' })).toBeTruthy();
  });

  test.each([
    [[finding({})], 'Ready to ship, with 1 thing to know'],
    [[finding({ severity: 'blocker', rule: 'no-ad' }), finding({})], '1 blocker before anything ships'],
    [[], 'Ready to ship'],
    [[finding({ accepted: 'It is a test.' })], 'Ready to ship'],
  ])('its heading', (findings, heading) => {
    open(findings);
    expect(within(list()).getByRole('heading').textContent).toBe(heading);
  });

  test('while it is looked through, nothing is called ready', () => {
    open([finding({})], { looked: 'under way', isWhole: false });
    expect(within(list()).getByRole('heading').textContent).toBe('Looking through the plan …');
    expect(screen.getByText('There may be more than is listed yet.')).toBeTruthy();
    expect(screen.queryByText('Nothing stands in the way.')).toBeNull();
  });

  test('while it is looked through again, the lines of the last look stay where they are, and say so', async () => {
    const looks: Look[] = [
      {
        findings: [finding({ severity: 'blocker', rule: 'no-ad' })],
        isWhole: true,
        looked: 'whole',
      },
      { findings: [], isWhole: false, looked: 'under way' },
      { findings: [finding({})], isWhole: true, looked: 'whole' },
    ];
    servedBy([]);
    const { user } = shownAt('/', <Again looks={looks} />);
    const before = line('no-ad');
    await user.click(screen.getByRole('button', { name: 'next' }));
    expect(line('no-ad')).toBe(before);
    expect(within(list()).getByRole('heading').textContent).toBe('Looking through the plan …');
    expect(screen.getByText('Listed is what the look before this one found.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'next' }));
    expect(line('no-ad')).toBeNull();
    expect(line('few-ads')).toBeTruthy();
  });

  test('a look that failed says so, but blockers stay blockers', () => {
    const { unmount } = open([], { looked: 'failed' });
    expect(within(list()).getByRole('heading').textContent).toBe('The plan was not looked through');
    unmount();
    open([finding({ severity: 'blocker', rule: 'no-ad' })], { looked: 'failed' });
    expect(within(list()).getByRole('heading').textContent).toBe('1 blocker before anything ships');
  });

  test('fields of one rule, and what was accepted for other reasons, stand apart', () => {
    const ids = byRule([
      finding({ rule: 'field-unfilled', field: 'headline1' }),
      finding({ rule: 'field-unfilled', field: 'headline2' }),
      finding({ rule: 'field-unfilled', field: 'headline1', outlet: 'quillmere' }),
      finding({ accepted: 'One' }),
      finding({ accepted: 'Two' }),
    ]).map(({ findings }) => findings.length);
    expect(ids).toEqual([2, 1, 1, 1]);
  });
});

describe('accepting', () => {
  test('asks why, and accepts the finding at each outlet as its facts are there', async () => {
    const { user, asked } = open([finding({}), finding({ outlet: 'quillmere', facts: 22 })]);
    await user.click(within(line('few-ads')).getByRole('button', { name: 'Accept …' }));
    const accept = screen.getByRole('button', { name: 'Accept' });
    expect(accept.hasAttribute('disabled')).toBe(true);
    await user.keyboard('One ad is enough.');
    await user.click(accept);
    await waitFor(() => expect(screen.queryByRole('textbox')).toBeNull());
    expect(asked().map(({ body }) => body)).toEqual([
      { rule: 'few-ads', field: null, outlet: 'plain', facts: 11, reason: 'One ad is enough.' },
      { rule: 'few-ads', field: null, outlet: 'quillmere', facts: 22, reason: 'One ad is enough.' },
    ]);
  });

  test('refused, the reason is still there', async () => {
    const { user } = open(
      [finding({})],
      {},
      { accept: () => refusing({ code: 'invalid', message: 'It has changed since.' }) },
    );
    await user.click(within(line('few-ads')).getByRole('button', { name: 'Accept …' }));
    await user.keyboard('Enough.{Enter}');
    await screen.findByText('It has changed since.');
    expect((screen.getByRole('textbox') as HTMLInputElement).value).toBe('Enough.');
  });

  test('Escape leaves it; a blocker can’t be accepted', async () => {
    const { user, asked } = open([finding({}), finding({ rule: 'no-ad', severity: 'blocker' })]);
    expect(within(line('no-ad')).queryByRole('button', { name: 'Accept …' })).toBeNull();
    await user.click(within(line('few-ads')).getByRole('button', { name: 'Accept …' }));
    await user.keyboard('x{Escape}');
    expect(screen.queryByRole('textbox')).toBeNull();
    expect(asked()).toEqual([]);
  });

  test('what is accepted stands behind a button, with its reason, and can be taken back', async () => {
    const { user, asked } = open([
      finding({ accepted: 'One ad is enough.', acceptedBy: 'Ada', acceptedAt: '2027-03-03T12:00:00Z' }),
    ]);
    expect(within(list()).queryByRole('listitem')).toBeNull();
    await user.click(screen.getByRole('button', { name: '1 finding accepted' }));
    expect(screen.getByText('One ad is enough.')).toBeTruthy();
    expect(screen.getByText(/Accepted by Ada on 3 March 2027|Accepted by Ada on/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Take that back' }));
    await waitFor(() => expect(asked()[0]?.body).toMatchObject({ outlet: 'plain', reason: null }));
  });
});

describe('a sure fix', () => {
  const presence = finding({
    rule: 'presence-interested',
    outlet: null,
    place: { stage: 'brief' },
    samples: [],
  });

  test('shows before and after, and says what it will do', async () => {
    const { user, asked } = open([presence]);
    await user.click(screen.getByRole('button', { name: 'Mend …' }));
    const table = await screen.findByRole('table', { name: 'Before and after' });
    expect(table.textContent).toBe('The briefeitherin');
    await user.click(screen.getByRole('button', { name: 'Show 1 campaign to people in the places only' }));
    await waitFor(() => expect(screen.queryByRole('table')).toBeNull());
    expect(asked().at(1)).toMatchObject({
      method: 'POST',
      path: '/api/plans/7/findings/fix',
      body: { rule: 'presence-interested', outlet: null },
    });
  });

  test('where nothing is left to mend, or it can’t be worked out, it says so', async () => {
    const first = open([presence], {}, { look: () => ({ words: '', total: 0, changes: [] }) });
    await first.user.click(screen.getByRole('button', { name: 'Mend …' }));
    await screen.findByText(/Nothing is left to mend here/);
    first.unmount();
    const { user } = open(
      [presence],
      {},
      { look: () => refusing({ code: 'invalid', message: 'The plan is being built.' }) },
    );
    await user.click(screen.getByRole('button', { name: 'Mend …' }));
    expect((await screen.findByRole('alert')).textContent).toBe('The plan is being built.');
  });
});
