/** From a strange log to the first finding: three answers, one click. */

import { expect, type Page, test } from '@playwright/test';
import { keptDemo } from '../support/demos';
import { expectAccessible, tabTo } from '../support/browser';

/** The monitor's log of the lamps, its headings changed to those of no device here. */
function strangeLog(): { name: string; mimeType: string; buffer: Buffer } {
  const { logs } = keptDemo('ferry-lamps');
  const { text } = logs.find((one) => one.device === 'monitor')!;
  return { name: 'from-the-quay.csv', mimeType: 'text/csv', buffer: Buffer.from(text) };
}

/** Drops files onto the page, as from the desktop. */
async function drop(page: Page, files: ReturnType<typeof strangeLog>[]): Promise<void> {
  const data = await page.evaluateHandle(
    (given) => {
      const transfer = new DataTransfer();
      for (const { name, text } of given) transfer.items.add(new File([text], name, { type: 'text/csv' }));
      return transfer;
    },
    files.map(({ name, buffer }) => ({ name, text: buffer.toString() })),
  );
  await page.locator('main').dispatchEvent('drop', { dataTransfer: data });
}

test('a log is dropped on the list of jobs; what it suggests is shown, three answers, and the first finding', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Jobs' })).toBeVisible();
  await drop(page, [strangeLog()]);
  await expect(page.getByRole('heading', { name: 'Start from a log' })).toBeVisible();
  await expect(page.getByText(/It has a percentage or ampere-hours drawn/)).toBeVisible();
  await expect(page.getByLabel('Nominal voltage')).toHaveValue('1');
  await expect(page.getByText(/So it is lead-acid/)).toBeVisible();
  await expectAccessible(page, 'start');
  await page.getByLabel('Chemistry').selectOption({ label: 'gel' });
  await expect(page.getByLabel('Cells in series')).toHaveValue('6');
  await expect(page.getByText('Not known yet: the capacity.')).toBeVisible();
  await page.getByLabel('Capacity, Ah').fill('100');
  await page.getByRole('button', { name: 'Weigh it' }).click();
  await expect(page).toHaveURL(/\/charging$/, { timeout: 30_000 });
  const notebook = page.getByRole('complementary', { name: 'Notebook' });
  await expect(notebook.getByText(/likely|strong|possible/).first()).toBeVisible();
});

test('by keyboard alone, on a phone, with a suggestion overruled', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/jobs/start');
  await page.getByLabel('Log files').setInputFiles(strangeLog());
  await expect(page.getByLabel('Nominal voltage')).toHaveValue('1');
  await tabTo(page, page.getByLabel('Chemistry'));
  await page.keyboard.type('AGM');
  await tabTo(page, page.getByLabel('Capacity, Ah'));
  await page.keyboard.type('120');
  await tabTo(page, page.getByRole('button', { name: 'Weigh it' }));
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/charging$/, { timeout: 30_000 });
  await page.getByRole('link', { name: 'Systems' }).click();
  await page.waitForURL('**/systems');
  await page.goto('/systems?search=from-the-quay');
  await expect(page.getByText('System of from-the-quay').first()).toBeVisible();
  await expect(page.getByText('AGM, 6 cells, 120 Ah').first()).toBeVisible();
});

test('a charger’s log: looked at anew as a charger’s, and the bank is suggested all the same', async ({
  page,
}) => {
  const { text } = keptDemo('tide-gauge').logs.find((one) => one.device === 'solar')!;
  for (let round = 0; round < 3; round++) {
    await page.goto('/jobs/start');
    await page
      .getByLabel('Log files')
      .setInputFiles({ name: 'unnamed.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
    await expect(page.getByLabel('Written by')).toHaveValue('source');
    await expect(page.getByLabel('Nominal voltage')).toHaveValue('1');
    await page.getByText(/columns are read/).click();
    await expect(page.getByLabel(/ is$/).first()).toBeVisible();
    await expect(page.locator('select').filter({ hasText: 'Source current' }).first()).toBeVisible();
  }
});

test('beside the service worker of the pages that work offline, logs are still looked at, again and again', async ({
  page,
}) => {
  await page.goto('/systems?search=Tide+gauge');
  await page
    .getByRole('link', { name: /Capacity tests of Tide gauge/ })
    .first()
    .click();
  await expect(page.getByRole('status').first()).toContainText('opens without the network too');
  for (let round = 0; round < 3; round++) {
    await page.goto('/jobs/start');
    await page.getByLabel('Log files').setInputFiles(strangeLog());
    await expect(page.getByText(/So it is lead-acid/)).toBeVisible();
  }
});
