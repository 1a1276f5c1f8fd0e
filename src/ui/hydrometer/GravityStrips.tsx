'use client';
/** A strip for each cell: its readings, the line through them with its band a year ahead, and the limit. */

import { scaleLinear } from 'd3-scale';
import { dayText } from '@/core/quantity/text';
import { area, line } from 'd3-shape';
import { useMemo } from 'react';
import type { JudgedRound } from '@/core/hydrometer/judge';
import { type CellTrend, cellTrends, WORN } from '@/core/hydrometer/trend';
import { DAY } from '@/core/quantity/span';

const WIDTH = 240;
const HEIGHT = 64;
const AHEAD = 365 * DAY;
const STEPS = 24;

export function GravityStrips({ rounds, full }: { rounds: readonly JudgedRound[]; full: number }) {
  const trends = useMemo(() => cellTrends(rounds, full), [rounds, full]);
  const times = trends.flatMap((one) => one.points.map(({ at }) => at));
  if (new Set(times).size < 2)
    return (
      <p className="text-ink-soft text-sm">
        Two rounds after a full charge are needed to compare the cells; a third gives them a line.
      </p>
    );
  const from = Math.min(...times);
  const to = Math.max(...times) + AHEAD;
  const values = trends.flatMap((one) => one.points.map(({ gravity }) => gravity));
  const x = scaleLinear([from, to], [0, WIDTH]);
  const y = scaleLinear(
    [Math.min(full - 1.3 * WORN, ...values), Math.max(full + 0.005, ...values)],
    [HEIGHT - 2, 2],
  );
  return (
    <ul className="grid gap-2 sm:grid-cols-3">
      {trends.map((trend) => (
        <li key={trend.cell} className="border-rule-strong bg-sheet border p-1">
          <p className="flex justify-between text-xs">
            <span className="font-mono">Cell {trend.cell}</span>
            <span className="text-ink-soft">
              {Number.isFinite(trend.aYear)
                ? `${trend.aYear >= 0 ? '+' : '−'}${Math.abs(1000 * trend.aYear).toFixed(0)} points a year`
                : 'too few rounds'}
            </span>
          </p>
          <Strip trend={trend} limit={full - WORN} {...{ x, y, from, to }} />
        </li>
      ))}
    </ul>
  );
}

type Scale = ReturnType<typeof scaleLinear<number, number>>;

function Strip({
  trend,
  limit,
  x,
  y,
  from,
  to,
}: {
  trend: CellTrend;
  limit: number;
  x: Scale;
  y: Scale;
  from: number;
  to: number;
}) {
  const expected = Array.from({ length: STEPS + 1 }, (_, k) => {
    const at = from + ((to - from) * k) / STEPS;
    return { at, ...trend.expectedAt(at) };
  }).filter((one) => Number.isFinite(one.gravity));
  const band = area<(typeof expected)[number]>()
    .x((one) => x(one.at))
    .y0((one) => Math.min(HEIGHT, y(one.gravity - one.band)))
    .y1((one) => Math.max(0, y(one.gravity + one.band)));
  const through = line<(typeof expected)[number]>()
    .x((one) => x(one.at))
    .y((one) => y(one.gravity));
  const last = trend.points.at(-1)!;
  return (
    <svg
      className="ruled block w-full"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`Cell ${trend.cell}: ${trend.points.map(({ gravity }) => gravity.toFixed(3)).join(', ')}, last on ${dayText(new Date(last.at).toISOString())}`}
    >
      <line x1={0} x2={WIDTH} y1={y(limit)} y2={y(limit)} stroke="var(--ink-amps)" strokeDasharray="4 3" />
      {expected.length > 0 && (
        <>
          <path d={band(expected) ?? ''} fill="var(--band)" />
          <path d={through(expected) ?? ''} fill="none" stroke="var(--accent)" strokeWidth={1.2} />
        </>
      )}
      {trend.points.map(({ at, gravity }) => (
        <circle key={at} cx={x(at)} cy={y(gravity)} r={2.4} fill="var(--ink-volts)" />
      ))}
    </svg>
  );
}
