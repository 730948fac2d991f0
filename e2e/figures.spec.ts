import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { freePort } from '../scripts/setup/free-port.mjs';
import { root } from '../scripts/setup/root.mjs';
import { NODE_ARGS } from '../scripts/setup/server.mjs';
import { signInOwner } from '../scripts/setup/sign-in.mjs';
import { expect, freshDatabase, test } from './server.ts';
import { isSignedIn } from './signed-in.ts';
import { go, openPlan, pressToShip } from './steps.ts';

const TREATMENTS = ['implant', 'whitening', 'crown', 'bridge', 'filling', 'veneer', 'denture'];
const TRAITS = ['private', 'painless', 'ceramic', 'same day', 'weekend', 'affordable'];
const WANTS = ['cost', 'near me', 'reviews'];

/** A dentist's list: half of it with told figures, one combination missing. */
const dentist = () => {
  const rows = TREATMENTS.flatMap((treatment, one) => [
    `${treatment}\t${(one + 2) * 900}\t${(1 + one * 0.1).toFixed(2)}`,
    ...TRAITS.flatMap((trait, other) => [
      `${trait} ${treatment}\t${(one + 2) * (other + 1) * 40}\t${(1 + one * 0.1 + other * 0.05).toFixed(2)}`,
      ...WANTS.map((want) => `${trait} ${treatment} ${want}\t\t`),
    ]),
    ...WANTS.map(
      (want, other) =>
        `${treatment} ${want}\t${(one + 2) * (other + 2) * 60}\t${(1.2 + one * 0.1).toFixed(2)}`,
    ),
  ]);
  return ['Keyword\tSearches\tCPC', ...rows.filter((row) => !/^(weekend crown|painless bridge)\t/.test(row))];
};

test('a dentist’s plan: from a paste over gaps, a recipe, the matrix, the forecast and aims to sheets', async ({
  page,
  url,
}) => {
  await openPlan(page, url, { name: 'Brackley Dental', site: 'brackleydental.example' });
  await page.evaluate((text) => navigator.clipboard.writeText(text), dentist().join('\n'));
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: /^Take in 194 keywords/ }).click();
  await expect(page.locator('[data-yield=groups]')).toContainText('194');
  await page.getByLabel('Where searches are from').selectOption('estimated');
  await expect(page.locator('[data-yield=shown]')).toContainText('126');
  await page.getByRole('button', { name: /searches a month/ }).click();
  await expect(page.getByText(/Estimates learned from 68 keywords/)).toBeVisible();
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Ideas' }).click();
  const ideas = page.getByRole('grid', { name: 'Ideas' });
  await expect(ideas.getByRole('row').filter({ hasText: 'weekend crown' })).toContainText(/≈ [1-9]/);
  const classes = page.getByRole('toolbar', { name: 'Classes of gaps' });
  await classes.getByRole('button').nth(1).click();
  await page.getByRole('button', { name: 'Make a recipe of it' }).click();
  // The recipe makes what is missing; the matrix knows of each combination by told figures and estimates.
  await expect(page.locator('[data-yield=new]')).toContainText(/[1-9]/);
  await expect(page.locator('[data-yield=searches]')).toContainText(/[1-9]/);
  await expect(page.getByRole('gridcell', { name: /: ≈ [\d,]+ searches/ }).first()).toBeVisible();
  await expect(page.locator('[data-yield=cost]')).toContainText('£');
  await page.getByRole('button', { name: /^Put \d+ keywords into the pool/ }).click();
  await expect(page.getByRole('button', { name: 'Take out of the pool' })).toBeVisible();

  await go(page, 'Build');
  await page.getByRole('button', { name: 'Rules' }).click();
  const forecast = page.getByRole('region', { name: 'Forecast' });
  await expect(forecast).toContainText(/About [1-9][\d,.]* clicks for £[1-9]/);
  await expect(forecast).toContainText(/of the clicks by estimate/);
  const before = await forecast.textContent();
  await page.getByRole('button', { name: /^CTR at position 1:/ }).click();
  await page.getByLabel('CTR at position 1', { exact: true }).fill('4');
  await page.keyboard.press('Enter');
  await expect(forecast).not.toHaveText(before ?? '');
  await page.getByRole('button', { name: 'Picture' }).click();
  const blocks = page.getByRole('group', { name: 'Campaigns and ad groups by size' });
  await blocks.getByRole('button', { name: /^Campaign Brackley Dental/ }).click();
  const curve = page.getByRole('slider', { name: 'Aim all bids at a position' });
  await curve.focus();
  for (let times = 0; times < 4; times++) await page.keyboard.press('ArrowLeft');
  await page.getByRole('button', { name: /^Aim \d+ bids$/ }).click();
  await expect(page.getByText(/^Changed \d+ bids/)).toBeVisible();

  await go(page, 'Write');
  const line = async (label: string, text: string) => {
    await page.getByLabel(label, { exact: true }).fill(text);
    await page.getByLabel(label, { exact: true }).press('Enter');
  };
  await page.getByRole('button', { name: 'Add a line to Headline 1' }).click();
  await line('Headline 1, line 2', 'Dental care');
  await line('Headline 2, line 1', 'Brackley Dental');
  await line('Description 1, line 1', 'Book a visit, and know the price before you sit down.');
  await expect(page.locator('[data-yield=misfits]')).toContainText('0 do not fit');
  await go(page, 'Ship');
  await expect(page.getByRole('heading', { name: 'Ready to ship' })).toBeVisible();
  await pressToShip(page.getByRole('button', { name: /^Ship \d/ }));
  await expect(page.getByRole('link', { name: 'Download keywords.csv' })).toBeVisible();
  // None of the demo's words stands anywhere on the way.
  for (const stage of ['Brief', 'Gather', 'Mix', 'Prune', 'Sort', 'Build', 'Write', 'Ship']) {
    await go(page, stage);
    await expect(
      page.getByRole('navigation', { name: 'Trail' }).locator('[aria-current=page]'),
    ).toContainText(stage);
    await expect(page.locator('[data-yield]').first()).toBeVisible();
    expect(await page.locator('body').innerHTML()).not.toMatch(
      /kayak|canoe|eastmere|wrenport|saltmarsh|sup meaning|"jobs|-jobs|: jobs/i,
    );
  }
});

