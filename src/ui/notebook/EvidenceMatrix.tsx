'use client';
/** Causes beside what speaks for and against them, and what each fact that is missing would decide. */

import Link from 'next/link';
import { useMemo } from 'react';
import { matrixOf } from '@/core/diagnosis/matrix';
import { oddsText, signedPoints } from '@/core/diagnosis/odds';
import type { Diagnosis } from '@/core/diagnosis/result';
import { addressOfSpan } from '@/ui/strips/viewAddress';
import { about } from '@/ui/strips/zooms';
import { HeadCells } from '@/ui/primitives/HeadCells';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  jobId: string;
  diagnosis: Diagnosis;
}

/** The strips about the first of some spans. */
function stripsAddress(jobId: string, [from, to]: readonly [string, string]): string {
  const span = about({ from: Date.parse(from), to: Date.parse(to) });
  return addressOfSpan(`http://here/jobs/${jobId}/charging`, span);
}

export function EvidenceMatrix({ jobId, diagnosis }: Props) {
  const { columns, rows, missing } = useMemo(() => matrixOf(diagnosis.findings), [diagnosis]);
  return (
    <section aria-label="Causes and evidence" className="flex flex-col gap-4">
      {columns.length > 0 && (
        <div>
          <h2 className="mb-1 font-semibold">What speaks for which cause</h2>
          <p className="text-ink-soft mb-2 max-w-3xl text-sm">
            Each observation stands once. Those at the top weigh in more than one cause: they do not tell
            these causes apart unless their points differ.
          </p>
          <TableFrame label="Evidence by cause">
            <table className="w-full border-collapse text-sm">
              <thead>
                <tr className="border-rule-strong border-b align-bottom text-xs">
                  <th scope="col" className="text-ink-soft min-w-64 px-2 py-1 text-left font-normal">
                    What was seen, told or tested
                  </th>
                  {columns.map((one) => (
                    <th
                      key={one.cause}
                      scope="col"
                      className="w-28 min-w-24 px-2 py-1 text-left font-semibold"
                    >
                      {one.title}
                      <span className="text-ink-soft block font-normal">
                        {one.standing === 'cannot-tell' ? 'cannot tell' : one.standing},{' '}
                        {oddsText(one.decibans)}
                      </span>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.map((row, i) => (
                  <tr key={i} className="border-rule border-b align-top">
                    <th scope="row" className="px-2 py-1 text-left font-normal">
                      {row.isShared && <span className="text-ink-soft text-xs">shared · </span>}
                      {row.spans.length > 0 ? (
                        <Link
                          href={stripsAddress(jobId, row.spans[0]!)}
                          className="underline decoration-dotted"
                        >
                          {row.text}
                          <span className="sr-only"> Show it on the strips.</span>
                        </Link>
                      ) : (
                        row.text
                      )}
                    </th>
                    {row.points.map((points, k) => (
                      <td
                        key={columns[k]!.cause}
                        className="px-2 py-1 font-mono"
                        title={row.texts[k] ?? undefined}
                      >
                        {points === null ? (
                          <span className="text-ink-soft">·</span>
                        ) : (
                          signedPoints(Math.round(points))
                        )}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </TableFrame>
        </div>
      )}
      {missing.length > 0 && (
        <div>
          <h2 className="mb-1 font-semibold">What is not known, and what it would decide</h2>
          <TableFrame label="Missing facts">
            <table className="w-full border-collapse text-left text-sm">
              <thead>
                <tr className="border-rule-strong text-ink-soft border-b text-xs">
                  <HeadCells names={['Missing', 'Would decide']} />
                </tr>
              </thead>
              <tbody>
                {missing.map(({ fact, causes }) => (
                  <tr key={fact} className="border-rule border-b align-top">
                    <th scope="row" className="px-2 py-1 font-normal">
                      {fact}
                    </th>
                    <td className="px-2 py-1">{causes.join('; ')}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </TableFrame>
        </div>
      )}
    </section>
  );
}
