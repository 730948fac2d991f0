import { act } from '@testing-library/react';
import type { ReactElement } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { expect, test } from 'vitest';
import { awaited, shown } from '../testing/rendered.tsx';
import { useAddress } from './address.ts';

let address: ReturnType<typeof useAddress>;
const Shown = () => {
  address = useAddress();
  return <p>{address[0].toString()}</p>;
};

test('the way back goes from view to view, not letter by letter of what was typed', async () => {
  const router = createMemoryRouter([{ path: '/', element: <Shown /> }], { initialEntries: ['/'] });
  shown(<RouterProvider router={router} />);
  await act(async () => address[1]({ view: 'ads' }));
  for (const filter of ['r', 're', 'red']) await act(async () => address[1]({ filter }));
  expect(address[0].toString()).toBe('view=ads&filter=red');
  await act(async () => {
    await router.navigate(-1);
  });
  expect(address[0].toString()).toBe('');
});

test('what is set shows at once, and several at a time are all kept', async () => {
  const router = createMemoryRouter([{ path: '/', element: <Shown /> }], { initialEntries: ['/?view=ads'] });
  shown(<RouterProvider router={router} />);
  await act(async () => {
    address[1]({ filter: 'a' });
    address[1]({ sort: 'name' });
    address[1]({ view: '' });
  });
  expect(router.state.location.search).toBe('?filter=a&sort=name');
});

test('what ends when its screen has been left does not lead back to it', async () => {
  const routes = [
    { path: '/ship', element: <Shown /> },
    { path: '/brief', element: <p>the brief</p> },
  ];
  const router = createMemoryRouter(routes, { initialEntries: ['/ship'] });
  shown(<RouterProvider router={router} />);
  const [, set] = address;
  await act(async () => {
    await router.navigate('/brief');
  });
  await act(async () => set({ receipt: 'r1' }));
  expect([router.state.location.pathname, router.state.location.search]).toEqual(['/brief', '']);
});

test('what ends while the next screen is still loaded does not keep one from it', async () => {
  const loaded = awaited<{ element: ReactElement }>();
  const routes = [
    { path: '/ship', element: <Shown /> },
    { path: '/brief', lazy: () => loaded.promise },
  ];
  const router = createMemoryRouter(routes, { initialEntries: ['/ship'] });
  shown(<RouterProvider router={router} />);
  await act(async () => void router.navigate('/brief'));
  expect(router.state.navigation.state).toBe('loading');
  await act(async () => address[1]({ receipt: 'r1' }));
  await act(async () => loaded.answer({ element: <p>the brief</p> }));
  expect([router.state.location.pathname, router.state.location.search]).toEqual(['/brief', '']);
});
