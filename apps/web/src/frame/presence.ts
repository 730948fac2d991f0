import { announceHere, HERE_SOCKET } from '@sprig/contracts';
import { useEffect, useRef, useSyncExternalStore } from 'react';
import { call } from '../data/call.ts';

/** So often one says that one is still here; who has not said so for longer than `GONE_MS` is taken for gone. */
const AGAIN_MS = 20_000;
const GONE_MS = 50_000;
/** A field that is only passed by on the way to another is not told. */
const FIELD_MS = 350;
/** That one has left a field is told later: the next one says so by itself. */
const LEFT_MS = 4_000;
/** Whoever is new is answered within so long: not all at once. */
const ANSWER_MS = 1_500;

export type Somebody = { actor: number; name: string; place: string; field: string };
type Heard = Somebody & { at: number };

const plans = new Map<number, ReadonlyMap<number, Heard>>();
const listeners = new Set<(plan: number, isNew: boolean) => void>();
const nobody: readonly Somebody[] = [];
/** What was shown of a plan last, as long as nothing has changed. */
const lists = new Map<number, readonly Somebody[]>();

function put(plan: number, next: ReadonlyMap<number, Heard>, isNew: boolean): void {
  plans.set(plan, next);
  lists.set(
    plan,
    [...next.values()].map(({ at: _, ...one }) => one).sort((a, b) => a.actor - b.actor),
  );
  for (const tell of listeners) tell(plan, isNew);
}

/** Somebody has said that they are here. */
export function heardOf(plan: number, somebody: Somebody, now = Date.now()): void {
  const before = plans.get(plan) ?? new Map<number, Heard>();
  const known = before.get(somebody.actor);
  put(plan, new Map(before).set(somebody.actor, { ...somebody, at: now }), known === undefined);
}

/** How many are heard of at a plan. */
export const othersAt = (plan: number): number => plans.get(plan)?.size ?? 0;

/** Takes away who has not been heard of for a while. */
export function forgetGone(plan: number, now = Date.now()): void {
  const before = plans.get(plan) ?? new Map<number, Heard>();
  const next = new Map([...before].filter(([, { at }]) => now - at < GONE_MS));
  if (next.size < before.size) put(plan, next, false);
}

/** By which the server knows who says where they are: what it has told the stream that is open on the plan. */
const streams = new Map<number, string>();
/** Over which a window says where it is; while there is none it asks. */
const sockets = new Map<number, WebSocket>();

/** The stream that is open on the plan is known by this. */
export function listensBy(plan: number, stream: string): void {
  hearsNoMore(plan);
  streams.set(plan, stream);
}

/** Nothing is heard of the plan any more. */
export function hearsNoMore(plan: number): void {
  streams.delete(plan);
  sockets.get(plan)?.close();
  sockets.delete(plan);
}

/** Opens a socket for what is said next, where somebody else is there to hear it and the server knows the window. */
function openSocket(plan: number): void {
  const stream = streams.get(plan);
  if (stream === undefined || sockets.has(plan) || othersAt(plan) < 2) return;
  const address = new URL(`${HERE_SOCKET}?stream=${stream}`, window.location.href);
  address.protocol = address.protocol.replace('http', 'ws');
  const socket = new WebSocket(address);
  sockets.set(plan, socket);
  socket.onclose = () => {
    if (sockets.get(plan) !== socket) return;
    // It is not tried again by a name that was refused: until the stream has another one asks.
    sockets.delete(plan);
    streams.delete(plan);
  };
}

/** Says where one is. That nobody is told of it is no matter of who works here. */
function say(plan: number, place: string, field: string): void {
  const body = { place, field };
  const socket = sockets.get(plan);
  if (socket?.readyState === WebSocket.OPEN) {
    socket.send(JSON.stringify(body));
    return;
  }
  openSocket(plan);
  call(announceHere, { params: { plan }, body }).catch(() => {});
}

/**
 * Says that one is here, at a stage and in a field, and answers who else is. `own`: who one is; null: that is not known yet.
 */
export function usePresence(
  plan: number,
  place: string,
  field: string,
  own: number | null,
): readonly Somebody[] {
  const inHand = useRef(field);
  inHand.current = field;
  const told = useRef('');
  useEffect(() => {
    if (own === null || field === told.current) return;
    // Nobody else is there who could see it; whoever comes is told.
    if (![...(plans.get(plan)?.keys() ?? [])].some((actor) => actor !== own)) return;
    const soon = setTimeout(
      () => {
        told.current = field;
        say(plan, place, field);
      },
      field === '' ? LEFT_MS : FIELD_MS,
    );
    return () => clearTimeout(soon);
  }, [plan, place, field, own]);
  useEffect(() => {
    if (own === null) return;
    const sayAll = () => {
      told.current = inHand.current;
      say(plan, place, inHand.current);
    };
    let answer: ReturnType<typeof setTimeout> | undefined;
    const heed = (of: number, isNew: boolean) => {
      if (of !== plan || !isNew || answer !== undefined) return;
      answer = setTimeout(() => {
        answer = undefined;
        sayAll();
      }, Math.random() * ANSWER_MS);
    };
    sayAll();
    listeners.add(heed);
    const again = setInterval(() => {
      sayAll();
      forgetGone(plan);
    }, AGAIN_MS);
    return () => {
      clearInterval(again);
      clearTimeout(answer);
      listeners.delete(heed);
    };
  }, [plan, place, own]);
  const all = useSyncExternalStore(
    (tell) => {
      const heed = (of: number) => of === plan && tell();
      listeners.add(heed);
      return () => void listeners.delete(heed);
    },
    () => lists.get(plan) ?? nobody,
  );
  return all.filter(({ actor }) => actor !== own);
}
