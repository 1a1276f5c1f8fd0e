'use client';
/** A page of customers, their systems, and the latest jobs on each. */

import Link from 'next/link';
import type { ReactNode } from 'react';
import { SearchBar } from './SearchBar';

export interface SystemShown {
  id: string;
  name: string;
  owner: string;
  /** The battery in a few words. */
  battery: string;
  /** Its cells can be measured with a hydrometer. */
  hasGravity: boolean;
  /** The latest, and how many there are. */
  jobs: { id: string; title: string; openedAt: string }[];
  count: number;
}

interface Props {
  systems: SystemShown[];
  search: string;
  pages: ReactNode;
}

export function SystemList({ systems, search, pages }: Props) {
  const owners = [...new Set(systems.map((one) => one.owner))];
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
            : 'No systems yet. A system is made with its first job.'}
        </p>
      )}
      {owners.map((owner) => (
        <section key={owner} className="mb-4">
          <h2 className="text-ink-soft mb-1 font-semibold">
            {owner ? <bdi>{owner}</bdi> : 'Customer not known'}
          </h2>
          <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y">
            {systems
              .filter((one) => one.owner === owner)
              .map(({ id, name, battery, hasGravity, jobs, count }) => (
                <li key={id} className="grid gap-x-4 px-3 py-2 md:grid-cols-[1fr_1fr_auto]">
                  <div>
                    <p className="font-semibold">
                      <bdi>{name}</bdi>
                    </p>
                    <p className="text-ink-soft text-sm">{battery}</p>
                    <p className="flex flex-wrap gap-x-4">
                      {[
                        ...(hasGravity ? [{ path: 'hydrometer', what: 'Hydrometer rounds' }] : []),
                        { path: 'capacity', what: 'Capacity tests' },
                      ].map(({ path, what }) => (
                        <Link
                          key={path}
                          href={`/systems/${id}/${path}`}
                          className="text-accent my-1 inline-block min-h-6 py-0.5 text-sm underline"
                        >
                          {what}
                          <span className="sr-only"> of {name}</span>
                        </Link>
                      ))}
                    </p>
                  </div>
                  <ul className="text-sm">
                    {jobs.map((job) => (
                      <li key={job.id}>
                        <Link href={`/jobs/${job.id}`} className="text-accent inline-block min-h-6 underline">
                          <bdi>{job.title}</bdi>
                        </Link>{' '}
                        <span className="text-ink-soft font-mono text-xs">{job.openedAt}</span>
                      </li>
                    ))}
                    {count > jobs.length && (
                      <li>
                        <Link href={`/?system=${id}`} className="text-accent inline-block min-h-6 underline">
                          All {count} jobs<span className="sr-only"> on {name}</span>
                        </Link>
                      </li>
                    )}
                  </ul>
                  <Link
                    href={`/jobs/new?system=${id}`}
                    className="text-accent inline-block py-1 text-sm underline"
                  >
                    New job<span className="sr-only"> on {name}</span>
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
