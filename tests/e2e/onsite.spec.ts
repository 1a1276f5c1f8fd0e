/** An hour on site, with no log: from a system that is only described to the signed sheet, without the network in the middle. */

import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { ON_SITE_DEMOS } from '../../src/core/simulate/demo';
import { expectAccessible, newJob, OWN, openStep, tabTo } from '../support/browser';

/** A system like that of the cistern pumps, of which no visit has been made. */
async function described(page: Page, place: string): Promise<{ jobId: string }> {
  const name = `${place} ${Date.now().toString(36)}`;
  const jobId = await newJob(page, name, `First visit to ${name}`);
  const found = (await (
    await page.request.get(`/api/systems?search=${encodeURIComponent(name)}`)
  ).json()) as {
    rows: { id: string }[];
  };
  const systemId = found.rows[0]!.id;
  const { system, job } = ON_SITE_DEMOS[0]!;
  const put = (path: string, value: unknown) =>
    page.request.put(path, { data: { base: 1, value }, headers: OWN });
  expect((await put(`/api/systems/${systemId}`, { ...system, name })).status()).toBe(200);
  expect((await put(`/api/jobs/${jobId}`, { ...job, title: `First visit to ${name}` })).status()).toBe(200);
  return { jobId };
}

const follows = (page: Page) => page.getByRole('list', { name: 'Findings at this stop' });
const status = (page: Page) => page.getByRole('status').first();
/** By its place: on a phone the stops are a menu. */
const goTo = (page: Page, stop: string) =>
  page.getByLabel('Stop', { exact: true }).selectOption({ label: stop });

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test('from the displays to the signed sheet, with the network away in the middle', async ({
    page,
    context,
  }) => {
    test.setTimeout(180_000);
    const { jobId } = await described(page, 'Cistern of Punta Riva');
    await page.goto(`/jobs/${jobId}/on-site`);
    await expect(status(page)).toContainText('opens without the network too');
    await expectAccessible(page, 'on site', ['color-contrast', 'target-size', 'label']);
    await page.getByLabel('Own meter at the posts').fill('13,24');
    await page.getByLabel('Shows of Monitor').fill('41');
    await page.getByLabel('Shows of Battery 1').fill('88');
    await page.getByLabel('Shows of Battery 2').fill('86');
    await expect(follows(page)).toContainText('Battery 1 shows 88 %, Monitor 41 %.');

    await context.setOffline(true);
    await goTo(page, '3 Photos');
    await page
      .getByLabel('Before: photo of Battery posts and joints')
      .setInputFiles('docs/screenshots/jobs.png');
    await expect(page.getByText('waits to be sent')).toBeVisible();
    await goTo(page, '4 Proof of coverage');
    await page.getByLabel('Everything off: it shows').fill('0');
    await page.getByLabel('Its own display of Solar controller').fill('17');
    await page.getByLabel('Monitor shows of Solar controller').fill('0.1');
    await expect(follows(page)).toContainText(
      'Solar controller alone gives 17.0 A; the monitor shows 0.1 A.',
    );
    // The tab dies, the phone is still out of reach: the page opens as it was kept, with what was typed.
    await page.reload();
    await expect(page.getByLabel('Its own display of Solar controller')).toHaveValue('17');
    await page.getByLabel('Clamp meter of Cistern pump').fill('14.2');
    await page.getByLabel('Monitor shows of Cistern pump').fill('-14');
    await page.getByRole('button', { name: 'Keep as it stands' }).click();
    await expect(status(page)).toContainText('1 visit kept on this device, waiting to be sent');
    await goTo(page, '6 Fit or move the shunt');
    await page.getByRole('button', { name: 'Not looked at' }).click();
    await expect(page.getByLabel('Stop', { exact: true })).toContainText('not looked at');

    await context.setOffline(false);
    await expect(status(page)).toContainText('Everything that was kept is on the server', {
      timeout: 30_000,
    });
    await goTo(page, '3 Photos');
    await expect(page.getByRole('img', { name: 'Photo 1: Battery posts and joints, before' })).toBeVisible({
      timeout: 30_000,
    });
    await expect(page.getByText('waits to be sent')).toHaveCount(0);

    await goTo(page, '9 Accept the change');
    await page.getByLabel('Into the battery').fill('0.2');
    await page.getByLabel('The loads draw').fill('6');
    await page.getByRole('button', { name: 'Add a change' }).click();
    await page.getByLabel('What', { exact: true }).fill('Negative of the solar controller');
    await page.getByLabel('After', { exact: true }).fill('on the busbar');
    await goTo(page, '10 Sign');
    await expect(page.getByText(/Not looked at: fit or move the shunt/)).toBeVisible();
    await page.getByLabel('Signed by, in your role').fill('duty technician');
    await page.getByRole('button', { name: 'Sign and keep' }).click();
    await expect(page.getByText(/signed by the duty technician/)).toBeVisible();
    await expect(page.getByText(/waiting to be sent/)).toHaveCount(0, { timeout: 30_000 });
    // The page moves once more as it says so: a click before that may land beside the link.
    await expect(page.getByText('Everything that was kept is on the server')).toBeVisible();

    await page.getByRole('link', { name: /^Sheet of/ }).click();
    const sheet = page.getByRole('article');
    await expect(sheet).toContainText('It is not counted: move its negative');
    await expect(sheet).toContainText('Negative of the solar controller');
    await expect(sheet).toContainText('Signed: duty technician');
    await expect(sheet).toContainText('acceptance: the charging current');
    await expect(sheet.getByRole('img', { name: 'Battery posts and joints, before' })).toBeVisible();
    await expectAccessible(page, 'sheet');
    const pdf = await page.request.get((await page.getByRole('link', { name: 'PDF' }).getAttribute('href'))!);
    const bytes = await pdf.body();
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
    expect(bytes.toString('latin1').match(/\/Type \/Page\b/g)!.length).toBeLessThanOrEqual(2);

    // What was proved is in the description, and weighed.
    await page.goto(`/jobs/${jobId}/wiring`);
    await expect(page.getByRole('row', { name: /^Solar controller/ })).toContainText('not counted');
    await page.goto(`/jobs/${jobId}/weigh`);
    await expect(page.getByRole('table').first()).toContainText('A charger bypasses the monitor');
  });
});

