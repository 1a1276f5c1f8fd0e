/** The step on counting: the reading beside the truth, syncs by verdict, drift by its parts, and the settings bench. */

import { expect, test } from '@playwright/test';
import { openStep } from '../support/browser';

test('the signal lamps: every sync came too soon, and the notebook says so', async ({ page }) => {
  await openStep(page, 'Signal lamps alarm', 'counting');
  await expect(page.getByRole('link', { name: /Counting/ })).toContainText(/\d+ of \d+ syncs false/);
  await expect(page.getByText(/set to full \d+ times, each time too soon/)).toBeVisible();
  await expect(page.getByRole('button', { name: /The monitor calls the battery full/ })).toBeVisible();

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
  await openStep(page, 'Signal lamps alarm', 'counting?view=bench');
  const told = page.getByText(/The replayed reading is .* points off as a rule/);
  await expect(told).toContainText(/(\d+) syncs, \1 of them false/);
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

test('the bench: what another device would have shown; settings taken over leave the logs judged as they were', async ({
  page,
}) => {
  await openStep(page, 'Signal lamps alarm', 'counting?view=bench');
  const replayed = page.getByText(/The replayed reading is .* points off as a rule/);
  await expect(replayed).toContainText(/(\d+) syncs, \1 of them false/);
  const device = page.getByRole('combobox', { name: 'The percentage is made from' });
  await device.selectOption('The voltage alone');
  await expect(replayed).toContainText(/with 0 syncs/);
  await expect(page.getByText(/There is nothing to set/)).toBeVisible();
  await device.selectOption('A sensor that all current passes');
  await expect(replayed).toContainText(/(\d+) syncs, \1 of them false/);

  await page.getByRole('button', { name: 'Try Cycled near the top' }).click();
  await expect(replayed).toContainText(/none of them false/);
  await page.getByRole('button', { name: 'Take over' }).click();
  const dialog = page.getByRole('dialog', { name: 'Take over to the settings sheet' });
  await expect(dialog.getByLabel('Why')).toHaveValue(/Replayed over the log of this job.*none of them false/);
  await dialog.getByRole('checkbox', { name: /Charge efficiency/ }).uncheck();
  await dialog.getByRole('button', { name: 'Change and record' }).click();
  await expect(page.getByText(/^\d settings taken over/)).toBeVisible();

  // The logs ran before: they are judged as they were.
  await expect(
    page.getByText(/Settings were changed after most of these logs: .*Charged voltage/),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: /The monitor calls the battery full/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /As it was set/ })).toBeVisible();

  await openStep(page, 'Signal lamps alarm', 'settings?view=sheet');
  const changed = page.getByRole('listitem').filter({ hasText: 'Monitor: Charged voltage' });
  await expect(changed).toContainText(/Replayed over the log of this job/);
  await expect(page.getByRole('listitem').filter({ hasText: 'Monitor: Charge efficiency' })).toHaveCount(0);
  for (const name of ['Charged voltage', 'Tail current', 'Detection time']) {
    await page.getByRole('button', { name: `Put back Monitor: ${name}` }).click();
    await expect(page.getByText(`Monitor: ${name} put back.`).first()).toBeVisible();
    // The notice lies over what is put back next.
    await page.getByRole('button', { name: 'Close' }).click();
  }
  await expect(changed).toHaveCount(0);
});
