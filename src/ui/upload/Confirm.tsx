'use client';
/** What the columns of a log were taken for, to confirm or to change before it is sent. */

import { DateTime } from 'luxon';
import { useState } from 'react';
import {
  channelInfo,
  NAMED_CHANNELS,
  RAW_CHANNEL_NAMES,
  REPORTED_STAGES,
  type ReadChannel,
} from '@/core/log/channels';
import type { ColumnReading, LogReading } from '@/core/log/recognise';
import type { ToldColumn } from '@/core/log/takeIn';
import type { DateOrder } from '@/core/log/timeFormat';

export interface Confirmed {
  columns: Record<string, ToldColumn>;
  dateOrder?: DateOrder;
  startAt?: string;
}

const SURE = { certain: 'certain', likely: 'likely', ask: 'please say' };

export function Confirm({
  reading,
  timeZone,
  onConfirm,
}: {
  reading: LogReading;
  timeZone: string;
  onConfirm: (confirmed: Confirmed) => void;
}) {
  const [columns, setColumns] = useState(reading.columns);
  const [dateOrder, setDateOrder] = useState<DateOrder | ''>('');
  const [startAt, setStartAt] = useState('');
  /** What the log's own words for stages mean. */
  const [words, setWords] = useState<Record<string, string>>({});
  const askDate = reading.time?.ask === 'order';
  const askStart = reading.time?.ask === 'start';
  const format = reading.time?.format;
  const clockColumn = format?.kind === 'date-and-clock' ? format.clockColumn : -1;
  const unknownWords = columns.flatMap((one) =>
    one.role === 'source_stage' ? (one.unknownWords ?? []) : [],
  );
  const roles = columns.map((one) => one.role);
  const twice = roles.find((role, i) => role !== null && roles.indexOf(role) !== i);
  const trouble = !roles.includes('time')
    ? 'Say which column holds the time.'
    : twice
      ? `Two columns are said to be ${labelOf(twice)}: leave one of them out.`
      : roles.every((role) => role === null || role === 'time')
        ? 'Say what at least one column measures.'
        : askDate && !dateOrder
          ? 'Say whether the dates have the day or the month first.'
          : askStart && !startAt
            ? 'Say when the first row was written.'
            : unknownWords.some((word) => words[word] === undefined)
              ? 'Say which stages the words of the log mean.'
              : null;

  const change = (index: number, part: Partial<ColumnReading>) =>
    setColumns((all) => all.map((one) => (one.index === index ? { ...one, ...part } : one)));

  function confirm() {
    const chosen = columns.filter((one) => one.role !== null);
    onConfirm({
      columns: Object.fromEntries(
        chosen.map(({ heading, role, scale, offset, invert }) => [
          heading,
          {
            channel: role as string,
            scale,
            offset,
            invert,
            ...(role === 'source_stage' && unknownWords.length > 0 ? { words } : {}),
          },
        ]),
      ),
      ...(dateOrder ? { dateOrder } : {}),
      ...(startAt ? { startAt: DateTime.fromISO(startAt, { zone: timeZone }).toUTC().toISO()! } : {}),
    });
  }

  return (
    <div className="mt-4">
      <h3 className="mb-1 text-sm font-semibold">Is this what the columns are?</h3>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-xs">
          <thead>
            <tr className="border-rule-strong border-b text-left">
              <th className="py-1 pr-3">Heading</th>
              <th className="py-1 pr-3">First values</th>
              <th className="py-1 pr-3">Taken for</th>
              <th className="py-1 pr-3">How sure</th>
              <th className="py-1">Reversed</th>
            </tr>
          </thead>
          <tbody>
            {columns.map((one) => (
              <tr key={one.index} className="border-rule border-b align-top">
                <td className="py-1 pr-3 font-semibold">{one.heading}</td>
                <td className="py-1 pr-3 font-mono">{one.samples.slice(0, 3).join('  ')}</td>
                <td className="py-1 pr-3">
                  <select
                    aria-label={`${one.heading} is`}
                    className="border-rule-strong bg-paper border px-1 py-0.5"
                    value={one.role ?? ''}
                    onChange={(event) =>
                      change(one.index, {
                        role: (event.target.value || null) as ColumnReading['role'],
                        sure: 'certain',
                      })
                    }
                  >
                    <option value="">{one.index === clockColumn ? 'the time of day' : 'left out'}</option>
                    <option value="time">time</option>
                    {[
                      ...new Set<ReadChannel>([
                        ...NAMED_CHANNELS,
                        ...RAW_CHANNEL_NAMES,
                        ...roles.filter((role): role is ReadChannel => role !== null && role !== 'time'),
                      ]),
                    ].map((channel) => (
                      <option key={channel} value={channel}>
                        {labelOf(channel)}
                      </option>
                    ))}
                  </select>
                  {one.scale !== 1 && (
                    <span className="text-ink-soft ml-1">× {one.scale.toPrecision(3)}</span>
                  )}
                </td>
                <td className="py-1 pr-3">{one.role === null && one.sure !== 'ask' ? '' : SURE[one.sure]}</td>
                <td className="py-1">
                  {one.role?.endsWith('current') && (
                    <input
                      type="checkbox"
                      aria-label={`${one.heading}: charging reads negative`}
                      checked={one.invert}
                      onChange={(event) => change(one.index, { invert: event.target.checked })}
                    />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {columns.some((one) => one.question) && (
        <ul className="mt-2 list-disc pl-5 text-sm">
          {columns
            .filter((one) => one.question)
            .map((one) => (
              <li key={one.index}>{one.question}</li>
            ))}
        </ul>
      )}
      {askDate && (
        <label className="mt-2 block text-sm">
          Dates have{' '}
          <select
            className="border-rule-strong bg-paper border px-1"
            value={dateOrder}
            onChange={(event) => setDateOrder(event.target.value as DateOrder)}
          >
            <option value="">…</option>
            <option value="dmy">the day first</option>
            <option value="mdy">the month first</option>
          </select>
        </label>
      )}
      {askStart && (
        <label className="mt-2 block text-sm">
          The first row was written at{' '}
          <input
            type="datetime-local"
            step={1}
            className="border-rule-strong bg-paper border px-1"
            value={startAt}
            onChange={(event) => setStartAt(event.target.value)}
          />
        </label>
      )}
      {unknownWords.map((word) => (
        <label key={word} className="mt-2 block text-sm">
          “{word}” means{' '}
          <select
            className="border-rule-strong bg-paper border px-1"
            value={words[word] ?? ''}
            onChange={(event) => setWords((now) => ({ ...now, [word]: event.target.value }))}
          >
            <option value="" disabled>
              …
            </option>
            {REPORTED_STAGES.map((stage) => (
              <option key={stage}>{stage}</option>
            ))}
            <option value="none">no stage</option>
          </select>
        </label>
      ))}
      <p className="text-ink-soft mt-2 text-xs">Times without an offset are read in {timeZone}.</p>
      {trouble && <p className="mt-2 text-sm">{trouble}</p>}
      <button
        type="button"
        disabled={trouble !== null}
        onClick={confirm}
        className="bg-accent text-on-accent disabled:bg-rule disabled:text-ink-soft mt-3 px-3 py-1.5"
      >
        Take it in
      </button>
    </div>
  );
}

const labelOf = (role: string): string => (role === 'time' ? 'time' : channelInfo(role as ReadChannel).label);
