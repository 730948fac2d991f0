import {
  askAcceptance,
  changeMember,
  endToken,
  invitePerson,
  listPeople,
  listPlans,
  listTokens,
  makeToken,
  type Role,
  readAudit,
  readDoor,
  readMailbox,
  readMe,
  removeMember,
} from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { queryClient } from '../../data/query-client.ts';
import { Allowed } from '../../kit/allowed.tsx';
import { meOf, refusing, servedBy, shownAt } from '../../testing/rendered.tsx';
import { PeoplePage } from './PeoplePage.tsx';

beforeEach(() => queryClient.clear());

const member = (actor: number, name: string, role: Role, more: object = {}) => ({
  actor,
  name,
  email: `${actor}@tea.example`,
  role,
  permissions: [],
  hasSecondFactor: false,
  lastSeenAt: null,
  isYou: actor === 1,
  ...more,
});
const open = (members: object[], more: Parameters<typeof servedBy>[0] = [], isOwner = true) => {
  const asked = servedBy([
    [readMe, () => meOf()],
    ...more,
    [readDoor, () => ({ stands: 'in', isFirst: false, demo: null, sendsMail: true })],
    [askAcceptance, () => ({})],
    [listPeople, () => ({ workspace: 'Leaf by Leaf', asksAcceptance: false, members, invitations: [] })],
  ]);
  const page = (
    <Allowed may={(access) => isOwner || access === 'read' || access === 'self'}>
      <PeoplePage />
    </Allowed>
  );
  return { ...shownAt('/people', page), asked };
};

test('an owner gives roles and permissions; a refusal is told, and what was chosen is taken back', async () => {
  const { user, asked } = open(
    [member(1, 'You', 'owner'), member(2, 'Tobin', 'writer')],
    [[changeMember, () => refusing({ code: 'conflict', message: 'Changed meanwhile.' }, 409)]],
  );
  const role = await screen.findByLabelText<HTMLSelectElement>('Role of Tobin');
  await user.selectOptions(role, 'builder');
  expect(asked.at(-1)?.body).toEqual({
    before: { role: 'writer', permissions: [] },
    after: { role: 'builder', permissions: [] },
  });
  expect(role.value).toBe('writer');
  const line = role.closest('li') as HTMLElement;
  await user.click(within(line).getByRole('checkbox', { name: 'ships' }));
  expect(asked.at(-1)?.body).toMatchObject({ after: { role: 'writer', permissions: ['ship'] } });
  expect(within(line).getByRole('checkbox', { name: 'approves' })).toBeTruthy();
  // An owner may do all of it: there is nothing to tick.
  const own = screen.getByLabelText('Role of You').closest('li') as HTMLElement;
  for (const box of within(own).getAllByRole<HTMLInputElement>('checkbox'))
    expect([box.checked, box.disabled]).toEqual([true, true]);
});

test('to be the last owner is told in the dialog, which stays', async () => {
  const { user } = open(
    [member(1, 'You', 'owner')],
    [
      [
        removeMember,
        () => refusing({ code: 'blocked', message: 'Nobody but You owns this workspace.' }, 422),
      ],
    ],
  );
  await user.click(await screen.findByRole('button', { name: 'Take You out of the workspace' }));
  const dialog = screen.getByRole('dialog', { name: 'Take You out' });
  await user.click(within(dialog).getByRole('button', { name: 'Take You out' }));
  expect((await within(dialog).findByRole('alert')).textContent).toBe('Nobody but You owns this workspace.');
});

test('a reader sees who is here, and changes nothing', async () => {
  open([member(1, 'You', 'owner', { email: null }), member(2, '<i>Ada</i>', 'reader')], [], false);
  expect(await screen.findByText('<i>Ada</i>')).toBeTruthy();
  expect(screen.queryByRole('combobox')).toBeNull();
  expect(screen.queryByRole('button', { name: /Invite|Take/ })).toBeNull();
});

test('ten thousand people: some stand here, and any is found by its name', async () => {
  const many = Array.from({ length: 10_000 }, (_, at) => member(at + 1, `Person ${at + 1}`, 'reader'));
  const { user } = open(many, [], false);
  const list = await screen.findByRole('list', { name: 'Members' });
  expect(within(list).getAllByRole('listitem')).toHaveLength(200);
  expect(screen.getByText('9,800 more: type a name.')).toBeTruthy();
  await user.type(screen.getByLabelText('Filter people'), 'person 7777');
  expect(within(list).getAllByRole('listitem')).toHaveLength(1);
});

test('a guest is invited to plans; where no mail leaves the server the link is shown to be handed on', async () => {
  const plan = {
    currency: 'GBP',
    language: 'en',
    site: '',
    archived: false,
    keywords: 0,
    createdAt: '',
    changedAt: '',
  };
  const { user, asked } = open(
    [member(1, 'You', 'owner')],
    [
      [listPlans, () => ({ plans: [{ ...plan, id: 7, name: 'Teas' }] })],
      [invitePerson, () => ({ id: 4, link: 'http://127.0.0.1:4600/door/invited#abc' })],
    ],
  );
  await user.click(await screen.findByRole('button', { name: 'Invite somebody' }));
  const dialog = () => screen.getByRole('dialog');
  await user.type(within(dialog()).getByLabelText('E-mail'), 'client@shop.example');
  await user.selectOptions(within(dialog()).getByLabelText('Role'), 'guest');
  const send = within(dialog()).getByRole<HTMLButtonElement>('button', { name: 'Send the invitation' });
  expect(send.disabled).toBe(true);
  await user.selectOptions(await within(dialog()).findByLabelText('What the guest does in Teas'), 'reader');
  await user.click(send);
  const link = await screen.findByLabelText<HTMLInputElement>('Link of the invitation');
  expect(link.value).toBe('http://127.0.0.1:4600/door/invited#abc');
  expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({
    email: 'client@shop.example',
    role: 'guest',
    permissions: [],
    plans: [{ plan: 7, role: 'reader' }],
  });
});

