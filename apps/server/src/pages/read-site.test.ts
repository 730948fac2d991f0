import { once } from 'node:events';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { english } from '@sprig/core/text';
import { afterEach, describe, expect, test } from 'vitest';
import { AGENT, Asker, readSite } from './index.ts';

let servers: Server[] = [];
afterEach(() => {
  for (const server of servers) {
    server.closeAllConnections();
    server.close();
  }
  servers = [];
});

/** A site on this machine, and somebody who may read it. */
async function site(
  answer: RequestListener,
): Promise<{ url: string; asker: Asker; asked: string[]; most: () => number }> {
  const asked: string[] = [];
  let [now, most] = [0, 0];
  const server = createServer((request, response) => {
    asked.push(request.url ?? '');
    most = Math.max(most, ++now);
    response.on('close', () => now--);
    answer(request, response);
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  servers.push(server);
  const host = `127.0.0.1:${(server.address() as AddressInfo).port}`;
  return { url: `http://${host}`, asker: new Asker(new Set([host])), asked, most: () => most };
}

const page = (title: string, body = '') =>
  `<!doctype html><html><head><title>${title}</title></head><body>${body}</body></html>`;
type Pages = Record<string, string | { type?: string; body?: string | Buffer; status?: number; to?: string }>;
const serving =
  (pages: Pages): RequestListener =>
  ({ url = '' }, response) => {
    const found = pages[url];
    if (found === undefined) return void response.writeHead(404).end('none');
    const {
      type = 'text/html',
      body = '',
      status = 200,
      to,
    } = typeof found === 'string' ? { body: found } : found;
    response
      .writeHead(to ? 302 : status, { 'content-type': type, ...(to ? { location: to } : {}) })
      .end(body);
  };
const read = async (pages: Pages, path = '/') => {
  const { url, asker, asked } = await site(serving(pages));
  return { ...(await readSite(url + path, asker, english, async () => {})), url, asked };
};
const texts = (reading: { phrases: { text: string }[] }) => reading.phrases.map(({ text }) => text);

describe('what is read of a site', () => {
  test('pages from links and the sitemap, once each, of the same host alone, each with what it speaks of', async () => {
    const reading = await read({
      '/': page(
        'Orrinford Teas',
        `<nav><a href="/teapots">Teapots</a> <a href="/kettles#top">Kettles</a> <a href="https://elsewhere.example/">Away</a></nav>
         <h1>Cast iron teapots and glass kettles</h1><p>Nothing of this paragraph is read.</p><a href="mailto:x@y.example">Mail</a><img alt="stove top kettle">`,
      ),
      '/teapots': page(
        'Teapots',
        '<script type="application/ld+json">{"@type":"Product","name":"Copper gooseneck kettle"}</script><h2>Cast iron teapots</h2>',
      ),
      '/kettles': page('Kettles', '<ol class="breadcrumb"><li><a href="/">Home goods</a></li></ol>'),
      '/gifts': page('Gift sets'),
      '/sitemap.xml': {
        type: 'application/xml',
        body: '<urlset><url><loc>/gifts</loc></url><url><loc>http://other.example/x</loc></url></urlset>',
      },
    });
    expect(reading.pages.map(({ address }) => new URL(address).pathname).sort()).toEqual([
      '/',
      '/gifts',
      '/kettles',
      '/teapots',
    ]);
    expect(new Set(reading.asked).size).toBe(reading.asked.length);
    expect(texts(reading)).toEqual(
      expect.arrayContaining([
        'cast iron teapots',
        'glass kettles',
        'copper gooseneck kettle',
        'stove top kettle',
        'gift sets',
        'home goods',
      ]),
    );
    expect(texts(reading).join()).not.toContain('paragraph');
    const teapots = reading.phrases.find(({ text }) => text === 'cast iron teapots');
    expect(teapots).toMatchObject({ pages: 2, where: ['heading'] });
    // `cast iron` stands nowhere but within it.
    expect(texts(reading)).not.toContain('cast iron');
  });

  test('robots.txt is obeyed, and what it forbids is listed', async () => {
    const { asked, refused, pages } = await read({
      '/robots.txt': { type: 'text/plain', body: 'User-agent: *\nDisallow: /private\n' },
      '/': page('Shop', '<a href="/private/a">A</a><a href="/open">B</a>'),
      '/open': page('Open'),
      '/private/a': page('Never'),
    });
    expect(asked).not.toContain('/private/a');
    expect(pages).toHaveLength(2);
    expect(refused).toMatchObject([{ why: expect.stringMatching(/robots/) }]);
  });

  test('a site that asks to be left alone is', async () => {
    await expect(
      read({
        '/robots.txt': { type: 'text/plain', body: 'User-agent: *\nDisallow: /\n' },
        '/': page('Shop'),
      }),
    ).rejects.toThrow(/robots/);
  });

  test.each([
    [
      'windows-1252, as the server says',
      { type: 'text/html; charset=windows-1252', body: Buffer.from(page('Caf\u00e9 teapot'), 'latin1') },
    ],
    [
      'windows-1252, as the page says',
      { body: Buffer.from(`<meta charset="windows-1252">${page('Caf\u00e9 teapot')}`, 'latin1') },
    ],
    ['windows-1252, as nobody says', { body: Buffer.from(page('Caf\u00e9 teapot'), 'latin1') }],
    ['utf-16', { body: Buffer.from(`\ufeff${page('Caf\u00e9 teapot')}`, 'utf16le') }],
    ['an encoding that nobody knows', { type: 'text/html; charset=martian', body: page('Caf\u00e9 teapot') }],
  ] as const)('%s', async (_, found) => {
    const reading = await read({ '/': found });
    expect(texts(reading)).toEqual(['café teapot']);
  });

  test('broken HTML, structured data that is no JSON, and nothing at all', async () => {
    const reading = await read({
      '/': '<title>Mugs</title><h1>Blue <b>mug</h1><script type="application/ld+json">{"name":</script><a href="http://[">x</a><a href="/empty">empty</a>',
      '/empty': '',
    });
    expect(reading.pages).toHaveLength(2);
    expect(Array.isArray(reading.phrases)).toBe(true);
  });
});

describe('what is not', () => {
  test('a page that leads elsewhere, is gone, is no text: listed with why', async () => {
    const { refused, pages } = await read({
      '/': page(
        'Shop',
        ['/gone', '/away', '/inside', '/picture', '/loop'].map((to) => `<a href="${to}">x</a>`).join(''),
      ),
      '/away': { to: 'http://127.0.0.2:1/' },
      '/inside': { to: 'http://169.254.169.254/secret' },
      '/picture': { type: 'image/png', body: 'x' },
      '/loop': { to: '/loop' },
    });
    expect(pages).toHaveLength(1);
    const why = Object.fromEntries(
      refused.map(({ address, why: words }) => [new URL(address).pathname, words]),
    );
    expect(why).toEqual({
      '/gone': 'The server answered 404.',
      '/away': expect.stringMatching(/private network/),
      '/inside': expect.stringMatching(/private network/),
      '/picture': 'It is no page of text.',
      '/loop': 'It leads on and on.',
    });
  });

  test.each([
    ['no address', 'not an address', /web address/],
    ['a private one', 'http://10.1.2.3/', /private network/],
    ['this machine, which nobody allowed', 'http://127.0.0.1:9/', /private network/],
    [
      'one that no server has',
      'https://nobody.invalid/',
      /No server|could not be reached|Nothing of the site/,
    ],
  ])('%s is told', async (_, address, words) => {
    await expect((async () => readSite(address, new Asker(), english, async () => {}))()).rejects.toThrow(
      words,
    );
  });

  test('of a page without end only the beginning is taken', async () => {
    const { url, asker } = await site(({ url: path }, response) => {
      if (path !== '/') return void response.writeHead(404).end();
      response.writeHead(200, { 'content-type': 'text/html' });
      response.write('<title>Endless mugs</title>');
      const more = () => {
        while (response.write('x'.repeat(65_536)));
        response.once('drain', more);
      };
      more();
    });
    const reading = await readSite(url, asker, english, async () => {});
    expect(reading.pages).toMatchObject([{ title: 'Endless mugs', isCut: true }]);
  });
});

test('50 pages at most, two at a time, with the agent’s name, and stopped when one says so', async () => {
  const agents = new Set<string>();
  const { url, asker, asked, most } = await site(({ url: path, headers }, response) => {
    agents.add(headers['user-agent'] ?? '');
    if (path === '/robots.txt' || path === '/sitemap.xml') return void response.writeHead(404).end();
    const links = Array.from({ length: 120 }, (_, at) => `<a href="/p${at}">p</a>`).join('');
    setTimeout(
      () => response.writeHead(200, { 'content-type': 'text/html' }).end(page(`Page ${path}`, links)),
      5,
    );
  });
  const told: number[] = [];
  const reading = await readSite(url, asker, english, async (done) => void told.push(done));
  expect(reading.pages).toHaveLength(50);
  expect(reading.isMore).toBe(true);
  expect(most()).toBe(2);
  expect([...agents]).toEqual([AGENT]);
  expect(told.at(-1)).toBeGreaterThanOrEqual(50);
  asked.length = 0;
  await expect(
    readSite(url, asker, english, async (done) => {
      if (done === 5) throw new Error('stopped');
    }),
  ).rejects.toThrow('stopped');
  expect(asked.length).toBeLessThan(12);
});
