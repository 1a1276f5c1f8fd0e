/** The part of the log in view as the address of the page has it. */

import { MINUTE, type Span } from '@/core/quantity/span';

/** No closer view than this, ms. */
export const CLOSEST = 2 * MINUTE;

/** The span that an address names, cut to the log; null where it names none. */
export function spanOfAddress(search: string, full: Span): Span | null {
  const query = new URLSearchParams(search);
  const [from, to] = ['from', 'to'].map((key) => Date.parse(query.get(key) ?? '')) as [number, number];
  if (!(to - from >= CLOSEST) || to <= full.from || from >= full.to) return null;
  return { from: Math.max(full.from, from), to: Math.min(full.to, to) };
}

const minuteText = (ms: number): string =>
  new Date(Math.round(ms / MINUTE) * MINUTE).toISOString().slice(0, 16) + 'Z';

/** The span that an address lays over it, as how much earlier that is, ms; null where it names none. */
export function besideOfAddress(search: string): number | null {
  const minutes = Number(new URLSearchParams(search).get('beside') ?? NaN);
  return Number.isFinite(minutes) && minutes !== 0 ? minutes * MINUTE : null;
}

/** The address of this page with a span in it, and with what is laid over it. */
export function addressOfSpan(href: string, { from, to }: Span, beside: number | null = null): string {
  const url = new URL(href);
  if (beside === null) url.searchParams.delete('beside');
  else url.searchParams.set('beside', String(Math.round(beside / MINUTE)));
  url.searchParams.set('from', minuteText(from));
  url.searchParams.set('to', minuteText(to));
  return url.pathname + url.search;
}
