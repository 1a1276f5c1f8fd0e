/** Every main view by day, by night and on a phone: accessible, and nothing runs over the edge. */

import { expect, test } from '@playwright/test';
import { expectAccessible } from '../support/browser';

const STEPS = [
  'take-in',
  'make-safe',
  'wiring',
  'settings',
  'settings?view=sheet',
  'settings?view=schools',
  'settings?view=rest',
  'settings?view=calculators',
  'settings-sheet',
  'logs',
  'charging',
  'weigh',
  'report',
];
const PAGES = ['/', '/systems', '/jobs/new', '/calculators/conductor'];

for (const [name, width, height, scheme] of [
  ['by day', 1280, 800, 'light'],
  ['by night', 1280, 800, 'dark'],
  ['on a phone', 390, 844, 'light'],
  ['on a phone by night', 390, 844, 'dark'],
] as const)
  test(`the views ${name}`, async ({ browser }) => {
    const context = await browser.newContext({ viewport: { width, height }, colorScheme: scheme });
    const page = await context.newPage();
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    await page.goto('/');
    await page.getByRole('link', { name: /Yearly check/ }).click();
    await page.waitForURL(/charging/);
    const base = page.url().replace(/\/charging$/, '');
    for (const step of [...PAGES, ...STEPS]) {
      await page.goto(step.startsWith('/') ? step : `${base}/${step}`);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expectAccessible(page, step);
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect([step, over]).toEqual([step, 0]);
    }
    expect(errors).toEqual([]);
    await context.close();
  });

test('on a phone the steps are a menu and the notebook a sheet', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.goto('/');
  await page.getByRole('link', { name: /Yearly check/ }).click();
  await page.waitForURL(/charging/);
  await page.getByRole('button', { name: 'Notebook' }).click();
  await expect(page.getByRole('dialog', { name: 'Notebook' })).toContainText('Nothing wrong was found');
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('combobox', { name: /^Step/ }).selectOption('Logs');
  await expect(page.getByRole('heading', { name: 'Take in a log' })).toBeVisible();
  await context.close();
});

test('the theme can be switched and stays', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Switch between light and dark' }).click();
  await expect(page.locator('html')).toHaveClass(/dark/);
  await page.reload();
  await expect(page.locator('html')).toHaveClass(/dark/);
});
