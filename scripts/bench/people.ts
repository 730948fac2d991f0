import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { HERE_SOCKET, newThemeOf } from '@sprig/contracts';
import { manyKeywords } from '@sprig/market';
import pg from 'pg';
import { WebSocket } from 'ws';
import { hashPassword } from '../../apps/server/src/people/passwords.ts';
import { CHANNEL } from '../../apps/server/src/platform/jobs/notify.ts';
import { Spaced } from '../../apps/web/src/frame/spaced.ts';
import { median } from './measure.ts';
import type { Measured } from './measured-apart.ts';
import {
  type Api,
  type Figure,
  jobsDone,
  planOf,
  type Server,
  startServer,
  takeIn,
  textOf,
  URL_HERE,
} from './server.ts';

const PEOPLE = 50;
const EDITING_MS = 60_000;
/** Between two edits of one person. */
const EDIT_MS = [3_000, 6_000] as const;
/** As a window says that it is there. */
const AGAIN_MS = 20_000;
/** As the application tells that a field was left. */
const LEFT_MS = 4_000;
/** Before what was busy is sent again. */
const BUSY_MS = 300;
/** Until the last edit is built, and every window has read it. */
const QUIET_MS = 15_000;
const PASSWORD = 'seventeen quiet harbour lamps';
const KEYWORDS = 5_000;
const SIGN_INS = 9;
/** By so many turns of so long it is found what it costs that one says where one is. */
const TURNS = 8;
const TURN_MS = 4_000;
const APART_MS = 45;
const TOLD_MS = 250;

const share = (part: number) => `${(100 * part).toFixed(1)}%`;
const ms = (value: number) => `${value.toFixed(0)} ms`;
const at95 = (times: readonly number[]) =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? 0;
const rest = (time: number) => new Promise((done) => setTimeout(done, time));

/** Many people at one plan at once, signing in, and what presence costs. */
export async function peopleMeasured(): Promise<Measured> {
  // All of them ask from one address here, as many who share one do.
  const server = await startServer({ RATE_LIMIT_PER_MINUTE: '1000000' });
  try {
    const plan = await planOf(server.api);
    await takeIn(server.api, plan, textOf(manyKeywords(KEYWORDS)));
    const { ids } = (await server.api('POST', `/plans/${plan}/themes`, {
      parent: null,
      themes: Array.from({ length: PEOPLE }, (_, n) => newThemeOf(`Theme of ${n}`, null)),
    })) as { ids: number[] };
    await jobsDone(server.api, plan, 'rebuild');
    const cookies: string[] = [];
    for (let n = 0; n < PEOPLE; n++) cookies.push(await joined(server.api, n));
    const figures = [...(await signingIn()), ...(await together(server, plan, cookies, ids))];
    return { entries: [], figures };
  } finally {
    await server.stop();
  }
}

const emailOf = (n: number) => `person-${n}@bench.example`;

async function joined(api: Api, n: number): Promise<string> {
  const { link } = await api('POST', '/people/invitations', {
    email: emailOf(n),
    role: 'builder',
    permissions: [],
  });
  const answer = await post('/door/invitation', {
    token: String(link).split('#')[1],
    name: `Builder ${n}`,
    password: PASSWORD,
  });
  return cookieOf(answer);
}

