'use client';
/** Each day a row, its stages as textures over the clock of the site: what happens every day at ten past two is seen at a glance. */

import { DateTime } from 'luxon';
import { useMemo, useState } from 'react';
import { daysOf } from '@/core/diagnosis/days';
import { lastFullText } from '@/core/diagnosis/chargeTable';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { Span } from '@/core/quantity/span';
import { ampHours } from '@/core/quantity/text';
import type { System } from '@/core/system/schema';
import { sourceName } from '@/core/system/sourceName';
import { fillOf, LETTER, StagePatterns } from '@/ui/strips/stageTextures';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  system: System;
  diagnosis: Diagnosis;
  logEnds: number;
  onGo: (span: Span) => void;
}

const HEIGHT = 18;
/** The row is drawn in minutes of the day and stretched to its place. */
const MINUTES = 1440;
const HOURS = [0, 3, 6, 9, 12, 15, 18, 21, 24];

export function DaysView({ system, diagnosis, logEnds, onGo }: Props) {
  const sources = diagnosis.charging.sources.map((one) => one.source);
  const [source, setSource] = useState(sources[0] ?? null);
  const zone = system.timeZone;
  const days = useMemo(
    () =>
      daysOf(
        diagnosis.charging.days,
        diagnosis.charges.filter((one) => one.source === source),
        zone,
      ),
    [diagnosis, source, zone],
  );
  return (
    <section aria-label="Days">
      <svg width={0} height={0} className="absolute" aria-hidden>
        <StagePatterns />
      </svg>
      <p className="mb-2 font-semibold">
        {lastFullText(diagnosis.charging.lastFull, logEnds, (iso) =>
          DateTime.fromISO(iso, { zone }).toFormat('d LLLL, HH:mm'),
        )}
      </p>
      {sources.length > 1 && (
        <fieldset className="mb-2 flex flex-wrap gap-x-4 text-sm">
          <legend className="sr-only">Source</legend>
          {sources.map((one) => (
            <label key={one ?? ''} className="flex min-h-[24px] items-center gap-1.5">
              <input
                type="radio"
                name="source"
                className="accent-accent size-4"
                checked={one === source}
                onChange={() => setSource(one)}
              />
              {sourceName(system, one)}
            </label>
          ))}
        </fieldset>
      )}
      <TableFrame label="Days by the clock">
        <table className="w-full min-w-130 border-collapse text-xs">
          <thead>
            <tr className="text-ink-soft border-rule-strong border-b text-left">
              <th scope="col" className="px-2 py-1 font-normal">
                Day
              </th>
              <th scope="col" className="w-full py-1 font-normal">
                <span className="sr-only">Stages by the hour</span>
                <span className="relative block h-4 font-mono" aria-hidden>
                  {HOURS.map((hour) => (
                    <span
                      key={hour}
                      className="absolute -translate-x-1/2 first:translate-x-0 last:-translate-x-full max-sm:nth-[even]:hidden"
                      style={{ left: `${(100 * hour) / 24}%` }}
                    >
                      {hour}
                    </span>
                  ))}
                </span>
              </th>
              <th scope="col" className="px-2 py-1 text-right font-normal">
                In
              </th>
              <th scope="col" className="px-2 py-1 text-right font-normal">
                Out
              </th>
              <th scope="col" className="px-2 py-1 font-normal">
                Reached
              </th>
            </tr>
          </thead>
          <tbody>
            {days.map((day) => (
              <tr key={day.date} className="border-rule border-b">
                <th scope="row" className="px-2 text-left font-normal whitespace-nowrap">
                  <button
                    type="button"
                    className="hover:text-accent min-h-[24px] underline decoration-dotted underline-offset-2"
                    title="Show on the strips"
                    onClick={() => onGo(day.span)}
                  >
                    {DateTime.fromISO(day.date, { zone }).toFormat('ccc d LLL')}
                  </button>
                </th>
                <td className="py-0.5">
                  <svg
                    className="block w-full"
                    height={HEIGHT}
                    role="img"
                    aria-label={
                      day.pieces.map((one) => `${one.stage} from ${one.clock}`).join(', ') ||
                      'no charging seen'
                    }
                  >
                    {HOURS.slice(1, -1).map((hour) => (
                      <line
                        key={hour}
                        x1={`${(100 * hour) / 24}%`}
                        x2={`${(100 * hour) / 24}%`}
                        y1={0}
                        y2={HEIGHT}
                        stroke="var(--rule)"
                      />
                    ))}
                    {day.pieces.map((one) => (
                      <rect
                        key={`${one.from} ${one.stage}`}
                        x={`${(100 * one.from) / MINUTES}%`}
                        width={`${Math.max(0.1, (100 * (one.to - one.from)) / MINUTES)}%`}
                        y={1}
                        height={HEIGHT - 2}
                        fill={fillOf(one.stage)}
                        stroke="var(--accent)"
                        strokeWidth={0.6}
                      >
                        <title>{`${one.stage}, from ${one.clock}`}</title>
                      </rect>
                    ))}
                  </svg>
                </td>
                <td className="px-2 text-right font-mono whitespace-nowrap">
                  {day.ampHoursIn === null ? '–' : ampHours(day.ampHoursIn)}
                </td>
                <td className="px-2 text-right font-mono whitespace-nowrap">
                  {day.ampHoursOut === null ? '–' : ampHours(day.ampHoursOut)}
                </td>
                <td className="px-2 whitespace-nowrap">{day.full ? <strong>full</strong> : day.reached}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </TableFrame>
      <ul className="text-ink-soft mt-2 flex flex-wrap gap-x-4 gap-y-1 text-xs">
        {(['bulk', 'absorption', 'float', 'equalise', 'hold'] as const).map((stage) => (
          <li key={stage} className="flex items-center gap-1.5">
            <svg width={26} height={12} aria-hidden>
              <rect
                x={0.5}
                y={0.5}
                width={25}
                height={11}
                fill={fillOf(stage)}
                stroke="var(--accent)"
                strokeWidth={0.6}
              />
            </svg>
            {LETTER[stage]}, {stage === 'hold' ? 'hold (another source is higher)' : stage}
          </li>
        ))}
      </ul>
    </section>
  );
}
