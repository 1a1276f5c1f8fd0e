/** Describing a job: by keyboard alone, saved by itself, two tabs at once, undone, photographed, bundled. */

import { expect, type Page, test } from '@playwright/test';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { expectAccessible, holdScripts, newJob, openStep, saved, tabTo } from '../support/browser';

/** A PNG of one pixel. */
const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
  'base64',
);

const field = (page: Page, section: string, label: string) =>
  page.getByRole('region', { name: section, exact: true }).getByLabel(label, { exact: true });

/** A bundle whose job has another title: tests beside this find the demo's by its own. */
function renamed(bundle: Uint8Array, title: string, by: string): Buffer {
  const files = unzipSync(bundle);
  const text = strFromU8(files['datapackage.json']!);
  expect(text).toContain(title);
  return Buffer.from(zipSync({ ...files, 'datapackage.json': strToU8(text.replaceAll(title, by)) }));
}

/** Opens what is folded away of a device, by mouse. */
const openMore = (page: Page, of: string) =>
  page
    .getByText(new RegExp(`^More of ${of}: `))
    .first()
    .click();

test('a new job from nothing to a printed settings sheet, by keyboard alone', async ({ page }) => {
  await page.addInitScript(() => {
    window.print = () => document.body.setAttribute('data-printed', 'yes');
  });
  await page.goto('/');
  const press = (key: string) => page.keyboard.press(key);
  const type = async (section: string, label: string, text: string) => {
    await tabTo(page, field(page, section, label));
    await page.keyboard.type(text);
  };
  await tabTo(page, page.getByRole('link', { name: 'New job' }));
  await press('Enter');
  await page.waitForURL('**/jobs/new');
  await tabTo(page, page.getByLabel('Name of the system'));
  await page.keyboard.type('Net loft, Molo Sud');
  // Past the choice of an earlier system.
  await press('Tab');
  await press('Tab');
  await page.keyboard.type('Lights out before midnight');
  await press('Tab');
  await press('Tab');
  await press('Tab');
  await press('Space');
  await expect(page.getByLabel('cuts off too soon')).toBeChecked();
  await tabTo(page, page.getByRole('button', { name: 'Open the job' }));
  await press('Enter');
  await page.waitForURL('**/take-in');

  // Nothing known: it says what to find out first.
  const review = page.getByRole('complementary', { name: 'Review' });
  await expect(review).toContainText('Too little is known yet to check much');
  await expect(review).toContainText('Battery: chemistry');
  await expectAccessible(page);

  await type('Battery', 'Chemistry', 'AGM');
  await type('Battery', 'Cells in series', '6');
  await type('Battery', 'Capacity of the whole bank', '100');
  await type('Battery', 'at the hour rate', '10');
  // C20 by Peukert: 100·2^0.2 = 114.9.
  await expect(page.getByText('That is 115 Ah at 20 h (Peukert, exponent 1.25).')).toBeVisible();
  const more = page.getByText(/^More of the battery: \d+ of 11 open$/);
  await tabTo(page, more);
  await press('Enter');
  await tabTo(page, page.getByRole('button', { name: /Use what is usual for AGM/ }));
  await press('Enter');
  await expect(field(page, 'Battery', 'Charge voltage, lowest')).toHaveValue('14.2');
  await expect(field(page, 'Battery', 'Charge voltage, lowest, V/cell')).toHaveValue('2.367');

  await tabTo(page, page.getByRole('button', { name: 'Add a source' }));
  await press('Enter');
  await expect(field(page, 'Sources', 'Name')).toBeFocused();
  await page.keyboard.type('Wall charger');
  await type('Sources', 'Kind', 'mains');
  await type('Sources', 'Rated current', '10');
  await type('Sources', 'Absorption voltage', '13,8');
  await type('Sources', 'Absorption time', '240');
  await type('Sources', 'Float voltage', '13.7');
  await type('Sources', 'Counted by the monitor', 'yes');

  await tabTo(page, page.getByRole('button', { name: 'Describe a Monitor' }));
  await press('Enter');
  await type('Monitor', 'How it makes its reading', 'counts through');
  await type('Monitor', 'Capacity set', '200');
  await type('Monitor', 'Charged voltage', '13.2');
  // Per cent and amperes of the tail, typed either way.
  await type('Monitor', 'Tail current, A', '8');
  await expect(field(page, 'Monitor', 'Tail current')).toHaveValue('4');
  await expect(page.getByText(/^Unusual: 70 to 110 Ah/)).toBeVisible();

  // What cannot be is refused with a sentence, and does not keep the rest from being saved.
  await type('Monitor', 'Charge efficiency', '140');
  await press('Tab');
  await expect(page.getByText('This lies between 1 and 100 %.')).toBeVisible();
  await expect(saved(page)).toBeVisible();

  await expect(review).toContainText(
    'Wall charger is set to 13.80 V; the battery asks for 14.20 V to 14.60 V at 25 °C.',
  );
  await expect(review).toContainText('The monitor is set to 200 Ah; the bank has 115 Ah at 20 h');
  await page.keyboard.press('Home');
  await tabTo(page, review.getByRole('link', { name: 'Reasons and what to set' }));
  await press('Enter');
  await page.waitForURL('**/settings');
  await expect(page.getByText('Raise the absorption voltage into the range.')).toBeVisible();
  await tabTo(page, page.getByRole('tab', { name: 'Review' }));
  await press('ArrowRight');
  await tabTo(page, page.getByRole('link', { name: 'Print' }));
  await press('Enter');
  await page.waitForURL('**/settings-sheet');
  const sheet = page.getByRole('article');
  await expect(sheet.getByRole('row', { name: /Absorption voltage 13\.8 V 14\.4 V/ })).toBeVisible();
  await expect(sheet.getByRole('row', { name: /Capacity set 200 Ah 115 Ah/ })).toBeVisible();
  await expectAccessible(page);
  await tabTo(page, page.getByRole('button', { name: 'Print' }));
  await press('Enter');
  await expect(page.locator('body[data-printed=yes]')).toBeAttached();
});

