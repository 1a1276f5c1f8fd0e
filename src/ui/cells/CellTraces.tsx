'use client';
/** A strip for each cell: how far it stands over or under the middle, and the spread of all. */

import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useMemo } from 'react';
import type { CellsOut } from '@/core/diagnosis/result';
import { CellAxis, momentText } from './CellAxis';
import { useMoment } from './useMoment';

const STRIP = 34;
/** The scale never shows less than this, mV: noise is no news. */
const LEAST = 20;

export function CellTraces({ cells, zone }: { cells: CellsOut; zone: string }) {
  const { heat } = cells;
  const steps = heat.spread.length;
  const { at, handlers } = useMoment(steps);
  const rows = useMemo(() => {
    const known = heat.apart.flat().filter((one) => one !== null);
    const bounds: [number, number] = [Math.min(-LEAST, ...known), Math.max(LEAST, ...known)];
    return [
      {
        name: 'Spread',
        values: heat.spread,
        bounds: [0, Math.max(LEAST, ...heat.spread.map((one) => one ?? 0))] as [number, number],
      },
      ...cells.cells.map(({ cell }, k) => ({ name: cell, values: heat.apart[k]!, bounds })),
    ];
  }, [cells, heat]);
  return (
    <div className="border-rule-strong bg-sheet border p-2">
      <p className="mb-1 min-h-5 text-xs" aria-live="polite">
        {at === null
          ? 'Point at the strips, or use the arrow keys, to read a moment. Figures are mV from the middle of the cells.'
          : momentText(heat, at, zone)}
      </p>
      <div {...handlers} className="touch-pan-y" role="group" aria-label="Strips of the cells">
        {rows.map(({ name, values, bounds }) => (
          <div key={name} className="grid grid-cols-[3.5rem_1fr_3rem] items-center">
            <span className="truncate pr-1 text-right font-mono text-xs">{name}</span>
            <Strip values={values} bounds={bounds} at={at} isSpread={name === 'Spread'} />
            <span className="pl-1 text-right font-mono text-xs">
              {at === null ? '' : (values[at] ?? '–')}
            </span>
          </div>
        ))}
      </div>
      <div className="grid grid-cols-[3.5rem_1fr_3rem]">
        <span />
        <CellAxis heat={heat} zone={zone} />
      </div>
    </div>
  );
}

function Strip({
  values,
  bounds: [low, high],
  at,
  isSpread,
}: {
  values: readonly (number | null)[];
  bounds: [number, number];
  at: number | null;
  isSpread: boolean;
}) {
  const y = scaleLinear([low, high], [STRIP - 1, 1]);
  const path = line<number | null>()
    .defined((one) => one !== null)
    .x((_, i) => i + 0.5)
    .y((one) => y(one!))([...values]);
  return (
    <svg
      className="border-rule ruled block w-full border-b"
      style={{ height: STRIP }}
      viewBox={`0 0 ${values.length} ${STRIP}`}
      preserveAspectRatio="none"
      aria-hidden
    >
      <line
        x1={0}
        x2={values.length}
        y1={y(0)}
        y2={y(0)}
        stroke="var(--rule-strong)"
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={path ?? ''}
        fill="none"
        stroke={isSpread ? 'var(--ink-amps)' : 'var(--ink-volts)'}
        strokeWidth={1.4}
        vectorEffect="non-scaling-stroke"
      />
      {at !== null && (
        <line
          x1={at + 0.5}
          x2={at + 0.5}
          y1={0}
          y2={STRIP}
          stroke="var(--accent)"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </svg>
  );
}
