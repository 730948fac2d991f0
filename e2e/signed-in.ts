import type { BrowserContext } from '@playwright/test';
import { forBrowser } from '../scripts/setup/sign-in.mjs';

/** The cookies of those who are signed in, by the address of the server. */
const cookies = new Map<string, string>();

/** From here on the test is signed in there: in its own calls, and in the browser. */
export async function isSignedIn(url: string, cookie: string, context?: BrowserContext): Promise<void> {
  cookies.set(url, cookie);
  await context?.addCookies([forBrowser(cookie, url)]);
}

/** Asks a server as who is signed in there. */
export const fetchSignedIn = (address: string, init: RequestInit = {}): Promise<Response> =>
  fetch(address, {
    ...init,
    headers: {
      ...(init.headers as Record<string, string> | undefined),
      cookie: cookies.get(new URL(address).origin) ?? '',
    },
  });
