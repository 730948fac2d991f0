import type { Endpoint, Failure } from '@sprig/contracts';
import * as api from '@sprig/contracts';
import type { z } from 'zod';
import { execute, select } from '../db/connect.ts';
import { makeLink } from '../people/links.ts';
import { Refused, type TestServer } from './start-test-server.ts';

/** Somebody with a browser of their own, who comes in by the door as people do. */
export class Visitor {
  /** What the browser keeps, as it sends it. */
  cookie = '';
  /** Of the last cookie that was set, all that was said of it. */
  setCookie = '';

  constructor(
    readonly server: TestServer,
    private readonly headers: Record<string, string> = {},
  ) {}

  async fetch(path: string, init: RequestInit = {}): Promise<Response> {
    const answer = await fetch(`${this.server.url}${path}`, {
      ...init,
      headers: {
        'content-type': 'application/json',
        ...(this.cookie ? { cookie: this.cookie } : {}),
        ...this.headers,
        ...(init.headers as Record<string, string> | undefined),
      },
    });
    for (const set of answer.headers.getSetCookie()) {
      this.setCookie = set;
      this.cookie = set.split(';')[0] ?? '';
    }
    return answer;
  }

  /** Calls an endpoint; throws `Refused`. */
  readonly call = async <P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, A extends z.ZodType>(
    endpoint: Endpoint<P, Q, B, A>,
    {
      params = {} as never,
      query = {} as never,
      body,
    }: { params?: z.input<P>; query?: z.input<Q>; body?: z.input<B> } = {},
  ): Promise<z.output<A>> => {
    const answer = await this.fetch(api.urlOf(endpoint, { params, query } as never), {
      method: endpoint.method,
      ...(endpoint.method === 'GET' ? {} : { body: JSON.stringify(body ?? {}) }),
    });
    const told = await answer.json();
    if (!answer.ok) throw new Refused(answer.status, told as Failure);
    return endpoint.answer.parse(told);
  };

  /** Another browser tab, or a thief, with the same cookie. */
  copy(): Visitor {
    const other = new Visitor(this.server);
    other.cookie = this.cookie;
    return other;
  }

  signIn(email: string, password = PASSWORD) {
    return this.call(api.signIn, { body: { email, password } });
  }
}

export const PASSWORD = 'teal lantern forty gravel';

/** The owner, made by the link that the start command prints. */
export async function firstOwner(server: TestServer, email = 'olive@tea.example'): Promise<Visitor> {
  const { token } = await makeLink(server.database, { kind: 'owner', hours: 1 });
  const visitor = new Visitor(server);
  await visitor.call(api.makeOwner, {
    body: { token, name: 'Olive Brindle', email, password: PASSWORD, workspace: 'Leaf by Leaf' },
  });
  return visitor;
}

type Joining = Partial<z.input<typeof api.invitePerson.body>>;

/** Somebody whom an owner has invited, and who has come. */
export async function joined(owner: Visitor, email: string, joining: Joining = {}): Promise<Visitor> {
  const { link } = await owner.call(api.invitePerson, {
    body: { email, role: 'reader', permissions: [], ...joining },
  });
  const visitor = new Visitor(owner.server);
  await visitor.call(api.acceptInvitation, {
    body: { token: tokenOf(link), name: email.split('@')[0] ?? email, password: PASSWORD },
  });
  return visitor;
}

export const tokenOf = (link: string | null): string => link?.split('#')[1] ?? '';

export const me = (visitor: Visitor) => visitor.call(api.readMe);

/** The newest mail to somebody, once it is there. */
export async function mailTo(server: TestServer, email: string): Promise<string> {
  for (let times = 0; times < 200; times++) {
    const [mail] = await select<{ body: string }>(
      server.database,
      'select body from mails where recipient = $1 order by id desc limit 1',
      [email],
    );
    if (mail) return mail.body;
    await new Promise((go) => setTimeout(go, 20));
  }
  throw new Error(`No mail came to ${email}.`);
}

/** Lets a moment pass for what is kept: in hours. */
export const later = (server: TestServer, table: 'sessions' | 'links', column: string, hours: number) =>
  execute(server.database, `update ${table} set ${column} = ${column} - $1 * interval '1 hour'`, [hours]);

/** How a call was refused; null: it was not. */
export const refusal = (asked: Promise<unknown>) =>
  asked.then(
    () => null,
    ({ status, failure }) => ({
      status,
      code: failure?.code,
      at: failure?.at,
      message: failure?.message,
    }),
  );

/** What somebody hears at a plan. `until`: all that was heard, once these words are among it. */
export async function hears(by: Visitor, plan: number) {
  const reader = (await by.fetch(`/api/plans/${plan}/events`)).body?.getReader();
  const decoder = new TextDecoder();
  let text = '';
  const until = async (words: string) => {
    while (!text.includes(words)) {
      const { done, value } = (await reader?.read()) ?? { done: true };
      if (done) throw new Error(`${words} was never heard: ${text}`);
      text += decoder.decode(value, { stream: true });
    }
    return text;
  };
  await until('"opened"');
  return { until, end: () => reader?.cancel() };
}
