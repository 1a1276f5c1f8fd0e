'use client';
/** Above the strips: the way back, how much is in view, the tools, and the span as a file. */

import { ArrowLeft, ArrowRight } from 'lucide-react';
import type { Span } from '@/core/quantity/span';
import { buttonClass } from '@/ui/primitives/buttons';

export type Panel = 'caliper' | 'find' | 'compare' | 'lanes' | 'pins';
const ZOOMS = [
  { id: 'stage', name: 'Stage' },
  { id: 'charge', name: 'Charge' },
  { id: 'day', name: 'Day' },
  { id: 'week', name: 'Week' },
  { id: 'all', name: 'All' },
] as const;
export type Zoom = (typeof ZOOMS)[number]['id'];

interface Props {
  jobId: string;
  view: Span;
  panel: Panel | null;
  isMeasuring: boolean;
  canGo: { back: boolean; forward: boolean };
  onGo(by: -1 | 1): void;
  onZoom(zoom: Zoom): void;
  onMeasure(): void;
  onPanel(panel: Panel): void;
  onKeys(): void;
  onPicture(kind: 'svg' | 'png'): void;
}

const PANELS = [
  { id: 'find', name: 'Find' },
  { id: 'compare', name: 'Compare' },
  { id: 'lanes', name: 'Lanes' },
  { id: 'pins', name: 'Pins' },
] as const;
const smallClass = `${buttonClass} px-1.5 py-0.5 text-xs aria-pressed:bg-accent-soft aria-pressed:font-semibold`;

/** As tall as a fingertip wants it. */
const linkClass = 'text-accent inline-flex min-h-6 min-w-6 items-center justify-center underline';

export function Toolbar({
  jobId,
  view,
  panel,
  isMeasuring,
  canGo,
  onGo,
  onZoom,
  onMeasure,
  onPanel,
  onKeys,
  onPicture,
}: Props) {
  return (
    <div role="toolbar" aria-label="Tools of the strips" className="mb-1 flex flex-wrap items-center gap-1">
      <button
        type="button"
        className={smallClass}
        disabled={!canGo.back}
        onClick={() => onGo(-1)}
        aria-label="View before"
      >
        <ArrowLeft className="size-4" aria-hidden />
      </button>
      <button
        type="button"
        className={smallClass}
        disabled={!canGo.forward}
        onClick={() => onGo(1)}
        aria-label="View after"
      >
        <ArrowRight className="size-4" aria-hidden />
      </button>
      <span role="group" aria-label="In view" className="mx-1 flex gap-1">
        {ZOOMS.map(({ id, name }) => (
          <button key={id} type="button" className={smallClass} onClick={() => onZoom(id)}>
            {name}
          </button>
        ))}
      </span>
      <button type="button" className={smallClass} aria-pressed={isMeasuring} onClick={onMeasure}>
        Caliper
      </button>
      {PANELS.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          className={smallClass}
          aria-pressed={panel === id}
          onClick={() => onPanel(id)}
        >
          {name}
        </button>
      ))}
      <span className="ml-auto flex flex-wrap gap-x-3 text-xs">
        {(['csv', 'parquet'] as const).map((format) => (
          <a
            key={format}
            className={linkClass}
            href={`/api/jobs/${jobId}/timeline?format=${format}&from=${Math.floor(view.from)}&to=${Math.ceil(view.to)}`}
            title={`What is in view, all logs on one clock, as ${format === 'csv' ? 'CSV' : 'Parquet'}`}
            download
          >
            {format === 'csv' ? 'This span as CSV' : 'Parquet'}
          </a>
        ))}
        {(['svg', 'png'] as const).map((kind) => (
          <button
            key={kind}
            type="button"
            className={linkClass}
            title={`What is in view as a picture, ${kind === 'svg' ? 'in lines (SVG)' : 'in dots (PNG)'}`}
            onClick={() => onPicture(kind)}
          >
            {kind.toUpperCase()}
          </button>
        ))}
        <button type="button" className={linkClass} onClick={onKeys}>
          Keys (?)
        </button>
      </span>
    </div>
  );
}
