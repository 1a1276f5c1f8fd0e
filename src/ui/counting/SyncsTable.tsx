'use client';
/** Every sync with its verdict and the reason, and the full charges that brought none. */

import { DateTime } from 'luxon';
import Link from 'next/link';
import { useState } from 'react';
import type { Diagnosis, SyncOut } from '@/core/diagnosis/result';
import type { System } from '@/core/system/schema';
import { VERDICT_WORDS, VerdictMark } from './verdicts';
import { Narrow } from '@/ui/primitives/Narrow';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  jobId: string;
  system: System;
  diagnosis: Diagnosis;
}

interface Row {
  at: string;
  kind: SyncOut['judged'] | 'none';
  from: string;
  why: string;
}

const KIND_WORDS: Record<Row['kind'], string> = {
  true: 'true',
  unsure: 'unsure',
  false: 'false',
  none: 'did not come',
};

export function SyncsTable({ jobId, system, diagnosis }: Props) {
  const { syncs, counting } = diagnosis;
  const [kind, setKind] = useState<Row['kind'] | ''>('');
  const rows: Row[] = [
    ...syncs.map((one) => ({ at: one.at, kind: one.judged, from: `${one.from.toFixed(0)} %`, why: one.why })),
    ...(counting?.missed ?? []).map((one) => ({
      at: one.to,
      kind: 'none' as const,
      from: '',
      why: `${one.full ? 'The battery got full' : 'The charger went through its stages'}, and the reading stayed as it was. ${one.why}`,
    })),
  ].sort((a, b) => (a.at < b.at ? -1 : 1));
  const shown = rows.filter((one) => kind === '' || one.kind === kind);
  if (rows.length === 0)
    return <p>The reading was never set to full in this log, and no charge should have done it.</p>;
  return (
    <section aria-label="Syncs">
      <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2 text-sm">
        <Narrow
          label="Verdict"
          options={[...new Set(rows.map((one) => one.kind))].map((one) => [one, KIND_WORDS[one]])}
          value={kind}
          onValue={setKind}
        />
        <p className="text-ink-soft ml-auto" aria-live="polite">
          {shown.length} of {rows.length}
          {counting?.replayed ? ', by the configured settings: no percentage was logged' : ''}
        </p>
      </div>
      <TableFrame label="Table of syncs">
        <table className="w-full border-collapse text-left text-xs">
          <thead>
            <tr className="border-rule-strong text-ink-soft border-b">
              <th scope="col" className="px-2 py-1 font-normal">
                When
              </th>
              <th scope="col" className="px-2 py-1 font-normal">
                Verdict
              </th>
              <th scope="col" className="px-2 py-1 text-right font-normal max-sm:hidden">
                Read before
              </th>
              <th scope="col" className="px-2 py-1 font-normal">
                Why
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((one) => (
              <tr key={`${one.at}${one.kind}`} className="border-rule border-b align-top">
                <td className="px-2 py-1 sm:whitespace-nowrap">
                  {DateTime.fromISO(one.at, { zone: system.timeZone }).toFormat('ccc d LLL HH:mm')}
                </td>
                <td className="px-2 py-1 whitespace-nowrap">
                  <span className="flex items-center gap-1.5">
                    {one.kind !== 'none' && (
                      <svg width={14} height={14} role="img" aria-label={VERDICT_WORDS[one.kind]}>
                        <VerdictMark verdict={one.kind} x={7} y={7} />
                      </svg>
                    )}
                    {KIND_WORDS[one.kind]}
                  </span>
                </td>
                <td className="px-2 py-1 text-right font-mono max-sm:hidden">{one.from || '–'}</td>
                <td className="px-2 py-1 sm:min-w-[18rem]">{one.why}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </TableFrame>
      <p className="text-ink-soft mt-2 text-xs">
        A sync is true where the battery held 95 % and more, false under 90 %. The voltage and current of each
        stand on the{' '}
        <Link className="text-accent underline" href={`/jobs/${jobId}/charging?view=strips`}>
          strips of charging
        </Link>
        .
      </p>
    </section>
  );
}
