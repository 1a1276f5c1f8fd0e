'use client';
/** One lane: ruled paper, the expected band, lit spans, traces on a canvas, the axis. */

import type { ScaleLinear, ScaleTime } from 'd3-scale';
import { DateTime } from 'luxon';
import { memo, useEffect, useRef } from 'react';
import type { DiagnosisCharge } from '@/core/diagnosis/result';
import type { Span } from '@/core/quantity/span';
import { expectedVolts } from '@/core/system/chemistry';
import type { KnownBank } from '@/core/system/known';
import { drawLane } from './draw';
import { GUTTER, type Lane } from './lanes';
import type { TileSource } from './tileSource';

interface Props {
  lane: Lane;
  x: ScaleTime<number, number>;
  y: ScaleLinear<number, number>;
  view: Span;
  width: number;
  source: TileSource;
  tick: string;
  lit: Span[];
  /** Where a log that this lane shows cannot be believed. */
  doubted: Span[];
  band: { bank: KnownBank; charges: DiagnosisCharge[] } | null;
  zone: string;
  last: boolean;
  /** How much earlier the span is that is laid over this, ms; null where none is. */
  beside: number | null;
}

/** Drawn anew only when what it shows has changed: a cursor that moves is none of its business. */
export const LaneView = memo(function LaneView({
  lane,
  x,
  y,
  view,
  width,
  source,
  tick,
  lit,
  doubted,
  band,
  zone,
  last,
  beside,
}: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (canvas.current && width > 0)
      drawLane(canvas.current, lane, source, { view, width, height: lane.height, y }, beside);
  });
  void tick;
  const { height } = lane;
  const ticks = x.ticks(Math.max(2, Math.floor(width / 90)));
  const yTicks = y.ticks(Math.max(2, Math.floor(height / 30)));
  const rect = (span: Span) => {
    const left = Math.max(0, x(span.from));
    return { x: left, width: Math.max(2, Math.min(width, x(span.to)) - left) };
  };
  const seen = (span: Span) => span.to > view.from && span.from < view.to;
  return (
    <div className="relative" style={{ height: height + (last ? 18 : 0) }}>
      <svg
        width={width + GUTTER}
        height={height + (last ? 18 : 0)}
        className="absolute inset-0"
        role="img"
        aria-label={`${lane.name ?? lane.title} over time`}
      >
        <g transform={`translate(${GUTTER},0)`}>
          <rect
            width={width}
            height={height}
            fill="var(--sheet)"
            stroke="var(--rule-strong)"
            strokeWidth={0.8}
          />
          {ticks.map((one) => (
            <line key={+one} x1={x(one)} x2={x(one)} y1={0} y2={height} stroke="var(--rule)" />
          ))}
          {yTicks.map((one) => (
            <line key={one} x1={0} x2={width} y1={y(one)} y2={y(one)} stroke="var(--rule)" />
          ))}
          {band && <Band {...band} view={view} rect={rect} y={y} />}
          {doubted.filter(seen).map((span, i) => (
            <rect key={i} {...rect(span)} y={0} height={height} fill="url(#doubted)" />
          ))}
          {lit.filter(seen).map((span) => (
            <rect key={span.from} {...rect(span)} y={0} height={height} fill="var(--lit)" />
          ))}
        </g>
        <text x={0} y={14} fontSize={11} fontWeight={600} fill="var(--ink)">
          {lane.title}
        </text>
        {yTicks.map((one) => (
          <text
            key={one}
            x={GUTTER - 5}
            y={Math.min(height - 3, Math.max(10, y(one) + 4))}
            fontSize={11}
            textAnchor="end"
            fill="var(--ink-soft)"
            fontFamily="var(--font-mono)"
          >
            {Math.abs(y(one) - 10) < 14 ? '' : one}
          </text>
        ))}
        <text x={0} y={27} fontSize={11} fill="var(--ink-soft)">
          {lane.unit}
        </text>
        {last &&
          ticks.map((one) => (
            <text
              key={+one}
              x={GUTTER + x(one)}
              y={height + 14}
              fontSize={11}
              textAnchor="middle"
              fill="var(--ink-soft)"
              fontFamily="var(--font-mono)"
            >
              {tickText(one, view, zone)}
            </text>
          ))}
      </svg>
      <canvas ref={canvas} className="absolute top-0" style={{ left: GUTTER, width, height }} aria-hidden />
      {lane.name && (
        <span
          className="bg-sheet/80 text-ink-soft pointer-events-none absolute top-0.5 px-1 text-xs"
          style={{ left: GUTTER + 2 }}
          aria-hidden
        >
          {lane.name}
        </span>
      )}
    </div>
  );
});

function tickText(at: Date, view: Span, zone: string): string {
  const local = DateTime.fromJSDate(at, { zone });
  return view.to - view.from > 3 * 86_400_000
    ? local.toFormat('d LLL')
    : local.toFormat(local.hour === 0 && local.minute === 0 ? 'd LLL' : 'HH:mm');
}

/** Where the voltage should be while a stage lasts, at the battery's temperature in it. */
function Band({
  bank,
  charges,
  view,
  rect,
  y,
}: {
  bank: KnownBank;
  charges: DiagnosisCharge[];
  view: Span;
  rect: (span: Span) => { x: number; width: number };
  y: ScaleLinear<number, number>;
}) {
  return charges
    .flatMap((charge) => charge.stages)
    .filter((stage) => stage.stage === 'absorption' || stage.stage === 'float')
    .map((stage) => ({ stage, from: Date.parse(stage.from), to: Date.parse(stage.to) }))
    .filter((one) => one.to > view.from && one.from < view.to)
    .map(({ stage, from, to }) => {
      const range = expectedVolts(bank, stage.stage as 'absorption' | 'float', stage.celsius ?? NaN);
      return (
        <rect
          key={stage.from + stage.stage}
          {...rect({ from, to })}
          y={y(range.max)}
          height={Math.max(1, y(range.min) - y(range.max))}
          fill="var(--band)"
          stroke="var(--accent)"
          strokeWidth={0.4}
        />
      );
    });
}
