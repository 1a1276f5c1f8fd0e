'use client';
/** The percentage as it was read and as it was, with its band, and the syncs by verdict, on a strip that can be drawn along and zoomed. */

import { area, line } from 'd3-shape';
import { scaleLinear, scaleTime } from 'd3-scale';
import { DateTime } from 'luxon';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import { DAY, HOUR, type Span } from '@/core/quantity/span';
import type { System } from '@/core/system/schema';
import { buttonClass } from '@/ui/primitives/buttons';
import { VERDICT_WORDS, VerdictMark } from './verdicts';

interface Props {
  system: System;
  diagnosis: Diagnosis;
  lit: Span[];
}

interface Point {
  at: number;
  reported: number | null;
  reference: number | null;
  band: number;
}

const HEIGHT = 260;
const LEFT = 40;
const BOTTOM = 24;
const CLOSEST = 6 * HOUR;
const LENGTHS = [
  { name: 'All', days: Infinity },
  { name: '2 weeks', days: 14 },
  { name: '3 days', days: 3 },
  { name: '1 day', days: 1 },
] as const;

export function ChargeCurve({ system, diagnosis, lit }: Props) {
  const { soc, syncs, counting } = diagnosis;
  const zone = system.timeZone;
  const points = useMemo<Point[]>(() => {
    const from = Date.parse(soc!.from);
    return soc!.reference.map((reference, k) => ({
      at: from + k * soc!.stepHours * HOUR,
      reference,
      reported: soc!.reported[k] ?? null,
      band: soc!.band[k] ?? 0,
    }));
  }, [soc]);
  const full = useMemo<Span>(
    () => ({
      from: points[0]?.at ?? 0,
      to: Math.max((points[0]?.at ?? 0) + CLOSEST, points.at(-1)?.at ?? 0),
    }),
    [points],
  );
  const [view, setView] = useState<Span>(full);
  const [cursor, setCursor] = useState<number | null>(null);
  const [width, setWidth] = useState(0);
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);

  const show = (from: number, length: number) => {
    const long = Math.min(full.to - full.from, Math.max(CLOSEST, length));
    const start = Math.min(full.to - long, Math.max(full.from, from));
    setView({ from: start, to: start + long });
  };
  const length = view.to - view.from;
  const middle = (view.from + view.to) / 2;
  const zoomTo = (long: number) => show(middle - long / 2, long);

  const x = scaleTime([view.from, view.to], [LEFT, Math.max(LEFT + 1, width - 4)]);
  const y = scaleLinear([0, 100], [HEIGHT - BOTTOM, 14]);
  const shown = points.filter((one) => one.at >= view.from - 2 * HOUR && one.at <= view.to + 2 * HOUR);
  const reported = line<Point>()
    .defined((one) => one.reported !== null)
    .x((one) => x(one.at))
    .y((one) => y(one.reported!));
  const reference = line<Point>()
    .defined((one) => one.reference !== null)
    .x((one) => x(one.at))
    .y((one) => y(one.reference!));
  const band = area<Point>()
    .defined((one) => one.reference !== null)
    .x((one) => x(one.at))
    .y0((one) => y(Math.max(0, one.reference! - one.band)))
    .y1((one) => y(Math.min(100, one.reference! + one.band)));
  const near = cursor === null ? null : points[Math.round((cursor - full.from) / (soc!.stepHours * HOUR))];
  const when = (ms: number) => DateTime.fromMillis(ms, { zone });
  const daily = length <= 4 * DAY;

  function onKeyDown(event: KeyboardEvent) {
    const actions: Record<string, () => void> = {
      ArrowLeft: () => show(view.from - 0.2 * length, length),
      ArrowRight: () => show(view.from + 0.2 * length, length),
      '+': () => zoomTo(length / 1.6),
      '=': () => zoomTo(length / 1.6),
      '-': () => zoomTo(length * 1.6),
      '0': () => setView(full),
    };
    const action = event.ctrlKey || event.metaKey || event.altKey ? undefined : actions[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  }

  return (
    <section aria-label="Charge, read and true">
      <div className="mb-1 flex flex-wrap items-center justify-between gap-x-4 gap-y-1 text-xs">
        <p className="font-mono" aria-live="off">
          {near
            ? `${when(near.at).toFormat('ccc d LLL HH:mm')}  read ${near.reported === null ? '–' : near.reported.toFixed(0)} %  true ${near.reference === null ? '–' : `${near.reference.toFixed(0)} ± ${near.band.toFixed(0)}`} %`
            : `${when(view.from).toFormat('d LLL yyyy HH:mm')} – ${when(view.to).toFormat('d LLL HH:mm')}`}
        </p>
        <div className="flex flex-wrap gap-1" role="group" aria-label="How much is shown">
          {LENGTHS.filter(({ days }) => days === Infinity || days * DAY < full.to - full.from).map(
            ({ name, days }) => (
              <button
                key={name}
                type="button"
                className={`${buttonClass} px-2 py-0.5 text-xs`}
                onClick={() => (days === Infinity ? setView(full) : zoomTo(days * DAY))}
              >
                {name}
              </button>
            ),
          )}
          <button
            type="button"
            className={`${buttonClass} px-2 py-0.5 text-xs`}
            onClick={() => show(view.from - 0.8 * length, length)}
          >
            Earlier
          </button>
          <button
            type="button"
            className={`${buttonClass} px-2 py-0.5 text-xs`}
            onClick={() => show(view.from + 0.8 * length, length)}
          >
            Later
          </button>
        </div>
      </div>
      <div
        ref={frame}
        className="border-rule-strong bg-sheet border"
        tabIndex={0}
        role="application"
        aria-label="Charge over the log. Arrow keys move, plus and minus zoom, nought shows all."
        onKeyDown={onKeyDown}
      >
        <svg
          width="100%"
          height={HEIGHT}
          className="block cursor-crosshair touch-pan-y"
          onPointerMove={(event) => {
            const at = x.invert(event.nativeEvent.offsetX).getTime();
            setCursor(at >= full.from && at <= full.to ? at : null);
          }}
          onPointerLeave={() => setCursor(null)}
          aria-hidden
        >
          {[0, 20, 40, 60, 80, 100].map((value) => (
            <g key={value}>
              <line x1={LEFT} x2={width} y1={y(value)} y2={y(value)} stroke="var(--rule)" />
              <text
                x={LEFT - 6}
                y={y(value) + 4}
                textAnchor="end"
                fontSize={11}
                fill="var(--ink-soft)"
                className="font-mono"
              >
                {value}
              </text>
            </g>
          ))}
          {x.ticks(Math.max(2, Math.floor(width / 110))).map((tick) => (
            <g key={+tick}>
              <line x1={x(tick)} x2={x(tick)} y1={14} y2={HEIGHT - BOTTOM} stroke="var(--rule)" />
              <text x={x(tick)} y={HEIGHT - 8} textAnchor="middle" fontSize={11} fill="var(--ink-soft)">
                {when(+tick).toFormat(daily ? 'd LLL HH:mm' : 'd LLL')}
              </text>
            </g>
          ))}
          <clipPath id="counting-plot">
            <rect x={LEFT} y={0} width={Math.max(0, width - LEFT)} height={HEIGHT - BOTTOM} />
          </clipPath>
          <g clipPath="url(#counting-plot)">
            {lit.map((one) => (
              <rect
                key={`${one.from}-${one.to}`}
                x={x(one.from)}
                width={Math.max(2, x(one.to) - x(one.from))}
                y={0}
                height={HEIGHT}
                fill="var(--lit)"
              />
            ))}
            <path d={band(shown) ?? ''} fill="var(--band)" stroke="none" />
            <path d={reference(shown) ?? ''} fill="none" stroke="var(--accent)" strokeWidth={1.8} />
            <path
              d={reported(shown) ?? ''}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={1.4}
              strokeDasharray="5 3"
            />
            {cursor !== null && (
              <line
                x1={x(cursor)}
                x2={x(cursor)}
                y1={0}
                y2={HEIGHT}
                stroke="var(--ink-soft)"
                strokeWidth={1}
              />
            )}
            {syncs
              .filter((one) => Date.parse(one.at) >= view.from && Date.parse(one.at) <= view.to)
              .map((one) => (
                <VerdictMark
                  key={one.at}
                  verdict={one.judged}
                  x={x(Date.parse(one.at))}
                  y={y(one.reference ?? 100)}
                />
              ))}
          </g>
        </svg>
      </div>
      <ul className="text-ink-soft mt-2 flex flex-wrap gap-x-4 gap-y-1 text-xs">
        <Key dash="5 3" ink="var(--ink)">
          {counting!.hasReading ? 'Read on the monitor' : 'Not logged'}
        </Key>
        <Key dash="" ink="var(--accent)">
          True, with its band
        </Key>
        {(['true', 'unsure', 'false'] as const).map((verdict) => (
          <li key={verdict} className="flex items-center gap-1.5">
            <svg width={14} height={14} aria-hidden>
              <VerdictMark verdict={verdict} x={7} y={7} />
            </svg>
            {VERDICT_WORDS[verdict]}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Key({ dash, ink, children }: { dash: string; ink: string; children: string }) {
  return (
    <li className="flex items-center gap-1.5">
      <svg width={26} height={8} aria-hidden>
        <line x1={0} x2={26} y1={4} y2={4} stroke={ink} strokeWidth={1.6} strokeDasharray={dash} />
      </svg>
      {children}
    </li>
  );
}
