'use client';
/** The strips: lanes over one time axis, a ribbon of stages above them, the whole log below, and the tools to work on them. */

import { scaleLinear, scaleTime } from 'd3-scale';
import { useTheme } from 'next-themes';
import Link from 'next/link';
import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { Span } from '@/core/quantity/span';
import { knownSystem } from '@/core/system/known';
import type { Change } from '@/core/bundle/schema';
import type { Job, System } from '@/core/system/schema';
import type { RecordingInfo } from '@/core/log/recording';
import { type Command, useCommands } from '@/ui/commands/Commands';
import { pngOf } from '@/ui/picture/paint';
import { svgText } from '@/ui/picture/svgText';
import { saveFile } from '@/ui/primitives/saveFile';
import { movedBy } from './beside';
import { useCursor } from './cursor';
import { extentOf } from './draw';
import { eventsOf, nextEvent } from './events';
import { KeySheet } from './KeySheet';
import { Legend } from './Legend';
import { LaneView } from './LaneView';
import { channelsOf, GUTTER, labelOfChannel, type Lane, LANES, lanesOf } from './lanes';
import { type Marks, Overlay, spanOfMarks } from './Overlay';
import { Overview } from './Overview';
import { pictureNow } from './pictureNow';
import { Readout } from './Readout';
import { RIBBON, Ribbons, ribbonsOf } from './Ribbons';
import { StagePatterns } from './stageTextures';
import { StripPanel } from './StripPanel';
import { keyActions, movedMark, type StripTools } from './stripKeys';
import { StripTables } from './StripTables';
import { tileSource } from './tileSource';
import { type Panel, Toolbar, type Zoom } from './Toolbar';
import { usePins } from './usePins';
import { useStripView } from './useStripView';
import { useWishes } from './useWishes';
import { besideOfAddress } from './viewAddress';
import { about, spanOfZoom } from './zooms';

interface Props {
  jobId: string;
  job: Job;
  jobVersion: number;
  system: System;
  /** Settings that were changed for the record: events on the strips. */
  changes: readonly Pick<Change, 'on' | 'label'>[];
  recordings: RecordingInfo[];
  diagnosis: Diagnosis;
  /** Spans lit by the notebook. */
  lit: Span[];
  /** Where the notebook wants to go. */
  goal: Span | null;
}

export function Strips(props: Props) {
  if (props.recordings.length === 0)
    return (
      <div className="ruled border-rule-strong bg-sheet border p-8">
        <p className="mb-3">There is no log of this job yet: the strips are empty.</p>
        <Link
          href={`/jobs/${props.jobId}/logs`}
          className="bg-accent text-on-accent inline-block px-3 py-1.5"
        >
          Take in a log
        </Link>
      </div>
    );
  return <FilledStrips {...props} />;
}

/** Voltages below this share of the highest run off the bottom of their lane. */
const LOWEST_SHOWN = 0.6;

