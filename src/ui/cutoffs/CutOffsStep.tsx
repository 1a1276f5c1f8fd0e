'use client';
/** The step on cut-offs: what went off, by whom and why, and in what state the battery then was. */

import { ChevronDown } from 'lucide-react';
import { DateTime } from 'luxon';
import Link from 'next/link';
import { Fragment, useState } from 'react';
import { cutterName, cutoffsText, REASON_WORDS } from '@/core/diagnosis/cutoffsText';
import type { CutOffOut, Diagnosis } from '@/core/diagnosis/result';
import { duration } from '@/core/quantity/text';
import { MINUTE, type Span } from '@/core/quantity/span';
import type { System } from '@/core/system/schema';
import { deviceName } from '@/core/system/sourceName';
import { TableFrame } from '@/ui/primitives/TableFrame';
import { CutStrip } from './CutStrip';

interface Props {
  jobId: string;
  systemId: string;
  system: System;
  diagnosis: Diagnosis;
  hasLogs: boolean;
  lit: Span[];
}

const figure = (value: number | null, digits: number): string =>
  value === null ? '–' : value.toFixed(digits);

const COLUMNS: readonly { name: string; unit: string; of(one: CutOffOut): string; wide?: true }[] = [
  { name: 'Shown', unit: '%', of: (one) => figure(one.socShown, 0) },
  {
    name: 'Held',
    unit: '%',
    of: (one) => (one.socTrue === null ? '–' : `${figure(one.socTrue, 0)} ± ${figure(one.socBand, 0)}`),
  },
  { name: 'Battery', unit: 'V', of: (one) => figure(one.volts, 2) },
  { name: 'Load', unit: 'V', of: (one) => figure(one.loadVolts, 2), wide: true },
  { name: 'Drawn', unit: 'A', of: (one) => figure(one.loadAmps ?? one.amps, 1), wide: true },
  { name: 'Lowest cell', unit: 'V', of: (one) => figure(one.minCellVolts, 2), wide: true },
  { name: 'Came back to', unit: 'V', of: (one) => figure(one.restVolts, 2), wide: true },
  { name: 'At', unit: '°C', of: (one) => figure(one.celsius, 0), wide: true },
];

export function CutOffsStep({ jobId, systemId, system, diagnosis, hasLogs, lit }: Props) {
  const nameOf = (id: string) => deviceName(system, id);
  const [opened, setOpened] = useState<string | null>(null);
  if (!hasLogs || !diagnosis.discharge)
    return (
      <div className="border-rule-strong bg-sheet border p-8">
        <p className="mb-3">There is no log of this job yet: no cut-off can be seen.</p>
        <Link href={`/jobs/${jobId}/logs`} className="bg-accent text-on-accent inline-block px-3 py-1.5">
          Take in a log
        </Link>
      </div>
    );
  const [first, ...rest] = cutoffsText(diagnosis, nameOf);
  // Columns that nothing was logged for are left out.
  const columns = COLUMNS.filter(({ of }) => diagnosis.cutoffs.some((one) => of(one) !== '–'));
  const isLit = ({ at }: CutOffOut) =>
    lit.some((one) => one.from <= Date.parse(at) && Date.parse(at) <= one.to);
  return (
    <section aria-label="Cut-offs">
      <div className="mb-3 max-w-3xl text-sm">
        <p className="mb-2 font-semibold">{first}</p>
        <ul className="flex list-disc flex-col gap-1 pl-5">
          {rest.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      </div>
      {diagnosis.cutoffs.length > 0 && (
        <TableFrame label="Table of cut-offs">
          <table className="w-full border-collapse text-left text-xs">
            <thead>
              <tr className="border-rule-strong text-ink-soft border-b">
                <th scope="col" className="px-2 py-1 font-normal">
                  When
                </th>
                <th scope="col" className="px-2 py-1 font-normal">
                  By, for
                </th>
                {columns.map(({ name, unit, wide }) => (
                  <th
                    key={name}
                    scope="col"
                    className={`px-2 py-1 text-right font-normal ${wide ? 'max-sm:hidden' : ''}`}
                  >
                    {name}, {unit}
                  </th>
                ))}
                <th scope="col" className="px-2 py-1 font-normal max-sm:hidden">
                  On again after
                </th>
              </tr>
            </thead>
            <tbody>
              {diagnosis.cutoffs.map((one) => {
                const key = `${one.at}${one.by}`;
                const isOpen = opened === key;
                return (
                  <Fragment key={key}>
                    <tr className={`border-rule border-b align-top ${isLit(one) ? 'bg-accent-soft' : ''}`}>
                      <td className="px-2 py-1 sm:whitespace-nowrap">
                        <button
                          type="button"
                          aria-expanded={isOpen}
                          className="hover:text-accent flex min-h-6 items-start gap-1 text-left"
                          onClick={() => setOpened(isOpen ? null : key)}
                        >
                          <ChevronDown
                            className={`text-ink-soft mt-0.5 size-3.5 shrink-0 ${isOpen ? '' : '-rotate-90'}`}
                            aria-hidden
                          />
                          {DateTime.fromISO(one.at, { zone: system.timeZone }).toFormat('ccc d LLL HH:mm')}
                        </button>
                      </td>
                      <td className="px-2 py-1">
                        {cutterName(one, nameOf)}, {REASON_WORDS[one.why]}
                        {one.trips > 1 ? `, ${one.trips} trips` : ''}
                      </td>
                      {columns.map(({ name, of, wide }) => (
                        <td
                          key={name}
                          className={`px-2 py-1 text-right font-mono whitespace-nowrap ${wide ? 'max-sm:hidden' : ''}`}
                        >
                          {of(one)}
                        </td>
                      ))}
                      <td className="px-2 py-1 whitespace-nowrap max-sm:hidden">
                        {one.minutesAway === null ? 'not in this log' : duration(one.minutesAway * MINUTE)}
                      </td>
                    </tr>
                    {isOpen && (
                      <tr className="border-rule border-b">
                        <td colSpan={columns.length + 3} className="px-2">
                          <CutStrip one={one} zone={system.timeZone} />
                        </td>
                      </tr>
                    )}
                  </Fragment>
                );
              })}
            </tbody>
          </table>
        </TableFrame>
      )}
      <p className="mt-2 text-sm">
        <Link href={`/systems/${systemId}/capacity`} className="text-accent underline">
          Capacity tests, and a new one
        </Link>
      </p>
      <p className="text-ink-soft mt-2 max-w-3xl text-xs">
        A load that somebody switched off is not a cut-off: something must show what cut it, such as a limit
        that was reached, a protection, or the BMS. Trips within half an hour count as one cut-off. “Held” is
        the battery’s true charge, from the step Counting.
      </p>
    </section>
  );
}
