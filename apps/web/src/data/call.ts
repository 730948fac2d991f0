import {
  type Addressed,
  type ChangeKind,
  type Endpoint,
  type Failure,
  failureSchema,
  type Sent,
  type Told,
  urlOf,
} from '@sprig/contracts';
import type { z } from 'zod';
import { noteChanged } from './changed.ts';
import { planOf } from './query-key.ts';
import { setSignedOut } from './signed-out.ts';

/** A call that the server refused, in the words it gave. */
export class CallFailure extends Error {
  constructor(readonly failure: Failure) {
    super(failure.message);
  }
}

type Sending<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType> = Sent<P, Q, B> & {
  signal?: AbortSignal;
};

/** Calls the server by an endpoint's definition. Throws `CallFailure` with words for the user. */
export async function call<
  P extends z.ZodType,
  Q extends z.ZodType,
  B extends z.ZodType,
  A extends z.ZodType,
>(endpoint: Endpoint<P, Q, B, A>, ...told: Told<Sending<P, Q, B>>): Promise<z.output<A>> {
  const { body, signal } = (told[0] ?? {}) as { body?: unknown; signal?: AbortSignal };
  const address = urlOf(endpoint, ...(told as Told<Addressed<P, Q>>));
  const isWrite = endpoint.method !== 'GET';
  const text = JSON.stringify(body ?? {});
  const sent = (isWrite ? sendPatiently : send)(address, {
    method: endpoint.method,
    ...(isWrite ? { body: text, headers: { 'content-type': 'application/json' } } : {}),
    // What was just typed arrives also where the window is closed at once. Browsers carry 64 KB so, all together.
    ...(isWrite && text.length < 4_000 && underWay.size < 4 ? { keepalive: true } : {}),
    ...(signal ? { signal } : {}),
  });
  // What changes nothing, such as saying that one is here, is waited for by nobody.
  if (isWrite && endpoint.changes.length > 0) noteWrite(sent);
  if (endpoint.access !== 'open') sent.catch(noteSignedOut);
  const answer = endpoint.answer.safeParse(await (await sent).json().catch(strangeText));
  if (!answer.success) throw strange(isWrite);
  if (isWrite) note(endpoint.changes, told[0], answer.data);
  return answer.data;
}

const noteSignedOut = (error: unknown) => {
  if (error instanceof CallFailure && error.failure.code === 'signed-out') setSignedOut(true);
};

/** What is no JSON is an answer of another shape; what broke off is none. */
function strangeText(error: unknown): undefined {
  if (error instanceof SyntaxError) return undefined;
  throw unanswered(error);
}

/** An answer of another shape than this window knows, as of a server that was brought up to date meanwhile. */
const strange = (isWrite: boolean) =>
  new CallFailure({
    code: 'internal',
    message: `The server’s answer can’t be read: this window may be of an older version. Reload it${isWrite ? ', and see whether what you did is done' : ''}.`,
  });

/** A call says by itself what it has changed of which plan. */
function note(changes: readonly ChangeKind[], told: unknown, answer: unknown): void {
  const plan = planOf(told);
  const { revision } = (answer ?? {}) as { revision?: unknown };
  if (plan !== null) noteChanged(plan, changes, typeof revision === 'number' ? revision : null);
}

/** Writes that the server has not answered yet. */
const underWay = new Set<Promise<unknown>>();

let writesSent = 0;

/** Edits that are kept one after another: some of them may not even be sent yet. */
let unsaved = 0;
const askBeforeClosing = (event: BeforeUnloadEvent) => event.preventDefault();

/** As long as an edit is on its way, the window asks before it closes. */
export function untilSaved<T>(edit: Promise<T>): Promise<T> {
  if (unsaved++ === 0) window.addEventListener('beforeunload', askBeforeClosing);
  return edit.finally(() => {
    if (--unsaved === 0) window.removeEventListener('beforeunload', askBeforeClosing);
  });
}

function noteWrite(sent: Promise<unknown>): void {
  writesSent++;
  const done = () => void underWay.delete(ended);
  const ended: Promise<void> = sent.then(done, done);
  underWay.add(ended);
}

/** Waits for all that was sent before: a step back is of what was done last, also where the server is slow. */
export const writesAnswered = async (): Promise<void> => {
  await Promise.all(underWay);
};

/**
 * Reads what is written here too: when all that was sent is answered, and again where something was sent meanwhile. What is
 * read beside a write may be older than what is shown already, and would take it back for a moment.
 */
export async function readBetweenWrites<T>(read: () => Promise<T>): Promise<T> {
  for (;;) {
    await writesAnswered();
    const before = writesSent;
    const answer = await read();
    if (writesSent === before) return answer;
  }
}

/** So often an edit comes again while a job keeps it from its plan; the server itself waits a moment each time. */
const MOST_TRIES = 20;
const AGAIN_MS = 300;

/** A write that comes again where the plan is busy: nothing of it was done, so it is done once. */
async function sendPatiently(address: string, request: RequestInit): Promise<Response> {
  for (let tries = 1; ; tries++) {
    try {
      return await send(address, request);
    } catch (error) {
      const isBusy = error instanceof CallFailure && error.failure.code === 'busy';
      if (!isBusy || tries === MOST_TRIES || request.signal?.aborted) throw error;
      await new Promise((go) => setTimeout(go, AGAIN_MS));
    }
  }
}

/** What was given up stays so; all else is a server that does not answer. */
function unanswered(error: unknown): unknown {
  if (error instanceof DOMException && error.name === 'AbortError') return error;
  return new CallFailure({
    code: 'unavailable',
    message: 'The server does not answer. What you typed is still here; try again in a moment.',
  });
}

/** A request whose answer is not JSON; failures are told alike. */
export async function send(address: string, request: RequestInit = {}): Promise<Response> {
  const answer = await fetch(address, request).catch((error: unknown) => {
    throw unanswered(error);
  });
  if (answer.ok) return answer;
  const told = failureSchema.safeParse(await answer.json().catch(() => null));
  throw new CallFailure(
    told.success ? told.data : { code: 'internal', message: `The server answered ${answer.status}.` },
  );
}

/** What to tell the user of any error. */
export const wordsOf = (error: unknown): string => {
  if (error instanceof CallFailure) return error.message;
  if (error instanceof Error) return error.message;
  return String(error);
};
