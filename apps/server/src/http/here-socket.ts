import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';
import { announceHere, HERE_SOCKET } from '@sprig/contracts';
import { type WebSocket, WebSocketServer } from 'ws';
import type { EventHub, Listener } from './events.ts';
import { allowedHosts, isOwnPage } from './own-host.ts';

const LONGEST_BYTES = 2_048;
/** Nobody goes from field to field more often. */
const MOST_IN_A_SECOND = 10;

/**
 * Takes from windows where they are. That is said so often, and by so many, that a request each would be most of what a server does.
 * Who says it is known by the stream of events that the window has open: nobody else knows how that is called, and it ends when they
 * may not hear any more. Whoever has none at this server says it by a request.
 */
export class HereSockets {
  private readonly sockets = new WebSocketServer({
    noServer: true,
    maxPayload: LONGEST_BYTES,
    perMessageDeflate: false,
  });
  private readonly hosts = allowedHosts();

  /** @param tell passes on who is where */
  constructor(
    private readonly events: EventHub,
    private readonly tell: (here: Listener & { place: string; field: string }) => void,
  ) {}

  attach(server: Server): void {
    server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
      const stream = this.streamOf(request);
      if (stream === null) {
        socket.end('HTTP/1.1 403 Forbidden\r\nconnection: close\r\n\r\n');
        return;
      }
      this.sockets.handleUpgrade(request, socket, head, (window) => this.heed(window, stream));
    });
  }

  private streamOf({ url = '', headers }: IncomingMessage): string | null {
    const [path, query] = url.split('?');
    const stream = new URLSearchParams(query).get('stream') ?? '';
    const isTaken = path === HERE_SOCKET && isOwnPage(this.hosts, headers);
    return isTaken && this.events.listener(stream) ? stream : null;
  }

  private heed(window: WebSocket, stream: string): void {
    let second = 0;
    let times = 0;
    window.on('error', () => window.terminate());
    window.on('message', (data) => {
      const now = Math.floor(Date.now() / 1_000);
      times = now === second ? times + 1 : 1;
      second = now;
      const listener = this.events.listener(stream);
      const said = times > MOST_IN_A_SECOND ? null : saidIn(String(data));
      if (!listener || !said) window.terminate();
      else this.tell({ ...listener, ...said });
    });
  }

  close(): void {
    for (const window of this.sockets.clients) window.terminate();
  }
}

function saidIn(text: string): { place: string; field: string } | null {
  try {
    return announceHere.body.safeParse(JSON.parse(text)).data ?? null;
  } catch {
    return null;
  }
}
