/** What is settled of a log before it is taken in: what each column is, how its times are read, and what still has to be said. */

import { DateTime } from 'luxon';
import { useState } from 'react';
import { channelInfo, type ReadChannel } from '@/core/log/channels';
import type { Recipe } from '@/core/log/intake';
import type { Preview } from '@/core/log/preview';
import type { Sign } from '@/core/log/sign';
import type { ColumnReading } from '@/core/log/recognise';
import type { LogDescription } from '@/core/log/takeIn';
import type { DateOrder } from '@/core/log/timeFormat';
import type { Looked } from './useHead';

export const labelOf = (role: string): string =>
  role === 'time' ? 'time' : channelInfo(role as ReadChannel).label;

export interface ReadingForm {
  columns: ColumnReading[];
  change(index: number, part: Partial<ColumnReading>): void;
  dateOrder: DateOrder | '';
  setDateOrder(order: DateOrder | ''): void;
  startAt: string;
  setStartAt(at: string): void;
  words: Record<string, string>;
  setWord(word: string, stage: string): void;
  timeZone: string;
  setTimeZone(zone: string): void;
  /** Columns of the battery's current, with what a positive value means as it is read now. */
  signs: { column: ColumnReading; sign: Sign; answered: boolean }[];
  answerSign(index: number, invert: boolean): void;
  asks: { order: boolean; start: boolean; words: string[] };
  /** Why it cannot be taken in yet, as a sentence. */
  trouble: string | null;
  description(device: string): LogDescription;
}

const FLIPPED: Record<Sign, Sign> = { charging: 'discharging', discharging: 'charging', unclear: 'unclear' };

/** @param recipe a confirmed reading of such a log, to start from */
export function useReadingForm(
  { reading, preview }: Looked,
  recipe: Recipe | null,
  systemZone: string,
): ReadingForm {
  const [columns, setColumns] = useState(() => withRecipe(reading.columns, recipe));
  const [dateOrder, setDateOrder] = useState<DateOrder | ''>(recipe?.dateOrder ?? '');
  const [startAt, setStartAt] = useState('');
  const [words, setWords] = useState<Record<string, string>>(() =>
    Object.assign({}, ...Object.values(recipe?.columns ?? {}).map((one) => one.words ?? {})),
  );
  const [timeZone, setTimeZone] = useState(recipe?.timeZone ?? systemZone);
  const [answered, setAnswered] = useState<number[]>([]);

  const roles = columns.map((one) => one.role);
  const twice = roles.find((role, i) => role !== null && roles.indexOf(role) !== i);
  const asks = {
    order: reading.time?.ask === 'order',
    start: reading.time?.ask === 'start',
    words: columns.flatMap((one) => (one.role === 'source_stage' ? (one.unknownWords ?? []) : [])),
  };
  const signs = signsOf(columns, preview, answered);
  const change = (index: number, part: Partial<ColumnReading>) =>
    setColumns((all) => all.map((one) => (one.index === index ? { ...one, ...part } : one)));

  const unsure = signs.find((one) => one.sign === 'discharging' && !one.answered);
  const trouble = !roles.includes('time')
    ? 'Say which column holds the time.'
    : twice
      ? `Two columns are said to be ${labelOf(twice)}: leave one of them out.`
      : roles.every((role) => role === null || role === 'time')
        ? 'Say what at least one column measures.'
        : asks.order && !dateOrder
          ? 'Say whether the dates have the day or the month first.'
          : asks.start && !startAt
            ? 'Say when the first row was written.'
            : asks.words.some((word) => !Object.hasOwn(words, word))
              ? 'Say which stages the words of the log mean.'
              : unsure
                ? `Say what a positive “${unsure.column.heading}” means.`
                : null;

  return {
    columns,
    change,
    dateOrder,
    setDateOrder,
    startAt,
    setStartAt,
    words,
    setWord: (word, stage) => setWords((now) => ({ ...now, [word]: stage })),
    timeZone,
    setTimeZone,
    signs,
    answerSign(index, invert) {
      change(index, { invert });
      setAnswered((all) => [...all, index]);
    },
    asks,
    trouble,
    description(device) {
      const order = dateOrder || settledOrder(reading.time?.format);
      return {
        device,
        timeZone,
        columns: Object.fromEntries(
          columns
            .filter((one) => one.role !== null)
            .map(({ heading, role, scale, offset, invert }) => [
              heading,
              {
                channel: role as string,
                scale,
                offset,
                invert,
                ...(role === 'source_stage' && asks.words.length > 0 ? { words } : {}),
              },
            ]),
        ),
        ...(order ? { dateOrder: order } : {}),
        ...(startAt ? { startAt: DateTime.fromISO(startAt, { zone: timeZone }).toUTC().toISO()! } : {}),
      };
    },
  };
}

/** The order that the file itself has shown: it goes with the log, because the server sees the file only as it streams in. */
function settledOrder(
  format: NonNullable<Looked['reading']['time']>['format'] | undefined,
): DateOrder | null {
  return format && 'order' in format ? format.order : null;
}

function withRecipe(columns: ColumnReading[], recipe: Recipe | null): ColumnReading[] {
  if (!recipe?.columns) return columns;
  return columns.map((column) => {
    const told = Object.hasOwn(recipe.columns!, column.heading) ? recipe.columns![column.heading] : undefined;
    const settled: ColumnReading = {
      ...column,
      role: (told?.channel ?? null) as ColumnReading['role'],
      scale: told?.scale ?? 1,
      offset: told?.offset ?? 0,
      invert: told?.invert ?? false,
      sure: 'certain',
    };
    delete settled.question;
    return settled;
  });
}

function signsOf(
  columns: readonly ColumnReading[],
  preview: Preview,
  answered: readonly number[],
): ReadingForm['signs'] {
  return columns
    .filter((one) => one.role === 'battery_current')
    .map((column) => {
      const raw = preview.signs[column.index] ?? 'unclear';
      return { column, sign: column.invert ? FLIPPED[raw] : raw, answered: answered.includes(column.index) };
    });
}
