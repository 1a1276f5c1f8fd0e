/** The step on counting: the reading beside the truth, syncs by verdict, drift by its parts, and the settings bench. */

import { expect, test } from '@playwright/test';
import { openStep } from '../support/browser';

test('the signal lamps: every sync came too soon, and the notebook says so', async ({ page }) => {
  await openStep(page, /Signal lamps alarm/, 'counting');
  await expect(page.getByRole('link', { name: /Counting/ })).toContainText(/\d+ of \d+ syncs false/);
  await expect(page.getByText(/set to full \d+ times, each time too soon/)).toBeVisible();
  await expect(page.getByText('The monitor calls the battery full when it is not')).toBeVisible();

  const curve = page.getByRole('application', { name: /Charge over the log/ });
  await curve.focus();
  const range = page.getByText(/^\d+ \w+ 2026 \d\d:\d\d – /);
  const whole = await range.textContent();
  await page.keyboard.press('+');
  await expect(range).not.toHaveText(whole!);
  await page.keyboard.press('0');
  await expect(range).toHaveText(whole!);

  await page.getByRole('tab', { name: 'Syncs' }).click();
  const rows = page.getByRole('region', { name: 'Table of syncs' }).locator('tbody tr');
  await expect(rows.nth(10)).toBeVisible();
  const all = await rows.count();
  await page.getByRole('combobox', { name: /^Verdict/ }).selectOption('false');
  expect(await rows.count()).toBeLessThanOrEqual(all);
  await expect(rows.first()).toContainText(/The battery held \d+ % ± /);

  await page.getByRole('tab', { name: 'Drift' }).click();
  const drift = page.getByRole('region', { name: 'Table of intervals' });
  await drift.getByRole('button', { name: 'Drift' }).click();
  await expect(drift.getByRole('columnheader', { name: 'Drift' })).toHaveAttribute(
    'aria-sort',
    /ascending|descending/,
  );
  await drift.locator('tbody tr').nth(2).getByRole('button').click();
  await expect(page.getByRole('img', { name: /drift [+−]/ })).toBeVisible();
});

test('the bench: a school is tried, a slider moved by keyboard, the settings fitted', async ({ page }) => {
  await openStep(page, /Signal lamps alarm/, 'counting?view=bench');
  const told = page.getByText(/The replayed reading is .* points off as a rule/);
  await expect(told).toContainText(/22 syncs, 22 of them false/);
  const before = await told.textContent();
  await page.getByRole('button', { name: 'Try Varying source' }).click();
  await expect(told).not.toHaveText(before!);
  await expect(page.getByRole('spinbutton', { name: 'Tail current' })).toHaveValue('5');

  const slider = page.getByRole('slider', { name: 'Charged voltage' });
  const volts = page.getByRole('spinbutton', { name: 'Charged voltage' });
  const at = Number(await volts.inputValue());
  await slider.focus();
  await page.keyboard.press('ArrowRight');
  await expect(volts).not.toHaveValue(String(at));

  await page.getByRole('button', { name: 'Fit to this log' }).click();
  await expect(page.getByRole('button', { name: 'Fit to this log' })).toBeEnabled();
  await expect(told).toContainText(/none of them false/);
});