test('a site of this machine is read: pages, robots, what it speaks of, all listed; stopped half-way nothing is kept', async ({
  page,
}) => {
  let delay = 0;
  const site = createServer((request, response) => {
    const path = request.url ?? '';
    if (path === '/robots.txt') return void response.end('User-agent: *\nDisallow: /secret\n');
    if (path === '/sitemap.xml') return void response.writeHead(404).end();
    const links = Array.from({ length: 60 }, (_, at) => `<a href="/p${at}">Thing ${at}</a>`).join('');
    const body = `<title>Copper kettle shop</title><h1>Copper gooseneck kettles</h1><a href="/secret">x</a>${links}`;
    setTimeout(() => response.writeHead(200, { 'content-type': 'text/html' }).end(body), delay);
  });
  site.listen(0, '127.0.0.1');
  await once(site, 'listening');
  const host = `127.0.0.1:${(site.address() as AddressInfo).port}`;
  const port = await freePort();
  const { address, drop } = await freshDatabase();
  const child = spawn(
    process.execPath,
    [...NODE_ARGS, 'apps/server/src/testing/start-beside-site.ts', address, String(port), host],
    { cwd: root, stdio: ['ignore', 'ignore', 'inherit', 'ipc'], env: { ...process.env, LOG_LEVEL: 'error' } },
  );
  try {
    await once(child, 'message');
    const url = `http://127.0.0.1:${port}`;
    await isSignedIn(url, await signInOwner(url, address), page.context());
    const plan = await openPlan(page, url, {
      name: 'Kettles',
      site: 'kettles.example',
    });
    expect(plan).toBeGreaterThan(0);
    await page.getByRole('button', { name: 'Ideas' }).click();
    await page.getByLabel('Where ideas come from').selectOption('site');
    await page.getByLabel('Address of the site').fill(`http://${host}`);
    await page.getByRole('button', { name: 'Read the site' }).click();
    await expect(page.getByText(/^50 pages of .* read, more were there, 1 address not/)).toBeVisible();
    const ideas = page.getByRole('grid', { name: 'Ideas' });
    const kettles = ideas.getByRole('row').filter({ hasText: 'copper gooseneck kettles' });
    await expect(kettles).toContainText('headings of 50 pages');
    await page.getByText(/what was read and what was not/).click();
    await expect(page.getByText(/\/secret: The site’s robots.txt asks not to read it/)).toBeVisible();
    await kettles.getByRole('checkbox').click();
    await page.getByRole('button', { name: 'Take in 1 idea', exact: true }).click();
    await expect(page.getByText('1 keyword went in. Ctrl+Z takes it back.')).toBeVisible();
    delay = 400;
    await page.getByRole('button', { name: 'Read the site' }).click();
    await expect(page.getByRole('status').filter({ hasText: /of \d+ pages/ })).toBeVisible();
    await page.getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByText('Stopped. Nothing of it was kept.')).toBeVisible();
  } finally {
    child.kill('SIGTERM');
    await once(child, 'exit');
    site.closeAllConnections();
    site.close();
    await drop();
  }
});

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

