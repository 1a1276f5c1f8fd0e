/** Taking in logs: what is uncertain is asked, a cancelled upload leaves nothing, foreign requests are refused. */

import { gzipSync } from 'node:zlib';
import { expect, type Page, test } from '@playwright/test';
import { writeBundle, zipBundle } from '@/core/bundle/write';
import { keptDemo } from '../support/demos';
import { listOf, logCard, newJob, OWN } from '../support/browser';

const HEAD = 'when,Voltage,Temperature\n';

/** A job of this file's own, with logs: what is taken in here is not to be seen by the tests that run beside it. */
let ownJob = '';

test.beforeAll(async ({ request }) => {
  const { job, system, logs } = keptDemo('harbour-office');
  const bundle = zipBundle(
    writeBundle(
      'uploads',
      { ...job, title: 'Uploads' },
      { ...system, name: 'Office of the uploads' },
      logs.map(({ path, device, text }) => ({ path, bytes: Buffer.from(text), description: { device } })),
    ),
  );
  const answer = await request.post('/api/bundles', {
    data: Buffer.from(bundle),
    headers: { ...OWN, 'content-type': 'application/zip' },
  });
  ({ id: ownJob } = (await answer.json()) as { id: string });
  const underWay = async () =>
    ((await (await request.get(`/api/jobs/${ownJob}/intakes`)).json()) as unknown[]).length;
  await expect.poll(underWay, { timeout: 60_000 }).toBe(0);
});

async function openLogs(page: Page): Promise<string> {
  await page.goto(`/jobs/${ownJob}/logs`);
  await expect(page.getByRole('heading', { name: 'Take in a log' })).toBeVisible();
  return ownJob;
}

const choose = (page: Page, name: string, text: string) =>
  page.getByLabel('File').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('what cannot be told is asked, and can be answered', async ({ page }) => {
  await openLogs(page);
  await page.getByLabel('Written by').selectOption('Mains charger');
  const rows = Array.from({ length: 40 }, (_, i) => `3/4/2026 06:${String(i).padStart(2, '0')},27.1,18.5`);
  await choose(page, 'odd.csv', HEAD + rows.join('\n') + '\n');
  await expect(page.getByText(/battery's temperature, or the device's own\?/)).toBeVisible();
  await expect(page.getByText(/day and month cannot be told apart/)).toBeVisible();
  const take = page.getByRole('button', { name: 'Take it in' });
  await expect(take).toBeDisabled();
  await expect(page.getByText('Say whether the dates have the day or the month first.')).toBeVisible();
  await page.getByLabel('Dates have').selectOption('the day first');
  await expect(take).toBeEnabled();

  // Two columns for one channel are not accepted.
  await page.getByLabel('Temperature is').selectOption('Source voltage');
  await expect(page.getByText(/Two columns are said to be Source voltage/)).toBeVisible();
  await expect(take).toBeDisabled();
  await page.getByLabel('Temperature is').selectOption('left out');
  await take.click();
  await expect(page.getByText('odd.csv was taken in')).toBeVisible({ timeout: 30_000 });
  await expect(logCard(page, 'odd.csv')).toContainText('3 Apr 2026');
});

test('a log that counts from a start asks when it began; JSON Lines, gzipped, are read like any other', async ({
  page,
}) => {
  await openLogs(page);
  await page.getByLabel('Written by').selectOption('Mains charger');
  const rows = Array.from({ length: 60 }, (_, i) => `${i * 60},27.1,${(10 - i / 10).toFixed(1)}`);
  await choose(page, 'counted.csv', `elapsed (s),Charger V,Charger A\n${rows.join('\n')}\n`);
  await expect(page.getByText(/counts from a start: when was the first row written\?/)).toBeVisible();
  const take = page.getByRole('button', { name: 'Take it in' });
  await expect(take).toBeDisabled();
  await page.getByLabel('The first row was written at').fill('2026-04-05T06:30:00');
  await take.click();
  await expect(page.getByText('counted.csv was taken in')).toBeVisible({ timeout: 30_000 });
  // Typed on the site's clock.
  await expect(logCard(page, 'counted.csv')).toContainText('5 Apr 2026 06:30');

  const lines = Array.from({ length: 60 }, (_, i) =>
    JSON.stringify({
      time: new Date(Date.UTC(2026, 3, 7, 6, i)).toISOString(),
      charger: { voltage: 27.2, current: 3 },
    }),
  );
  await page.getByLabel('Written by').selectOption('Mains charger');
  await page.getByLabel('File').setInputFiles({
    name: 'lines.jsonl.gz',
    mimeType: 'application/gzip',
    buffer: gzipSync(lines.join('\n')),
  });
  await expect(page.getByLabel('charger voltage is')).toHaveValue('source_voltage');
  await take.click();
  await expect(page.getByText('lines.jsonl.gz was taken in')).toBeVisible({ timeout: 30_000 });
});

