/** Signs the owner in, and makes them first where there is nobody. Answers the cookie, as a browser sends it. */
export function signInOwner(url: string, databaseUrl: string): Promise<string>;

/** Signs somebody of the demo in, the one who plans unless named. Answers the cookie. */
export function signInDemo(url: string, name?: string): Promise<string>;

/** A cookie as Playwright takes it. */
export function forBrowser(
  cookie: string,
  url: string,
): { name: string; value: string; url: string; sameSite: 'Strict'; httpOnly: boolean };
