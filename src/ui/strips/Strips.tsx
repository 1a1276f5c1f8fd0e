'use client';
/** The strips: lanes over one time axis, a ribbon of stages above them, the whole log below. */

import { scaleLinear, scaleTime } from 'd3-scale';
import { select } from 'd3-selection';
import { zoom, zoomIdentity, type ZoomBehavior } from 'd3-zoom';
import { DateTime } from 'luxon';
import { useTheme } from 'next-themes';
import Link from 'next/link';
import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import { DAY, HOUR, MINUTE, type Span } from '@/core/quantity/span';
import { knownSystem } from '@/core/system/known';
import type { System } from '@/core/system/schema';
import type { RecordingInfo } from '@/core/log/recording';
import { extentOf, valueAt } from './draw';
import { KeySheet } from './KeySheet';
import { LaneView } from './LaneView';
import { GUTTER, lanesOf } from './lanes';
import { Overview } from './Overview';
import { RIBBON, Ribbons, ribbonsOf } from './Ribbons';
import { StagePatterns } from './stageTextures';
import { tileSource } from './tileSource';

interface Props {
  jobId: string;
  system: System;
  recordings: RecordingInfo[];
  diagnosis: Diagnosis;
  /** Spans lit by the notebook. */
  lit: Span[];
  /** Where the notebook wants to go. */
  goal: Span | null;
}

const CLOSEST = 2 * MINUTE;

export function Strips({ jobId, system, recordings, diagnosis, lit, goal }: Props) {
  if (recordings.length === 0)
    return (
      <div className="ruled border-rule-strong bg-sheet border p-8">
        <p className="mb-3">There is no log of this job yet: the strips are empty.</p>
        <Link href={`/jobs/${jobId}/logs`} className="bg-accent text-on-accent inline-block px-3 py-1.5">
          Take in a log
        </Link>
      </div>
    );
  return (
    <FilledStrips
      jobId={jobId}
      system={system}
      recordings={recordings}
      diagnosis={diagnosis}
      lit={lit}
      goal={goal}
    />
  );
}

/** Voltages below this share of the highest run off the bottom of their lane. */
const LOWEST_SHOWN = 0.6;

