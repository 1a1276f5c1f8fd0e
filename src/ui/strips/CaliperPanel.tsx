'use client';
/** What lies between the two marks of the caliper; copied as text, or pinned. */

import { useEffect, useState } from 'react';
import type { Measured } from '@/core/log/measure';
import type { Span } from '@/core/quantity/span';
import type { System } from '@/core/system/schema';
import { ask } from '@/ui/primitives/ask';
import { buttonClass } from '@/ui/primitives/buttons';
import { useToast } from '@/ui/primitives/Toasts';
import { measuredSchema } from './answers';
import { measureRows } from './measureText';
import { momentText } from './momentText';

interface Props {
  jobId: string;
  system: System;
  /** Null while there is one mark, or none. */
  span: Span | null;
  onPin(span: Span): void;
  onClear(): void;
}

/** A mark that is being dragged is not measured at every step, ms. */
const RESTS = 250;

export function CaliperPanel({ jobId, system, span, onPin, onClear }: Props) {
  const tell = useToast();
  const [found, setFound] = useState<{ of: Span; measured: Measured | string } | null>(null);
  useEffect(() => {
    if (!span) return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      const query = `from=${Math.floor(span.from)}&to=${Math.ceil(span.to)}`;
      void ask(`/api/jobs/${jobId}/measure?${query}`, measuredSchema, { signal: stop.signal }).then(
        (answer) => {
          if (!stop.signal.aborted)
            setFound({ of: span, measured: answer.ok ? answer.value : answer.problem });
        },
      );
    }, RESTS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [jobId, span]);
  const zone = system.timeZone;
  if (!span)
    return (
      <p className="text-ink-soft text-sm">
        Drag over the strips, or hold Shift and drag. By keys: Shift with the arrows moves the second mark,
        Alt with the arrows the first. By touch: press long on one moment, then on the other.
      </p>
    );
  const measured = found?.of === span ? found.measured : null;
  const rows = measured && typeof measured !== 'string' ? measureRows(measured, system) : [];
  const heading = `${momentText(span.from, zone)} – ${momentText(span.to, zone)}`;
  async function copy(): Promise<void> {
    const text = [heading, ...rows.map((one) => `${one.name}: ${one.value}`)].join('\n');
    const copied = await navigator.clipboard.writeText(text).then(
      () => true,
      () => false,
    );
    tell(copied ? 'Copied.' : 'This browser does not let it be copied: mark the text and copy it by hand.');
  }
  return (
    <div aria-live="polite">
      <p className="mb-1 font-mono text-sm">{heading}</p>
      {typeof measured === 'string' ? (
        <p role="alert" className="text-hazard text-sm">
          {measured}
        </p>
      ) : measured === null ? (
        <p className="text-ink-soft text-sm">Measuring …</p>
      ) : (
        <dl className="grid gap-x-6 gap-y-0.5 text-sm sm:grid-cols-2">
          {rows.map((one) => (
            <div key={one.name} className="border-rule flex justify-between gap-3 border-b">
              <dt className="text-ink-soft">{one.name}</dt>
              <dd className="text-right font-mono">{one.value}</dd>
            </div>
          ))}
        </dl>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <button
          type="button"
          className={buttonClass}
          disabled={rows.length === 0}
          onClick={() => void copy()}
        >
          Copy as text
        </button>
        <button type="button" className={buttonClass} onClick={() => onPin(span)}>
          Pin it
        </button>
        <button type="button" className={buttonClass} onClick={onClear}>
          Take the marks off
        </button>
      </div>
    </div>
  );
}
