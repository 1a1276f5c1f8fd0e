/** Spans of time in epoch milliseconds, half open: from ≤ t < to. */

export interface Span {
  from: number;
  to: number;
}

export const MINUTE = 60_000;
export const HOUR = 3_600_000;
export const DAY = 86_400_000;

export const lengthOf = (span: Span): number => span.to - span.from;

export const overlaps = (a: Span, b: Span): boolean => a.from < b.to && b.from < a.to;

/** Joins spans that touch or lie within `gap` milliseconds of each other. The input need not be sorted. */
export function mergeSpans(spans: readonly Span[], gap = 0): Span[] {
  const merged: Span[] = [];
  for (const span of [...spans].sort((a, b) => a.from - b.from)) {
    const last = merged[merged.length - 1];
    if (last && span.from <= last.to + gap) last.to = Math.max(last.to, span.to);
    else merged.push({ ...span });
  }
  return merged;
}

/** What the spans of two lists have in common, each pair by itself. */
export const commonOf = (some: readonly Span[], others: readonly Span[]): Span[] =>
  some.flatMap((one) =>
    others
      .filter((other) => overlaps(one, other))
      .map((other) => ({ from: Math.max(one.from, other.from), to: Math.min(one.to, other.to) })),
  );

/** RFC 3339 in UTC to the second, the form in which every result leaves the core. */
export function isoTime(ms: number): string {
  return new Date(Math.round(ms / 1000) * 1000).toISOString().replace('.000Z', 'Z');
}

export const isoSpan = (span: Span): [string, string] => [isoTime(span.from), isoTime(span.to)];

/** Years that a log or a description can be of: the clock of a logger shows no others. */
const YEARS: Span = { from: Date.UTC(1970, 0, 1), to: Date.UTC(2200, 0, 1) };
export const isUsualMoment = (ms: number): boolean => ms >= YEARS.from && ms < YEARS.to;
