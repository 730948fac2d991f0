import { keepOutlet, readMe, removeOutlet } from '@sprig/contracts';
import { type Outlet, plainOutlet } from '@sprig/core/outlets';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, test } from 'vitest';
import { heard, meOf, refusing, servedBy, shownAt } from '../../testing/rendered.tsx';
import { OutletsView } from './OutletsView.tsx';

const own: Outlet = { ...structuredClone(plainOutlet), key: 'ours', name: 'Ours' };
const known = [
  { outlet: plainOutlet, own: false, chosen: true },
  { outlet: own, own: true, chosen: false },
];
type Handler = Parameters<typeof servedBy>[0][number];

function Shown() {
  const [wanted, setWanted] = useState('');
  return (
    <OutletsView
      plan={{ id: 7, brief: { currency: 'GBP' }, counts: { keywords: 0 } } as never}
      outlets={known}
      wanted={wanted}
      onOutlet={setWanted}
    />
  );
}
function open(...more: Handler[]) {
  const asked = servedBy([[readMe, () => meOf()], ...more]);
  return { ...shownAt('/', <Shown />), asked };
}
const nav = () => within(screen.getByRole('navigation', { name: 'All outlets' }));
const sent = (asked: { method: string; path: string; body: unknown }[]) =>
  asked.filter(({ method }) => method !== 'GET').map(({ method, path }) => `${method} ${path}`);
const nameField = () => screen.getByDisplayValue<HTMLInputElement>(/^(Ours|Plain sheets)/);

describe('outlets', () => {
  test('one that comes with the product stays as it is; its copy is kept under a key of its own', async () => {
    const { user, asked } = open([keepOutlet, () => ({ revision: 3 })]);
    expect(screen.getByText(/stays as it is/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Keep/ })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Copy' }));
    expect(nav().getByText('not kept yet')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: `Keep ${plainOutlet.name} (copy)` }));
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    const [put] = asked.filter(({ method }) => method !== 'GET');
    expect(put?.path).toMatch(/\/outlets\/plain-sheets-copy$/);
    expect(put?.body).toMatchObject({ isNew: true, outlet: { key: 'plain-sheets-copy' } });
  });

  test('what is changed of one’s own is kept, or dropped; unchanged there is nothing to keep', async () => {
    const { user, asked } = open([keepOutlet, () => ({ revision: 3 })]);
    await user.click(nav().getByRole('button', { name: /^Ours/ }));
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Keep Ours' }).disabled).toBe(true);
    fireEvent.change(nameField(), { target: { value: 'Ours too' } });
    await user.click(screen.getByRole('button', { name: 'Drop the changes' }));
    expect(nameField().value).toBe('Ours');
    fireEvent.change(nameField(), { target: { value: 'Ours too' } });
    await user.click(screen.getByRole('button', { name: 'Keep Ours too' }));
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    expect(asked.find(({ method }) => method !== 'GET')?.body).toMatchObject({
      isNew: false,
      outlet: { key: 'ours', name: 'Ours too' },
    });
  });

  test('a refusal is told, and what was changed stays', async () => {
    const words = heard();
    const { user } = open([
      keepOutlet,
      () => refusing({ code: 'invalid', message: 'Another is called that.' }),
    ]);
    await user.click(nav().getByRole('button', { name: /^Ours/ }));
    fireEvent.change(nameField(), { target: { value: 'Ours too' } });
    await user.click(screen.getByRole('button', { name: 'Keep Ours too' }));
    await waitFor(() => expect(words()).toEqual([{ kind: 'error', words: 'Another is called that.' }]));
    expect(nameField().value).toBe('Ours too');
  });

  test('one that the plan ships to can’t be removed, another can', async () => {
    const { user, asked } = open([removeOutlet, () => ({ revision: 3 })]);
    expect(screen.queryByRole('button', { name: 'Remove' })).toBeNull();
    await user.click(nav().getByRole('button', { name: /^Ours/ }));
    await user.click(screen.getByRole('button', { name: 'Remove' }));
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    expect(sent(asked)[0]).toMatch(/^DELETE .*\/outlets\/ours$/);
  });

  test('from JSON: what is wrong is told with its place; what is right is looked at before it is kept', async () => {
    const { user, asked } = open();
    await user.click(screen.getByRole('button', { name: 'From JSON' }));
    const field = screen.getByRole('textbox', { name: 'An outlet as JSON' });
    const look = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Look at/ });
    fireEvent.change(field, { target: { value: '{ "name": ' } });
    expect(screen.getByRole('alert')).toBeTruthy();
    expect(look().disabled).toBe(true);
    fireEvent.change(field, { target: { value: JSON.stringify({ ...own, encoding: 'morse' }) } });
    expect(screen.getByRole('alert').textContent).toContain('encoding');
    fireEvent.change(field, { target: { value: JSON.stringify(own) } });
    await user.click(look());
    // Its key is taken already: it gets another.
    expect(nav().getByText('not kept yet')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Keep Ours' }).disabled).toBe(false);
    expect(sent(asked)).toEqual([]);
  });

  test('a check of its own: added, told what is wrong with it, mended and kept', async () => {
    const { user, asked } = open([keepOutlet, () => ({ revision: 3 })]);
    await user.click(nav().getByRole('button', { name: /^Ours/ }));
    await user.click(screen.getByRole('button', { name: 'One more check' }));
    const part = within(screen.getByRole('region', { name: 'Checks of its own' }));
    expect(part.getByRole('alert').textContent).toBe('Say which text is looked for.');
    fireEvent.change(part.getByRole('textbox', { name: 'Text that is looked for, 1' }), {
      target: { value: 'best' },
    });
    expect(part.queryByRole('alert')).toBeNull();
    await user.selectOptions(part.getByRole('combobox', { name: 'How it is told, 1' }), 'blocker');
    await user.selectOptions(screen.getByRole('combobox', { name: 'Clock of the account' }), 'Asia/Tokyo');
    await user.click(screen.getByRole('button', { name: 'Keep Ours' }));
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    expect(asked.find(({ method }) => method !== 'GET')?.body).toMatchObject({
      outlet: {
        timeZone: 'Asia/Tokyo',
        checks: [{ value: 'headline1', kind: null, is: 'with', text: 'best', severity: 'blocker' }],
      },
    });
  });

  test.each([
    ['Most characters of a keyword', '1,000', '1000', false],
    ['Most characters of a keyword', '1,5', null, true],
    ['Least bid', '0,25', '0.25', false],
    ['Least bid', 'some', null, true],
  ])('“%s” takes “%s” for %s', async (label, typed, kept, isBad) => {
    const { user } = open();
    await user.click(nav().getByRole('button', { name: /^Ours/ }));
    const field = screen.getByRole<HTMLInputElement>('textbox', { name: label });
    const before = field.value;
    fireEvent.change(field, { target: { value: typed } });
    expect(field.getAttribute('aria-invalid')).toBe(String(isBad));
    fireEvent.blur(field);
    // What is no number stays as it was typed, and nothing is kept until it is one, or dropped.
    expect(field.value).toBe(kept ?? typed);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Keep Ours/ }).disabled).toBe(isBad);
    await user.click(screen.getByRole('button', { name: 'Drop the changes' }));
    expect(field.value).toBe(before);
  });
});
