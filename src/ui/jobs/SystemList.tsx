/** A page of customers, their systems, and the latest jobs on each. */

import Link from 'next/link';
import type { ReactNode } from 'react';
import { CHEMISTRY } from '@/core/system/chemistry';
import type { System } from '@/core/system/schema';
import { SearchBar } from './SearchBar';

export interface SystemShown {
  id: string;
  system: System;
  /** The latest, and how many there are. */
  jobs: { id: string; title: string; openedAt: string }[];
  count: number;
}

interface Props {
  systems: SystemShown[];
  search: string;
  pages: ReactNode;
}

function inShort({ bank }: System): string {
  const parts = [
    bank.chemistry && CHEMISTRY[bank.chemistry].name,
    bank.cellsInSeries && `${bank.cellsInSeries} cells`,
    bank.capacityAh && `${bank.capacityAh} Ah`,
  ].filter(Boolean);
  return parts.length > 0 ? parts.join(', ') : 'not described yet';
}

export function SystemList({ systems, search, pages }: Props) {
  const owners = [...new Set(systems.map(({ system }) => system.owner ?? ''))];
  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="mb-3 text-xl font-semibold">Systems</h1>
      <SearchBar
        key={search}
        action="/systems"
        label="System or customer"
        search={search}
        narrowed={search !== ''}
      />
      {systems.length === 0 && (
        <p className="ruled border-rule-strong bg-sheet text-ink-soft border p-8">
          {search
            ? 'No system fits. Ask for less, or show all.'
            : 'There are no systems yet: one is made with the first job on it.'}
        </p>
      )}
      {owners.map((owner) => (
        <section key={owner} className="mb-4">
          <h2 className="text-ink-soft mb-1 font-semibold">
            {owner ? <bdi>{owner}</bdi> : 'Customer not known'}
          </h2>
          <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y">
            {systems
              .filter(({ system }) => (system.owner ?? '') === owner)
              .map(({ id, system, jobs, count }) => (
                <li key={id} className="grid gap-x-4 px-3 py-2 md:grid-cols-[1fr_1fr_auto]">
                  <div>
                    <p className="font-semibold">
                      <bdi>{system.name}</bdi>
                    </p>
                    <p className="text-ink-soft text-sm">{inShort(system)}</p>
                  </div>
                  <ul className="text-sm">
                    {jobs.map((job) => (
                      <li key={job.id}>
                        <Link href={`/jobs/${job.id}`} className="text-accent inline-block min-h-6 underline">
                          <bdi>{job.title}</bdi>
                        </Link>{' '}
                        <span className="text-ink-soft font-mono text-xs">{job.openedAt.slice(0, 10)}</span>
                      </li>
                    ))}
                    {count > jobs.length && (
                      <li>
                        <Link href={`/?system=${id}`} className="text-accent inline-block min-h-6 underline">
                          All {count} jobs<span className="sr-only"> on {system.name}</span>
                        </Link>
                      </li>
                    )}
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
      {pages}
    </main>
  );
}
