import { changeExtra, type ExtraView, listExtras, makeExtra, readMe, removeExtra } from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import { heard, refusing, servedBy, shownAt } from '../../testing/rendered.tsx';
import { ExtrasView } from './ExtrasView.tsx';
import { MeasureProvider, measureBy } from './measure.tsx';

const kept: ExtraView[] = [
  { id: 4, at: ['plan'], body: { kind: 'callout', text: 'Open all year' } },
  { id: 5, at: [], body: { kind: 'phone', number: '01632 960123' } },
];
type Handler = Parameters<typeof servedBy>[0][number];

async function open(...more: Handler[]) {
  const asked = servedBy([
    [readMe, () => ({ name: 'You', workspace: 'Ours', preferences: {} })],
    [listExtras, () => ({ extras: kept })],
    ...more,
  ]);
  const screenOf = shownAt(
    '/',
    <MeasureProvider value={measureBy([], '')}>
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
        ['POST', '/api/plans/7/extras', { at: ['plan'], body: { kind: 'callout', text: 'No deposit' } }],
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
    await user.selectOptions(column('Phone numbers').getByRole('combobox', { name: 'Show it for' }), 'plan');
    await waitFor(() => expect(sent(asked).at(-1)?.[1]).toBe('/api/plans/7/extras/5'));
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
