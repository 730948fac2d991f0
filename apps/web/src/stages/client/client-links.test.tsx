import { endClientLink, listClientLinks, makeClientLink, readSharedPlan } from '@sprig/contracts';
import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { refusing, servedBy, shownAt } from '../../testing/rendered.tsx';
import { ClientLinks } from './ClientLinks.tsx';
import { SharedPage } from './SharedPage.tsx';

const view = { groups: 12, keywords: 12, without: ['bids'] as ['bids'] };
const link = {
  id: 4,
  name: 'Dr Fell',
  view,
  from: 'Olive',
  madeAt: '2026-12-01T10:00:00Z',
  endsAt: '2026-12-31T10:00:00Z',
  readAt: null,
  timesRead: 0,
};

test('a link is made of what is shown, for somebody, and shown once; those that work are taken back', async () => {
  const links = [link];
  const asked = servedBy([
    [listClientLinks, () => ({ links })],
    [makeClientLink, () => ({ id: 5, link: 'http://127.0.0.1/door/client#abc' })],
    [endClientLink, () => links.splice(0) && {}],
  ]);
  const { user } = shownAt('/', <ClientLinks plan={7} view={view} onClose={() => {}} />);
  expect((await screen.findByRole('listitem')).textContent).toContain('not read yet');
  const make = screen.getByRole('button', { name: 'Make a link' });
  expect((make as HTMLButtonElement).disabled).toBe(true);
  await user.type(screen.getByLabelText('For whom it is'), 'Dr Moss');
  await user.selectOptions(screen.getByLabelText('How long it works'), 'for 7 days');
  await user.click(make);
  expect(((await screen.findByLabelText('The link')) as HTMLInputElement).value).toBe(
    'http://127.0.0.1/door/client#abc',
  );
  expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({ name: 'Dr Moss', view, days: 7 });
  await user.click(screen.getByRole('button', { name: 'Take back the link for Dr Fell' }));
  await expect.poll(() => screen.queryByRole('list', { name: 'Links that work' })).toBeNull();
});

const campaign = {
  key: 'ct1',
  name: 'Teeth',
  dailyBudget: 5_000_000,
  status: 'enabled',
  groups: 1,
  keywords: 1,
  rows: 2,
  searches: 900,
  shown: [],
};
const plan = {
  name: 'Bright Molar',
  client: 'Dr Fell',
  site: 'molar.example',
  currency: 'EUR',
  counts: { rows: 2, cut: 0, blocked: 0 },
  locations: ['Eastmere'],
  languages: ['English'],
  networks: { search: true, partners: false, display: false },
  times: 0,
  starts: null,
  ends: null,
  month: null,
  isBehind: false,
  page: { builtRevision: 3, campaigns: [campaign], negatives: [], negativeCount: 0, lists: [] },
  forecast: null,
};

test('a client reads the plan with the link of the address, which does not stay there', async () => {
  const asked = servedBy([
    [readSharedPlan, () => ({ view, endsAt: '2026-12-31T10:00:00Z', from: 'Leaf by Leaf', plan })],
  ]);
  window.history.replaceState(null, '', `/door/client#${'a'.repeat(43)}`);
  shownAt('/', <SharedPage />);
  expect((await screen.findByRole('heading', { level: 1 })).textContent).toBe('Dr Fell');
  expect(screen.getByText(/This link works until 31 Dec 2026/)).toBeTruthy();
  expect(screen.getByText(/Shown in Eastmere, in English, on search/)).toBeTruthy();
  expect(screen.queryAllByRole('link')).toEqual([]);
  expect(asked.map(({ body }) => body)).toEqual([{ token: 'a'.repeat(43) }]);
  expect(window.location.hash).toBe('');
});

test('one that works no more says so, and one without its end too', async () => {
  servedBy([
    [readSharedPlan, () => refusing({ code: 'not-found', message: 'This link works no more.' }, 404)],
  ]);
  window.history.replaceState(null, '', `/door/client#${'b'.repeat(43)}`);
  const { unmount } = shownAt('/', <SharedPage />);
  expect((await screen.findByRole('alert')).textContent).toBe('This link works no more.');
  unmount();
  shownAt('/', <SharedPage />);
  expect((await screen.findByRole('alert')).textContent).toContain('not in the address any more');
});