test('by keyboard on a desk: typed, kept, gone on with, signed', async ({ page }) => {
  test.setTimeout(180_000);
  const { jobId } = await described(page, 'Cistern of Cala Fonda');
  await page.goto(`/jobs/${jobId}/on-site`);
  await expect(status(page)).toContainText('opens without the network too');
  await tabTo(page, page.getByLabel('Own meter at the posts'));
  await page.keyboard.type('13.3');
  await tabTo(page, page.getByLabel('shows no percentage: Monitor'));
  await page.keyboard.press('Space');
  await expect(follows(page)).toContainText('Monitor shows no percentage.');
  await tabTo(page, page.getByRole('button', { name: 'Next: The monitor’s memory' }));
  await page.keyboard.press('Enter');
  await tabTo(page, page.getByLabel('Set to full'));
  await page.keyboard.type('0');
  await expect(follows(page)).toContainText('The monitor has never been set to full.');
  await tabTo(page, page.getByRole('button', { name: 'Keep as it stands' }));
  await page.keyboard.press('Enter');
  await expect(page.getByText(/not signed \(open below\)/)).toBeVisible();

  // Another browser has no draft of it: the visit is gone on with from the server.
  const other = await (await page.context().browser()!.newContext()).newPage();
  await other.goto(`/jobs/${jobId}/on-site`);
  await tabTo(other, other.getByRole('button', { name: 'Go on' }));
  await other.keyboard.press('Enter');
  await expect(other.getByLabel('Own meter at the posts')).toHaveValue('13.3');
  await tabTo(other, other.getByRole('button', { name: '10 Sign' }));
  await other.keyboard.press('Enter');
  await tabTo(other, other.getByLabel('Signed by, in your role'));
  await other.keyboard.type('duty technician');
  await tabTo(other, other.getByRole('button', { name: 'Sign and keep' }));
  await other.keyboard.press('Enter');
  await expect(other.getByText(/signed by the duty technician/)).toBeVisible();
  await other.context().close();
});

test('what is no figure is said, stays as typed, and keeps nothing else back', async ({ page }) => {
  const { jobId } = await described(page, 'Cistern of Cala Bassa');
  await page.goto(`/jobs/${jobId}/on-site`);
  await page.getByLabel('Own meter at the posts').fill('thirteen');
  await expect(page.getByRole('alert').filter({ hasText: 'is not a number' })).toBeVisible();
  await page.getByLabel('Shows of Monitor').fill('41');
  await page.getByLabel('Shows of Battery 1').fill('90');
  await expect(follows(page)).toContainText('Battery 1 shows 90 %');
  await page.getByRole('button', { name: 'Keep as it stands' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'displays, postsV' })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Own meter at the posts')).toHaveValue('thirteen');
});

test('the stops of the demo’s visit, its picture of the chain, and its sheet, are accessible', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await openStep(page, 'Cistern pumps', 'on-site');
  await page.getByRole('button', { name: 'Go on' }).click();
  const stops = page.getByRole('navigation', { name: 'Stops of the round' }).getByRole('button');
  const names = await stops.allTextContents();
  expect(names.length).toBe(10);
  for (let k = 0; k < names.length; k++) {
    await stops.nth(k).click();
    await expectAccessible(page, names[k]);
  }
  await page.getByRole('button', { name: /^5 Ratings chain/ }).click();
  await expect(
    page.getByRole('img', { name: /^Out of the battery: 20\.2 A run, 68\.0 A with/ }),
  ).toBeVisible();
  await openStep(page, 'Yearly check', 'on-site');
  await page.getByRole('link', { name: /^Sheet of/ }).click();
  await expect(page.getByRole('article')).toContainText('Signed: duty technician, 19 Oct 2026');
});

test('the plan of visits: what is due, done with a click and a note, taken back; and a calendar', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await page.goto('/plan');
  await expect(page.getByRole('heading', { name: 'Plan of visits' })).toBeVisible();
  await expectAccessible(page, 'plan');
  await page.getByLabel('System or kind of work').fill('harbour office');
  const full = page.getByRole('main').getByRole('listitem').filter({ hasText: 'Full charge' });
  await expect(full).toContainText('26 Oct 2026');
  await full.getByRole('button', { name: /^Done ?: full charge/ }).click();
  await full.getByLabel('Note').fill('Reading went to 100 % by itself');
  await full.getByRole('button', { name: 'Keep' }).click();
  await expect(full).not.toContainText('26 Oct 2026');
  await page.getByRole('button', { name: /undo|Undo/ }).click();
  await expect(full).toContainText('26 Oct 2026');
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'As a calendar file' }).click();
  const text = readFileSync(await (await coming).path(), 'utf8');
  expect(text).toContain('BEGIN:VCALENDAR');
  expect(text).toContain('SUMMARY:Full charge: Harbour office clock and bells');
});
