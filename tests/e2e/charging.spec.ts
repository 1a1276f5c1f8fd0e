/** The views of charging: the table of charges, a charge beside what was expected, the days by the clock, the sources. */

import { expect, test } from '@playwright/test';
import { expectAccessible, holdScripts, listOf, openStep } from '../support/browser';

const RANGE = /^\d+ \w+ 2026 \d\d:\d\d – /;

test('charges are sorted, narrowed, opened, and shown on the strips', async ({ page }) => {
  await openStep(page, 'Cold room shuts down', 'charging?view=charges');
  const table = page.getByRole('region', { name: 'Table of charges' });
  const rows = table.locator('tbody tr');
  const count = page.getByText(/^\d+ of \d+ charges$/);
  await expect(count).toBeVisible();
  const all = await rows.count();
  expect(all).toBeGreaterThan(10);
  await expect(count).toHaveText(`${all} of ${all} charges`);

  await page.getByRole('combobox', { name: /^Source/ }).selectOption('Mains charger');
  await expect(count).not.toHaveText(`${all} of ${all} charges`);
  const mains = await rows.count();
  expect(mains).toBeLessThan(all);
  await expect(rows.filter({ hasText: 'Second charger' })).toHaveCount(0);
  await page.getByRole('combobox', { name: /^Source/ }).selectOption('all');
  await expect(rows).toHaveCount(all);

  const ampHours = async () =>
    (await rows.locator('td:nth-child(3)').allInnerTexts()).filter((one) => one !== '–').map(parseFloat);
  await table.getByRole('button', { name: 'Into it' }).click();
  await expect(table.getByRole('columnheader', { name: 'Into it' })).toHaveAttribute(
    'aria-sort',
    /ascending|descending/,
  );
  const sorted = await ampHours();
  const way =
    (await table.getByRole('columnheader', { name: 'Into it' }).getAttribute('aria-sort')) === 'ascending'
      ? 1
      : -1;
  expect(sorted).toEqual([...sorted].sort((a, b) => way * (a - b)));

  await page.getByRole('combobox', { name: /^Source/ }).selectOption('Second charger');
  await page.getByRole('combobox', { name: /^Full/ }).selectOption('yes');
  const first = rows.first().getByRole('button', { name: /^Charge of/ });
  await first.focus();
  await page.keyboard.press('Enter');
  await expect(first).toHaveAttribute('aria-expanded', 'true');
  const float = table.getByRole('row', { name: /^Float/ });
  await expect(float).toContainText('too high');
  await expectAccessible(page, 'an opened charge');
  await table.getByRole('button', { name: 'Show on the strips' }).click();
  await expect(page.getByRole('application')).toBeVisible();
  await expect(page.getByText(RANGE)).toBeVisible();
  for (const name of ['Mains charger', 'Second charger'])
    await expect(page.getByRole('img', { name: `Stages of charging by ${name}: ` })).toBeVisible();
});

test('what is chosen before the scripts are there counts as well', async ({ page }) => {
  const send = await holdScripts(page);
  const list = await (await page.request.get(listOf('Cold room shuts down'))).text();
  const id = /href="\/jobs\/([0-9a-f-]{36})"/.exec(list)![1]!;
  await page.goto(`/jobs/${id}/charging?view=charges`, { waitUntil: 'commit' });
  const source = page.getByRole('combobox', { name: /^Source/ });
  await source.selectOption('Mains charger');
  const rows = page.getByRole('region', { name: 'Table of charges' }).locator('tbody tr');
  await expect(rows.filter({ hasText: 'Second charger' })).not.toHaveCount(0);
  send();
  await expect(rows.filter({ hasText: 'Second charger' })).toHaveCount(0);
  await expect(rows.filter({ hasText: 'Mains charger' })).not.toHaveCount(0);
  await expect(source).toHaveValue('Mains charger');
});

test('the days say when the battery was last full, and lead to the strips', async ({ page }) => {
  await openStep(page, 'Yearly check', 'charging?view=days');
  await expect(
    page.getByText(/^The battery was last truly full on \d+ October, .* the end of the log\.$/),
  ).toBeVisible();
  const days = page.getByRole('region', { name: 'Days by the clock' }).locator('tbody tr');
  expect(await days.count()).toBeGreaterThan(25);
  const middle = days.nth(10);
  await expect(middle.getByRole('img', { name: /bulk from .*absorption from .*float from/ })).toBeVisible();
  await expect(middle).toContainText('full');
  const day = (await middle.getByRole('button').innerText()).replace(/^\w+ /, '');
  await middle.getByRole('button').click();
  // Over the strips the pointer would have its moment read out instead of the span.
  await page.mouse.move(0, 0);
  await expect(page.getByText(RANGE)).toContainText(new RegExp(`${day}|${Number.parseInt(day) - 1} `));
});

test('a source is shown with what was found, set and asked for', async ({ page }) => {
  await openStep(page, 'Yearly check', 'charging?view=sources');
  const row = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) });
  await expect(row('Absorption \\d')).toContainText(
    /28\.20 V ± 0\.\d+ at 25 °C.*28\.20 V.*28\.00 to 28\.60 V/,
  );
  await expect(row('Compensation')).toContainText('−5.0 to −3.0 mV');
  await expect(page.getByText(/put back for each taken out.*as it should be\.$/)).toBeVisible();
});

test('what if: the log replayed with a longer absorption and a larger source, taken over with its reason', async ({
  page,
}) => {
  await openStep(page, 'Tide gauge never gets full', 'charging?view=what-if');
  await expect(page.getByText(/the replay comes out \d\.\d points of charge and .* V off/)).toBeVisible();
  const table = page.getByRole('region', { name: 'What the replay comes to' });
  const full = table.getByRole('row', { name: /^Days that end full/ });
  await expect(full).toContainText(/(\d+) of \d+\1 of \d+/);
  await expectAccessible(page, 'what if');

  const slider = page.getByRole('slider', { name: 'Absorption time' });
  await slider.focus();
  for (let press = 0; press < 12; press++) await page.keyboard.press('PageUp');
  await expect(
    page.getByText(/^Full on \d+ of \d+ days instead of \d+; a day’s highest charge/),
  ).toBeVisible();
  const size = page.getByRole('spinbutton', { name: 'Size of the source' });
  await size.fill('1.5');
  const gassed = table.getByRole('row', { name: /^Lost to gassing/ });
  const [was, now] = (await gassed.getByRole('cell').allInnerTexts()).map((one) => Number.parseFloat(one));
  expect(now).toBeGreaterThan(was!);

  // The size of a source is no setting: only what can be set is taken over.
  await page.getByRole('button', { name: 'Take over' }).click();
  const dialog = page.getByRole('dialog', { name: 'Take over to the settings sheet' });
  await expect(dialog.getByRole('checkbox')).toHaveCount(1);
  await expect(dialog.getByLabel('Why')).toHaveValue(/Replay of the logged weather and loads: Full on/);
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'As it was set' }).click();
  await expect(page.getByText(/^Full on \d+ of/)).toHaveCount(0);
});