test('what is typed survives a reload while the server is away, and is saved when it is back', async ({
  page,
}) => {
  const id = await newJob(page, 'Lamp store');
  await page.goto(`/jobs/${id}/take-in`);
  await page.route('**/api/{systems,jobs}/**', (route) => route.abort());
  await field(page, 'Battery', 'Cells in series').fill('12');
  await field(page, 'The job', 'Since when').fill('Easter');
  await field(page, 'Battery', 'Capacity of the whole bank').fill('about 90');
  await expect(page.getByText('Server not reached: kept in this browser')).toBeVisible();
  await page.reload();
  await expect(field(page, 'Battery', 'Cells in series')).toHaveValue('12');
  await expect(field(page, 'The job', 'Since when')).toHaveValue('Easter');
  await expect(field(page, 'Battery', 'Capacity of the whole bank')).toHaveValue('about 90');
  await expect(page.getByText('“about 90” is not a number')).toBeVisible();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await expect(saved(page)).toBeVisible({ timeout: 10_000 });
  // Another browser sees what could be saved.
  const fresh = await (await page.context().browser()!.newContext()).newPage();
  await fresh.goto(new URL(`/jobs/${id}/take-in`, page.url()).href);
  await expect(field(fresh, 'Battery', 'Cells in series')).toHaveValue('12');
  await expect(field(fresh, 'The job', 'Since when')).toHaveValue('Easter');
  await expect(field(fresh, 'Battery', 'Capacity of the whole bank')).toHaveValue('');
  await fresh.context().close();
});

test('a server that does not take what was typed is told as that, and nothing is lost', async ({ page }) => {
  const id = await newJob(page, 'Refused');
  await page.goto(`/jobs/${id}/take-in`);
  await page.route('**/api/{systems,jobs}/**', (route) =>
    route.request().method() === 'PUT' ? route.fulfill({ status: 400, json: {} }) : route.continue(),
  );
  await field(page, 'The job', 'Since when').fill('Whitsun');
  await expect(
    page.getByText('The server did not take it: what you typed is kept in this browser'),
  ).toBeVisible();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await page.reload();
  await expect(field(page, 'The job', 'Since when')).toHaveValue('Whitsun');
  await expect(saved(page)).toBeVisible({ timeout: 10_000 });
});