test('what happened is told a page at a time', async () => {
  const entry = (id: number) => ({
    id,
    at: '2026-12-01T10:00:00Z',
    kind: 'signed-in',
    name: `Person ${id}`,
    about: '',
    address: '127.0.0.1',
  });
  const { user } = open(
    [member(1, 'You', 'owner')],
    [
      [
        readAudit,
        ({ query }) =>
          query.get('before') === '2'
            ? { entries: [entry(1)], total: 3 }
            : { entries: [entry(3), entry(2)], total: 3 },
      ],
    ],
  );
  await user.click(await screen.findByRole('button', { name: 'What happened' }));
  const list = await screen.findByRole('list', { name: 'Audit trail' });
  expect(within(list).getAllByRole('listitem')).toHaveLength(2);
  await user.click(screen.getByRole('button', { name: '1 older' }));
  expect(await within(list).findByText('Person 1')).toBeTruthy();
});

test('mails of the demo, which leave for nowhere, are read here', async () => {
  const { user } = open(
    [member(1, 'You', 'owner')],
    [
      [readDoor, () => ({ stands: 'in', isFirst: true, demo: [], sendsMail: false })],
      [
        readMailbox,
        () => ({
          mails: [
            { id: 1, to: 'a@b.example', subject: 'Come', text: 'Here: <b>', sentAt: '2026-12-01T10:00:00Z' },
          ],
        }),
      ],
    ],
  );
  await user.click(await screen.findByRole('button', { name: 'Mails of the demo' }));
  expect((await screen.findByRole('list', { name: 'Mails' })).textContent).toContain('Here: <b>');
});

test('a token is made for a plan, shown once, and ended', async () => {
  const plan = {
    currency: 'GBP',
    language: 'en',
    site: '',
    archived: false,
    keywords: 0,
    createdAt: '',
    changedAt: '',
  };
  let tokens: object[] = [];
  const { user, asked } = open(
    [member(1, 'You', 'owner')],
    [
      [listPlans, () => ({ plans: [{ ...plan, id: 7, name: 'Teas' }] })],
      [listTokens, () => ({ tokens })],
      [
        makeToken,
        () => {
          const made = { madeAt: '2026-12-01T10:00:00Z', usedAt: null, endsAt: '2026-12-31T10:00:00Z' };
          tokens = [
            {
              id: 4,
              name: 'Nightly',
              role: 'writer',
              permissions: ['ship'],
              plan: { id: 7, name: 'Teas' },
              from: 'You',
              ...made,
            },
          ];
          return { id: 4, token: 'sprig_abc' };
        },
      ],
      [
        endToken,
        () => {
          tokens = [];
        },
      ],
    ],
  );
  await user.click(await screen.findByRole('button', { name: 'Tokens' }));
  await user.click(screen.getByRole('button', { name: 'Make a token' }));
  const dialog = screen.getByRole('dialog');
  await user.type(within(dialog).getByLabelText('Name of the token'), 'Nightly');
  await user.selectOptions(within(dialog).getByLabelText('Role of the token'), 'writer');
  await within(dialog).findByRole('option', { name: 'Teas' });
  await user.selectOptions(within(dialog).getByLabelText('Plan of the token'), 'Teas');
  await user.click(within(dialog).getByRole('checkbox', { name: /ships/ }));
  await user.click(within(dialog).getByRole('button', { name: 'Make the token' }));
  expect((await screen.findByLabelText<HTMLInputElement>('The token')).value).toBe('sprig_abc');
  expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({
    name: 'Nightly',
    role: 'writer',
    permissions: ['ship'],
    plan: 7,
    days: 30,
  });
  await user.click(screen.getByRole('button', { name: 'Done' }));
  const list = await screen.findByRole('list', { name: 'Tokens' });
  expect(list.textContent).toContain('writer, ships in Teas');
  await user.click(within(list).getByRole('button', { name: 'End the token Nightly' }));
  await waitFor(() => expect(screen.queryByRole('list', { name: 'Tokens' })).toBeNull());
});

test('that ads be accepted is asked by owners, and says who may accept', async () => {
  const { user, asked } = open([member(1, 'Olive', 'owner')]);
  const box = await screen.findByRole('checkbox', { name: /^Ads ship only once/ });
  await user.click(box);
  expect(asked.filter(({ method }) => method === 'PATCH').map(({ path, body }) => [path, body])).toEqual([
    ['/api/people/acceptance', { asks: true }],
  ]);
});

test('others see whether it is asked, and can’t change it', async () => {
  open([member(1, 'Olive', 'reader')], [], false);
  const box = await screen.findByRole('checkbox', { name: /^Ads ship only once/ });
  expect((box as HTMLInputElement).disabled).toBe(true);
});