test('a log is given back as CSV and Parquet, removed, and put back', async ({ page }) => {
  await openLogs(page);
  const card = logCard(page, 'monitor.csv');
  for (const [name, magic] of [
    ['CSV of monitor.csv', 'time,'],
    ['Parquet of monitor.csv', 'PAR1'],
  ] as const) {
    const href = await card.getByRole('link', { name }).getAttribute('href');
    const file = await page.request.get(href!);
    expect((await file.body()).subarray(0, magic.length).toString()).toBe(magic);
  }
  await card.getByRole('button', { name: 'Remove monitor.csv' }).click();
  await expect(page.getByText('monitor.csv was removed.').first()).toBeVisible();
  await expect(card).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(card).toBeVisible();
});

test('a job with no device described takes in a log: the device is made with it', async ({ page }) => {
  const id = await newJob(page, 'Pier with nothing written down');
  await page.goto(`/jobs/${id}/logs`);
  await expect(page.getByLabel('Written by')).toHaveValue('charger');
  await page.getByLabel('Written by').selectOption('The battery monitor, or a logger at the battery');
  const rows = Array.from(
    { length: 50 },
    (_, i) => `${new Date(Date.UTC(2026, 6, 1) + i * 60_000).toISOString()},25.${i % 10},${(i % 7) - 3}`,
  );
  await choose(page, 'logger.csv', `time,battery voltage (V),battery current (A)\n${rows.join('\n')}\n`);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByText('logger.csv was taken in')).toBeVisible({ timeout: 30_000 });
  await page.goto(`/jobs/${id}/take-in`);
  await expect(page.getByRole('heading', { name: 'Monitor' })).toBeVisible();
});

test('a cancelled upload leaves nothing, and the file can be sent again', async ({ page }) => {
  await openLogs(page);
  const log = keptDemo('harbour-office').logs.find((one) => one.device === 'monitor')!;
  // A year earlier, so that it overlaps nothing.
  const text = log.text.split('\n').slice(0, 5000).join('\n').replace(/^2026/gm, '2025') + '\n';
  const cards = logCard(page, 'again.csv');
  await page.route('**/api/intakes/**', async (route) => {
    if (route.request().method() === 'PUT') await new Promise((done) => setTimeout(done, 1500));
    await route.continue().catch(() => undefined);
  });
  await page.getByLabel('Written by').selectOption('Monitor');
  await choose(page, 'again.csv', text);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: 'Take it in' })).toBeVisible();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await page.reload({ waitUntil: 'networkidle' });
  await expect(cards).toHaveCount(0);
  await page.getByLabel('Written by').selectOption('Monitor');
  await choose(page, 'again.csv', text);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByText('again.csv was taken in')).toBeVisible({ timeout: 30_000 });
  // The list is fetched anew after the word that it is done.
  await expect(cards).toHaveCount(1);
});

