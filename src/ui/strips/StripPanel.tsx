'use client';
/** The panel of the tool that is open above the strips. */

import dynamic from 'next/dynamic';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { RecordingInfo } from '@/core/log/recording';
import type { Span } from '@/core/quantity/span';
import type { Pin, System } from '@/core/system/schema';
import { Waiting } from '@/ui/primitives/Waiting';
import type { StripEvent } from './events';
import type { LaneWishes } from './lanes';
import type { Marks } from './Overlay';
import type { Panel } from './Toolbar';

/** Panels come when they are opened: the strips are there first. */
const CaliperPanel = dynamic(() => import('./CaliperPanel').then((one) => one.CaliperPanel), {
  loading: Waiting,
});
const ComparePanel = dynamic(() => import('./ComparePanel').then((one) => one.ComparePanel), {
  loading: Waiting,
});
const FindPanel = dynamic(() => import('./FindPanel').then((one) => one.FindPanel), { loading: Waiting });
const LanesPanel = dynamic(() => import('./LanesPanel').then((one) => one.LanesPanel), { loading: Waiting });
const PinsPanel = dynamic(() => import('./PinsPanel').then((one) => one.PinsPanel), { loading: Waiting });

interface Props {
  panel: Panel;
  jobId: string;
  system: System;
  recordings: readonly RecordingInfo[];
  diagnosis: Diagnosis;
  events: readonly StripEvent[];
  full: Span;
  view: Span;
  /** Between the marks of the caliper; null without both. */
  measured: Span | null;
  wishes: LaneWishes;
  beside: number | null;
  pins: readonly Pin[];
  /** The caliper is put away. */
  onClose(): void;
  onPanel(panel: Panel): void;
  onMarks(marks: Marks): void;
  /** To a span, or about a moment. */
  onGo(span: Span): void;
  onWishes(some: Partial<LaneWishes>): void;
  onBeside(offset: number | null): void;
  onPin(span: Span, note: string): Promise<boolean>;
  onUnpin(pin: Pin): void;
}

export function StripPanel(props: Props) {
  return (
    <section
      aria-label={NAMES[props.panel]}
      className="border-rule-strong bg-sheet mb-1 max-h-[40dvh] overflow-y-auto border p-2"
    >
      <Content {...props} />
    </section>
  );
}

function Content({ panel, jobId, system, recordings, view, measured, ...props }: Props) {
  switch (panel) {
    case 'caliper':
      return (
        <CaliperPanel
          {...{ jobId, system }}
          span={measured}
          onPin={() => props.onPanel('pins')}
          onClear={props.onClose}
        />
      );
    case 'find':
      return (
        <FindPanel
          {...{ jobId, system, recordings }}
          events={props.events}
          from={(view.from + view.to) / 2}
          onFound={props.onGo}
          onSpan={({ from, to }) => props.onMarks({ a: from, b: to })}
        />
      );
    case 'compare':
      return (
        <ComparePanel
          {...{ jobId, system, view }}
          full={props.full}
          charges={props.diagnosis.charges}
          span={measured ?? view}
          offset={props.beside}
          onOffset={props.onBeside}
        />
      );
    case 'lanes':
      return <LanesPanel {...{ system, recordings }} wishes={props.wishes} onWishes={props.onWishes} />;
    case 'pins':
      return (
        <PinsPanel
          pins={props.pins}
          zone={system.timeZone}
          span={measured ?? view}
          onAdd={props.onPin}
          onRemove={props.onUnpin}
          onGo={props.onGo}
        />
      );
  }
}

const NAMES: Record<Panel, string> = {
  caliper: 'Caliper',
  find: 'Find',
  compare: 'Compare',
  lanes: 'Lanes',
  pins: 'Pins',
};
