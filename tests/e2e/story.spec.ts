/** The whole story in a browser: open a job, take in a log, see the stages and the finding, print the report. */

import { expect, type Page, test } from '@playwright/test';
import { keptDemo } from '../support/demos';
import { expectAccessible, listOf } from '../support/browser';

async function openJob(page: Page, name: string): Promise<void> {
  await page.goto(listOf(name));
  await page.getByRole('link', { name }).click();
  await expect(page.getByRole('region', { name: 'Strips' })).toBeVisible();
}

test('the job list is accessible, and shows a job by words of its title', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('listitem').filter({ has: page.getByRole('link') })).not.toHaveCount(0);
  await expectAccessible(page);
  for (const job of ['Tide gauge never gets full', 'Yearly check of clock and bells']) {
    await page.goto(listOf(job));
    await expect(page.getByRole('link', { name: job })).toBeVisible();
  }
});

test('a charger log is taken in, its stages seen, the finding weighed, the report printed', async ({
  page,
}) => {
  const log = keptDemo('tide-gauge').logs.find((one) => one.device === 'solar')!;
  await openJob(page, 'Tide gauge never gets full');
  await page.getByRole('link', { name: /^Logs/ }).click();
  await page.getByLabel('Written by').selectOption('Solar controller');
  await page
    .getByLabel('File')
    .setInputFiles({ name: 'solar-controller.csv', mimeType: 'text/csv', buffer: Buffer.from(log.text) });
  await expect(page.getByLabel('Output voltage [V] is')).toHaveValue('source_voltage');
  await expect(page.getByLabel('Output current [A] is')).toHaveValue('source_current');
  await expect(page.getByLabel('Battery temperature [°C] is')).toHaveValue('battery_temperature');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByText('solar-controller.csv was taken in')).toBeVisible({ timeout: 30_000 });

  // The same file again is refused, and nothing is doubled.
  await page.getByLabel('Written by').selectOption('Solar controller');
  await page
    .getByLabel('File')
    .setInputFiles({ name: 'solar-controller.csv', mimeType: 'text/csv', buffer: Buffer.from(log.text) });
  await page.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.locator('p[role=alert]')).toContainText('taken in already');

  await page.getByRole('link', { name: /^Charging/ }).click();
  await expect(page.getByText('Source voltage, Solar controller')).toBeVisible();
  await expect(page.locator('title', { hasText: /^absorption, .* ended by: clock$/ }).first()).toBeAttached();
  const notebook = page.getByRole('complementary', { name: 'Notebook' });
  const finding = notebook.getByRole('button', { name: /Absorption ends too early/ });
  await expect(finding).toContainText(/likely|strong/);
  await expectAccessible(page);

  // Evidence lights its spans and goes there.
  const evidence = notebook.getByRole('button', { name: /It lasted .* again and again/ });
  const before = await page.getByText(/^\d+ \w+ 2026 \d\d:\d\d – /).innerText();
  await evidence.click();
  await expect(page.locator('rect[fill="var(--lit)"]').first()).toBeVisible();
  await expect(page.getByText(before)).toHaveCount(0);

  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByRole('heading', { name: 'Tide gauge never gets full' })).toBeVisible();
  await expect(page.getByRole('article')).toContainText('Absorption ends too early, on the clock');
  await expectAccessible(page);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Download PDF' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('tide-gauge-porto-lente-report.pdf');
  const chunks: Buffer[] = [];
  for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
  expect(Buffer.concat(chunks).subarray(0, 5).toString()).toBe('%PDF-');
});

test('the harbour office: nothing is found', async ({ page }) => {
  await openJob(page, 'Yearly check');
  const notebook = page.getByRole('complementary', { name: 'Notebook' });
  await expect(notebook).toContainText('No likely cause found.');
  for (const word of ['strong', 'likely', 'possible'])
    await expect(notebook.getByRole('button', { name: new RegExp(`^${word}`) })).toHaveCount(0);
});

test('the strips move and zoom by keyboard and wheel', async ({ page }) => {
  await openJob(page, 'Yearly check');
  const strips = page.getByRole('application');
  const range = page.getByText(/^\d+ \w+ 2026 \d\d:\d\d – /);
  await strips.focus();
  const first = await range.innerText();
  await strips.press('ArrowRight');
  await expect(range).not.toHaveText(first);
  await strips.press('0');
  const whole = await range.innerText();
  await strips.press('+');
  await expect(range).not.toHaveText(whole);
  const zoomed = await range.innerText();
  const box = (await strips.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.wheel(0, -400);
  await page.mouse.move(0, 0);
  await expect(range).not.toHaveText(zoomed);
  await strips.focus();
  await strips.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys of the strips' })).toBeVisible();
});

test('a file that is no log gets a clear sentence', async ({ page }) => {
  await openJob(page, 'Yearly check');
  await page.getByRole('link', { name: /^Logs/ }).click();
  await page.getByLabel('File').setInputFiles({
    name: 'page.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('<!doctype html><html><body>Sign in</body></html>'),
  });
  await expect(page.locator('p[role=alert]')).toContainText('This is a web page, not a log');
  await expect(page.getByRole('button', { name: 'Take it in' })).toHaveCount(0);
});

test('a job that is not there says so', async ({ page }) => {
  await page.goto('/jobs/00000000-0000-0000-0000-000000000000/charging');
  await expect(page.getByText('There is nothing here')).toBeVisible();
});
