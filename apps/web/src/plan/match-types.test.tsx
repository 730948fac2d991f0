import { changeTypes } from '@sprig/contracts';
import { setOf } from '@sprig/core/match';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../testing/rendered.tsx';
import { MatchTypesOf } from './MatchTypes.tsx';

const none = { broad: 0, modified: 0, phrase: 0, exact: 0 };

test('match types of many keywords: which, before and after, those that would have none; nothing chosen does nothing', async () => {
  const asked = servedBy([
    [
      changeTypes,
      () => ({
        revision: 4,
        keywords: 3,
        changed: 2,
        bare: 1,
        before: { ...none, phrase: 3 },
        after: { ...none, phrase: 1, exact: 2 },
        samples: [{ id: 5, text: 'gum care', before: setOf(['phrase']), after: setOf(['phrase', 'exact']) }],
      }),
    ],
  ]);
  const { user } = shownAt(
    '/',
    <MatchTypesOf plan={7} scope={{ keywords: [5, 6, 7] }} what="3 keywords" onClose={() => {}} />,
  );
  await screen.findByText(/1 keyword would be left with none/);
  await user.selectOptions(screen.getByLabelText('What to do with the match types'), 'take');
  expect(screen.getByText('Choose a match type.')).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Change 0 keywords' }).disabled).toBe(true);
  await user.click(screen.getByRole('button', { name: 'phrase' }));
  const apply = await screen.findByRole<HTMLButtonElement>('button', { name: 'Change 2 keywords' });
  await waitFor(() => expect(apply.disabled).toBe(false));
  expect(screen.getByText('3 → 1')).toBeTruthy();
  const [, row] = within(screen.getByRole('table')).getAllByRole('row');
  expect(row?.textContent).toContain('gum care');
  await user.click(apply);
  await waitFor(() =>
    expect(asked.filter(({ body }) => (body as { dry: boolean } | undefined)?.dry === false)).toMatchObject([
      { body: { scope: { keywords: [5, 6, 7] }, change: { kind: 'take', types: setOf(['phrase']) } } },
    ]),
  );
});
