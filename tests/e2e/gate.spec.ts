/** Other sites and other names of this machine, in a real browser: they neither read nor write; and our own pages keep to their policy. */

import { Agent, createServer, get, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type APIRequestContext, type Browser, chromium, expect, test } from '@playwright/test';
import { listOf, OWN } from '../support/browser';
import config from '../../playwright.config';

const base = new URL(process.env.BASE_URL ?? 'http://127.0.0.1:3000');
let elsewhere: Server;
let port: number;
let browser: Browser;

test.beforeAll(async () => {
  // A page of another site, and a browser for which other names lead to this machine.
  elsewhere = createServer((_, response) => response.end('<!doctype html><title>elsewhere</title>'));
  await new Promise<void>((done) => elsewhere.listen(0, '127.0.0.1', done));
  port = (elsewhere.address() as AddressInfo).port;
  const { launchOptions } = config.use!;
  browser = await chromium.launch({
    ...launchOptions,
    args: [
      ...(launchOptions?.args ?? []),
      '--host-resolver-rules=MAP *.example 127.0.0.1',
      // This browser would refuse by itself what another lets through to us.
      '--disable-features=BlockInsecurePrivateNetworkRequests,PrivateNetworkAccessSendPreflights,PrivateNetworkAccessRespectPreflightResults,LocalNetworkAccessChecks',
    ],
  });
});
test.afterAll(async () => {
  await browser.close();
  elsewhere.close();
});

const count = async (request: APIRequestContext) =>
  ((await (await request.get('/api/systems?search=From+elsewhere')).json()) as { rows: unknown[] }).rows
    .length;

test('a page of another site writes nothing and reads nothing', async ({ request }) => {
  const page = await browser.newPage();
  await page.goto(`http://elsewhere.example:${port}/`);
  const body = JSON.stringify({ systemName: 'From elsewhere', title: 'x', complaints: [], timeZone: 'UTC' });
  const tried = await page.evaluate(
    async ({ target, body }) => {
      const attempt = (init: RequestInit) =>
        fetch(`${target}/api/jobs`, { method: 'POST', body, ...init }).then(
          (answer) => (answer.type === 'opaque' ? 'sent' : `read ${answer.status}`),
          () => 'refused',
        );
      return [
        await attempt({ headers: { 'content-type': 'application/json' } }),
        await attempt({ mode: 'no-cors' }),
        await attempt({ mode: 'no-cors', headers: { 'content-type': 'text/plain' } }),
        await fetch(`${target}/api/systems`).then(
          () => 'read',
          () => 'refused',
        ),
      ];
    },
    { target: base.origin, body },
  );
  expect(tried[0]).toBe('refused');
  expect(tried[3]).toBe('refused');
  // And by a form, which asks nobody.
  await page.setContent(
    `<form method="post" enctype="text/plain" action="${base.origin}/api/jobs"><input name='${body.replace(/"/g, '&quot;')}' value=""></form>`,
  );
  await page.evaluate(() => document.forms[0]!.submit());
  await page.waitForLoadState();
  expect(await page.textContent('body')).toMatch(/another site|come from a page of Pazienza/);
  expect(await count(request)).toBe(0);
  // Nor can it put our pages into a frame of its own.
  await page.goto(`http://elsewhere.example:${port}/`);
  await page.setContent(`<iframe src="${base.origin}/"></iframe>`);
  await page.waitForTimeout(1000);
  expect(
    await page
      .frames()[1]!
      .evaluate(() => document.title)
      .catch(() => 'refused'),
  ).not.toBe('Pazienza');
  await page.close();
});

test('a name that was turned to this machine is not answered', async ({ request }) => {
  const page = await browser.newPage();
  const answer = await page.goto(`http://rebound.example:${base.port}/`);
  expect(answer!.status()).toBe(421);
  // The page came from elsewhere before its name was turned: for the browser both are of one origin, and only the name gives it away.
  const attack = `http://rebound.example:${base.port}/attack`;
  await page.route(attack, (route) =>
    route.fulfill({ contentType: 'text/html', body: '<!doctype html><title>x</title>' }),
  );
  await page.goto(attack);
  const tried = await page.evaluate(async () => {
    const post = await fetch('/api/jobs', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ systemName: 'From elsewhere', title: 'x', complaints: [], timeZone: 'UTC' }),
    });
    return [post.status, (await fetch('/api/systems')).status];
  });
  expect(tried).toEqual([421, 421]);
  expect(await count(request)).toBe(0);
  await page.close();
});

