import { openPlan, type PlanEvent, planEvent, planEvents, urlOf } from '@sprig/contracts';
import { call } from '../data/call.ts';

/** How long it takes until a stream that was refused is asked for again. */
const REFUSED_MS = 10_000;

type Heard = {
  event: (event: PlanEvent) => void;
  /** Nothing was heard for a while: anything may have happened. */
  gap: () => void;
};
type Word = PlanEvent | 'gap';

/**
 * What happens to a plan, here or elsewhere. All windows of a browser share one stream: a browser opens few connections
 * to a server, and windows that each kept one would keep one another waiting. One of them holds the stream and passes on
 * what it hears; when it closes another takes it. Answers how to stop.
 */
export function listen(plan: number, heard: Heard): () => void {
  const name = `sprig plan ${plan}`;
  const locks = (navigator as { locks?: LockManager }).locks;
  // Without locks (under an address that the browser does not trust) each window has a stream of its own.
  if (!locks || typeof BroadcastChannel === 'undefined') return openStream(plan, heard);
  const channel = new BroadcastChannel(name);
  const hear = (word: Word) => (word === 'gap' ? heard.gap() : heard.event(word));
  channel.onmessage = ({ data }) => hear(data as Word);
  // What was told before this window heard is told by where the plan stands now.
  void call(openPlan, { params: { plan } }).then(
    ({ revision, builtRevision }) => heard.event({ type: 'opened', plan, revision, builtRevision }),
    () => {},
  );
  const stop = new AbortController();
  const pass = (word: Word) => {
    hear(word);
    channel.postMessage(word);
  };
  const hold = () =>
    new Promise<void>((release) => {
      const close = openStream(plan, { event: pass, gap: () => pass('gap') });
      const end = () => {
        close();
        release();
      };
      if (stop.signal.aborted) end();
      else stop.signal.addEventListener('abort', end);
    });
  locks.request(name, { signal: stop.signal }, hold).catch(() => {
    // It closed before its turn came.
  });
  return () => {
    stop.abort();
    channel.close();
  };
}

/** A stream of this window's own, opened again as often as it takes. */
function openStream(plan: number, heard: Heard): () => void {
  let stream: EventSource;
  let again: ReturnType<typeof setTimeout> | undefined;
  const open = (isBroken: boolean) => {
    stream = new EventSource(urlOf(planEvents, { params: { plan } }));
    let broken = isBroken;
    stream.onmessage = ({ data }) => heard.event(planEvent.parse(JSON.parse(data as string)));
    stream.onerror = () => {
      broken = true;
      if (stream.readyState !== EventSource.CLOSED) return;
      // It was refused, and does not come back by itself: until it does the window looks for itself.
      clearTimeout(again);
      again = setTimeout(() => {
        heard.gap();
        open(true);
      }, REFUSED_MS);
    };
    // After a break in the connection anything may have happened, to jobs too.
    stream.onopen = () => {
      if (broken) heard.gap();
      broken = false;
    };
  };
  open(false);
  return () => {
    clearTimeout(again);
    stream.close();
  };
}