test('the server refuses what the form would refuse, and requests of other sites', async ({
  page,
  request,
}) => {
  const id = await openLogs(page);
  const begin = (body: object | string, headers: Record<string, string> = {}) =>
    request.post(`/api/jobs/${id}/intakes`, {
      data: typeof body === 'string' ? body : JSON.stringify(body),
      headers: { 'content-type': 'application/json', ...OWN, ...headers },
    });
  const good = { fileName: 'a.csv', size: 13, modified: 0, description: { device: 'mains' } };
  expect((await begin(good, { 'sec-fetch-site': 'cross-site' })).status()).toBe(403);
  expect((await begin('not json')).status()).toBe(400);
  expect((await begin({ fileName: 'a.csv' })).status()).toBe(400);
  const refused = async (body: object) => {
    const answer = await begin(body);
    expect(answer.status()).toBe(400);
    return ((await answer.json()) as { error: string }).error;
  };
  expect(await refused({ ...good, description: { device: 'wind' } })).toMatch(/no device “wind”/);
  expect(await refused({ ...good, description: { device: 'mains', timeZone: 'Nowhere' } })).toMatch(
    /not a time zone/,
  );
  expect(await refused({ ...good, size: 0 })).toMatch(/empty/);

  const { id: intake } = (await (await begin(good)).json()) as { id: string };
  const put = (at: string, body: string, headers: Record<string, string> = {}) =>
    request.put(`/api/intakes/${intake}?at=${at}`, {
      data: Buffer.from(body),
      headers: { 'content-type': 'application/octet-stream', ...OWN, ...headers },
    });
  expect((await put('0', '<html>', { 'sec-fetch-site': 'cross-site' })).status()).toBe(403);
  expect((await put('x', '<html>')).status()).toBe(400);
  expect((await put('0', '')).status()).toBe(400);
  const elsewhere = await put('5', '</html>');
  expect([elsewhere.status(), (await elsewhere.json()).received]).toEqual([409, 0]);
  expect(await (await put('0', '<html>')).json()).toEqual({ received: 6 });
  expect((await put('6', 'much more than was said')).status()).toBe(400);
  expect((await put('6', '</html>')).status()).toBe(200);
  await expect
    .poll(async () => (await (await request.get(`/api/intakes/${intake}`)).json()).problem)
    .toMatch(/web page/);
  const answer = (data: object) => request.post(`/api/intakes/${intake}`, { data, headers: OWN });
  expect((await answer({ answer: 'both' })).status()).toBe(400);
  expect((await answer({ answer: 'merge' })).status()).toBe(404);
  const cancel = () => request.delete(`/api/intakes/${intake}`, { headers: OWN });
  expect((await request.delete(`/api/intakes/${intake}`)).status()).toBe(403);
  expect((await cancel()).status()).toBe(200);
  for (const answer of [
    await request.get(`/api/intakes/${intake}`),
    await cancel(),
    await put('0', 'time'),
    await request.get('/api/recordings/nobody/clock'),
    await request.get('/api/recordings/nobody/problems'),
    await request.get('/api/jobs/nobody/timeline'),
  ])
    expect([answer.url(), answer.status()]).toEqual([answer.url(), 404]);
});

test('tiles answer for what is there and for nothing else', async ({ page, request }) => {
  const answered = page.waitForResponse(/\/tiles\?/);
  await page.goto(listOf('Yearly check'));
  await page.getByRole('link', { name: 'Yearly check' }).click();
  const tile = await answered;
  expect(tile.status()).toBe(200);
  expect(tile.headers()['cache-control']).toContain('immutable');
  const url = new URL(tile.url());
  const channels = url.searchParams.get('channels')!.split(',');
  expect((await (await request.get(url.pathname + url.search)).body()).length).toBe(
    channels.length * 2 * 512 * 4,
  );
  expect((await request.get(`${url.pathname}?level=99&index=0&channels=soc`)).status()).toBe(400);
  expect((await request.get(`${url.pathname}?level=1&index=0&channels=soc;drop`)).status()).toBe(400);
  expect(
    (
      await request.get(
        '/api/recordings/00000000-0000-4000-8000-000000000000/tiles?level=1&index=0&channels=soc',
      )
    ).status(),
  ).toBe(404);
  expect((await request.get('/api/jobs/00000000-0000-4000-8000-000000000000/report')).status()).toBe(404);
});
