/** One device's part of the settings sheet: what to change first, then what to read off, then what may stay. */

import type { ReactNode } from 'react';
import type { SheetRow, Verdict } from '@/core/system/review/review';
import { figure } from './sheetText';

const ORDER: readonly Verdict[] = ['change', 'not-known', 'keep'];

interface Props {
  rows: readonly SheetRow[];
  /** A last cell for each row. */
  last?: (row: SheetRow) => ReactNode;
}

/** On a phone the reason goes under its setting: a column of its own would be cut off. */
const ROW = 'max-sm:grid max-sm:grid-cols-[1fr_5.75rem_5.75rem]';

const Figure = ({ value, unit }: { value: number | string | null; unit: string }) => (
  <span className={typeof value === 'number' ? 'font-mono' : ''}>{figure(value, unit)}</span>
);

export function SheetTable({ rows, last }: Props) {
  const sorted = [...rows].sort((a, b) => ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict));
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-sm max-sm:block">
        <thead className="max-sm:block">
          <tr className={`${ROW} border-rule-strong text-ink-soft border-b text-left text-xs`}>
            <th className="py-0.5 pr-2 font-normal sm:w-44">Setting</th>
            <th className="py-0.5 pr-2 text-right font-normal sm:w-24">Now</th>
            <th className="py-0.5 pr-3 text-right font-normal sm:w-26">Advised</th>
            <th className="min-w-48 py-0.5 font-normal max-sm:sr-only">School and reason</th>
            {last && (
              <th className="w-16 py-0.5 font-normal max-sm:sr-only">
                <span className="sr-only">Change</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody className="max-sm:block">
          {sorted.map((row) => (
            <tr
              key={row.path}
              className={`${ROW} border-rule break-inside-avoid border-b align-top ${row.verdict === 'keep' ? 'text-ink-soft' : ''}`}
            >
              <td className="py-0.5 pr-2">{row.label}</td>
              <td className="py-0.5 pr-2 text-right">
                <Figure value={row.now} unit={row.unit} />
              </td>
              <td className="py-0.5 pr-3 text-right">
                {row.verdict === 'keep' ? (
                  'keep'
                ) : (
                  <strong>
                    <Figure value={row.advised} unit={row.unit} />
                  </strong>
                )}
              </td>
              <td className="py-0.5 pr-2 max-sm:col-span-full max-sm:empty:hidden">
                {row.verdict !== 'keep' && (
                  <>
                    {row.verdict === 'not-known' && 'Read it off first. '}
                    {row.school && <em>School: {row.school}. </em>}
                    {row.why}
                  </>
                )}
              </td>
              {last && <td className="py-0.5 text-right max-sm:col-span-full">{last(row)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
