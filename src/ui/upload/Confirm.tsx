'use client';
/** What the columns of a log were taken for, to confirm or to change before it is sent. */

import { useState } from 'react';
import { type Channel, channelInfo, NAMED_CHANNELS } from '@/core/log/channels';
import type { ColumnReading, LogReading } from '@/core/log/recognise';
import type { DateOrder } from '@/core/log/timeFormat';

export interface Confirmed {
  columns: Record<string, { channel: string; scale: number; offset: number; invert: boolean }>;
  dateOrder?: DateOrder;
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
  const askDate = reading.time?.ask === 'order';
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
          : null;

  const change = (index: number, part: Partial<ColumnReading>) =>
    setColumns((all) => all.map((one) => (one.index === index ? { ...one, ...part } : one)));

  function confirm() {
    const chosen = columns.filter((one) => one.role !== null);
    onConfirm({
      columns: Object.fromEntries(
        chosen.map(({ heading, role, scale, offset, invert }) => [
          heading,
          { channel: role as string, scale, offset, invert },
        ]),
      ),
      ...(dateOrder ? { dateOrder } : {}),
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
                    <option value="">left out</option>
                    <option value="time">time</option>
                    {[
                      ...new Set<Channel>([
                        ...NAMED_CHANNELS,
                        ...roles.filter((role): role is Channel => role !== null && role !== 'time'),
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

const labelOf = (role: string): string => (role === 'time' ? 'time' : channelInfo(role as Channel).label);
