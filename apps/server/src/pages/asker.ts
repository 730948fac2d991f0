import { lookup as lookupHost } from 'node:dns';
import http from 'node:http';
import https from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { readAddress } from '@sprig/core/write';
import { pageHtml, standInPlace } from '@sprig/market';
import { isInside } from './private-networks.ts';

/** What the application calls itself to servers. */
export const AGENT = 'GreenSprig/1.0 (site reader; reads once, when its user asks)';

/** What came of asking for an address; `problem` says in words why nothing came. */
export type Asked = {
  status: number | null;
  bytes: Buffer;
  /** As the server says, such as `text/html; charset=windows-1252`; empty where nothing came. */
  type: string;
  /** True: only the first bytes were taken. */
  isCut: boolean;
  /** Where it was led on to; empty where it was not. */
  leadsTo: string;
  problem: string;
};

export type AskOptions = {
  /** When it is given up, in milliseconds since 1970. */
  until: number;
  mostBytes: number;
  /** Whether more than the head of an answer of this type is wanted. */
  wants: (type: string) => boolean;
};

const MOST_STEPS = 5;
const PRIVATE = 'This address lies in a private network, which is never asked.';

class Refused extends Error {}

const failed = (problem: string): Asked => ({
  status: null,
  bytes: Buffer.alloc(0),
  type: '',
  isCut: false,
  leadsTo: '',
  problem,
});

/**
 * Asks other servers for pages, by http and https, following a few redirects. No private network is ever asked: not by
 * name, not by number and not by a redirect; what was vetted is what is connected to. The stand-in sites answer from
 * here. `allowed` are hosts with their ports that may be asked all the same: a test's own server.
 */
export class Asker {
  constructor(private readonly allowed: ReadonlySet<string> = new Set()) {}

  async ask(address: string, options: AskOptions): Promise<Asked> {
    const started = readAddress(address);
    if (started.status === 'problem') return failed('This is no web address that can be asked.');
    let at = started.href;
    for (let step = 0; step < MOST_STEPS; step++) {
      const leadsTo = at === started.href ? '' : at;
      const standIn = standInPlace(at);
      if (standIn) return { ...answerOfStandIn(pageHtml(standIn.site, standIn.path)), leadsTo };
      const answer = await this.once(at, options).catch((error: Error) => error);
      if (answer instanceof Error) return { ...failed(wordsOf(answer)), leadsTo };
      const { location, ...came } = answer;
      if (location === null) return { ...came, leadsTo, problem: '' };
      const next = readAddress(resolved(location, at));
      if (next.status === 'problem')
        return { ...failed('It leads on to what is no web address.'), status: came.status, leadsTo };
      at = next.href;
    }
    return { ...failed('It leads on and on.'), leadsTo: at };
  }

  private once(href: string, { until, mostBytes, wants }: AskOptions): Promise<Answer> {
    const url = new URL(href);
    const host = url.hostname.replace(/^\[|\]$/g, '');
    const isAllowed = this.allowed.has(url.host);
    if (!isAllowed && isIP(host) !== 0 && isInside(host)) return Promise.reject(new Refused(PRIVATE));
    const { request } = url.protocol === 'https:' ? https : http;
    return new Promise((resolve, reject) => {
      const asked = request(
        url,
        {
          ...(isAllowed ? {} : { lookup: vettedLookup }),
          agent: false,
          signal: AbortSignal.timeout(Math.max(1, until - Date.now())),
          headers: { accept: 'text/html, application/xml;q=0.9, text/plain;q=0.8', 'user-agent': AGENT },
        },
        (answer) => {
          const status = answer.statusCode ?? 0;
          const type = answer.headers['content-type'] ?? '';
          const { location } = answer.headers;
          if (status >= 300 && status < 400 && location) {
            answer.destroy();
            return resolve({ status, bytes: Buffer.alloc(0), type, isCut: false, location });
          }
          const isWanted = wants(type);
          const chunks: Buffer[] = [];
          let bytes = 0;
          const done = (isCut: boolean) =>
            resolve({
              status,
              bytes: Buffer.concat(chunks).subarray(0, mostBytes),
              type,
              isCut,
              location: null,
            });
          if (!isWanted) {
            done(false);
            answer.destroy();
            return;
          }
          answer.on('data', (chunk: Buffer) => {
            chunks.push(chunk);
            bytes += chunk.length;
            if (bytes <= mostBytes) return;
            done(true);
            answer.destroy();
          });
          answer.on('end', () => done(false));
          answer.on('error', reject);
        },
      );
      asked.on('error', reject);
      asked.end();
    });
  }
}

type Answer = Omit<Asked, 'leadsTo' | 'problem'> & { location: string | null };

const answerOfStandIn = (html: string | null): Omit<Asked, 'leadsTo'> => ({
  status: html === null ? 404 : 200,
  bytes: Buffer.from(html ?? ''),
  type: 'text/html; charset=utf-8',
  isCut: false,
  problem: '',
});

/** Looks a host up, and refuses it where any of its addresses is inside; what is vetted here is what is connected to. */
const vettedLookup: LookupFunction = (host, options, callback) => {
  lookupHost(host, { ...options, all: true }, (error, found) => {
    if (error) return callback(error, '', 0);
    if (found.length === 0 || found.some(({ address }) => isInside(address)))
      return callback(new Refused(PRIVATE), '', 0);
    const first = found[0] as (typeof found)[number];
    if (options.all) callback(null, found);
    else callback(null, first.address, first.family);
  });
};

function resolved(location: string, from: string): string {
  try {
    return new URL(location, from).href;
  } catch {
    return '';
  }
}

function wordsOf(error: Error): string {
  if (error instanceof Refused) return error.message;
  switch ((error as NodeJS.ErrnoException).code) {
    case 'ENOTFOUND':
    case 'EAI_AGAIN':
      return 'No server is known by this name.';
    case 'ECONNREFUSED':
      return 'The server takes no visitors.';
    case 'ABORT_ERR':
    case 'ETIMEDOUT':
      return 'No answer came in time.';
    default:
      return error.name === 'TimeoutError'
        ? 'No answer came in time.'
        : /certificate/i.test(error.message)
          ? 'Its certificate is not sound.'
          : 'The server could not be reached.';
  }
}
