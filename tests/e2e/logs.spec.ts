/** The way of a log through the interface: broken connections, signs, recipes, overlaps, clocks, what is given back. */

import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { writeBundle, zipBundle } from '@/core/bundle/write';
import { keptDemo } from '../support/demos';
import { expectAccessible, logCard, OWN } from '../support/browser';

const demo = keptDemo('tide-gauge');
const textOf = (device: string) => demo.logs.find((one) => one.device === device)!.text;

/** A job like the tide gauge's, with the logs of these devices. @returns its id */
async function openJob(page: Page, ...devices: string[]): Promise<string> {
  const logs = demo.logs
    .filter((one) => devices.includes(one.device))
    .map(({ path, device, text }) => ({ path, bytes: Buffer.from(text), description: { device } }));
  // Under a title of its own: other tests find the demo's job by its.
  const zip = zipBundle(
    writeBundle('tide-gauge', { ...demo.job, title: 'The way of a log' }, demo.system, logs),
  );
  const answer = await page.request.post('/api/bundles', {
    data: Buffer.from(zip),
    headers: { 'content-type': 'application/zip', ...OWN },
  });
  const { id, left } = (await answer.json()) as { id: string; left: string[] };
  expect(left).toEqual([]);
  // Its logs come in behind it.
  await expect
    .poll(async () => (await (await page.request.get(`/api/jobs/${id}/intakes`)).json()) as unknown[], {
      timeout: 60_000,
    })
    .toEqual([]);
  await page.goto(`/jobs/${id}/logs`);
  await expect(page.getByRole('heading', { name: 'Take in a log' })).toBeVisible();
  return id;
}

async function choose(page: Page, name: string, text: string, writtenBy: string): Promise<void> {
  await page.getByLabel('Written by').selectOption(writtenBy);
  await page.getByLabel('File').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
}

const take = (page: Page) => page.getByRole('button', { name: 'Take it in' });

/** A monitor's log of so many minutes from a moment on; `sign` −1 counts discharging as positive. */
function monitorLog(from: number, minutes: number, sign: 1 | -1 = 1, heading = 'current (A)'): string {
  const rows = Array.from({ length: minutes }, (_, i) => {
    const amps = (i % 10 < 5 ? -6 : -2) + (i % 37 < 18 ? 9 : 0);
    const at = new Date(from + i * 60_000).toISOString().slice(0, 19);
    return `${at}Z,${(12.6 + 0.02 * amps).toFixed(2)},${(sign * amps).toFixed(1)}`;
  });
  return `time,battery voltage (V),battery ${heading}\n${rows.join('\n')}\n`;
}
const START = Date.UTC(2026, 6, 1);

test('a connection that breaks is gone on with; one that stays broken is told, and what was sent is kept', async ({
  page,
}) => {
  await page.clock.install();
  const id = await openJob(page);
  let puts = 0;
  await page.route('**/api/intakes/**', async (route) => {
    if (route.request().method() !== 'PUT') return route.continue();
    puts++;
    return puts <= 2 ? route.abort() : route.continue();
  });
  await choose(page, 'july.csv', monitorLog(START, 300), 'Monitor');
  await take(page).click();
  await expect(page.getByText('The connection broke: trying again in 1 s')).toBeVisible();
  await page.clock.fastForward(1100);
  await expect(page.getByText('The connection broke: trying again in 2 s')).toBeVisible();
  await page.clock.fastForward(2100);
  for (let i = 0; i < 30 && (await page.getByText('july.csv was taken in').count()) === 0; i++) {
    await page.waitForTimeout(200);
    await page.clock.fastForward(500);
  }
  await expect(page.getByText('july.csv was taken in')).toBeVisible();
  await expect(logCard(page, 'july.csv')).toBeVisible();

  // From here on nothing gets through.
  await page.unrouteAll();
  await page.route(`**/api/jobs/${id}/intakes`, (route) =>
    route.request().method() === 'POST' ? route.abort() : route.continue(),
  );
  await choose(page, 'august.csv', monitorLog(START + 31 * 86_400_000, 300), 'Monitor');
  await take(page).click();
  for (let i = 0; i < 8; i++) {
    await page.waitForTimeout(150);
    await page.clock.fastForward(31_000);
  }
  await expect(page.locator('p[role=alert]')).toContainText(
    'august.csv: The connection broke while sending. Nothing was stored; try again.',
  );
  await page.unrouteAll();
  await expect(take(page)).toBeEnabled();
});

