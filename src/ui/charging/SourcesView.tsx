/** What each source does: found, set, and asked for by the battery. */

import { DateTime } from 'luxon';
import type { Diagnosis } from '@/core/diagnosis/result';
import { balanceText, sourceLines } from '@/core/diagnosis/sourceTable';
import type { System } from '@/core/system/schema';
import { sourceName } from '@/core/system/sourceName';
import { HeadCells } from '@/ui/primitives/HeadCells';
import { TableFrame } from '@/ui/primitives/TableFrame';

export function SourcesView({ system, diagnosis }: { system: System; diagnosis: Diagnosis }) {
  const { sources, balance } = diagnosis.charging;
  const zone = system.timeZone;
  const text = balanceText(balance, (iso) => DateTime.fromISO(iso, { zone }).toFormat('d LLL HH:mm'));
  if (sources.length === 0)
    return <p>No log shows voltage and current of a source together, so its charging cannot be judged.</p>;
  return (
    <div className="flex flex-col gap-4">
      {text && <p className="border-accent bg-sheet border-l-3 p-2 text-sm">{text}</p>}
      {sources.map((one) => {
        const name = sourceName(system, one.source);
        const lines = sourceLines(one);
        return (
          <section key={one.source ?? ''} aria-label={name}>
            <h2 className="mb-1 font-semibold">{name}</h2>
            {lines.length === 0 ? (
              <p className="text-sm">No voltage was held, so nothing can be measured.</p>
            ) : (
              <TableFrame label={`Figures of ${name}`}>
                <table className="w-full border-collapse text-left text-sm">
                  <thead>
                    <tr className="border-rule-strong text-ink-soft border-b text-xs">
                      <HeadCells names={['', 'Found', 'Set', 'Battery asks for']} />
                    </tr>
                  </thead>
                  <tbody>
                    {lines.map(({ what, found, configured, asks }) => (
                      <tr key={what} className="border-rule border-b align-top">
                        <th scope="row" className="px-2 py-1 font-semibold">
                          {what}
                        </th>
                        <td className="px-2 py-1">{found}</td>
                        <td className="px-2 py-1 whitespace-nowrap">{configured || '–'}</td>
                        <td className="px-2 py-1">{asks || '–'}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </TableFrame>
            )}
          </section>
        );
      })}
    </div>
  );
}