test('our own pages run under their policy without a complaint, and a script that was slipped in does not', async ({
  page,
}) => {
  const complaints: string[] = [];
  page.on('console', (message) => {
    if (/Content Security Policy|Refused to/.test(message.text())) complaints.push(message.text());
  });
  await page.goto(listOf('Yearly check'));
  const job = await page.getByRole('link', { name: 'Yearly check' }).getAttribute('href');
  for (const path of [
    '/',
    '/systems',
    '/jobs/new',
    '/calculators',
    `${job}/take-in`,
    `${job}/charging`,
    `${job}/logs`,
    `${job}/report`,
    '/nothing',
  ])
    await page.goto(path, { waitUntil: 'networkidle' });
  // The web worker that looks at a file is ours too.
  await page.goto(`${job}/logs`, { waitUntil: 'networkidle' });
  await page.getByLabel('File').setInputFiles({
    name: 'a.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('time,battery voltage (V)\n2026-09-21T06:30:00Z,25.1\n2026-09-21T06:31:00Z,25.2\n'),
  });
  await expect(page.getByRole('button', { name: 'Take it in' })).toBeVisible();
  expect(complaints).toEqual([]);
  await page.evaluate(() => {
    const script = document.createElement('div');
    script.innerHTML = '<img src=x onerror="document.title=\'slipped\'">';
    document.body.append(script);
  });
  await expect.poll(() => complaints.length).toBeGreaterThan(0);
  expect(await page.title()).not.toBe('slipped');
});

test('a connection is kept for its next request: whoever reads a page for a while does not find it closed', async () => {
  const agent = new Agent({ keepAlive: true, maxSockets: 1 });
  const ask = () =>
    new Promise<{ status: number; isKept: boolean }>((done, fail) => {
      const request = get(new URL('/api/health', base), { agent }, (answer) => {
        answer.resume().once('end', () => done({ status: answer.statusCode!, isKept: request.reusedSocket }));
      });
      request.once('error', fail);
    });
  expect(await ask()).toEqual({ status: 200, isKept: false });
  // Longer than the five seconds after which Node ends a connection of its own accord.
  await new Promise((done) => setTimeout(done, 7000));
  expect(await ask()).toEqual({ status: 200, isKept: true });
  agent.destroy();
});

test('a page that is not there answers 404 and says so', async ({ page }) => {
  await page.goto(listOf('Yearly check'));
  const job = await page.getByRole('link', { name: 'Yearly check' }).getAttribute('href');
  for (const path of [
    '/nothing',
    '/jobs/nobody',
    '/jobs/00000000-0000-4000-8000-000000000000/logs',
    `${job}/constructor`,
  ]) {
    const answer = await page.goto(path);
    expect([path, answer!.status()]).toEqual([path, 404]);
    await expect(page.getByRole('heading', { name: 'There is nothing here' })).toBeVisible();
  }
});

test('the list is searched, narrowed and shown whole again', async ({ page }) => {
  const links = page.getByRole('main').getByRole('listitem');
  await page.goto('/');
  await page.getByLabel('Title, system or customer').fill('lamps molo');
  await page.getByRole('button', { name: 'Search' }).click();
  await expect(links).toHaveCount(1);
  await expect(links).toContainText('Ferry signal lamps, Molo Nord');
  await page.getByRole('link', { name: 'Show all' }).click();
  await expect(links).not.toHaveCount(1);
  await page.getByLabel('Complaint').selectOption('cuts off too soon');
  await page.getByLabel('Foremost cause is').selectOption('strong');
  await page.getByRole('button', { name: 'Search' }).click();
  await expect(links).toHaveCount(3);
  await expect(links.filter({ hasText: 'Vaccine cold room, Villa Salina' })).toHaveCount(1);
  await expect(links.filter({ hasText: 'Fog horn' })).toHaveCount(1);
  await page.getByLabel('Title, system or customer').fill('nobody has this');
  await page.getByRole('button', { name: 'Search' }).click();
  await expect(page.getByText('No job fits.')).toBeVisible();
});

test('names that would turn the text round are shown for what they are', async ({ page, request }) => {
  const answer = await request.post('/api/jobs', {
    data: {
      systemName: 'Pier \u202Eevil\u202C one',
      title: '\u202Edesrever',
      complaints: [],
      timeZone: 'UTC',
    },
    headers: OWN,
  });
  const { id } = (await answer.json()) as { id: string };
  await page.goto(`/jobs/${id}/take-in`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('desrever');
  expect(await page.locator('h1 bdi').count()).toBe(1);
  expect(await page.content()).not.toMatch(/[\u202A-\u202E]/);
  await request.delete(`/api/jobs/${id}`, { headers: OWN });
});
