/** The step on cells, tests with their results, and hydrometer rounds with the network away. */

import { randomUUID } from 'node:crypto';
import { expect, test } from '@playwright/test';
import { expectAccessible, openStep, OWN } from '../support/browser';

test('the transmitter: which cell is out of step and which runs ahead, as a table, strips and a heat map', async ({
  page,
}) => {
  await openStep(page, 'Transmitter goes off', 'cells');
  await expect(page.getByRole('link', { name: /Cells/ })).toContainText('2 apart');
  const table = page.getByRole('region', { name: 'Table of cells' });
  await expect(table.locator('tbody tr').first()).toContainText(/^5out of step/);
  await expect(table.locator('tbody tr').nth(1)).toContainText(/^9runs ahead/);
  await expect(
    page.getByText(/Cell 5 is out of step .* Ah .* behind when the others are full/),
  ).toBeVisible();
  await expectAccessible(page, 'cells');

  await page.getByRole('tab', { name: 'Strips' }).click();
  const strips = page.getByRole('group', { name: 'Strips of the cells' });
  await strips.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText(/^\w{3} \d+ \w{3} \d\d:\d\d$/)).toBeVisible();

  await page.getByRole('tab', { name: 'Heat map' }).click();
  await page.getByRole('img', { name: /Deviation of 15 cells/ }).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText(/mV apart; highest \d+ \(\+\d+ mV\), lowest \d+/)).toBeVisible();
  await expectAccessible(page, 'heat map');
});

test('a cut-off opens to its strip, with what was promised and not delivered', async ({ page }) => {
  await openStep(page, 'Weather mast dies', 'cut-offs');
  const table = page.getByRole('region', { name: 'Table of cut-offs' });
  const first = table.getByRole('button', { expanded: false }).first();
  await first.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('img', { name: /Voltage in V from ten minutes before/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /Drawn in A/ })).toBeVisible();
  await expect(page.getByText(/An hour before, the reading promised .* to go\./)).toBeVisible();
  await expectAccessible(page, 'strip of a cut-off');
  await table.getByRole('button', { expanded: true }).click();
  await expect(page.getByRole('img', { name: /Voltage in V from ten/ })).toHaveCount(0);
});

test('a test’s result changes the standings at once, and is taken back', async ({ page }) => {
  await openStep(page, 'Weather mast dies', 'weigh');
  const tests = page.getByRole('region', { name: 'Tests' });
  const title = await tests.getByRole('heading', { name: /^Next test/ }).textContent();
  // In this step every cause is open to its evidence.
  const weighed = page.getByText(/^Tested on \d{4}-\d\d-\d\d \(/);
  await expect(weighed).toHaveCount(0);

  await tests.getByRole('button', { name: 'Write down the result' }).first().click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Keep the result' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Choose what was found');
  await dialog.getByRole('radio').first().check();
  await dialog.getByLabel('Figures and notes').fill('Read twice.');
  await expectAccessible(page, 'result');
  await dialog.getByRole('button', { name: 'Keep the result' }).click();
  await expect(tests.getByText(/Read twice\./)).toBeVisible();
  await expect(tests.getByRole('heading', { name: /^Next test/ })).not.toHaveText(title!);
  await expect(weighed.first()).toBeVisible();

  await tests.getByRole('button', { name: /^Take back/ }).click();
  await expect(tests.getByText(/Read twice\./)).toHaveCount(0);
  await expect(weighed).toHaveCount(0);
  await expect(tests.getByRole('heading', { name: /^Next test/ })).toHaveText(title!);

  await tests.getByRole('button', { name: 'Cannot be made here' }).first().click();
  await expect(tests.getByText(/Cannot be made here: /)).toBeVisible();
  await tests.getByRole('button', { name: /can be made after all/ }).click();
  await expect(tests.getByRole('heading', { name: /^Next test/ })).toHaveText(title!);
});

test('a hydrometer round is typed while the network is away, survives the tab, and is sent when it is back', async ({
  page,
  context,
}) => {
  await page.goto('/systems?search=Seismic+vault');
  await page.getByRole('link', { name: /Hydrometer rounds of Seismic vault/ }).click();
  await expect(page.getByRole('heading', { name: 'Hydrometer rounds', level: 1 })).toBeVisible();
  const status = page.getByRole('status').first();
  await expect(status).toContainText('opens without the network too');
  await expectAccessible(page, 'hydrometer');
  await expect(page.getByText(/Cell 9 loses \d+ points a year/)).toBeVisible();

  await context.setOffline(true);
  await page.getByLabel('The day after a full charge').selectOption('no');
  const cell = (name: string) => page.getByLabel(`Cell ${name}`, { exact: true });
  await cell('1').fill('1249');
  await cell('1').press('Enter');
  await expect(cell('2')).toBeFocused();
  await page.keyboard.type('1,200');
  await expect(page.getByText(/2 read, mean 1\.22\d, \d+ points apart/)).toBeVisible();
  // The tab is loaded anew without a network: from what was kept, with what was typed.
  await page.reload();
  await expect(cell('1')).toHaveValue('1249');
  // Meanwhile another device keeps a round: the copy that this page opened from does not know it.
  const id = randomUUID();
  const records = page.url().replace('/systems/', '/api/systems/').replace('/hydrometer', '/records');
  const readings = ['1', '2', '3'].map((cell) => ({ cell, gravity: 1.27 }));
  const other = await page.request.put(`${records}/${id}`, {
    data: { kind: 'hydrometer-round', record: { id, on: '2026-11-02', readings } },
    headers: OWN,
  });
  expect(other.ok()).toBe(true);
  await context.setOffline(false);
  await expect(page.getByText(/3 cells, mean 1\.270/)).toBeVisible();
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Keep the round' }).click();
  await expect(status).toContainText('1 round kept on this device, waiting to be sent');
  await context.setOffline(false);
  await expect(status).toContainText('Everything that was kept is on the server', { timeout: 30_000 });
  await page.request.delete(`${records}/${id}`, { headers: OWN });

  const round = page.getByText(/2 cells, mean 1\.22/);
  await round.click();
  await page.getByRole('button', { name: /Take off the round/ }).click();
  await expect(round).toHaveCount(0);
});

