import {
  changeExtra,
  type ExtraView,
  findPartGroups,
  listExtras,
  makeExtra,
  readMe,
  removeExtra,
  viewBuild,
} from '@sprig/contracts';
import { plainOutlet, quillmere } from '@sprig/core/outlets';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import { heard, meOf, refusing, servedBy, shownAt } from '../../testing/rendered.tsx';
import { ExtrasView } from './ExtrasView.tsx';
import { MeasureProvider, measureBy } from './measure.tsx';

const kept: ExtraView[] = [
  { id: 4, at: ['plan'], body: { kind: 'callout', text: 'Open all year' }, outlets: [], status: 'enabled' },
  { id: 5, at: [], body: { kind: 'phone', number: '01632 960123' }, outlets: [], status: 'enabled' },
];
type Handler = Parameters<typeof servedBy>[0][number];

const outlets = [plainOutlet, quillmere];

async function open(...more: Handler[]) {
  const asked = servedBy([
    ...more,
    [readMe, () => meOf()],
    [listExtras, () => ({ extras: kept })],
    [
      viewBuild,
      () => ({
        builtRevision: 3,
        fences: null,
        summary: null,
        labels: [],
        campaigns: [
          {
            key: 'ct1',
            name: 'Crowns',
            dailyBudget: 20_000_000,
            defaultBid: 400_000,
            status: 'enabled',
            labels: [],
            settings: null,
            lane: null,
            place: null,
            covered: null,
            groups: 2,
            keywords: 2,
            rows: 4,
            searches: 300,
            negatives: 0,
            fences: 0,
            largest: [{ key: 'k1', name: 'crown', searches: 200, keywords: 1 }],
          },
        ],
      }),
    ],
    [
      findPartGroups,
      ({ body }) => {
        const { words = '', keys = [] } = body as { words?: string; keys?: string[] };
        const groups = [
          { key: 'k1', name: 'crown', campaign: 'Crowns' },
          { key: 'k2', name: 'crown repair', campaign: 'Crowns' },
        ].filter(({ key, name }) => (keys.length > 0 ? keys.includes(key) : name.includes(words)));
        return { total: groups.length, groups };
      },
    ],
  ]);
  const screenOf = shownAt(
    '/',
    <MeasureProvider value={measureBy(outlets, '')}>
      <ExtrasView plan={{ id: 7 } as never} />
    </MeasureProvider>,
  );
  await screen.findByDisplayValue('Open all year');
  return { ...screenOf, asked };
}
const column = (name: string) => within(screen.getByRole('region', { name }));
const sent = (asked: { method: string; path: string; body: unknown }[]) =>
  asked.filter(({ method }) => method !== 'GET').map(({ method, path, body }) => [method, path, body]);

