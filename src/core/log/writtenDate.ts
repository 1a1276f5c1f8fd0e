/** Dates that are not three numbers: the month by its name, or all of it run together. */

const MONTHS: readonly (readonly string[])[] = [
  ['jan', 'gen', 'ene'],
  ['feb', 'fev'],
  ['mar', 'mrz', 'mrt'],
  ['apr', 'avr', 'abr'],
  ['may', 'mai', 'mag', 'mei'],
  ['jun', 'giu', 'juin'],
  ['jul', 'lug', 'juil'],
  ['aug', 'ago', 'aou'],
  ['sep', 'set'],
  ['oct', 'okt', 'ott'],
  ['nov'],
  ['dec', 'dez', 'dic'],
];
const NUMBER_OF = new Map(MONTHS.flatMap((names, i) => names.map((name) => [name, i + 1] as const)));

/** 20260921T070000, 20260921070000, 202609210700Z. */
const TOGETHER =
  /^(?<year>(?:19|20|21)\d\d)(?<month>\d\d)(?<day>\d\d)[T _-]?(?<clock>\d{4}(?:\d\d(?:[.,]\d+)?)?)\s*(?<zone>Z|[+-]\d\d:?\d\d)?$/i;

const WEEKDAY = '(?:\\p{L}+[.,]?\\s+)?';
const MONTH = '(?<month>\\p{L}{3,})';
const NAMED = [
  // 21-Sep-26 07:00, Mon, 21 Sep 2026 07:00:00 GMT, 21/Sep/2026:07:00:00 +0000
  `^${WEEKDAY}(?<day>\\d{1,2})(?:st|nd|rd|th)?[\\s./-]*${MONTH}[\\s.,/-]*(?<year>\\d{4}|\\d\\d(?!\\d))(?<rest>.*)$`,
  // Sep 21, 2026 07:00
  `^${WEEKDAY}${MONTH}[\\s.-]+(?<day>\\d{1,2})(?:st|nd|rd|th)?[\\s,-]+(?<year>\\d{4})(?<rest>.*)$`,
  // 2026-Sep-21 07:00
  `^(?<year>\\d{4})[\\s./-]*${MONTH}[\\s./-]*(?<day>\\d{1,2})(?!\\d)(?<rest>.*)$`,
  // Mon Sep 21 07:00:00 UTC 2026
  `^${WEEKDAY}${MONTH}\\s+(?<day>\\d{1,2})\\s+(?<rest>[\\d:.]+)(?:\\s+(?<zone>\\p{Lu}{3,4}))?\\s+(?<year>\\d{4})$`,
].map((one) => new RegExp(one, 'u'));

/**
 * A date with the month's name in it, in English, German, Italian, French, Spanish or Dutch, or one that is run together, rewritten as
 * 2026-09-21 07:00:00 with what stood after it; null for any other text.
 */
export function numberedDate(cell: string): string | null {
  const together = TOGETHER.exec(cell)?.groups;
  if (together) {
    const { year, month, day, clock, zone = '' } = together;
    const time = `${clock!.slice(0, 2)}:${clock!.slice(2, 4)}:${clock!.slice(4) || '00'}`;
    const isDate = +month! >= 1 && +month! <= 12 && +day! >= 1 && +day! <= 31;
    return isDate && +clock!.slice(0, 2) <= 24 ? `${year}-${month}-${day} ${time}${zone}` : null;
  }
  for (const pattern of NAMED) {
    const found = pattern.exec(cell)?.groups;
    const month = found && monthNumber(found.month!);
    if (!month) continue;
    const rest = [found.rest!.replace(/^[\s,:T_-]+/, ''), found.zone ?? ''].join(' ').trim();
    const year = found.year!.length === 2 ? `20${found.year}` : found.year;
    return `${year}-${twoFigures(month)}-${twoFigures(+found.day!)}${rest === '' ? '' : ` ${rest}`}`;
  }
  return null;
}

function monthNumber(word: string): number | undefined {
  const plain = word.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
  return NUMBER_OF.get(plain.slice(0, 4)) ?? NUMBER_OF.get(plain.slice(0, 3));
}

const twoFigures = (n: number): string => String(n).padStart(2, '0');