test('two tabs on one system: different fields are joined, the same field is put before the second', async ({
  page,
  browser,
}) => {
  const id = await newJob(page, 'Two tabs');
  await page.goto(`/jobs/${id}/take-in`);
  const address = page.url();
  const other = await (await browser.newContext()).newPage();
  await other.goto(address);
  await field(page, 'Battery', 'Cells in series').fill('6');
  await field(page, 'Battery', 'Capacity of the whole bank').fill('100');
  await expect(saved(page)).toBeVisible();

  await openMore(other, 'the battery');
  await field(other, 'Battery', 'Strings in parallel').fill('2');
  await expect(saved(other)).toBeVisible();
  await expect(field(other, 'Battery', 'Cells in series')).toHaveValue('6');

  await field(other, 'Battery', 'Capacity of the whole bank').fill('120');
  await expect(saved(other)).toBeVisible();
  await field(page, 'Battery', 'Capacity of the whole bank').fill('110');
  const told = page.getByRole('alert', { name: 'Changed elsewhere' });
  await expect(told).toContainText('Nothing is lost: choose.');
  await expect(field(page, 'Battery', 'Capacity of the whole bank')).toHaveValue('120');
  await expect(field(page, 'Battery', 'Strings in parallel')).toHaveValue('2');
  // Not even a reload loses what the second typed.
  await page.reload();
  await told.getByRole('button', { name: 'Use mine: 110' }).click();
  await expect(told).toHaveCount(0);
  await expect(field(page, 'Battery', 'Capacity of the whole bank')).toHaveValue('110');
  await expect(saved(page)).toBeVisible();
  await other.reload();
  await expect(field(other, 'Battery', 'Capacity of the whole bank')).toHaveValue('110');
  await other.context().close();
});

