'use client';
/** Discharges from full that logs show, each of which can be kept as a capacity test when it emptied the battery. */

import Link from 'next/link';
import { DateTime } from 'luxon';
import type { CapacityTest } from '@/core/capacity/record';
import { ampHours, amps, dayText, duration } from '@/core/quantity/text';
import type { System } from '@/core/system/schema';
import { buttonClass } from '@/ui/primitives/buttons';
import { type FromFull, testOfDischarge } from './fromLog';

interface Props {
  discharges: readonly { jobId: string; title: string; one: FromFull }[];
  tests: readonly CapacityTest[];
  system: System;
  onKeep(test: CapacityTest): Promise<void>;
}

/** Until it is kept. */
const NO_ID = '00000000-0000-4000-8000-000000000000';

export function DischargeList({ discharges, tests, system, onKeep }: Props) {
  if (discharges.length === 0) return null;
  const days = new Set(tests.filter((one) => one.from === 'log').map((one) => one.on));
  return (
    <section aria-label="From the logs">
      <h2 className="mt-4 mb-1 font-semibold">From the logs</h2>
      <ul className="divide-rule border-rule-strong bg-sheet divide-y border">
        {discharges.map(({ jobId, title, one }) => {
          const made = testOfDischarge(one, system, NO_ID);
          const when = DateTime.fromISO(one.from, { zone: system.timeZone });
          return (
            <li key={`${jobId}${one.from}`} className="flex flex-wrap items-center gap-x-4 px-3 py-2 text-sm">
              <span className="w-full font-mono sm:w-40">{when.toFormat('d LLL yyyy HH:mm')}</span>
              <span className="flex-1">
                {ampHours(one.ampHours)} in {duration(Date.parse(one.to) - Date.parse(one.from))} at{' '}
                {amps(one.amps)}
                {one.holds
                  ? `, until it was empty: ${one.holds.percent.toFixed(0)} % of the rating (± ${Math.round(one.holds.band)})`
                  : `, ${one.percentOut.toFixed(0)} % of the rating, and not empty`}
                .{' '}
                <Link href={`/jobs/${jobId}/cut-offs`} className="text-accent underline">
                  <bdi>{title}</bdi>
                </Link>
              </span>
              {made &&
                (days.has(made.on) ? (
                  <span className="text-ink-soft">kept as a test</span>
                ) : (
                  <button
                    type="button"
                    className={buttonClass}
                    onClick={() => void onKeep({ ...made, id: crypto.randomUUID() })}
                  >
                    Keep as a test<span className="sr-only"> the discharge of {dayText(made.on)}</span>
                  </button>
                ))}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
