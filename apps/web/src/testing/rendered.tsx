import type { Endpoint, Failure, readMe } from '@sprig/contracts';
import { QueryClientProvider } from '@tanstack/react-query';
import { type RenderResult, render } from '@testing-library/react';
import userEvent, { type UserEvent } from '@testing-library/user-event';
import type { ReactElement } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { toast } from 'sonner';
import { vi } from 'vitest';
import type { z } from 'zod';
import { queryClient } from '../data/query-client.ts';

/** What is on the screen, and somebody with a mouse and a keyboard before it. */
export function shown(element: ReactElement): RenderResult & { user: UserEvent } {
  const user = userEvent.setup();
  return { ...render(element), user };
}

/** An answer that the test gives when it wants to. */
export function awaited<T>() {
  let answer: (value: T) => void = () => {};
  let refuse: (error: Error) => void = () => {};
  const promise = new Promise<T>((resolve, reject) => {
    answer = resolve;
    refuse = reject;
  });
  return { promise, answer, refuse };
}

type Handler = (asked: { params: Record<string, string>; body: unknown; query: URLSearchParams }) => unknown;

/**
 * A server as far as a test needs one: what it answers by an endpoint's method and path. `asked` is what was sent, in its
 * order. Something else that is asked for is not there.
 */
export function servedBy(handlers: readonly (readonly [Endpoint, Handler])[]) {
  const asked: { method: string; path: string; body: unknown }[] = [];
  vi.stubGlobal('fetch', async (address: string, { method = 'GET', body }: RequestInit = {}) => {
    const url = new URL(address, 'http://localhost');
    const sent: unknown = typeof body === 'string' ? JSON.parse(body) : undefined;
    asked.push({ method, path: url.pathname, body: sent });
    for (const [endpoint, handler] of handlers) {
      const names: string[] = [];
      const shape = endpoint.path.replace(/:(\w+)/g, (_, name: string) => {
        names.push(name);
        return '([^/]+)';
      });
      const found = new RegExp(`^${shape}$`).exec(url.pathname);
      if (!found || endpoint.method !== method) continue;
      const params = Object.fromEntries(
        names.map((name, at) => [name, decodeURIComponent(found[at + 1] ?? '')]),
      );
      const answer = await handler({ params, body: sent, query: url.searchParams });
      return answer instanceof Response ? answer : Response.json(answer ?? {});
    }
    return Response.json(
      { code: 'not-found', message: `No ${method} ${url.pathname} here.` },
      { status: 404 },
    );
  });
  return asked;
}

/** A refusal of the server. */
export const refusing = (failure: Failure, status = 400): Response => Response.json(failure, { status });

/** What a screen stands in: the application's queries, emptied, and an address. */
export function shownAt(from: string, element: ReactElement, path = '*') {
  queryClient.clear();
  const routes = [
    { path, element },
    { path: '*', element: <p>elsewhere</p> },
  ];
  const router = createMemoryRouter(routes.slice(0, path === '*' ? 1 : 2), { initialEntries: [from] });
  const screen = shown(
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  const address = () => `${router.state.location.pathname}${router.state.location.search}`;
  return { ...screen, address };
}

/** Hears what is told at the foot of the page from now on, by its kind. */
export function heard(): () => { kind: string; words: unknown }[] {
  const before = toast.getHistory().length;
  return () =>
    toast
      .getHistory()
      .slice(before)
      .flatMap((told) => ('title' in told ? [{ kind: told.type ?? 'said', words: told.title }] : []));
}

/** Who is signed in, as far as tests say nothing else: an owner. */
export const meOf = (
  more: Partial<Omit<z.input<typeof readMe.answer>, 'preferences'>> & { preferences?: object } = {},
) => ({
  name: 'You',
  email: 'you@tea.example',
  actor: 1,
  workspace: 'Ours',
  workspaceId: 1,
  workspaces: [{ id: 1, name: 'Ours' }],
  role: 'owner',
  permissions: ['ship', 'approve'],
  hasSecondFactor: false,
  isDemo: false,
  preferences: {},
  ...more,
});
