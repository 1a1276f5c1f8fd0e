/** The strips as a place to work: each tool by keyboard, by mouse and by touch; a view that is sent opens the same. */

import { expect, type Page, test } from '@playwright/test';
import { expectAccessible, openStep } from '../support/browser';

const LAMPS = /Signal lamps|Ferry/;
const strips = (page: Page) => page.getByRole('application');
const panel = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const inView = async (page: Page) => page.url().match(/from=.*$/)?.[0] ?? '';
/** Opens the strips of a job, and waits until they answer: then the view stands in the address. */
async function openStrips(page: Page, job: RegExp): Promise<string> {
  const id = await openStep(page, job, 'charging');
  await expect.poll(() => inView(page)).not.toBe('');
  await strips(page).focus();
  return id;
}

test('the caliper: by keys, by mouse, and as text', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openStrips(page, LAMPS);
  await page.keyboard.press('c');
  const found = panel(page, 'Caliper');
  await expect(found.getByText('Into the battery')).toBeVisible();
  const ends = found.getByText(/ – /);
  const before = await ends.textContent();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(ends).not.toHaveText(before!);
  await expect(found.getByText('Out of it')).toBeVisible();
  await expectAccessible(page, 'caliper');
  await found.getByRole('button', { name: 'Copy as text' }).click();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toMatch(/Into the battery: [\d.]+ Ah/);
  await found.getByRole('button', { name: 'Take the marks off' }).click();
  await expect(found).toHaveCount(0);

  // Shift and drag measures, and does not move the strips.
  const box = (await strips(page).boundingBox())!;
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 100, box.y + 60);
  await page.mouse.down();
  await page.mouse.move(box.x + 300, box.y + 60, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(found.getByText('Out of it')).toBeVisible();
});

test('find: the next time of a value, two crossings for the caliper, the next event', async ({ page }) => {
  await openStrips(page, LAMPS);
  await page.keyboard.press('f');
  const find = panel(page, 'Find');
  await find.getByLabel('Channel').selectOption({ label: 'Battery voltage, Monitor' });
  await find.getByLabel('Figure').fill('13.9');
  await find.getByRole('button', { name: 'Next time' }).click();
  const status = find.getByRole('status');
  await expect(status).toContainText('Battery voltage, Monitor');
  const first = await status.textContent();
  await find.getByRole('button', { name: 'Next time' }).click();
  await expect(status).not.toHaveText(first!);
  await find.getByRole('button', { name: 'Previous time' }).click();
  await expect(status).toHaveText(first!);
  await expectAccessible(page, 'find');

  await find.getByLabel('What it does').selectOption('goes from');
  await find.getByLabel('Figure', { exact: true }).fill('12.8');
  await find.getByLabel('To the figure').fill('13.6');
  await find.getByRole('button', { name: 'Next time' }).click();
  await expect(status).toContainText('Battery voltage');
  await find.getByLabel('What it does').selectOption('rises above');
  await find.getByLabel('Figure', { exact: true }).fill('99');
  await find.getByRole('button', { name: 'Next time' }).click();
  await expect(status).toHaveText('Not again in this log.');

  await find.getByLabel('Event').selectOption('Stage');
  await find.getByRole('button', { name: 'Next event' }).click();
  await expect(status).toContainText(/stage, (bulk|absorption|float)/);
});

test('lanes are shown, hidden and moved, and stay so when the page is loaded anew', async ({ page }) => {
  await openStrips(page, /Transmitter goes off/);
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  const lanes = panel(page, 'Lanes');
  await lanes.getByLabel('Cells', { exact: true }).check();
  await lanes.getByLabel('Power', { exact: true }).check();
  await expect(page.getByRole('img', { name: 'Cells over time' })).toBeVisible();
  await expect(page.getByText('15 cells')).toBeVisible();
  await lanes.getByLabel('Charge', { exact: true }).uncheck();
  await lanes.getByRole('button', { name: 'Cells further up' }).click();
  await lanes.getByLabel('Difference', { exact: true }).check();
  await lanes.getByLabel('Less', { exact: true }).selectOption({ index: 1 });
  await expect(page.getByRole('img', { name: 'Diff. over time' })).toBeVisible();
  await expectAccessible(page, 'lanes');
  await page.reload();
  await expect(page.getByRole('img', { name: 'Cells over time' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'Charge over time' })).toHaveCount(0);
});

test('a view is sent by its address; back and forward go through the views', async ({ page }) => {
  await openStrips(page, LAMPS);
  const whole = await inView(page);
  await page.getByRole('button', { name: 'Day', exact: true }).click();
  await expect.poll(() => inView(page)).not.toBe(whole);
  const day = await inView(page);
  await page.getByRole('button', { name: 'View before' }).click();
  await expect.poll(() => inView(page)).toBe(whole);
  await page.getByRole('button', { name: 'View after' }).click();
  await expect.poll(() => inView(page)).toBe(day);
  const other = await page.context().newPage();
  await other.goto(page.url());
  await expect(other.getByRole('application')).toBeVisible();
  await other.waitForTimeout(1500);
  expect(await inView(other)).toBe(day);
});

test('pins are kept with the job, printed, and come off', async ({ page }) => {
  const id = await openStrips(page, /Office clock|harbour|Harbour/);
  await strips(page).focus();
  await page.keyboard.press('m');
  const pins = panel(page, 'Pins');
  await pins.getByLabel(/^Note for/).fill('A cloud at noon');
  await pins.getByRole('button', { name: 'Pin it' }).click();
  await expect(pins.getByText('A cloud at noon', { exact: true })).toBeVisible();
  await page.goto(`/jobs/${id}/report`);
  await expect(page.getByText(/A cloud at noon/).first()).toBeVisible();
  await page.goto(`/jobs/${id}/charging`);
  await page.getByRole('button', { name: 'Pins', exact: true }).click();
  await pins.getByRole('button', { name: /Take off/ }).click();
  await expect(pins.getByText('Nothing is pinned yet.')).toBeVisible();
});

test('the command box and the sheet of keys, wherever the focus is', async ({ page }) => {
  await openStrips(page, LAMPS);
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'What to do' }).fill('calip');
  await expectAccessible(page, 'commands');
  await page.keyboard.press('Enter');
  await expect(panel(page, 'Caliper')).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('cut');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/cut-offs$/);
  await openStrips(page, LAMPS);
  await page.getByRole('link', { name: 'Systems' }).focus();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys of the strips' })).toBeVisible();
});

test.describe('by touch', () => {
  test.use({ hasTouch: true, viewport: { width: 390, height: 844 } });
  test('two long presses measure', async ({ page }) => {
    await openStrips(page, LAMPS);
    const box = (await strips(page).boundingBox())!;
    const press = async (x: number) => {
      const at = {
        clientX: box.x + x,
        clientY: box.y + 60,
        pointerType: 'touch',
        pointerId: 7,
        isPrimary: true,
        bubbles: true,
      };
      await strips(page).dispatchEvent('pointerdown', at);
      await page.waitForTimeout(700);
      await strips(page).dispatchEvent('pointerup', at);
    };
    await press(60);
    await expect(panel(page, 'Caliper')).toBeVisible();
    await press(200);
    await expect(panel(page, 'Caliper').getByText('Into the battery')).toBeVisible();
  });
});