test('a file that was broken off lies there, and goes on when it is chosen again', async ({ page }) => {
  const id = await openJob(page);
  const text = monitorLog(START, 300);
  const bytes = Buffer.from(text);
  const begun = await page.request.post(`/api/jobs/${id}/intakes`, {
    data: { fileName: 'half.csv', size: bytes.length, modified: 5, description: { device: 'monitor' } },
    headers: OWN,
  });
  const { id: intake } = (await begun.json()) as { id: string };
  const half = Math.floor(bytes.length / 2);
  const put = (at: number, data: Buffer) =>
    page.request.put(`/api/intakes/${intake}?at=${at}`, {
      data,
      headers: { 'content-type': 'application/octet-stream', ...OWN },
    });
  await put(0, bytes.subarray(0, half));
  await page.reload();
  const waiting = page.getByRole('region', { name: 'Uploads in progress' });
  await expect(waiting).toContainText(/half\.csv was sent as far as (49|50) %\. Choose the same file again/);
  await expectAccessible(page, 'a log half sent');
  // Sent on as the browser would, and taken in while nobody looks.
  await put(half, bytes.subarray(half));
  await page.reload();
  await expect(logCard(page, 'half.csv')).toContainText('300 samples', { timeout: 30_000 });
  await expect(waiting).toHaveCount(0);
});

test('a current that counts the other way is asked about and turned round', async ({ page }) => {
  await openJob(page);
  // Under a heading of its own: what is confirmed here is offered for no other test's log.
  await choose(page, 'turned.csv', monitorLog(START, 300, -1, 'current turned (A)'), 'Monitor');
  await expect(page.getByText('as it stands, positive is discharging')).toBeVisible();
  await expect(take(page)).toBeDisabled();
  await expect(page.getByText('Say what a positive “battery current turned (A)” means.')).toBeVisible();
  await expectAccessible(page, 'the confirmation');
  await page.getByRole('button', { name: 'This log counts so: turn it round' }).click();
  await expect(page.getByText('falls, the voltage rises: negative is charging.')).toBeVisible();
  await expect(
    page.getByText(/The first rows run from 1 Jul 2026 02:00:00 to 1 Jul 2026 06:59:00, one every 1 min/),
  ).toBeVisible();
  await page.getByText('The first rows as they stand').click();
  const rows = page.getByRole('region', { name: 'First rows' });
  await expect(rows.getByRole('cell', { name: '2026-07-01T00:00:00Z' })).toBeVisible();
  await take(page).click();
  await expect(page.getByText('turned.csv was taken in')).toBeVisible({ timeout: 30_000 });
  const href = await page.getByRole('link', { name: 'CSV of turned.csv' }).getAttribute('href');
  const first = (await (await page.request.get(href!)).text()).split('\r\n')[1]!;
  // The file says −3 A; charging is positive here.
  expect(first.split(',').map(Number).slice(1)).toContain(3);
});

test('a confirmed reading is offered for the next log with the same headings', async ({ page }) => {
  await openJob(page);
  const heading = `current run ${Date.now()} (A)`;
  await choose(page, 'first.csv', monitorLog(START, 60, 1, heading), 'Monitor');
  await page.getByLabel(`battery ${heading} is`).selectOption('Battery current');
  await page.getByLabel(`battery ${heading}: charging reads negative`).check();
  await take(page).click();
  await expect(page.getByText('first.csv was taken in')).toBeVisible({ timeout: 30_000 });
  await choose(page, 'second.csv', monitorLog(START + 3_600_000, 60, 1, heading), 'Monitor');
  await expect(page.getByText('These headings were confirmed before, with first.csv')).toBeVisible();
  await expect(page.getByLabel(`battery ${heading}: charging reads negative`)).toBeChecked();
  await page.getByRole('button', { name: 'Start from what is recognised' }).click();
  await expect(page.getByLabel(`battery ${heading}: charging reads negative`)).not.toBeChecked();
  // The other kind of device has recipes of its own.
  await page.getByLabel('Written by').selectOption('Solar controller');
  await expect(take(page)).toBeVisible();
  await expect(page.getByText('These headings were confirmed before')).toHaveCount(0);
});

