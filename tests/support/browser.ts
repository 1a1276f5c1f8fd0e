/** What the browser tests share. */

import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';

/**
 * WCAG 2.2 AA through axe, in the page itself: there are no frames to look into, and only what is wrong is written up, which halves its time.
 * @param rules only these, where all were looked at already
 */
export async function expectAccessible(page: Page, of = '', rules?: string[]): Promise<void> {
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  const { violations } = await (
    rules ? axe.withRules(rules) : axe.withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
  ).analyze();
  expect(
    violations.map(({ id, nodes }) => `${of} ${id}: ${nodes.map((node) => node.html).join(' | ')}`),
  ).toEqual([]);
}

/** The list of jobs, narrowed to some words: jobs that tests open beside push others off its first page. */
export const listOf = (words: string) => `/?search=${encodeURIComponent(words)}`;

/**
 * Opens a job at one of its steps, and waits until the page hears what is clicked: the list is asked for its id, not drawn.
 * @param job words that find it alone @returns its id
 */
export async function openStep(page: Page, job: string, step: string): Promise<string> {
  const list = await (await page.request.get(listOf(job))).text();
  const ids = new Set([...list.matchAll(/href="\/jobs\/([0-9a-f-]{36})"/g)].map((one) => one[1]!));
  expect([job, ids.size]).toEqual([job, 1]);
  const [id] = [...ids] as [string];
  await page.goto(`/jobs/${id}/${step}`);
  // A view with scripts of its own hears later than the step that it is in.
  await page.waitForFunction(() => {
    const used = [...document.querySelectorAll('main :is(button, a, summary, select, input, textarea)')];
    const hears = (one: Element) => Object.keys(one).some((key) => key.startsWith('__reactFiber'));
    return used.length > 0 && used.every(hears);
  });
  return id;
}

/** What a page of the application sends by itself: requests beside a page have to say where they come from. */
export const OWN = { origin: process.env.BASE_URL ?? 'http://127.0.0.1:3000' };

/** Opens a new job on a new system through the interface's own door. @returns its id */
export async function newJob(
  page: Page,
  systemName: string,
  title = `Job at ${systemName}`,
): Promise<string> {
  const answer = await page.request.post('/api/jobs', {
    data: { systemName, timeZone: 'Europe/Rome', title, complaints: [] },
    headers: OWN,
  });
  return ((await answer.json()) as { id: string }).id;
}

/** Holds the scripts of the next page back: what the server has drawn can be used, and nobody hears it. @returns lets them through */
export async function holdScripts(page: Page): Promise<() => void> {
  let send = () => {};
  const sent = new Promise<void>((resolve) => (send = resolve));
  await page.route('**/_next/static/**/*.js', async (route) => {
    await sent;
    await route.continue();
  });
  return send;
}

/** Presses Tab until the element has the focus. */
export async function tabTo(page: Page, target: Locator, most = 250): Promise<void> {
  for (let i = 0; i < most; i++) {
    if (await target.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error('Tab never got there.');
}

export const saved = (page: Page) => page.locator('[data-state=saved]');

/** A log in the list of a job's logs: what is being taken in, and what was done, are listed as well. */
export const logCard = (page: Page, name: string) =>
  page
    .getByRole('main')
    .getByRole('listitem')
    .filter({ has: page.getByRole('link', { name: `CSV of ${name}` }) });