test('rows from a spreadsheet become rounds; a wrong row is named and nothing is taken in', async ({
  page,
}) => {
  const { id } = (await (
    await page.request.post('/api/jobs', {
      data: { systemName: 'Pumping station', timeZone: 'Europe/Rome', title: 'Cells', complaints: [] },
      headers: OWN,
    })
  ).json()) as { id: string };
  await page.goto(`/jobs/${id}/take-in`);
  const systems = (await (await page.request.get('/api/systems?search=Pumping')).json()) as {
    rows: { id: string }[];
  };
  await page.goto(`/systems/${systems.rows[0]!.id}/hydrometer`);
  await page.getByText('From a spreadsheet, or out as a file').click();
  const rows = page.getByLabel('Rows from a spreadsheet');
  await rows.fill('date,cell,sg\n2026-01-05,1A,1.26\n2026-01-05,1B,heavy');
  await page.getByRole('button', { name: 'Take the rows in' }).click();
  await expect(page.getByText(/Row 3: “heavy” is no specific gravity.*Nothing was taken in/)).toBeVisible();
  await rows.fill('date,cell,sg\n2026-01-05,1A,1.26\n2026-01-05,1B,1.22\n2026-04-05,1A,1.255');
  await page.getByRole('button', { name: 'Take the rows in' }).click();
  await expect(page.getByText(/5 Jan 2026: 2 cells, mean 1\.240, 40 points apart/)).toBeVisible();
  await expect(page.getByText(/5 Apr 2026: 1 cell,/)).toBeVisible();
});

test('a capacity test is planned, runs with the tab closed in between, is kept, and comes off', async ({
  page,
}) => {
  await page.goto('/systems?search=Ferry+signal+lamps');
  await page
    .getByRole('link', { name: /Capacity tests of Ferry signal lamps/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Capacity tests', level: 1 })).toBeVisible();
  await expect(page.getByText(/At this load a battery in good order lasts about/)).toBeVisible();
  await page.getByLabel('Battery temperature').fill('15');
  await expect(page.getByText(/at 25 °C\)\.$/)).toBeVisible();
  await page.getByLabel('Full, and rested since').selectOption('yes');
  await expectAccessible(page, 'capacity test');
  await page.getByRole('button', { name: /start the clock/ }).click();

  await page.getByLabel('V of reading 1', { exact: true }).fill('12,7');
  await expect(page.getByText(/Read again at \d\d:\d\d\./)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('V of reading 1', { exact: true })).toHaveValue('12,7');
  await page.getByRole('button', { name: 'Read now' }).click();
  await page.getByLabel('Minutes of reading 2').fill('600');
  await page.getByLabel('V of reading 2', { exact: true }).fill('10.4');
  await expect(page.getByText(/Take the load off now\./)).toBeVisible();
  await expect(page.getByText(/Capacity test of .* of the rating at 25 °C/)).toBeVisible();
  await expectAccessible(page, 'capacity test that runs');
  // The server answers late: the test is taken off while it is still on its way.
  let letGo = () => {};
  const held = new Promise<void>((resolve) => (letGo = resolve));
  await page.route('**/records/*', async (route) => {
    if (route.request().method() === 'PUT') await held;
    await route.continue();
  });
  await page.getByRole('button', { name: 'Keep the test' }).click();
  const kept = page.getByText(/% of the rating \(± \d+\), [\d.]+ Ah in 10 h/);
  await expect(kept).toBeVisible();
  await expect(page.getByRole('button', { name: /start the clock/ })).toBeVisible();
  await kept.click();
  await expect(page.getByText('(waiting to be sent)')).toBeVisible();
  await page.getByRole('button', { name: /Take off the test/ }).click();
  await expect(page.getByText(/^Taken off: the capacity test of .*\.$/)).toBeVisible();
  await expect(kept).toHaveCount(0);
  // What arrives all the same is taken off there.
  const arrived = page.waitForResponse((one) => one.request().method() === 'PUT');
  const takenOff = page.waitForResponse((one) => one.request().method() === 'DELETE');
  letGo();
  expect((await arrived).status()).toBe(200);
  expect((await takenOff).status()).toBe(200);
  await expect(kept).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'New test' })).toBeVisible();
  await expect(kept).toHaveCount(0);
});

test('a cause is ruled out by hand with the reason, and weighed again', async ({ page }) => {
  await openStep(page, 'Fog horn drops out', 'weigh');
  const rule = page.getByRole('button', { name: 'Rule it out' });
  await rule.first().click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Rule it out' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Say why');
  await dialog.getByLabel('Why').fill('Measured on the spot.');
  await expectAccessible(page, 'ruling out');
  await dialog.getByRole('button', { name: 'Rule it out' }).click();
  await expect(page.getByText(/Ruled out by hand on .*: Measured on the spot\./)).toBeVisible();
  await page.getByRole('button', { name: /^Weigh it again/ }).click();
  await expect(page.getByText(/Ruled out by hand/)).toHaveCount(0);
});