test('an overlap is asked about; merged, and taken back', async ({ page }) => {
  await openJob(page);
  await choose(page, 'july.csv', monitorLog(START, 300), 'Monitor');
  await take(page).click();
  await expect(page.getByText('july.csv was taken in')).toBeVisible({ timeout: 30_000 });
  await choose(page, 'mid-july.csv', monitorLog(START + 200 * 60_000, 300), 'Monitor');
  await take(page).click();
  await expect(
    page.getByText(/mid-july\.csv overlaps july\.csv of the same device, from 1 Jul 2026 05:20/),
  ).toBeVisible({
    timeout: 30_000,
  });
  await expectAccessible(page, 'the question of an overlap');
  await page.getByRole('button', { name: 'Merge them' }).click();
  await expect(page.getByText('mid-july.csv was taken in')).toBeVisible({ timeout: 30_000 });
  await expect(logCard(page, 'mid-july.csv')).toContainText('500 samples');
  // Merged, they are one log.
  await expect(logCard(page, 'july.csv')).toHaveCount(0);
  await page.getByRole('button', { name: /^Take back mid-july\.csv/ }).click();
  await expect(logCard(page, 'july.csv')).toContainText('300 samples');
});

test('a clock that is an hour off is told, set right by one click, and set back by another', async ({
  page,
}) => {
  const id = await openJob(page, 'monitor');
  const ahead = textOf('solar').replace(/^(\d{4}-\d\d-\d\d) (\d\d)/gm, (_, day: string, hour: string) => {
    const at = new Date(Date.parse(`${day}T${hour}:00:00Z`) + 3_600_000).toISOString();
    return `${at.slice(0, 10)} ${at.slice(11, 13)}`;
  });
  await choose(page, 'ahead.csv', ahead, 'Solar controller');
  await take(page).click();
  await expect(page.getByText('ahead.csv was taken in')).toBeVisible({ timeout: 30_000 });
  const solar = logCard(page, 'ahead.csv');
  await expect(solar).toContainText(
    /The clock of Solar controller is (59|60|61) min ahead of that of the monitor/,
  );
  // Weighed as if it were right, it does not mislead.
  const notebook = page.getByRole('complementary').last();
  await expect(notebook).toContainText('Absorption ends too early');

  await solar.getByRole('button', { name: /^Clock as written/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText(/Shifted by −(59|60|61) min against Monitor.*This is sure\./);
  await expect(dialog.getByRole('img')).toBeVisible();
  await expectAccessible(page, 'the clock of a log');
  await dialog.getByRole('button', { name: 'Leave it' }).click();

  await solar.getByRole('button', { name: 'Set its clock right' }).click();
  await expect(page.getByText('The clock of Solar controller was set right.').first()).toBeVisible();
  await expect(solar).toContainText(/Clock −(59|60|61) min/);
  await expect(solar).not.toContainText('ahead of that of the monitor');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(solar).toContainText('Clock as written');
  await expect(solar).toContainText('ahead of that of the monitor');

  // By hand: half an hour, in another zone.
  await solar.getByRole('button', { name: /^Clock as written/ }).click();
  await dialog.getByLabel('Added to its times').fill('x');
  await expect(dialog.getByRole('alert')).toContainText('a number of minutes');
  await dialog.getByLabel('Added to its times').fill('-30');
  await dialog.getByLabel('Zone of its times').selectOption('UTC');
  await dialog.getByRole('button', { name: 'Set the clock' }).click();
  await expect(solar).toContainText('Clock −30 min');
  // 21 September 01:00 in Rome, taken for UTC and half an hour less, is 02:30 in Rome.
  await expect(solar).toContainText('21 Sep 2026 02:30');
  const timeline = await page.request.get(`/api/jobs/${id}/timeline?format=csv`);
  const heading = (await timeline.text()).split('\r\n')[0]!;
  expect(heading).toContain('monitor.battery_voltage');
  expect(heading).toContain('solar.source_voltage');
});

test('rows with a problem can be had as a list; the span in view as a file', async ({ page }) => {
  const id = await openJob(page, 'monitor');
  await choose(page, 'torn.csv', `${textOf('solar').slice(0, 200_000)}\nno time,1,2\n`, 'Solar controller');
  await take(page).click();
  await expect(page.getByText('torn.csv was taken in')).toBeVisible({ timeout: 30_000 });
  const [list] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'List of the problems in torn.csv' }).click(),
  ]);
  expect(list.suggestedFilename()).toBe('problems-of-torn.csv.csv');
  expect(readFileSync((await list.path())!, 'utf8')).toContain('no time');
  await page.goto(`/jobs/${id}/charging`);
  const [span] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'This span as CSV' }).click(),
  ]);
  const rows = readFileSync((await span.path())!, 'utf8')
    .trimEnd()
    .split('\r\n');
  const days = (Date.parse(rows.at(-1)!.split(',')[0]!) - Date.parse(rows[1]!.split(',')[0]!)) / 86_400_000;
  expect(days).toBeGreaterThan(5.9);
  expect(days).toBeLessThanOrEqual(6);
});
