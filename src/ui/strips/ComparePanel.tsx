'use client';
/** Lays another span over the one in view, and sets the figures of the two side by side. */

import { DateTime } from 'luxon';
import { useEffect, useState } from 'react';
import type { Measured } from '@/core/log/measure';
import type { Span } from '@/core/quantity/span';
import type { DiagnosisCharge } from '@/core/diagnosis/result';
import type { System } from '@/core/system/schema';
import { ask } from '@/ui/primitives/ask';
import { buttonClass } from '@/ui/primitives/buttons';
import { DateInput } from '@/ui/primitives/DateInput';
import { HeadCells } from '@/ui/primitives/HeadCells';
import { TableFrame } from '@/ui/primitives/TableFrame';
import { measuredSchema } from './answers';
import { comparedRows, daysBefore, type Offset, offsetText, offsetToCharge, offsetToDay } from './beside';
import { momentText } from './momentText';

interface Props {
  jobId: string;
  system: System;
  charges: readonly DiagnosisCharge[];
  full: Span;
  view: Span;
  /** What the figures are of: between the marks of the caliper, else what is in view. */
  span: Span;
  offset: Offset | null;
  onOffset(offset: Offset | null): void;
}

/** A view that is still moving is not measured, ms. */
const RESTS = 400;

export function ComparePanel({ jobId, system, charges, full, view, span, offset, onOffset }: Props) {
  const zone = system.timeZone;
  const middle = (view.from + view.to) / 2;
  const [problem, setProblem] = useState('');
  function lay(wanted: Offset | null, otherwise: string): void {
    const then = wanted === null ? null : { from: view.from - wanted, to: view.to - wanted };
    const inLog = then !== null && then.to > full.from && then.from < full.to;
    setProblem(inLog ? '' : wanted === null ? otherwise : 'The logs do not reach so far.');
    if (inLog) onOffset(wanted);
  }
  const toCharge = (by: -1 | 1) =>
    lay(
      offsetToCharge(charges, view, by)?.offset ?? null,
      by < 0 ? 'There is no charge before the one in view.' : 'There is no charge after the one in view.',
    );
  const dayOf = (ms: number) => DateTime.fromMillis(ms, { zone }).toISODate()!;
  return (
    <div className="flex flex-col gap-2 text-sm">
      <div className="flex flex-wrap items-end gap-2">
        <span className="text-ink-soft basis-full text-xs sm:basis-auto sm:self-center">Lay over it</span>
        <button type="button" className={buttonClass} onClick={() => lay(daysBefore(middle, 1, zone), '')}>
          The day before
        </button>
        <button type="button" className={buttonClass} onClick={() => lay(daysBefore(middle, 7, zone), '')}>
          A week before
        </button>
        <button type="button" className={buttonClass} onClick={() => toCharge(-1)}>
          The charge before
        </button>
        <button type="button" className={buttonClass} onClick={() => toCharge(1)}>
          The charge after
        </button>
        <label className="flex items-center gap-1.5">
          <span className="text-ink-soft text-xs">The same hours of</span>
          <DateInput
            className="border-rule-strong bg-paper border px-1.5"
            min={dayOf(full.from)}
            max={dayOf(full.to)}
            value={offset === null ? '' : dayOf(middle - offset)}
            onChange={(day) => day !== '' && lay(offsetToDay(middle, day, zone), 'That is no day.')}
          />
        </label>
        {offset !== null && (
          <button type="button" className={buttonClass} onClick={() => onOffset(null)}>
            Take it off
          </button>
        )}
      </div>
      {problem && <p role="alert">{problem}</p>}
      {offset !== null ? (
        <Compared {...{ jobId, system, span, offset }} />
      ) : (
        <p className="text-ink-soft">
          The other span is drawn as a broad pale line under the traces, its stages under the stages. The
          figures are of what is in view, or of what lies between the marks of the caliper.
        </p>
      )}
    </div>
  );
}

interface ComparedProps extends Pick<Props, 'jobId' | 'system' | 'span'> {
  offset: Offset;
}

function Compared({ jobId, system, span, offset }: ComparedProps) {
  const [found, setFound] = useState<{ of: string; both: [Measured, Measured] | string } | null>(null);
  const { from, to } = span;
  const key = `${from} ${to} ${offset}`;
  useEffect(() => {
    const stop = new AbortController();
    const measured = (by: number) =>
      ask(
        `/api/jobs/${jobId}/measure?from=${Math.floor(from - by)}&to=${Math.ceil(to - by)}`,
        measuredSchema,
        { signal: stop.signal },
      );
    const timer = setTimeout(() => {
      void Promise.all([measured(0), measured(offset)]).then(([now, then]) => {
        if (stop.signal.aborted) return;
        const both: [Measured, Measured] | string =
          now.ok && then.ok ? [now.value, then.value] : now.ok ? (then.ok ? '' : then.problem) : now.problem;
        setFound({ of: key, both });
      });
    }, RESTS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [jobId, from, to, offset, key]);
  const zone = system.timeZone;
  const both = found?.of === key ? found.both : null;
  if (typeof both === 'string')
    return (
      <p role="alert" className="text-hazard">
        {both}
      </p>
    );
  return (
    <div aria-live="polite" aria-busy={both === null}>
      <p className="mb-1 font-mono text-xs">
        {momentText(from, zone)} – {momentText(to, zone)}, and {offsetText(offset)}
      </p>
      {both === null ? (
        <p className="text-ink-soft">Measuring …</p>
      ) : (
        <TableFrame label="The two spans compared">
          <table className="w-full border-collapse text-right text-xs">
            <thead>
              <tr className="border-rule-strong text-ink-soft border-b">
                <HeadCells names={['', 'In view', 'Laid over it', 'Difference']} />
              </tr>
            </thead>
            <tbody className="font-mono">
              {comparedRows(...both, system).map((row) => (
                <tr key={row.name} className="border-rule border-b">
                  <th scope="row" className="px-2 py-0.5 text-left font-sans font-normal">
                    {row.name}
                  </th>
                  <td className="px-2 py-0.5">{row.now}</td>
                  <td className="px-2 py-0.5">{row.then}</td>
                  <td className="px-2 py-0.5">{row.difference}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </TableFrame>
      )}
    </div>
  );
}
