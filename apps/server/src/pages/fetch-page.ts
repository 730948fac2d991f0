import { lookup as lookupHost } from 'node:dns';
import http from 'node:http';
import https from 'node:https';
import { BlockList, isIP, type LookupFunction } from 'node:net';
import { readAddress } from '@sprig/core/write';
import { pageHtml, standInPlace } from '@sprig/market';

/** What came of asking for a page; `problem` says in words why none came. */
export type FetchedPage = {
  status: number | null;
  html: string;
  /** Where it was led on to; empty where it was not. */
  leadsTo: string;
  problem: string;
};

const LIMIT_MS = 6_000;
const MOST_BYTES = 512 * 1024;
const MOST_STEPS = 5;

const inside = new BlockList();
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const)
  inside.addSubnet(net, bits, 'ipv4');
for (const [net, bits] of [
  ['::', 96],
  ['64:ff9b::', 96],
  ['2002::', 16],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  inside.addSubnet(net, bits, 'ipv6');

/** Whether an address lies in a network that is nobody's business: this machine's, a private one, none at all. */
export const isInside = (ip: string): boolean => inside.check(ip, isIP(ip) === 6 ? 'ipv6' : 'ipv4');

const failed = (problem: string): FetchedPage => ({ status: null, html: '', leadsTo: '', problem });
const PRIVATE = 'This address lies in a private network, which is never asked.';

class Refused extends Error {}

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

/**
 * Asks for a page by http or https, once, following a few redirects. The stand-in sites answer from here; no private
 * network is ever asked, not by name, not by number and not by a redirect.
 */
export async function fetchPage(address: string): Promise<FetchedPage> {
  const started = readAddress(address);
  if (started.status === 'problem') return failed('This is no web address that can be asked.');
  let at = started.href;
  const until = Date.now() + LIMIT_MS;
  for (let step = 0; step < MOST_STEPS; step++) {
    const leadsTo = at === started.href ? '' : at;
    const standIn = standInPlace(at);
    if (standIn) {
      const html = pageHtml(standIn.site, standIn.path);
      return { status: html === null ? 404 : 200, html: html ?? '', leadsTo, problem: '' };
    }
    const answer = await ask(at, until).catch((error: Error) => error);
    if (answer instanceof Error) return { ...failed(wordsOf(answer)), leadsTo };
    const { status, html, location } = answer;
    if (location === null) return { status, html, leadsTo, problem: '' };
    const next = readAddress(resolved(location, at));
    if (next.status === 'problem')
      return { status, html: '', leadsTo, problem: 'It leads on to what is no web address.' };
    at = next.href;
  }
  return { ...failed('It leads on and on.'), leadsTo: at };
}

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
      return /certificate/i.test(error.message)
        ? 'Its certificate is not sound.'
        : 'The server could not be reached.';
  }
}

type Answer = { status: number; html: string; location: string | null };

function ask(href: string, until: number): Promise<Answer> {
  const url = new URL(href);
  const host = url.hostname.replace(/^\[|\]$/g, '');
  if (isIP(host) !== 0 && isInside(host)) return Promise.reject(new Refused(PRIVATE));
  const { request } = url.protocol === 'https:' ? https : http;
  return new Promise((resolve, reject) => {
    const asked = request(
      url,
      {
        lookup: vettedLookup,
        agent: false,
        signal: AbortSignal.timeout(Math.max(1, until - Date.now())),
        headers: { accept: 'text/html', 'user-agent': 'green-sprig address check' },
      },
      (answer) => {
        const status = answer.statusCode ?? 0;
        const { location } = answer.headers;
        if (status >= 300 && status < 400 && location) {
          answer.destroy();
          return resolve({ status, html: '', location });
        }
        const isHtml = /html/i.test(answer.headers['content-type'] ?? '');
        const chunks: Buffer[] = [];
        let bytes = 0;
        const done = () =>
          resolve({ status, html: isHtml ? Buffer.concat(chunks).toString('utf8') : '', location: null });
        answer.on('data', (chunk: Buffer) => {
          chunks.push(chunk);
          bytes += chunk.length;
          if (!isHtml || bytes > MOST_BYTES) {
            done();
            answer.destroy();
          }
        });
        answer.on('end', done);
        answer.on('error', reject);
      },
    );
    asked.on('error', reject);
    asked.end();
  });
}
