/** Customers, their systems, and the jobs that were done on each. */

import Link from 'next/link';
import type { JobSummary } from '@/core/diagnosis/summary';
import { CHEMISTRY } from '@/core/system/chemistry';
import type { System } from '@/core/system/schema';

interface Props {
  systems: { id: string; system: System }[];
  jobs: JobSummary[];
}

function inShort({ bank }: System): string {
  const parts = [
    bank.chemistry && CHEMISTRY[bank.chemistry].name,
    bank.cellsInSeries && `${bank.cellsInSeries} cells`,
    bank.capacityAh && `${bank.capacityAh} Ah`,
  ].filter(Boolean);
  return parts.length > 0 ? parts.join(', ') : 'not described yet';
}

export function SystemList({ systems, jobs }: Props) {
  const owners = [...new Set(systems.map(({ system }) => system.owner ?? ''))].sort((a, b) =>
    // Systems of nobody come last.
    a === '' ? 1 : b === '' ? -1 : a.localeCompare(b),
  );
  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="mb-3 text-xl font-semibold">Systems</h1>
      {systems.length === 0 && (
        <p className="ruled border-rule-strong bg-sheet text-ink-soft border p-8">
          There are no systems yet: one is made with the first job on it.
        </p>
      )}
      {owners.map((owner) => (
        <section key={owner} className="mb-4">
          <h2 className="text-ink-soft mb-1 font-semibold">{owner || 'Customer not known'}</h2>
          <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y">
            {systems
              .filter(({ system }) => (system.owner ?? '') === owner)
              .map(({ id, system }) => (
                <li key={id} className="grid gap-x-4 px-3 py-2 md:grid-cols-[1fr_1fr_auto]">
                  <div>
                    <p className="font-semibold">{system.name}</p>
                    <p className="text-ink-soft text-sm">{inShort(system)}</p>
                  </div>
                  <ul className="text-sm">
                    {jobs
                      .filter((job) => job.systemId === id)
                      .map((job) => (
                        <li key={job.id}>
                          <Link
                            href={`/jobs/${job.id}`}
                            className="text-accent inline-block min-h-6 underline"
                          >
                            {job.title}
                          </Link>{' '}
                          <span className="text-ink-soft font-mono text-xs">{job.openedAt.slice(0, 10)}</span>
                        </li>
                      ))}
                  </ul>
                  <Link
                    href={`/jobs/new?system=${id}`}
                    className="text-accent inline-block py-1 text-sm underline"
                  >
                    New job<span className="sr-only"> on {system.name}</span>
                  </Link>
                </li>
              ))}
          </ul>
        </section>
      ))}
    </main>
  );
}