function FilledStrips({ jobId, system, recordings, diagnosis, lit, goal }: Props) {
  const [width, setWidth] = useState(0);
  const [tick, setTick] = useState(0);
  const [broken, setBroken] = useState(false);
  const [cursor, setCursor] = useState<number | null>(null);
  const [helpOpen, setHelpOpen] = useState(false);
  const { resolvedTheme } = useTheme();
  const frame = useRef<HTMLDivElement>(null);
  const plot = useRef<HTMLDivElement>(null);
  const behaviour = useRef<ZoomBehavior<HTMLDivElement, unknown>>(null);

  const full = useMemo<Span>(
    () => ({
      from: Math.min(...recordings.map((one) => one.from)),
      to: Math.max(...recordings.map((one) => one.to)),
    }),
    [recordings],
  );
  const [view, setView] = useState<Span>(() => ({
    from: full.from,
    to: Math.min(full.to, full.from + 6 * DAY),
  }));
  const bank = useMemo(() => knownSystem(system)?.bank ?? null, [system]);
  const lanes = useMemo(() => lanesOf(system, recordings), [system, recordings]);
  const [source] = useState(() => {
    let waiting = false;
    return tileSource(
      () => {
        // Many tiles may come at once: one redraw for all of them.
        if (waiting) return;
        waiting = true;
        requestAnimationFrame(() => {
          waiting = false;
          setBroken(false);
          setTick((one) => one + 1);
        });
      },
      () => setBroken(true),
    );
  });

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) =>
      setWidth(Math.max(0, Math.floor(entry!.contentRect.width) - GUTTER)),
    );
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);

  useEffect(() => {
    if (width <= 0) return;
    const base = scaleTime([full.from, full.to], [0, width]);
    const selection = select(plot.current!);
    behaviour.current = zoom<HTMLDivElement, unknown>()
      .scaleExtent([1, Math.max(1, (full.to - full.from) / CLOSEST)])
      .extent([
        [0, 0],
        [width, 1],
      ])
      .translateExtent([
        [0, 0],
        [width, 1],
      ])
      .on('zoom', (event) => {
        const [from, to] = event.transform.rescaleX(base).domain().map(Number) as [number, number];
        setView({ from, to });
      });
    selection.call(behaviour.current).on('dblclick.zoom', null);
    return () => void selection.on('.zoom', null);
  }, [full, width]);

  const show = useCallback(
    (wanted: Span) => {
      if (!behaviour.current || width <= 0) return;
      const whole = full.to - full.from;
      const length = Math.min(whole, Math.max(CLOSEST, wanted.to - wanted.from));
      const from = Math.min(full.to - length, Math.max(full.from, wanted.from));
      const k = whole / length;
      const transform = zoomIdentity.scale(k).translate((-(from - full.from) / whole) * width, 0);
      select(plot.current!).call(behaviour.current.transform, transform);
    },
    [full, width],
  );

  // The first view, and again when the width has changed: the zoom keeps its own state.
  useEffect(() => {
    if (width > 0) show(view);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a new width calls for it
  }, [width]);

  useEffect(() => {
    if (!goal) return;
    const margin = Math.max(2 * HOUR, 0.4 * (goal.to - goal.from));
    show({ from: goal.from - margin, to: goal.to + margin });
  }, [goal, show]);

  const x = useMemo(() => scaleTime([view.from, view.to], [0, Math.max(1, width)]), [view, width]);
  const extents = useMemo(
    () =>
      lanes.map((lane) => {
        // A bus that a BMS has switched off reads nothing: drawn to scale, all else would be a line.
        const least = lane.id === 'volts' ? LOWEST_SHOWN : -Infinity;
        const found = extentOf(lane, source, full, Math.max(1, width), least) ?? [0, 1];
        // The band that the battery asks for is to be seen even when the voltage never gets there.
        if (lane.id === 'volts' && bank)
          found[1] = Math.max(found[1], bank.chargeVolts.max + 0.02 * bank.cellsInSeries);
        const margin = Math.max(0.05 * (found[1] - found[0]), 0.05);
        return [found[0] - margin, found[1] + margin] as [number, number];
      }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- tick says that the source has more
    [lanes, source, full, width, tick, bank],
  );

  const ribbons = useMemo(() => ribbonsOf(diagnosis, system), [diagnosis, system]);
  const starts = useMemo(
    () =>
      diagnosis.charges
        .flatMap((charge) => charge.stages.map((stage) => Date.parse(stage.from)))
        .sort((a, b) => a - b),
    [diagnosis],
  );

  function onKeyDown(event: KeyboardEvent) {
    const length = view.to - view.from;
    const middle = (view.from + view.to) / 2;
    const around = (ms: number, span: number) => show({ from: ms - span / 2, to: ms + span / 2 });
    const move = (part: number) => show({ from: view.from + part * length, to: view.to + part * length });
    const actions: Record<string, () => void> = {
      ArrowLeft: () => move(-0.2),
      ArrowRight: () => move(0.2),
      PageUp: () => move(-0.9),
      PageDown: () => move(0.9),
      '+': () => around(middle, length / 1.6),
      '=': () => around(middle, length / 1.6),
      '-': () => around(middle, length * 1.6),
      Home: () => show({ from: full.from, to: full.from + length }),
      End: () => show({ from: full.to - length, to: full.to }),
      '0': () => show(full),
      d: () => around(middle, DAY),
      n: () => {
        const next = starts.find((one) => one > middle + MINUTE);
        if (next) around(next, length);
      },
      p: () => {
        const previous = [...starts].reverse().find((one) => one < middle - MINUTE);
        if (previous) around(previous, length);
      },
      '?': () => setHelpOpen(true),
    };
    const action = event.ctrlKey || event.metaKey || event.altKey ? undefined : actions[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  }

  const zone = system.timeZone;
  const shownAt = cursor ?? null;
  return (
    <section aria-label="Strips">
      <div className="mb-1 flex min-h-12 flex-wrap content-start items-start justify-between gap-x-3 overflow-hidden text-xs md:h-12">
        <p className="text-ink-soft font-mono" aria-live="off">
          {shownAt === null
            ? `${DateTime.fromMillis(view.from, { zone }).toFormat('d LLL yyyy HH:mm')} – ${DateTime.fromMillis(view.to, { zone }).toFormat('d LLL HH:mm')}`
            : DateTime.fromMillis(shownAt, { zone }).toFormat('ccc d LLL HH:mm:ss')}
        </p>
        <p className="flex flex-wrap gap-x-3 font-mono">
          {shownAt !== null &&
            lanes.flatMap((lane) =>
              lane.traces.map((trace) => {
                const value = valueAt(trace, source, view, width, shownAt);
                return (
                  <span key={trace.recording.id + trace.channel} title={trace.label}>
                    {trace.channel
                      .replace('_', ' ')
                      .replace('voltage', '')
                      .replace('current', '')
                      .replace('temperature', '')}{' '}
                    {value === value ? value.toFixed(lane.digits) : '–'}{' '}
                    <span className="text-ink-soft">{lane.unit}</span>
                  </span>
                );
              }),
            )}
        </p>
        <span className="flex gap-x-3">
          {(['csv', 'parquet'] as const).map((format) => (
            <a
              key={format}
              className="text-accent underline"
              href={`/api/jobs/${jobId}/timeline?format=${format}&from=${Math.floor(view.from)}&to=${Math.ceil(view.to)}`}
              title={`What is in view, all logs on one clock, as ${format === 'csv' ? 'CSV' : 'Parquet'}`}
              download
            >
              {format === 'csv' ? 'This span as CSV' : 'Parquet'}
            </a>
          ))}
          <button type="button" className="text-accent underline" onClick={() => setHelpOpen(true)}>
            Keys (?)
          </button>
        </span>
      </div>
      {broken && (
        <p role="alert" className="border-hazard mb-1 border-l-3 pl-2 text-sm">
          Part of the log could not be fetched. Check that the server runs; moving the strips asks again.
        </p>
      )}
      <svg width={0} height={0} className="absolute" aria-hidden>
        <StagePatterns />
      </svg>
      <div ref={frame} className="relative">
        <Ribbons ribbons={ribbons} view={view} x={x} width={width} />
        {lanes.map((lane, i) => (
          <LaneView
            key={lane.id}
            lane={lane}
            y={scaleLinear(extents[i]!, [lane.height - 4, 4])}
            x={x}
            view={view}
            width={width}
            source={source}
            tick={`${tick}${resolvedTheme}`}
            lit={lit}
            doubted={diagnosis.trust
              .filter((note) => lane.traces.some((trace) => note.devices.includes(trace.recording.device)))
              .flatMap((note) =>
                note.spans.map(([from, to]) => ({ from: Date.parse(from), to: Date.parse(to) })),
              )}
            cursor={cursor}
            band={lane.id === 'volts' && bank ? { bank, charges: diagnosis.charges } : null}
            zone={zone}
            last={i === lanes.length - 1}
          />
        ))}
        <div
          ref={plot}
          tabIndex={0}
          role="application"
          aria-label="Strips of the log. Arrow keys move, plus and minus zoom, n and p go to the next and previous stage, question mark lists the keys."
          className="absolute top-0 cursor-crosshair touch-none"
          style={{
            left: GUTTER,
            width,
            height: ribbons.length * RIBBON + lanes.reduce((sum, lane) => sum + lane.height, 0),
          }}
          onKeyDown={onKeyDown}
          onPointerMove={(event) => setCursor(x.invert(event.nativeEvent.offsetX).getTime())}
          onPointerLeave={() => setCursor(null)}
        />
        <div style={{ paddingLeft: GUTTER }} className="mt-1">
          {width > 0 && (
            <Overview
              lane={lanes[0]!}
              source={source}
              full={full}
              view={view}
              width={width}
              tick={`${tick}${resolvedTheme}`}
              onView={show}
            />
          )}
        </div>
      </div>
      <Legend lanes={lanes} />
      <KeySheet open={helpOpen} onOpenChange={setHelpOpen} />
    </section>
  );
}

function Legend({ lanes }: { lanes: ReturnType<typeof lanesOf> }) {
  return (
    <ul className="text-ink-soft mt-2 flex flex-wrap gap-x-4 gap-y-1 text-xs">
      {lanes.flatMap((lane) =>
        lane.traces.map((trace) => (
          <li key={trace.recording.id + trace.channel} className="flex items-center gap-1.5">
            <svg width={26} height={8} aria-hidden>
              <line
                x1={0}
                x2={26}
                y1={4}
                y2={4}
                stroke={`var(${trace.ink})`}
                strokeWidth={1.6}
                strokeDasharray={trace.dash.join(' ')}
              />
            </svg>
            {trace.label}
          </li>
        )),
      )}
      <li className="flex items-center gap-1.5">
        <span
          className="inline-block h-2 w-6"
          style={{ background: 'var(--band)', outline: '1px solid var(--accent)' }}
          aria-hidden
        />
        Voltage that the battery asks for
      </li>
    </ul>
  );
}
