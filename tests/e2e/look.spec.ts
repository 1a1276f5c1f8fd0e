/** Every main view by day, by night and on a phone: accessible, and nothing runs over the edge. */

import { expect, test } from '@playwright/test';
import { expectAccessible, listOf, openStep } from '../support/browser';

/** Groups of views, each about as long to look at as the next: they are looked at beside each other. */
const VIEWS: Record<string, string[]> = {
  'of a description': [
    'take-in',
    'make-safe',
    'on-site',
    'wiring',
    'settings',
    'settings?view=sheet',
    'settings?view=schools',
    'settings?view=rest',
    'settings?view=calculators',
    'settings-sheet',
  ],
  'of charging': [
    'logs',
    'charging',
    'charging?view=charges',
    'charging?view=days',
    'charging?view=sources',
    'charging?view=what-if',
  ],
  'of counting, cut-offs and cells': [
    'counting',
    'counting?view=syncs',
    'counting?view=drift',
    'counting?view=bench',
    'cut-offs',
    'cells',
    'cells?view=heat',
    'weigh',
    'report',
  ],
  'beside the jobs': ['/', '/systems', '/plan', '/jobs/new', '/calculators/conductor'],
};

test.describe.configure({ mode: 'parallel' });

/** A view is opened once; then the light and the window change about it. */
for (const [group, views] of Object.entries(VIEWS))
  test(`the views ${group} are accessible by day, legible by night, and fit on a phone`, async ({ page }) => {
    test.setTimeout(300_000);
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
    const id = await openStep(page, 'Yearly check', 'charging');
    const over = () =>
      page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    for (const view of views) {
      await page.goto(view.startsWith('/') ? view : `/jobs/${id}/${view}`);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expectAccessible(page, view);
      expect([view, await over()]).toEqual([view, 0]);
      await page.emulateMedia({ colorScheme: 'dark' });
      await expect(page.locator('html')).toHaveClass(/dark/);
      await expectAccessible(page, `${view} by night`, ['color-contrast']);
      await page.setViewportSize({ width: 390, height: 844 });
      expect([view, await over()]).toEqual([view, 0]);
      // Its colours are those of the desk.
      await expectAccessible(page, `${view} on a phone`, ['target-size']);
      await page.emulateMedia({ colorScheme: 'light' });
      await page.setViewportSize({ width: 1280, height: 800 });
      // Twice as large a text: nothing runs over the edge, and no word is cut off.
      await page.addStyleTag({ content: ':root { font-size: 175% !important }' });
      expect([view, 'text at 200 %', await over()]).toEqual([view, 'text at 200 %', 0]);
    }
    expect(errors).toEqual([]);
  });

test('on a phone the steps are a menu and the notebook a sheet', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.goto(listOf('Yearly check'));
  await page.getByRole('link', { name: 'Yearly check' }).click();
  await page.waitForURL(/charging/);
  await page.getByRole('button', { name: 'Notebook' }).click();
  await expect(page.getByRole('dialog', { name: 'Notebook' })).toContainText('No likely cause found.');
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
