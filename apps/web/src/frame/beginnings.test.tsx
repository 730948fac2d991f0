import { editPreferences, preferencesSchema, readMe } from '@sprig/contracts';
import { emptyRecipe } from '@sprig/core/mix';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, test, vi } from 'vitest';
import { meOf, refusing, servedBy, shownAt } from '../testing/rendered.tsx';
import { Beginnings } from './Beginnings.tsx';

function open(kept: object = {}, answer?: () => unknown) {
  const preferences = { ...preferencesSchema.parse({}), ...kept };
  const onClose = vi.fn();
  const asked = servedBy([
    [readMe, () => meOf({ preferences })],
    [
      editPreferences,
      answer ??
        (({ body }: { body: unknown }) => meOf({ preferences: { ...preferences, ...(body as object) } })),
    ],
  ]);
  return { ...shownAt('/', <Beginnings onClose={onClose} />), asked, onClose };
}
const sent = (asked: { method: string; body: unknown }[]) =>
  asked.flatMap(({ method, body }) => (method === 'PATCH' ? [body] : []));

describe('what new plans begin with', () => {
  test('match types, ads and a bid in its currency are kept; what is as usual is kept as nothing', async () => {
    const { user, asked, onClose } = open();
    await user.click(await screen.findByRole('checkbox', { name: 'phrase' }));
    fireEvent.change(screen.getByRole('textbox', { name: 'Default bid' }), { target: { value: '0.75' } });
    fireEvent.change(screen.getByRole('textbox', { name: 'Currency of the default bid' }), {
      target: { value: 'eur' },
    });
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(sent(asked)).toEqual([
      {
        newPlans: {
          matchTypes: ['exact'],
          adForms: null,
          defaultBid: { amount: 750_000, currency: 'EUR' },
        },
      },
    ]);
  });

  test('what can’t be is told before it is sent; a refusal after', async () => {
    const { user, asked, onClose } = open({}, () =>
      refusing({ code: 'invalid', message: 'There is no such currency.' }),
    );
    const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
    await user.click(await screen.findByRole('checkbox', { name: 'plain' }));
    expect(screen.getByRole('alert').textContent).toBe('Choose one kind of ad at least.');
    expect(keep().disabled).toBe(true);
    await user.click(screen.getByRole('checkbox', { name: 'assembled' }));
    fireEvent.change(screen.getByRole('textbox', { name: 'Default bid' }), { target: { value: '0' } });
    expect(keep().disabled).toBe(true);
    fireEvent.change(screen.getByRole('textbox', { name: 'Default bid' }), { target: { value: '1' } });
    await user.click(keep());
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('There is no such currency.'));
    expect(sent(asked)).toHaveLength(1);
    expect(onClose).not.toHaveBeenCalled();
  });

  test('a kept beginning is named, and let go', async () => {
    const { user, asked } = open({ newRecipe: emptyRecipe('Goods and places') });
    await screen.findByText('Goods and places');
    await user.click(screen.getByRole('button', { name: 'no more' }));
    await waitFor(() => expect(sent(asked)).toEqual([{ newRecipe: null }]));
    await waitFor(() => expect(screen.queryByText('Goods and places')).toBeNull());
  });
});
