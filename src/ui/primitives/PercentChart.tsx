/** Curves of a percentage over the days of a log, each with a dash of its own, and a band about one of them. */

import { scaleLinear, scaleTime } from 'd3-scale';
import { area, line } from 'd3-shape';
import { DateTime } from 'luxon';
import { useEffect, useMemo, useRef, useState } from 'react';

export interface Curve {
  name: string;
  /** Epoch ms and % of so many points; NaN breaks the curve. */
  count: number;
  at(k: number): number;
  percent(k: number): number;
  /** One way, points; drawn where it is known. */
  band?(k: number): number;
  dash: string;
  ink: string;
  wide: number;
}

interface Props {
  label: string;
  from: number;
  to: number;
  zone: string;
  /** The first is drawn first. Curves that are the same object are not worked out again. */
  curves: readonly Curve[];
}

const HEIGHT = 200;
const LEFT = 40;
const BOTTOM = 22;

export function PercentChart({ label, from, to, zone, curves }: Props) {
  const [width, setWidth] = useState(0);
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);
  const x = useMemo(() => scaleTime([from, to], [LEFT, Math.max(LEFT + 1, width - 4)]), [from, to, width]);
  const y = useMemo(() => scaleLinear([0, 100], [HEIGHT - BOTTOM, 10]), []);
  return (
    <figure>
      <div ref={frame} className="border-rule-strong bg-sheet border">
        <svg width="100%" height={HEIGHT} className="block" role="img" aria-label={label}>
          {[0, 25, 50, 75, 100].map((value) => (
            <g key={value}>
              <line x1={LEFT} x2={width} y1={y(value)} y2={y(value)} stroke="var(--rule)" />
              <text x={LEFT - 6} y={y(value) + 4} textAnchor="end" fontSize={11} fill="var(--ink-soft)">
                {value}
              </text>
            </g>
          ))}
          {x.ticks(Math.max(2, Math.floor(width / 120))).map((tick) => (
            <text
              key={+tick}
              x={x(tick)}
              y={HEIGHT - 6}
              textAnchor="middle"
              fontSize={11}
              fill="var(--ink-soft)"
            >
              {DateTime.fromMillis(+tick, { zone }).toFormat('d LLL')}
            </text>
          ))}
          {curves.map((one) => (
            <CurvePath key={one.name} curve={one} x={x} y={y} />
          ))}
        </svg>
      </div>
      <figcaption>
        <ul className="text-ink-soft mt-1 flex flex-wrap gap-x-4 text-xs">
          {curves.toReversed().map(({ name, dash, ink, wide, band }) => (
            <li key={name} className="flex items-center gap-1.5">
              <svg width={26} height={8} aria-hidden>
                <line
                  x1={0}
                  x2={26}
                  y1={4}
                  y2={4}
                  stroke={ink}
                  strokeWidth={wide + 0.2}
                  strokeDasharray={dash}
                />
              </svg>
              {band ? `${name}, with its band` : name}
            </li>
          ))}
        </ul>
      </figcaption>
    </figure>
  );
}

interface PathProps {
  curve: Curve;
  x(ms: number): number;
  y(percent: number): number;
}

function CurvePath({ curve, x, y }: PathProps) {
  const { path, band } = useMemo(() => {
    const points = Array.from({ length: curve.count }, (_, k) => k);
    const known = (k: number) => Number.isFinite(curve.percent(k));
    const path = line<number>()
      .defined(known)
      .x((k) => x(curve.at(k)))
      .y((k) => y(curve.percent(k)));
    const off = (k: number) => curve.band?.(k) || 0;
    const band = area<number>()
      .defined(known)
      .x((k) => x(curve.at(k)))
      .y0((k) => y(Math.max(0, curve.percent(k) - off(k))))
      .y1((k) => y(Math.min(100, curve.percent(k) + off(k))));
    return { path: path(points) ?? '', band: curve.band ? (band(points) ?? '') : null };
  }, [curve, x, y]);
  return (
    <>
      {band !== null && <path d={band} fill="var(--band)" />}
      <path d={path} fill="none" stroke={curve.ink} strokeWidth={curve.wide} strokeDasharray={curve.dash} />
    </>
  );
}