test('columns of months: shown and sifted by, and one month is forecast; ideas say what they would join', async ({
  page,
  url,
}) => {
  const goods = ['lawn', 'hedge', 'patio', 'tree', 'fence'];
  const acts = ['care', 'cutting', 'repair', 'removal', 'cleaning', 'treatment', 'painting'];
  const rows = goods.flatMap((good, one) =>
    acts.flatMap((act, other) =>
      good === 'hedge' && act === 'repair'
        ? []
        : [
            // Twice a mean month in June, none in December.
            `${good} ${act}\t${(one + 1) * (other + 2) * 100}\t0.80\t${MONTHS.map((month) => ({ Jun: 2, Dec: 0 })[month] ?? 1).join('\t')}`,
          ],
    ),
  );
  await openPlan(page, url, {
    name: 'Greenmeadow Gardens',
    site: 'greenmeadow.example',
    list: [`Keyword\tSearches\tCPC\t${MONTHS.map((month) => `${month} 2026`).join('\t')}`, ...rows].join(
      '\n',
    ),
    themes: [['hedge']],
  });
  await page.getByText('Columns', { exact: true }).click();
  await page.getByLabel('Jun 2026').check();
  await page.keyboard.press('Escape');
  const pool = page.getByRole('grid', { name: 'Pool' });
  await expect(pool.getByRole('columnheader', { name: 'Jun 2026' })).toBeVisible();
  await page.getByText('Figures', { exact: true }).last().click();
  await page.getByLabel('Jun 2026 from').fill('two');
  await page.getByRole('button', { name: 'Show those' }).click();
  await expect(page.getByText('Jun 2026 is sifted by numbers.')).toBeVisible();
  await page.getByLabel('Jun 2026 from').fill('3');
  await page.getByRole('button', { name: 'Show those' }).click();
  await expect(page.getByText('No keyword is left by this filter')).toBeVisible();
  await page.getByRole('button', { name: 'Jun 2026 3 to any ×' }).click();
  await expect(page.locator('[data-yield=shown]')).toContainText(String(rows.length));

  await page.getByRole('button', { name: 'Ideas' }).click();
  const idea = page.getByRole('grid', { name: 'Ideas' }).getByRole('row').filter({ hasText: 'hedge repair' });
  await expect(idea.first()).toContainText('hedge');
  await expect(page.getByRole('columnheader', { name: 'Joins' })).toBeVisible();

  await go(page, 'Build');
  await page.getByRole('button', { name: 'Rules' }).click();
  const forecast = page.getByRole('region', { name: 'Forecast' });
  const clicks = async () =>
    Number(/About ([\d,.]+) click/.exec((await forecast.textContent()) ?? '')?.[1]?.replace(',', ''));
  await expect(forecast).toContainText(/About [1-9]/);
  const mean = await clicks();
  await page.getByLabel('Month that is forecast').selectOption({ label: 'June: 200%' });
  await expect(forecast).toContainText('a day in June');
  await expect.poll(async () => Math.abs((await clicks()) / mean - 2)).toBeLessThan(0.02);
  await go(page, 'Ship');
  await expect(page.locator('[data-yield=cost]')).toContainText('a day in June');
});
