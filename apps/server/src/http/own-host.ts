import type { IncomingHttpHeaders } from 'node:http';
import type { RequestHandler } from 'express';
import { config } from '../platform/config.ts';
import { SprigFailure } from '../platform/failure.ts';

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];

/**
 * The names under which the server is asked: those of this machine, and those of `ALLOWED_HOSTS`, with commas between. A
 * page of a foreign name that leads here by a trick of name servers gets nothing.
 */
export const allowedHosts = (
  named = config().ALLOWED_HOSTS,
  publicUrl = config().PUBLIC_URL,
): ReadonlySet<string> =>
  new Set(
    [
      ...LOOPBACK,
      ...(publicUrl ? [new URL(publicUrl).hostname] : []),
      ...named.split(',').map((name) => name.trim().toLowerCase()),
    ].filter(Boolean),
  );

/** `tea.example:4600` and `[::1]:4600` without the port. */
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

/** Whether a host is this machine by its own name. */
export const isLoopbackHost = (host: string): boolean => LOOPBACK.includes(nameOf(host));

/** Whether a page says of itself, as browsers have it do, that it is of the host it asks. */
const isOfItsHost = ({ host = '', origin = '' }: IncomingHttpHeaders): boolean =>
  originHost(origin) === host.toLowerCase();

/** Whether a page of this server's own opens a socket. */
export const isOwnPage = (hosts: ReadonlySet<string>, headers: IncomingHttpHeaders): boolean =>
  hosts.has(nameOf(headers.host ?? '')) && isOfItsHost(headers);

/** Refuses what is asked under a name that is not the server's own, and writes that a page of another origin sends. */
export const onlyFromHere =
  (hosts: ReadonlySet<string>): RequestHandler =>
  (request, _response, next) => {
    const { host = '', origin } = request.headers;
    if (!hosts.has(nameOf(host)))
      throw new SprigFailure(
        'invalid',
        `Green Sprig is not known as ${host === '' ? 'nothing' : nameOf(host)}. Add the name to ALLOWED_HOSTS, or open it by 127.0.0.1.`,
      );
    if (request.method === 'GET' || request.method === 'HEAD') return next();
    const site = request.headers['sec-fetch-site'];
    const isForeign =
      (origin !== undefined && !isOfItsHost(request.headers)) ||
      site === 'cross-site' ||
      site === 'same-site';
    if (isForeign) throw new SprigFailure('invalid', 'Requests from other sites are not taken.');
    next();
  };

function originHost(origin: string): string | null {
  try {
    return new URL(origin).host.toLowerCase();
  } catch {
    return null;
  }
}
