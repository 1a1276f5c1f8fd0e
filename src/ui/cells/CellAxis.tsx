/** Days under a picture of cells over time. */

import { DateTime } from 'luxon';
import { scaleUtc } from 'd3-scale';
import { HOUR } from '@/core/quantity/span';
import type { CellsOut } from '@/core/diagnosis/result';

const MARKS = 6;

export function CellAxis({ heat, zone }: { heat: CellsOut['heat']; zone: string }) {
  const from = Date.parse(heat.from);
  const to = from + heat.spread.length * heat.stepHours * HOUR;
  const scale = scaleUtc([from, to], [0, 100]);
  return (
    <div className="text-ink-soft relative h-4 font-mono text-xs" aria-hidden>
      {scale.ticks(MARKS).map((tick) => (
        <span
          key={tick.getTime()}
          className="absolute -translate-x-1/2 whitespace-nowrap max-sm:nth-[even]:hidden"
          style={{ left: `${Math.min(96, Math.max(4, scale(tick)))}%` }}
        >
          {DateTime.fromJSDate(tick, { zone }).toFormat(to - from > 4 * 24 * HOUR ? 'd LLL' : 'd LLL HH:mm')}
        </span>
      ))}
    </div>
  );
}

/** "Sun 4 Oct 12:00" of a step of the picture. */
export const momentText = ({ from, stepHours }: CellsOut['heat'], at: number, zone: string): string =>
  DateTime.fromMillis(Date.parse(from) + at * stepHours * HOUR, { zone }).toFormat('ccc d LLL HH:mm');
