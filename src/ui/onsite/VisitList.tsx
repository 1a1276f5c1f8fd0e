'use client';
/** Visits of the job that were kept: their sheet, going on with one that is not signed, taking it off. */

import type { Visit } from '@/core/onsite/visit';
import { dayText } from '@/core/quantity/text';
import { buttonClass } from '@/ui/primitives/buttons';

interface Props {
  jobId: string;
  visits: readonly Visit[];
  waiting: readonly string[];
  /** The one that is being typed. */
  current: string;
  onOpen(visit: Visit): void;
  onRemove(visit: Visit): void;
}

export function VisitList({ jobId, visits, waiting, current, onOpen, onRemove }: Props) {
  if (visits.length === 0) return null;
  return (
    <section aria-label="Visits kept" className="mb-3">
      <h2 className="mb-1 font-semibold">Visits kept</h2>
      <ul className="divide-rule border-rule-strong bg-sheet divide-y border">
        {visits.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 px-3 py-2 text-sm">
            <span className="grow">
              {dayText(one.on)}:{' '}
              {one.signedBy ? `signed by the ${one.signedBy.replace(/^the /i, '')}` : 'not signed'}
              {waiting.includes(one.id) && ' (waiting to be sent)'}
              {one.id === current && ' (open below)'}
            </span>
            {!waiting.includes(one.id) && (
              <a href={`/jobs/${jobId}/visits/${one.id}`} className="text-accent py-1 underline">
                Sheet<span className="sr-only"> of {dayText(one.on)}</span>
              </a>
            )}
            {one.id !== current && (
              <button type="button" className={buttonClass} onClick={() => onOpen(one)}>
                {one.signedBy ? 'Open again' : 'Go on'}
              </button>
            )}
            <button type="button" className={buttonClass} onClick={() => onRemove(one)}>
              Take off
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
