/** Read, true and replayed on one strip, drawn anew with each move of a slider. */

import { scaleLinear, scaleTime } from 'd3-scale';
import { area, line } from 'd3-shape';
import { DateTime } from 'luxon';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import { HOUR } from '@/core/quantity/span';
import type { Replayed } from './useBench';

interface Props {
  soc: NonNullable<Diagnosis['soc']>;
  replayed: Replayed | null;
  zone: string;
}

const HEIGHT = 200;
const LEFT = 40;
const BOTTOM = 22;

export function BenchChart({ soc, replayed, zone }: Props) {
  const [width, setWidth] = useState(0);
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);
  const from = Date.parse(soc.from);
  const step = soc.stepHours * HOUR;
  const to = from + Math.max(1, soc.reference.length - 1) * step;
  const x = useMemo(() => scaleTime([from, to], [LEFT, Math.max(LEFT + 1, width - 4)]), [from, to, width]);
  const y = useMemo(() => scaleLinear([0, 100], [HEIGHT - BOTTOM, 10]), []);
  const still = useMemo(() => {
    const at = (_: unknown, k: number) => x(from + k * step);
    const curve = line<number | null>()
      .defined((one) => one !== null)
      .x(at)
      .y((one) => y(one!));
    const band = area<number | null>()
      .defined((one) => one !== null)
      .x(at)
      .y0((one, k) => y(Math.max(0, one! - (soc.band[k] ?? 0))))
      .y1((one, k) => y(Math.min(100, one! + (soc.band[k] ?? 0))));
    return { reported: curve(soc.reported), reference: curve(soc.reference), band: band(soc.reference) };
  }, [soc, x, y, from, step]);
  const moving = useMemo(
    () =>
      replayed &&
      line<number>()
        .x((_, k) => x(replayed.at[k]!))
        .y((one) => y(one))(Array.from(replayed.reading)),
    [replayed, x, y],
  );
  const key = (dash: string, ink: string, wide: number, text: string) => (
    <li className="flex items-center gap-1.5">
      <svg width={26} height={8} aria-hidden>
        <line x1={0} x2={26} y1={4} y2={4} stroke={ink} strokeWidth={wide} strokeDasharray={dash} />
      </svg>
      {text}
    </li>
  );
  return (
    <figure>
      <div ref={frame} className="border-rule-strong bg-sheet border">
        <svg
          width="100%"
          height={HEIGHT}
          className="block"
          role="img"
          aria-label="Charge read, true and replayed"
        >
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
          <path d={still.band ?? ''} fill="var(--band)" />
          <path
            d={still.reported ?? ''}
            fill="none"
            stroke="var(--ink-soft)"
            strokeWidth={1.1}
            strokeDasharray="5 3"
          />
          <path d={still.reference ?? ''} fill="none" stroke="var(--accent)" strokeWidth={1.4} />
          <path d={moving ?? ''} fill="none" stroke="var(--ink)" strokeWidth={1.8} strokeDasharray="1 2.5" />
        </svg>
      </div>
      <figcaption>
        <ul className="text-ink-soft mt-1 flex flex-wrap gap-x-4 text-xs">
          {key('1 2.5', 'var(--ink)', 2, 'Replayed')}
          {key('5 3', 'var(--ink-soft)', 1.4, 'Read on the monitor')}
          {key('', 'var(--accent)', 1.6, 'True, with its band')}
        </ul>
      </figcaption>
    </figure>
  );
}
