// Makes docs/screenshots from the demo data: node scripts/screenshots.mjs [address], while bin/demo runs with fresh data (--reset).
import { chromium } from '@playwright/test';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { isRoot, root, start } from './setup/shell.mjs';

const address = process.argv[2] ?? 'http://127.0.0.1:3000';
const folder = join(root, 'docs', 'screenshots');

start(async () => {
  mkdirSync(folder, { recursive: true });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      ...(isRoot ? ['--no-sandbox'] : []),
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  /** @param {{ width?: number, height?: number, dark?: boolean }} [how] */
  const open = ({ width = 1280, height = 800, dark = false } = {}) =>
    browser.newPage({ viewport: { width, height }, colorScheme: dark ? 'dark' : 'light', locale: 'en-GB' });
  /** @param {import('@playwright/test').Page} page @param {string} name */
  const shoot = async (page, name) => {
    await page.waitForLoadState('networkidle');
    // A strip is drawn once it knows its width.
    await page.waitForFunction(() =>
      [...document.querySelectorAll('canvas')].every((one) => one.clientWidth > 1),
    );
    await page.waitForTimeout(600);
    await page.screenshot({ path: join(folder, `${name}.png`) });
  };
  const job = /Tide gauge never gets full/;

  const page = await open();
  await page.goto(address);
  await shoot(page, 'jobs');
  await page.getByRole('link', { name: job }).click();
  await page.waitForURL(/charging/);
  const base = page.url().replace(/\/charging$/, '');
  await page.goto(`${base}/logs`);
  await page.getByLabel('Written by').selectOption('Solar controller');
  await page
    .getByLabel('File')
    .setInputFiles(join(root, '.pazienza', 'demo-logs', 'tide-gauge', 'solar-controller.csv'));
  await page.getByRole('button', { name: 'Take it in' }).waitFor();
  await shoot(page, 'logs');
  await page.getByRole('button', { name: 'Take it in' }).click();
  await page.getByText(/was taken in/).waitFor();
  await page.goto(`${base}/charging`);
  await page.getByRole('button', { name: /again and again/ }).hover();
  await shoot(page, 'charging');
  await page.goto(`${base}/weigh`);
  await shoot(page, 'weigh');
  await page.goto(`${base}/report`);
  await shoot(page, 'report');

  await page.goto(address);
  const coldRoom = await page.getByRole('link', { name: /Cold room shuts down/ }).getAttribute('href');
  for (const [step, name] of [
    ['take-in', 'take-in'],
    ['wiring', 'wiring'],
    ['settings', 'settings'],
  ]) {
    await page.goto(`${address}${coldRoom}/${step}`);
    await shoot(page, name ?? '');
  }
  await page.goto(`${address}/systems`);
  await page.getByRole('link', { name: /Capacity tests of Fog horn/ }).click();
  await page.getByText(/Capacity test of \d+ \w+ 2026/).waitFor();
  await shoot(page, 'capacity');
  await page.goto(address);
  const pumps = await page.getByRole('link', { name: /Cistern pumps/ }).getAttribute('href');
  await page.goto(`${address}${pumps}/on-site`);
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.getByRole('button', { name: /^5 Ratings chain/ }).click();
  await shoot(page, 'on-site');
  await page.goto(`${address}/plan`);
  await shoot(page, 'plan');
  await page.goto(`${address}/jobs/start`);
  await page
    .getByLabel('Log files')
    .setInputFiles(join(root, '.pazienza', 'demo-logs', 'tide-gauge', 'solar-controller.csv'));
  await page.getByText(/goes up to/).waitFor();
  await shoot(page, 'start');
  await page.goto(address);
  const lamps = await page.getByRole('link', { name: /Signal lamps alarm/ }).getAttribute('href');
  await page.goto(`${address}${lamps}/counting`);
  await shoot(page, 'counting');
  await page.goto(`${address}${lamps}/counting?view=bench`);
  await page.getByText(/points off as a rule/).waitFor();
  await shoot(page, 'settings-bench');
  await page.goto(address);
  const horn = await page.getByRole('link', { name: /Fog horn drops out/ }).getAttribute('href');
  await page.goto(`${address}${horn}/cut-offs`);
  await page
    .getByRole('region', { name: 'Table of cut-offs' })
    .getByRole('button', { expanded: false })
    .first()
    .click();
  await shoot(page, 'cut-offs');
  await page.goto(address);
  const transmitter = await page.getByRole('link', { name: /Transmitter goes off/ }).getAttribute('href');
  await page.goto(`${address}${transmitter}/cells?view=traces`);
  await shoot(page, 'cells');
  await page.goto(`${address}/systems`);
  await page.getByRole('link', { name: /Hydrometer rounds of Seismic vault/ }).click();
  await page.getByRole('heading', { name: 'Each cell over the rounds' }).waitFor();
  await page.getByRole('heading', { name: 'New round' }).scrollIntoViewIfNeeded();
  await shoot(page, 'hydrometer');

  const dark = await open({ dark: true });
  await dark.goto(`${base}/charging?view=what-if`);
  await dark.getByRole('spinbutton', { name: 'Size of the source' }).fill('1.5');
  await shoot(dark, 'what-if-dark');
  const phone = await open({ width: 390, height: 844 });
  await phone.goto(`${base}/charging`);
  await shoot(phone, 'charging-phone');
  await browser.close();
});