test('a removed source comes back whole, and so does a removed job', async ({ page }) => {
  const id = await newJob(page, 'Undo');
  await page.goto(`/jobs/${id}/take-in`);
  const sources = page.getByRole('region', { name: 'Sources' });
  for (const name of ['First', 'Second']) {
    await page.getByRole('button', { name: 'Add a source' }).click();
    await sources.getByLabel('Name', { exact: true }).last().fill(name);
  }
  await sources.getByLabel('Rated current', { exact: true }).first().fill('12');
  await sources.getByRole('button', { name: 'Remove First' }).click();
  await expect(sources.getByLabel('Name', { exact: true })).toHaveCount(1);
  await expect(sources.getByLabel('Name', { exact: true })).toHaveValue('Second');
  await expect(saved(page)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(sources.getByLabel('Name', { exact: true }).first()).toHaveValue('First');
  await expect(sources.getByLabel('Rated current', { exact: true }).first()).toHaveValue('12');
  await expect(saved(page)).toBeVisible();
  await page.reload();
  await expect(sources.getByLabel('Name', { exact: true })).toHaveCount(2);

  await page.goto('/');
  await page.getByRole('button', { name: 'Remove “Job at Undo”' }).click();
  await expect(page.getByRole('link', { name: /Job at Undo/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: /Job at Undo/ })).toBeVisible();
  await page.getByRole('button', { name: 'Remove “Job at Undo”' }).click();
  await expect(page.getByRole('link', { name: /Job at Undo/ })).toHaveCount(0);
  await page.goto(`/jobs/${id}/take-in`);
  await expect(page.getByText('There is nothing here')).toBeVisible();
});

test('make safe: an answer with note and photo is kept, weighed and reported', async ({ page }) => {
  const id = await newJob(page, 'Photo hut');
  await page.goto(`/jobs/${id}/take-in`);
  await field(page, 'Battery', 'Chemistry').selectOption('AGM');
  await page.getByLabel('never gets full').check();
  await expect(saved(page)).toBeVisible();
  await page.goto(`/jobs/${id}/make-safe`);
  // Planned work brings its cautions.
  const sheetRead = page.getByRole('group', { name: /maker’s sheet has been read/ });
  await expect(sheetRead).toHaveCount(0);
  await page.getByLabel('equalise', { exact: true }).check();
  await expect(sheetRead).toBeVisible();

  const joints = page.getByRole('group', { name: /Connections are tight and clean/ });
  await joints.getByLabel('found something').check();
  await joints.getByLabel(/^Note/).fill('white crust on the negative lug');
  await joints.getByLabel(/Photo/).setInputFiles({ name: 'lug.png', mimeType: 'image/png', buffer: PIXEL });
  const photo = joints.getByRole('img', { name: 'Photo 1: Connections are tight and clean' });
  await expect(photo).toBeVisible();
  await joints.getByRole('button', { name: /Remove photo 1/ }).click();
  await expect(photo).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(photo).toBeVisible();
  await joints
    .getByLabel(/Photo of/)
    .setInputFiles({ name: 'no.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(page.getByText(/no\.png: This file cannot be read as a photo/)).toBeVisible();
  await expect(saved(page)).toBeVisible();
  await expectAccessible(page);

  await page.goto(`/jobs/${id}/report`);
  const report = page.getByRole('article');
  await expect(report).toContainText(
    'Connections are tight and clean: found. white crust on the negative lug',
  );
  await expect(report.getByRole('img')).toBeVisible();
  const pdf = await page.request.get(`/api/jobs/${id}/report`);
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');

  await page.goto(`/jobs/${id}/weigh`);
  await expect(
    page.getByRole('button', { name: /possible.*Resistance between charger and battery/ }),
  ).toBeVisible();
  await expect(
    page.getByText(/A corroded or loose joint was found\. Noted: white crust/).first(),
  ).toBeVisible();
});

test('the wiring walk: conductors in order, coverage, clamp readings that do not add up', async ({
  page,
}) => {
  await openStep(page, 'Cold room', 'wiring');
  await expect(page.getByRole('img', { name: /Second charger: not counted/ })).toBeVisible();
  await page.getByLabel('Clamp meter on the battery’s conductor').fill('20');
  for (const [name, amps] of [
    ['2 of 5', ''],
    ['3 of 5', '30'],
    ['4 of 5', '12'],
    ['5 of 5', '13'],
  ] as const) {
    await page.getByRole('button', { name: 'Next conductor' }).click();
    await expect(page.getByRole('heading', { name: new RegExp(`^${name}`) })).toBeVisible();
    if (amps) await page.getByLabel('Clamp meter', { exact: true }).fill(amps);
  }
  await expect(page.getByText(/9\.0 A are left over\. Something draws them/)).toBeVisible();
  await page.getByText('Second charger', { exact: true }).first().click();
  await page.getByLabel(/to the busbar, beyond the sensor/).check();
  await expect(page.getByRole('img', { name: /Second charger: counted/ })).toBeVisible();
  await expect(page.getByText('It sees every source and load')).toBeVisible();
  await page.getByLabel(/past the shunt or the sensor/).check();
  await expect(page.getByText('It does not see Second charger')).toBeVisible();
  await expectAccessible(page);
  await expect(saved(page)).toBeVisible();
});

test('a changed setting is recorded with date and reason, and can be put back', async ({ page }) => {
  const id = await openStep(page, 'Transmitter goes off', 'settings?view=sheet');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Change Monitor: Charged voltage' }).click();
  const dialog = page.getByRole('dialog', { name: 'Monitor: Charged voltage' });
  await expect(dialog.getByLabel(/New value/)).toHaveValue('51.65');
  await expectAccessible(page);
  await dialog.getByLabel('Why').fill('');
  await dialog.getByRole('button', { name: 'Change and record' }).click();
  await expect(dialog.getByText('Say why: whoever comes next will want to know.')).toBeVisible();
  await dialog.getByLabel('Why').fill('The charger never goes above 52.4 V.');
  await dialog.getByLabel('Changed on').fill('2026-10-27');
  await dialog.getByRole('button', { name: 'Change and record' }).click();
  const record = page.getByRole('region', { name: 'Changed settings' });
  await expect(record).toContainText('27 Oct 2026');
  await expect(record).toContainText('53.9 V → 51.65 V');
  await expect(page.getByText('1 to change')).toBeVisible();
  await page.goto(`/jobs/${id}/settings-sheet`);
  await expect(page.getByRole('article')).toContainText(
    '53.9 V → 51.65 V. The charger never goes above 52.4 V.',
  );
  await page.goto(`/jobs/${id}/settings?view=sheet`);
  await record.getByRole('button', { name: 'Put back Monitor: Charged voltage' }).click();
  await expect(record).toContainText('Nothing was changed for the record yet.');
  await expect(page.getByText('2 to change')).toBeVisible();
});

test('a chosen school changes the advice', async ({ page }) => {
  await openStep(page, 'Cold room', 'settings?view=schools');
  await page.getByLabel(/\(c\) no float/).check();
  await expect(saved(page)).toBeVisible();
  await page.getByRole('tab', { name: 'Settings sheet' }).click();
  const row = page.getByRole('row', { name: /Float voltage 27\.6 V/ });
  await expect(row).toContainText('off');
  await expect(row).toContainText('School: (c) no float.');
  await page.getByRole('tab', { name: 'Schools' }).click();
  await page.getByLabel(/\(b\) a gap/).check();
  await expect(saved(page)).toBeVisible();
});

test('the rest voltage says whether the reading is in step', async ({ page }) => {
  await openStep(page, 'Signal lamps', 'settings?view=rest');
  await expect(page.getByRole('heading', { name: 'Out of step' })).toBeVisible();
  await page.getByLabel('Displayed percentage').fill('45');
  await page.getByLabel('At rest for').fill('12');
  await expect(page.getByRole('heading', { name: 'In step' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Rest voltage' }).fill('');
  await expect(page.getByRole('heading', { name: 'Cannot tell' })).toBeVisible();
  await expect(page.getByText('Not enough to tell: the rest voltage was not measured.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Rest voltage' }).fill('12.31');
  await page.getByLabel('Displayed percentage').fill('88');
  await page.getByLabel('At rest for').fill('2');
  await expect(saved(page)).toBeVisible();
  await expectAccessible(page);
});

test('a bundle goes out and opens as a job of its own', async ({ page }) => {
  const id = await openStep(page, 'Fog horn', 'take-in');
  const bundle = await page.request.get(`/api/jobs/${id}/bundle`);
  expect(bundle.headers()['content-disposition']).toContain('fog-horn-capo-nebbia.zip');
  await page.goto('/');
  await page.getByLabel('Take in a bundle').setInputFiles({
    name: 'fog-horn.zip',
    mimeType: 'application/zip',
    buffer: renamed(await bundle.body(), 'Fog horn drops out on the second blast', 'A horn from elsewhere'),
  });
  await page.waitForURL('**/take-in');
  expect(page.url()).not.toContain(id);
  await expect(field(page, 'Battery', 'Capacity of the whole bank')).toHaveValue('190');
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'A horn from elsewhere' })).toHaveCount(1);
  await page
    .getByLabel('Take in a bundle')
    .setInputFiles({ name: 'notes.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
  await expect(page.getByText('notes.zip: The zip cannot be unpacked')).toBeVisible();
  // Leave the list as it was.
  await page.getByRole('button', { name: 'Remove “A horn from elsewhere”' }).click();
  await expect(page.getByRole('link', { name: 'A horn from elsewhere' })).toHaveCount(0);
});

test('a calculator keeps its figures in the address and says formula and source', async ({ page }) => {
  await page.goto('/calculators/peukert?capacity=100&hours=20&exponent=1.2&amps=10');
  const result = page.getByRole('status', { name: 'Result' });
  // Peukert 1897: 100 Ah at 20 h, k = 1.2, 10 A lasts 8.7055 h.
  await expect(result).toContainText('8.71');
  await expect(page.getByText('W. Peukert, Elektrotechnische Zeitschrift 20, 1897')).toBeVisible();
  await page.getByLabel('Discharge current').fill('5');
  await expect(page).toHaveURL(/amps=5/);
  await page.reload();
  await expect(result).toContainText('20.00');
  await page.getByLabel('Discharge current').fill('much');
  await expect(page.getByText('“much” is not a number')).toBeVisible();
});

test('what is typed before the scripts are there counts as well', async ({ page }) => {
  const send = await holdScripts(page);
  await page.goto('/calculators/peukert?capacity=100&hours=20&exponent=1.2&amps=10', { waitUntil: 'commit' });
  const result = page.getByRole('status', { name: 'Result' });
  await page.getByLabel('Discharge current').fill('5');
  await expect(result).toContainText('8.71');
  send();
  await expect(result).toContainText('20.00');
  await expect(page).toHaveURL(/amps=5/);
});

test('an option in the address that a calculator does not have is asked for, and no other taken for it', async ({
  page,
}) => {
  await page.goto('/calculators/airflow?kind=lead&cells=24&capacity=100&charging=boost');
  const ask = page.getByText('Choose one of the list.');
  await expect(ask).toBeVisible();
  await page.getByLabel('While it').selectOption('float');
  await expect(page).toHaveURL(/kind=lead.*charging=float/);
  await expect(ask).toBeVisible();
  const cells = page.getByLabel('Cells', { exact: true });
  await expect(cells.locator('option:checked')).toHaveText('choose …');
  await cells.selectOption('flooded');
  await expect(ask).toBeHidden();
  await expect(cells.locator('option')).toHaveCount(2);
  await expect(page.getByRole('status', { name: 'Result' })).toContainText('m³/h');
});
