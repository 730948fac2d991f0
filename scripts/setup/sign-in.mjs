import { createHash, randomBytes } from 'node:crypto';
import pg from 'pg';

/** The owner of tests and measurements. */
const EMAIL = 'owner@made-up.example';
const PASSWORD = 'teal lantern forty gravel';

const post = (url, path, body) =>
  fetch(`${url}/api/door/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });

/** The cookie of an answer, as a browser sends it; fails where there is none. */
async function cookieOf(answer) {
  const [cookie] = answer.headers.getSetCookie();
  if (!answer.ok || !cookie) throw new Error(`Nobody was signed in: ${answer.status} ${await answer.text()}`);
  return cookie.split(';')[0];
}

/**
 * Signs the owner in at a server of tests or measurements, and makes them first where there is nobody: by a link as the start
 * command prints it, put into the server's database. Answers the cookie.
 */
export async function signInOwner(url, databaseUrl) {
  const known = await post(url, 'sign-in', { email: EMAIL, password: PASSWORD });
  if (known.ok) return cookieOf(known);
  const token = randomBytes(32).toString('base64url');
  const key = createHash('sha256').update(token).digest('base64url');
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query(
      `insert into links (key, kind, ends_at) values ($1, 'owner', now() + interval '1 hour')`,
      [key],
    );
  } finally {
    await client.end();
  }
  return cookieOf(
    await post(url, 'first', {
      token,
      name: 'You',
      email: EMAIL,
      password: PASSWORD,
      workspace: 'Workspace',
    }),
  );
}

/** Signs somebody of the demo in, the one who plans unless named. */
export async function signInDemo(url, name = 'Maren Oakhill') {
  const { demo } = await (await fetch(`${url}/api/door`)).json();
  const person = demo?.find((one) => one.name === name)?.id;
  return cookieOf(await post(url, 'demo', { person }));
}

/** A cookie as Playwright takes it. */
export function forBrowser(cookie, url) {
  const at = cookie.indexOf('=');
  return { name: cookie.slice(0, at), value: cookie.slice(at + 1), url, sameSite: 'Strict', httpOnly: true };
}
