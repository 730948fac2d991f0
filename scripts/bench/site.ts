import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { english } from '@sprig/core/text';
import { Asker, readSite } from '../../apps/server/src/pages/index.ts';
import { type Figure, seconds, timed } from './server.ts';

const PAGES = 50;
const ANSWER_MS = 100;

/** A site of this machine whose every answer takes its time, read whole. */
export async function siteFigure(): Promise<Figure> {
  const links = Array.from({ length: PAGES }, (_, at) => `<a href="/${at}">Goods ${at} for gardens</a>`);
  const server = createServer((request, response) => {
    setTimeout(() => {
      if (request.url === '/robots.txt' || request.url === '/sitemap.xml')
        return void response.writeHead(404).end();
      response
        .writeHead(200, { 'content-type': 'text/html' })
        .end(`<title>Page ${request.url}</title><h1>Goods of ${request.url}</h1>${links.join('\n')}`);
    }, ANSWER_MS);
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  const host = `127.0.0.1:${(server.address() as AddressInfo).port}`;
  const took = await timed(async () => {
    const { pages } = await readSite(`http://${host}/`, new Asker(new Set([host])), english, async () => {});
    if (pages.length !== PAGES) throw new Error(`${pages.length} pages were read`);
  });
  server.closeAllConnections();
  server.close();
  return {
    name: `a site of ${PAGES} pages read, ${ANSWER_MS} ms an answer`,
    value: seconds(took),
    target: '8 s',
  };
}