const post = (path: string, body: unknown) =>
  fetch(`${URL_HERE}/api${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });

async function cookieOf(answer: Response): Promise<string> {
  if (!answer.ok) throw new Error(await answer.text());
  return answer.headers.getSetCookie()[0]?.split(';')[0] ?? '';
}

async function signingIn(): Promise<Figure[]> {
  let n = 0;
  const whole = await median(SIGN_INS, async () =>
    cookieOf(await post('/door/sign-in', { email: emailOf(n++ % PEOPLE), password: PASSWORD })),
  );
  const hashing = await median(SIGN_INS, () => hashPassword(PASSWORD));
  return [
    { name: 'signing in, median', value: ms(whole), target: '300 ms' },
    { name: 'of which the password is hashed, median', value: ms(hashing), target: '250 ms' },
  ];
}

/** A window as the browser has it: it hears of changes, and reads the plan again, one reading at a time. */
class Window {
  readonly times: number[] = [];
  name: string;
  /** By which the server knows it. */
  private stream = '';
  /** Whether it reads again what it hears of. */
  heeds = true;
  private socket: WebSocket | null = null;
  /** As often as the application does. */
  private readonly spaced = new Spaced<string>(
    () => void this.read(),
    () => PEOPLE - 1,
  );
  private readonly ends = new AbortController();

  constructor(
    private readonly cookie: string,
    private readonly plan: number,
    private readonly theme: number,
    n: number,
  ) {
    this.name = `Theme of ${n}`;
  }

  private ask(method: string, path: string, body?: unknown) {
    return fetch(`${URL_HERE}/api/plans/${this.plan}${path}`, {
      method,
      headers: { cookie: this.cookie, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  }

  async listen(): Promise<void> {
    const { body } = await fetch(`${URL_HERE}/api/plans/${this.plan}/events`, {
      headers: { cookie: this.cookie },
      signal: this.ends.signal,
    });
    void (async () => {
      try {
        const decoder = new TextDecoder();
        // Who is where is shown, and nothing is read again for it.
        for await (const chunk of body ?? []) {
          const told = decoder.decode(chunk as Uint8Array);
          this.stream = /"stream":"([^"]+)"/.exec(told)?.[1] ?? this.stream;
          if (this.heeds && /"type" ?: ?"(?!here"|listening")/.test(told)) this.spaced.add('plan');
        }
      } catch {
        // It was left.
      }
    })();
  }

  /** What a window in Sort reads again. */
  private async read(): Promise<void> {
    const read = (path: string) =>
      this.ask('GET', path)
        .then((answer) => answer.arrayBuffer())
        .catch(() => {});
    await Promise.all(['', '/sort'].map(read));
  }

  /** Says where it is as the application does, over a socket. */
  async announce(field = ''): Promise<void> {
    this.socket ??= new WebSocket(`${URL_HERE.replace('http', 'ws')}${HERE_SOCKET}?stream=${this.stream}`, {
      origin: URL_HERE,
    });
    if (this.socket.readyState === WebSocket.CONNECTING) await once(this.socket, 'open');
    if (this.socket.readyState !== WebSocket.OPEN) throw new Error('a socket was closed');
    this.socket.send(JSON.stringify({ place: 'sort', field }));
  }

  /** Renames its theme; what is busy for a moment is sent again, as the application does. */
  async edit(next: string): Promise<void> {
    const start = performance.now();
    for (;;) {
      const answer = await this.ask('PATCH', `/themes/${this.theme}`, {
        edits: [{ at: 'name', before: this.name, after: next }],
      });
      if (answer.ok) break;
      const { code, message } = (await answer.json()) as { code: string; message: string };
      if (code !== 'busy') throw new Error(message);
      await rest(BUSY_MS);
    }
    this.times.push(performance.now() - start);
    this.name = next;
  }

  leave(): void {
    this.spaced.stop();
    this.socket?.terminate();
    this.ends.abort();
  }
}

async function together(
  { api, pid }: Server,
  plan: number,
  cookies: readonly string[],
  themes: readonly number[],
): Promise<Figure[]> {
  const windows = cookies.map((cookie, n) => new Window(cookie, plan, themes[n] as number, n));
  for (const window of windows) await window.listen();
  try {
    return await edited(api, pid, plan, themes, windows);
  } finally {
    for (const window of windows) window.leave();
  }
}

async function edited(
  api: Api,
  pid: number,
  plan: number,
  themes: readonly number[],
  windows: readonly Window[],
): Promise<Figure[]> {
  const [before, stolenBefore] = [cpuMs(pid), machineMs()];
  const until = performance.now() + EDITING_MS;
  let announced = 0;
  await Promise.all(
    windows.map(async (window, n) => {
      let left = performance.now();
      let again = performance.now() + Math.random() * AGAIN_MS;
      for (let edits = 1; performance.now() < until; edits++) {
        await rest(EDIT_MS[0] + Math.random() * (EDIT_MS[1] - EDIT_MS[0]));
        // The field is told when it is entered, and when it was left for a while.
        if (performance.now() - left > LEFT_MS) {
          await window.announce();
          announced++;
        }
        await window.announce(`name of ${window.name}`);
        await window.edit(`Theme of ${n}, ${edits}`);
        left = performance.now();
        announced++;
        if (performance.now() > again) {
          await window.announce();
          announced++;
          again += AGAIN_MS;
        }
      }
    }),
  );
  const [spent, now] = [cpuMs(pid) - before, machineMs()];
  const stolen = (now.stolen - stolenBefore.stolen) / (now.all - stolenBefore.all);
  const times = windows.flatMap((window) => window.times);
  const { themes: kept } = (await api('GET', `/plans/${plan}/sort`)) as {
    themes: { id: number; name: string }[];
  };
  const names = new Map(kept.map(({ id, name }) => [id, name]));
  const lost = windows.filter(({ name }, n) => names.get(themes[n] as number) !== name).length;
  await rest(QUIET_MS);
  const each = await costOfPresence(pid, plan, windows);
  return [
    {
      name: `${PEOPLE} people editing one plan for a minute, an edit each every 3 to 6 seconds: 95th percentile`,
      value: `${ms(at95(times))} of ${times.length}`,
      target: '400 ms',
    },
    { name: 'of the machine’s time that others took meanwhile', value: share(stolen), target: '–' },
    { name: 'and edits that were lost', value: String(lost), target: '0' },
    {
      name: 'share of the server’s time that saying who is where took meanwhile',
      value: share((announced * each) / spent),
      target: '2%',
    },
  ];
}

/** Processor time that a server has taken, in milliseconds. */
function cpuMs(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? [];
  return (Number(fields[11]) + Number(fields[12])) * 10;
}

/** The machine's time since it began, and what of it other machines on the same hardware took: a virtual one may wait for them. */
function machineMs(): { all: number; stolen: number } {
  const times = /^cpu +(.*)/.exec(readFileSync('/proc/stat', 'utf8'))?.[1]?.split(' ').map(Number) ?? [];
  return { all: 10 * times.slice(0, 8).reduce((sum, time) => sum + time, 0), stolen: 10 * (times[7] ?? 0) };
}

/** What a server spends while something is done, in milliseconds of its processor and of the clock. */
async function spentMs(pid: number, work: () => Promise<unknown>): Promise<{ cpu: number; wall: number }> {
  const [before, start] = [cpuMs(pid), performance.now()];
  await work();
  return { cpu: cpuMs(pid) - before, wall: performance.now() - start };
}

/**
 * What it costs the server that one says where they are, in milliseconds of its processor. While many edit, something is told to
 * every window a few times a second anyway, and what is said goes with it: so it is here too, with and without it by turns.
 */
async function costOfPresence(pid: number, plan: number, windows: readonly Window[]): Promise<number> {
  for (const window of windows) window.heeds = false;
  const database = new pg.Client({ connectionString: process.env.DATABASE_URL });
  await database.connect();
  const event = JSON.stringify({ type: 'work', plan });
  const told = setInterval(() => void database.query(`select pg_notify($1, $2)`, [CHANNEL, event]), TOLD_MS);
  const rates = { without: { cpu: 0, wall: 0 }, with: { cpu: 0, wall: 0 } };
  let announced = 0;
  const add = async (to: { cpu: number; wall: number }, work: () => Promise<unknown>) => {
    const { cpu, wall } = await spentMs(pid, work);
    to.cpu += cpu;
    to.wall += wall;
  };
  for (let turn = 0; turn < TURNS; turn++) {
    await add(rates.without, () => rest(TURN_MS));
    await add(rates.with, async () => {
      for (const until = performance.now() + TURN_MS; performance.now() < until; announced++) {
        await (windows[announced % windows.length] as Window).announce();
        // As often as they do so all together.
        await rest(APART_MS);
      }
    });
  }
  clearInterval(told);
  await database.end();
  return (rates.with.cpu - (rates.without.cpu / rates.without.wall) * rates.with.wall) / announced;
}
