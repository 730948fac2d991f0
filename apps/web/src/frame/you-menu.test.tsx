import { editPreferences, preferencesSchema, readMe } from '@sprig/contracts';
import { screen, waitFor } from '@testing-library/react';
import { Toaster } from 'sonner';
import { expect, test } from 'vitest';
import { meOf, refusing, servedBy, shownAt } from '../testing/rendered.tsx';
import { YouMenu } from './YouMenu.tsx';

test('a setting of one’s own that could not be kept is told, and shown as it is', async () => {
  const preferences = preferencesSchema.parse({});
  servedBy([
    [readMe, () => meOf({ preferences })],
    [editPreferences, () => refusing({ code: 'unavailable', message: 'The disk is full.' })],
  ]);
  const { user } = shownAt(
    '/',
    <>
      <YouMenu />
      <Toaster />
    </>,
  );
  const helps = await screen.findByRole<HTMLInputElement>('checkbox', { name: 'Show one-line helps' });
  await waitFor(() => expect(helps.checked).toBe(true));
  await user.click(helps);
  expect(await screen.findByText('The disk is full.')).toBeTruthy();
  await waitFor(() => expect(helps.checked).toBe(true));
});
