/** The strips as a place to work: each tool by keyboard, by mouse and by touch; a view that is sent opens the same. */

import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { expectAccessible, openStep } from '../support/browser';

const LAMPS = 'Signal lamps';
const strips = (page: Page) => page.getByRole('application');
const panel = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const inView = async (page: Page) => page.url().match(/from=.*$/)?.[0] ?? '';
/** Opens the strips of a job, and waits until they answer: then the view stands in the address. */
async function openStrips(page: Page, job: string): Promise<string> {
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
  // It says "Looking …" first.
  await expect(status).toContainText('Battery voltage, Monitor');
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
  await openStrips(page, 'Transmitter goes off');
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  const lanes = panel(page, 'Lanes');
  await lanes.getByLabel('Cells', { exact: true }).check();
  await lanes.getByLabel('Power', { exact: true }).check();
  await expect(page.getByRole('img', { name: 'Cells over time' })).toBeVisible();
  await expect(page.getByText('15 cells')).toBeVisible();
  await lanes.getByLabel('Scale of Voltage').selectOption('own');
  await expect(page.getByRole('img', { name: /^Battery voltage, .* over time/ }).first()).toBeVisible();
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

test('compare: another span laid over this one, in figures and in the address', async ({ page }) => {
  await openStrips(page, LAMPS);
  await page.keyboard.press('g');
  await page.keyboard.press('o');
  const compare = panel(page, 'Compare');
  await compare.getByRole('button', { name: 'The charge after' }).click();
  const table = compare.getByRole('table');
  await expect(table.getByRole('row', { name: /^Into the battery/ })).toContainText(/Ah.*Ah.*[+−][\d.]+ Ah/);
  await expect(page.getByRole('img', { name: /by Then/ }).first()).toBeVisible();
  await expectAccessible(page, 'compare');
  await expect.poll(() => page.url()).toContain('beside=');
  await compare.getByRole('button', { name: 'A week before' }).click();
  await expect(compare).toContainText(/a week earlier|do not reach so far/);

  // Sent by its address, it opens the same.
  const { href } = new URL(page.url());
  const other = await page.context().newPage();
  await other.goto(href);
  await expect(other.getByRole('img', { name: /by Then/ }).first()).toBeVisible();
  await other.close();

  await compare.getByRole('button', { name: 'Take it off' }).click();
  await expect(page.getByRole('img', { name: /by Then/ })).toHaveCount(0);
  await expect.poll(() => page.url()).not.toContain('beside=');
});

test('a picture of what is in view, as lines and as dots; and the strips as tables', async ({ page }) => {
  await openStrips(page, LAMPS);
  for (const [kind, start] of [
    ['SVG', '<svg'],
    ['PNG', '\x89PNG'],
  ] as const) {
    const coming = page.waitForEvent('download');
    await page.getByRole('button', { name: kind, exact: true }).click();
    const file = await coming;
    expect(file.suggestedFilename()).toMatch(
      new RegExp(`^strips-2026-\\d\\d-\\d\\d\\.${kind.toLowerCase()}$`),
    );
    const bytes = readFileSync(await file.path());
    expect(bytes.subarray(0, 4).toString('latin1')).toBe(start);
    expect(bytes.length).toBeGreaterThan(5000);
  }
  const tables = page.getByRole('region', { name: 'The strips as tables' });
  const volts = tables.getByRole('table', { name: /^Voltage, / });
  await expect(volts.getByRole('row', { name: /^Battery voltage, Monitor/ })).toContainText(
    /\d\d\.\d+ V, \w+ \d+ \w+ 2026/,
  );
  const before = await volts.locator('caption').textContent();
  await strips(page).focus();
  await page.keyboard.press('PageDown');
  await expect(volts.locator('caption')).not.toHaveText(before!);
  await expect(tables.getByRole('table', { name: /^Stages and events/ })).toContainText('absorption');
});

test('pins are kept with the job, printed, and come off', async ({ page }) => {
  const id = await openStrips(page, 'Yearly check');
  await strips(page).focus();
  await page.keyboard.press('m');
  const pins = panel(page, 'Pins');
  await pins.getByLabel(/^Note for/).fill('A cloud at noon');
  await pins.getByRole('button', { name: 'Pin it' }).click();
  await expect(pins.getByText('A cloud at noon', { exact: true })).toBeVisible();
  await page.goto(`/jobs/${id}/report`);
  const printed = page.getByRole('listitem').filter({ hasText: 'A cloud at noon' });
  await expect(printed.getByRole('img', { name: /^Strips: voltage, current/ })).toBeVisible();
  const pdf = await page.request.get(`/api/jobs/${id}/report`);
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
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

  test('compare, find and lanes are tapped', async ({ page }) => {
    await openStrips(page, LAMPS);
    await page.getByRole('button', { name: 'Compare', exact: true }).tap();
    await panel(page, 'Compare').getByRole('button', { name: 'The charge after' }).tap();
    await expect(page.getByRole('img', { name: /by Then/ }).first()).toBeVisible();
    await panel(page, 'Compare').getByRole('button', { name: 'Take it off' }).tap();
    await expect(page.getByRole('img', { name: /by Then/ })).toHaveCount(0);
    await page.getByRole('button', { name: 'Find', exact: true }).tap();
    const before = await inView(page);
    await panel(page, 'Find').getByRole('button', { name: 'Next event' }).tap();
    await expect.poll(() => inView(page)).not.toBe(before);
    await page.getByRole('button', { name: 'Lanes', exact: true }).tap();
    await panel(page, 'Lanes').getByLabel('Charge', { exact: true }).tap();
    await expect(page.getByRole('img', { name: 'Charge over time' })).toHaveCount(0);
  });
});
