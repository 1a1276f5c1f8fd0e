/** Days as a technician writes them at home: in the order and with the strokes of a locale, kept as yyyy-mm-dd. */

import { DateTime } from 'luxon';

type Part = 'day' | 'month' | 'year';

interface Pattern {
  order: Part[];
  /** "dd/mm/yyyy" */
  hint: string;
}

const LETTERS: Record<Part, string> = { day: 'dd', month: 'mm', year: 'yyyy' };

export function patternOf(locale: string): Pattern {
  const parts = new Intl.DateTimeFormat(`${locale}-u-nu-latn-ca-gregory`, {
    day: '2-digit',
    month: '2-digit',
    year: 'numeric',
  }).formatToParts(new Date(2026, 10, 22));
  const isPart = (type: string): type is Part => Object.hasOwn(LETTERS, type);
  return {
    order: parts.map(({ type }) => type).filter(isPart),
    hint: parts.map(({ type, value }) => (isPart(type) ? LETTERS[type] : value)).join(''),
  };
}

/** As it is written there; empty for what is no day. */
export function textOfDay(iso: string, locale: string): string {
  const day = DateTime.fromISO(iso);
  if (iso === '' || !day.isValid) return '';
  const values: Record<Part, string> = {
    day: day.toFormat('dd'),
    month: day.toFormat('MM'),
    year: day.toFormat('yyyy'),
  };
  return patternOf(locale).hint.replace(/dd|mm|yyyy/g, (letters) =>
    letters === 'dd' ? values.day : letters === 'mm' ? values.month : values.year,
  );
}

/** yyyy-mm-dd of what was written, in the order of the locale or with the year first; null for what is no day. */
export function dayOfText(text: string, locale: string): string | null {
  const groups = text.trim().match(/\d+/g) ?? [];
  if (groups.length !== 3 || /[^\d\s./年月日-]/.test(text)) return null;
  const order: Part[] = groups[0]!.length === 4 ? ['year', 'month', 'day'] : patternOf(locale).order;
  const of = (part: Part) => groups[order.indexOf(part)]!;
  const year = of('year');
  if (year.length !== 4 && year.length !== 2) return null;
  const day = DateTime.fromObject({
    year: Number(year.length === 2 ? `20${year}` : year),
    month: Number(of('month')),
    day: Number(of('day')),
  });
  return day.isValid ? day.toISODate() : null;
}
