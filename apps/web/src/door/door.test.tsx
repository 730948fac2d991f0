import {
  acceptInvitation,
  enterDemo,
  listPlans,
  makeOwner,
  readDoor,
  readLink,
  readMe,
  signIn,
  signInByCode,
} from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { act, screen, waitFor } from '@testing-library/react';
import { Route, Routes, useLocation } from 'react-router';
import { beforeEach, expect, test } from 'vitest';
import { queryClient } from '../data/query-client.ts';
import { question } from '../data/question.ts';
import { setSignedOut } from '../data/signed-out.ts';
import { meOf, refusing, servedBy, shownAt } from '../testing/rendered.tsx';
import { DoorPage } from './DoorPage.tsx';
import { FirstPage } from './FirstPage.tsx';
import { Guard } from './Guard.tsx';
import { InvitedPage } from './InvitedPage.tsx';

const TOKEN = 'x'.repeat(43);
const outside = { stands: 'outside', isFirst: false, demo: null, sendsMail: true };
const Where = () => <p>at {useLocation().pathname + useLocation().search}</p>;

const Page = () => {
  const { data } = useQuery(question(listPlans));
  return <input aria-label="typed" placeholder={data ? 'there' : 'not yet'} />;
};

beforeEach(() => {
  queryClient.clear();
  setSignedOut(false);
  window.history.replaceState(null, '', '/');
});

test('a password, and a code where one is asked for, lead back to where one wanted to go', async () => {
  const sent = servedBy([
    [readDoor, () => outside],
    [
      signIn,
      ({ body }) =>
        (body as { password: string }).password === 'right'
          ? { next: 'code' }
          : refusing({ code: 'invalid', message: 'Not of an account here.', at: 'password' }),
    ],
    [signInByCode, () => ({ next: 'in' })],
  ]);
  const { user } = shownAt(
    `/door?to=${encodeURIComponent('/plans/7/build?view=rows')}`,
    <Routes>
      <Route path="/door" element={<DoorPage />} />
      <Route path="*" element={<Where />} />
    </Routes>,
  );
  await user.type(await screen.findByLabelText('E-mail'), 'ada@tea.example');
  await user.type(screen.getByLabelText('Password'), 'wrong{Enter}');
  expect((await screen.findByRole('alert')).textContent).toBe('Not of an account here.');
  const password = screen.getByLabelText<HTMLInputElement>('Password');
  expect([password.value, password.getAttribute('aria-invalid')]).toEqual(['wrong', 'true']);
  await user.clear(password);
  await user.type(password, 'right{Enter}');
  await user.type(await screen.findByLabelText('Code of your second factor'), '123 456{Enter}');
  expect(await screen.findByText('at /plans/7/build?view=rows')).toBeTruthy();
  expect(sent.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
    { email: 'ada@tea.example', password: 'wrong' },
    { email: 'ada@tea.example', password: 'right' },
    { code: '123 456' },
  ]);
});

test('people of the demo come in by one click; no password is asked for where nobody has one', async () => {
  const sent = servedBy([
    [
      readDoor,
      () => ({
        ...outside,
        isFirst: true,
        demo: [{ id: 3, name: 'Maren Oakhill', role: 'owner', permissions: ['ship'] }],
      }),
    ],
    [enterDemo, () => ({ next: 'in' })],
  ]);
  const { user } = shownAt(
    '/door',
    <Routes>
      <Route path="/door" element={<DoorPage />} />
      <Route path="*" element={<Where />} />
    </Routes>,
  );
  const button = await screen.findByRole('button', { name: /Maren Oakhill/ });
  expect(button.textContent).toContain('owner, ships');
  expect(screen.queryByLabelText('Password')).toBeNull();
  await user.click(button);
  expect(await screen.findByText('at /')).toBeTruthy();
  expect(sent.at(-1)?.body).toEqual({ person: 3 });
});

test('who is signed out is asked to come in, and from there back', async () => {
  servedBy([[readMe, () => refusing({ code: 'signed-out', message: 'You are signed out.' }, 401)]]);
  shownAt(
    '/plans/7/build?view=rows',
    <Routes>
      <Route path="/door" element={<Where />} />
      <Route element={<Guard />}>
        <Route path="*" element={<p>inside</p>} />
      </Route>
    </Routes>,
  );
  expect(await screen.findByText('at /door?to=%2Fplans%2F7%2Fbuild%3Fview%3Drows')).toBeTruthy();
  expect(screen.queryByText('inside')).toBeNull();
});

test('who is signed out while something is typed comes in above it, and it is still there', async () => {
  let isIn = true;
  servedBy([
    [readMe, () => meOf({ email: 'you@tea.example' })],
    [readDoor, () => outside],
    [
      listPlans,
      () => (isIn ? { plans: [] } : refusing({ code: 'signed-out', message: 'You are signed out.' }, 401)),
    ],
    [
      signIn,
      () => {
        isIn = true;
        return { next: 'in' };
      },
    ],
  ]);
  const { user } = shownAt(
    '/',
    <Routes>
      <Route element={<Guard />}>
        <Route path="*" element={<Page />} />
      </Route>
    </Routes>,
  );
  await user.type(await screen.findByLabelText('typed'), 'half a keyw');
  isIn = false;
  await act(async () => {
    await queryClient.invalidateQueries();
  });
  expect(await screen.findByRole('dialog', { name: 'You were signed out' })).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>('E-mail').value).toBe('you@tea.example');
  await user.type(screen.getByLabelText('Password'), 'right{Enter}');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(screen.getByLabelText<HTMLInputElement>('typed').value).toBe('half a keyw');
});

test('the link that the start command printed makes the owner, and does not stay in the address', async () => {
  window.history.replaceState(null, '', `/door/first#${TOKEN}`);
  const sent = servedBy([
    [makeOwner, () => refusing({ code: 'invalid', message: 'Guessed first.', at: 'password' })],
  ]);
  const { user } = shownAt('/door/first', <FirstPage />);
  await user.type(await screen.findByLabelText('Your name'), 'Mo');
  await user.type(screen.getByLabelText('Name of the workspace'), 'Bright Molar');
  await user.type(screen.getByLabelText('E-mail'), 'mo@molar.example');
  await user.type(screen.getByLabelText('Password'), 'password1234{Enter}');
  expect((await screen.findByRole('alert')).textContent).toBe('Guessed first.');
  expect(window.location.hash).toBe('');
  expect(sent[0]?.body).toMatchObject({ token: TOKEN, name: 'Mo', workspace: 'Bright Molar' });
});

test('an invitation says from whom and to what; an address with an account is asked for its password alone', async () => {
  window.history.replaceState(null, '', `/door/invited#${TOKEN}`);
  const sent = servedBy([
    [
      readLink,
      () => ({
        kind: 'invitation',
        email: 'una@tea.example',
        workspace: '<b>Leaf</b>',
        from: 'Olive',
        role: 'writer',
        isKnown: true,
      }),
    ],
    [acceptInvitation, () => ({ next: 'in' })],
  ]);
  const { user } = shownAt(
    '/door/invited',
    <Routes>
      <Route path="/door/invited" element={<InvitedPage />} />
      <Route path="*" element={<Where />} />
    </Routes>,
  );
  expect((await screen.findByRole('heading')).textContent).toBe('Come to <b>Leaf</b>');
  expect(screen.queryByLabelText('Your name')).toBeNull();
  await user.type(screen.getByLabelText('Your password here'), 'hers{Enter}');
  expect(await screen.findByText('at /')).toBeTruthy();
  expect(sent.at(-1)?.body).toEqual({ token: TOKEN, name: null, password: 'hers' });
});