describe('extras', () => {
  test('a new one is made for the whole plan, and only when it can be', async () => {
    const { user, asked } = await open([makeExtra, () => ({ revision: 3, id: 6 })]);
    await user.click(screen.getByRole('button', { name: 'New in Callouts' }));
    const callouts = column('Callouts');
    const make = () => callouts.getByRole<HTMLButtonElement>('button', { name: 'Make it' });
    expect(make().disabled).toBe(true);
    const [field] = callouts.getAllByRole('textbox', { name: 'Text' });
    expect(document.activeElement).toBe(field);
    await user.type(field as HTMLElement, 'No deposit{Enter}');
    await waitFor(() =>
      expect(sent(asked)).toEqual([
        [
          'POST',
          '/api/plans/7/extras',
          { at: ['plan'], body: { kind: 'callout', text: 'No deposit' }, outlets: [], status: 'enabled' },
        ],
      ]),
    );
    await waitFor(() => expect(callouts.queryByRole('button', { name: 'Make it' })).toBeNull());
  });

  test('what is changed is kept or left; Escape leaves it', async () => {
    const { user, asked } = await open([changeExtra, () => ({ revision: 3 })]);
    const field = screen.getByDisplayValue('Open all year');
    await user.type(field, ' round');
    expect(screen.getByRole('button', { name: 'Keep' })).toBeTruthy();
    await user.type(field, '{Escape}');
    expect(screen.queryByRole('button', { name: 'Keep' })).toBeNull();
    expect(sent(asked)).toEqual([]);
    await user.type(screen.getByDisplayValue('Open all year'), ' round{Enter}');
    await waitFor(() =>
      expect(sent(asked)[0]?.[2]).toEqual({
        at: ['plan'],
        body: { kind: 'callout', text: 'Open all year round' },
        outlets: [],
        status: 'enabled',
      }),
    );
  });

  test('a refusal stands under its field, with what was typed', async () => {
    const { user } = await open([
      changeExtra,
      () => refusing({ code: 'invalid', message: 'There is one like it already.' }),
    ]);
    await user.type(screen.getByDisplayValue('Open all year'), '!{Enter}');
    expect((await screen.findByText('There is one like it already.')).getAttribute('role')).toBe('alert');
    expect(screen.getByDisplayValue('Open all year!')).toBeTruthy();
  });

  test('where it is shown is taken away and added', async () => {
    const { user, asked } = await open([changeExtra, () => ({ revision: 3 })]);
    await user.click(column('Callouts').getByRole('button', { name: /the whole plan/ }));
    await waitFor(() => expect(sent(asked).map(([, , body]) => (body as { at: unknown }).at)).toEqual([[]]));
    expect(column('Phone numbers').getByText(/kept for later/)).toBeTruthy();
    await user.click(column('Phone numbers').getByRole('button', { name: 'Show it for another place' }));
    await user.type(column('Phone numbers').getByLabelText('Show it for'), 'whole{Enter}');
    await waitFor(() => expect(sent(asked).at(-1)?.[1]).toBe('/api/plans/7/extras/5'));
  });

  test('a place is found by its words, be it large or small, and told by its name', async () => {
    const { user, asked } = await open(
      [changeExtra, () => ({ revision: 3 })],
      [listExtras, () => ({ extras: [{ ...kept[1], at: ['k2', 'k9', 'ct1'] }, kept[0]] })],
    );
    const phones = column('Phone numbers');
    expect(await phones.findByText('Crowns › crown repair ×')).toBeTruthy();
    expect(await phones.findByText('Crowns ×')).toBeTruthy();
    expect(phones.getByText('k9, gone ×')).toBeTruthy();
    await user.click(column('Callouts').getByRole('button', { name: 'Show it for another place' }));
    await user.type(column('Callouts').getByLabelText('Show it for'), 'repair');
    await user.click(await column('Callouts').findByRole('button', { name: 'Crowns › crown repair' }));
    await waitFor(() => expect(sent(asked).at(-1)?.[2]).toMatchObject({ at: ['plan', 'k2'] }));
  });

  test('of thousands of places the first are named, the others counted', async () => {
    const at = Array.from({ length: 3_000 }, (_, n) => `k${n + 100}`);
    await open([listExtras, () => ({ extras: [{ ...kept[1], at }, kept[0]] })]);
    expect(await screen.findByText('and 2,988 places more')).toBeTruthy();
  });

  test('one may be for some outlets only', async () => {
    const { user, asked } = await open([changeExtra, () => ({ revision: 3 })]);
    const callouts = column('Callouts');
    await user.selectOptions(callouts.getByLabelText('For which outlet'), 'quillmere');
    await waitFor(() =>
      expect(sent(asked).at(-1)?.[2]).toEqual({
        at: ['plan'],
        body: { kind: 'callout', text: 'Open all year' },
        outlets: ['quillmere'],
        status: 'enabled',
      }),
    );
  });

  test('one is paused and runs again; a campaign with only paused ones has none', async () => {
    const paused = { ...kept[0], status: 'paused' as const };
    const { user, asked } = await open(
      [changeExtra, () => ({ revision: 3 })],
      [listExtras, () => ({ extras: [paused] })],
    );
    expect(await screen.findByText(/Crowns has no extra yet/)).toBeTruthy();
    await user.click(column('Callouts').getByRole('button', { name: 'paused' }));
    await waitFor(() =>
      expect(sent(asked).at(-1)?.[2]).toMatchObject({ status: 'enabled', at: ['plan'], outlets: [] }),
    );
  });

  test('removed is said when it is, not when it was refused', async () => {
    const words = heard();
    const { user } = await open([
      removeExtra,
      () => refusing({ code: 'invalid', message: 'It is shipped.' }),
    ]);
    await user.click(column('Callouts').getByRole('button', { name: 'Remove the extra' }));
    expect((await screen.findByText('It is shipped.')).getAttribute('role')).toBe('alert');
    expect(words()).toEqual([]);
  });
});
