/** The settings sheet on paper: what to set on each device, the school, the reason, and what was changed before. */

import Link from 'next/link';
import { dayText } from '@/core/quantity/text';
import type { Change } from '@/core/bundle/schema';
import { reviewSettings } from '@/core/system/review/review';
import { resyncSentence } from '@/core/system/schools';
import type { Job, System } from '@/core/system/schema';
import { SheetTable } from '@/ui/describe/steps/SheetTable';
import { figure, groupedByDevice } from '@/ui/describe/steps/sheetText';
import { PrintButton } from './PrintButton';
import { CAUTIONS } from './sections';

interface Props {
  jobId: string;
  job: Job;
  system: System;
  changes: readonly Change[];
}

export function SheetPage({ jobId, job, system, changes }: Props) {
  const review = reviewSettings(system, job);
  return (
    <main className="mx-auto w-full max-w-4xl p-4">
      <div className="no-print mb-3 flex items-center gap-3">
        <Link href={`/jobs/${jobId}/settings?view=sheet`} className="text-accent underline">
          Back to the settings
        </Link>
        <PrintButton />
      </div>
      <article className="border-rule-strong bg-sheet border p-6 print:border-0 print:p-0">
        <p className="text-ink-soft text-sm">Settings sheet · {dayText(job.openedAt)}</p>
        <h1 className="mb-3 text-xl font-semibold">{system.name}</h1>
        {review.hazards.length > 0 && (
          <section className="border-hazard mb-3 border-l-3 pl-2">
            <h2 className="font-semibold">Hazards</h2>
            {review.hazards.map((one) => (
              <p key={one.text}>{one.text}</p>
            ))}
          </section>
        )}
        {review.sheet.length === 0 && <p>Too little is known of this system to advise on any setting yet.</p>}
        {groupedByDevice(review.sheet).map(([device, rows]) => (
          <section key={device} className="mb-4">
            <h2 className="font-semibold">{device}</h2>
            <SheetTable rows={rows} />
          </section>
        ))}
        {system.monitor && <p className="mb-4">{resyncSentence(system)}</p>}
        {changes.length > 0 && (
          <section className="mb-4">
            <h2 className="font-semibold">Changed before</h2>
            <ul className="text-sm">
              {changes.map((one, i) => (
                <li key={i}>
                  <span className="font-mono">{dayText(one.on)}</span> {one.label}:{' '}
                  {figure(one.before, one.unit)} → {figure(one.after, one.unit)}. {one.why}
                </li>
              ))}
            </ul>
          </section>
        )}
        <section>
          <h2 className="font-semibold">Cautions</h2>
          <ul className="list-disc pl-5 text-sm">
            {CAUTIONS.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </section>
      </article>
    </main>
  );
}