function FilledStrips({ jobId, job, jobVersion, system, changes, recordings, diagnosis, lit, goal }: Props) {
  const [width, setWidth] = useState(0);
  const [tick, setTick] = useState(0);
  const [broken, setBroken] = useState(false);
  const [helpOpen, setHelpOpen] = useState(false);
  const [panel, setPanel] = useState<Panel | null>(null);
  const [marks, setMarks] = useState<Marks | null>(null);
  const [isMeasuring, setMeasuring] = useState(false);
  const measuring = useRef(false);
  const cursor = useCursor();
  const { resolvedTheme } = useTheme();
  const frame = useRef<HTMLDivElement>(null);
  const plot = useRef<HTMLDivElement>(null);
  const [wishes, changeWishes] = useWishes(jobId);
  const { pins, add, remove } = usePins(jobId, job, jobVersion);

  const full = useMemo<Span>(
    () => ({
      from: Math.min(...recordings.map((one) => one.from)),
      to: Math.max(...recordings.map((one) => one.to)),
    }),
    [recordings],
  );
  const [beside, setBeside] = useState<number | null>(() =>
    typeof window === 'undefined' ? null : besideOfAddress(window.location.search),
  );
  const { view, show, go, canGo } = useStripView(plot, full, width, measuring, beside);
  const bank = useMemo(() => knownSystem(system)?.bank ?? null, [system]);
  const lanes = useMemo(() => lanesOf(system, recordings, wishes), [system, recordings, wishes]);
  const events = useMemo(
    () => eventsOf(diagnosis, system, { pins, changes }),
    [diagnosis, system, pins, changes],
  );
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

  const goTo = useCallback((span: Span) => show(about(span)), [show]);
  useEffect(() => {
    if (goal) goTo(goal);
  }, [goal, goTo]);

  const measure = useCallback((on: boolean) => {
    measuring.current = on;
    setMeasuring(on);
    setPanel((was) => (on ? 'caliper' : was === 'caliper' ? null : was));
    if (!on) setMarks(null);
  }, []);

  const x = useMemo(() => scaleTime([view.from, view.to], [0, Math.max(1, width)]), [view, width]);
  const scales = useMemo(
    () => lanes.map((lane) => scaleLinear(domainOf(lane), [lane.height - 4, 4])),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- tick says that the source has more
    [lanes, source, full, width, tick, bank],
  );
  function domainOf(lane: Lane): [number, number] {
    // A bus that a BMS has switched off reads nothing: drawn to scale, all else would be a line.
    const least = lane.id === 'volts' || lane.id === 'cells' ? LOWEST_SHOWN : null;
    const found = extentOf(lane, source, full, Math.max(1, width), least) ?? [0, 1];
    // The band that the battery asks for is to be seen even when the voltage never gets there.
    if (lane.id === 'volts' && bank && !lane.name)
      found[1] = Math.max(found[1], bank.chargeVolts.max + 0.02 * bank.cellsInSeries);
    const margin = Math.max(0.05 * (found[1] - found[0]), lane.id === 'cells' ? 0.01 : 0.05);
    return [found[0] - margin, found[1] + margin];
  }
  const band = useMemo(() => (bank ? { bank, charges: diagnosis.charges } : null), [bank, diagnosis]);
  const doubted = useMemo(
    () =>
      lanes.map((lane) =>
        diagnosis.trust
          .filter((note) => lane.traces.some((trace) => note.devices.includes(trace.recording.device)))
          .flatMap((note) =>
            note.spans.map(([from, to]) => ({ from: Date.parse(from), to: Date.parse(to) })),
          ),
      ),
    [lanes, diagnosis],
  );
  const ribbons = useMemo(() => ribbonsOf(diagnosis, system), [diagnosis, system]);
  const ribbonsThen = useMemo(
    () =>
      beside === null
        ? []
        : ribbons.map((one) => ({
            ...one,
            name: one.name ? `Then: ${one.name}` : 'Then',
            charges: movedBy(one.charges, beside),
          })),
    [ribbons, beside],
  );
  async function savePicture(kind: 'svg' | 'png'): Promise<void> {
    const drawn = pictureNow({ lanes, source, view, width, lit, diagnosis, system });
    const blob = kind === 'svg' ? new Blob([svgText(drawn)], { type: 'image/svg+xml' }) : await pngOf(drawn);
    saveFile(blob, `strips-${new Date(view.from).toISOString().slice(0, 10)}.${kind}`);
  }

  const length = view.to - view.from;
  const middle = (view.from + view.to) / 2;
  const around = (ms: number, span: number) => show({ from: ms - span / 2, to: ms + span / 2 });
  const step = (way: 'next' | 'previous') => {
    const event = nextEvent(events, middle, way, '');
    if (event) around(event.from, length);
  };
  const zoomTo = (zoom: Zoom) => {
    const wanted = spanOfZoom(zoom, { full, middle, charges: diagnosis.charges, events });
    if (wanted) show(wanted);
  };
  const tools: StripTools = {
    ...{ view, full, marks, isMeasuring, show, go, zoomTo, step, measure },
    onMarks: setMarks,
    onPanel: setPanel,
  };
  function onKeyDown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey) return;
    const sideways = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if ((event.shiftKey || event.altKey) && sideways !== 0) {
      event.preventDefault();
      setMarks(movedMark(tools, event.altKey ? 'a' : 'b', sideways));
      setPanel('caliper');
      return;
    }
    const action = event.altKey ? undefined : keyActions(tools)[event.key];
    if (!action) return;
    event.preventDefault();
    action();
  }
  // The sheet of keys opens wherever the focus is, but not where somebody types.
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select');
      if (event.key === '?' && !typing) setHelpOpen(true);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);

  const commands = useMemo<Command[]>(
    () => [
      { name: 'Caliper: measure between two moments', group: 'Strips', keys: 'c', run: () => measure(true) },
      { name: 'Find a time or an event', group: 'Strips', keys: 'f', run: () => setPanel('find') },
      { name: 'Compare with another span', group: 'Strips', keys: 'o', run: () => setPanel('compare') },
      { name: 'Lanes: show, hide, order', group: 'Strips', keys: 'l', run: () => setPanel('lanes') },
      { name: 'Pins', group: 'Strips', keys: 'm', run: () => setPanel('pins') },
      { name: 'The whole log', group: 'Strips', keys: '0', run: () => show(full) },
      { name: 'Keys', group: 'Strips', keys: '?', run: () => setHelpOpen(true) },
      ...channelsOf(recordings).map((one) => ({
        name: labelOfChannel(system, one),
        group: 'Channel',
        run: () => {
          const lane = LANES.find(({ has }) => has(one.channel));
          if (lane) changeWishes({ shown: { ...wishes.shown, [lane.id]: true } });
          plot.current?.scrollIntoView({ block: 'nearest' });
        },
      })),
    ],
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is wished is read when a command runs
    [measure, show, full, recordings, system, wishes],
  );
  useCommands(commands);

  const zone = system.timeZone;
  const measured = useMemo(() => (marks ? spanOfMarks(marks) : null), [marks]);
  return (
    <section aria-label="Strips">
      <Toolbar
        jobId={jobId}
        view={view}
        panel={panel}
        isMeasuring={isMeasuring}
        canGo={canGo}
        onGo={go}
        onZoom={zoomTo}
        onMeasure={() => measure(!isMeasuring)}
        onPanel={(one) => setPanel(panel === one ? null : one)}
        onKeys={() => setHelpOpen(true)}
        onPicture={(kind) => void savePicture(kind)}
      />
      {panel && (
        <StripPanel
          {...{
            panel,
            jobId,
            system,
            recordings,
            diagnosis,
            events,
            full,
            view,
            measured,
            wishes,
            beside,
            pins,
          }}
          onClose={() => measure(false)}
          onPanel={setPanel}
          onMarks={setMarks}
          onGo={(span) => (span.to > span.from ? goTo(span) : around(span.from, length))}
          onWishes={changeWishes}
          onBeside={setBeside}
          onPin={add}
          onUnpin={(pin) => void remove(pin)}
        />
      )}
      <Readout {...{ cursor, lanes, source, view, width, zone, events }} />
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
        {beside !== null && <Ribbons ribbons={ribbonsThen} view={view} x={x} width={width} />}
        {lanes.map((lane, i) => (
          <LaneView
            key={lane.key}
            lane={lane}
            y={scales[i]!}
            x={x}
            view={view}
            width={width}
            source={source}
            tick={`${tick}${resolvedTheme}`}
            lit={lit}
            doubted={doubted[i]!}
            band={lane.id === 'volts' ? band : null}
            zone={zone}
            last={i === lanes.length - 1}
            beside={beside}
          />
        ))}
        <Overlay
          plot={plot}
          cursor={cursor}
          x={x}
          width={width}
          height={
            (ribbons.length + (beside === null ? 0 : ribbonsThen.length)) * RIBBON +
            lanes.reduce((sum, lane) => sum + lane.height, 0)
          }
          marks={marks}
          isMeasuring={isMeasuring}
          onMarks={setMarks}
          onMeasured={() => setPanel('caliper')}
          onPan={(ms) => show({ from: view.from + ms, to: view.to + ms })}
          onKeyDown={onKeyDown}
        />
        <div style={{ paddingLeft: GUTTER }} className="mt-1">
          {width > 0 && lanes[0] && (
            <Overview
              lane={lanes[0]}
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
      <StripTables {...{ lanes, source, view, zone, events }} tick={String(tick)} />
      <KeySheet open={helpOpen} onOpenChange={setHelpOpen} />
    </section>
  );
}
