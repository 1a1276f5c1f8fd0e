/** All jobs, the latest first, each with its foremost finding. */

import Link from 'next/link';
import { COMPLAINT_WORDS, type JobSummary } from '@/core/diagnosis/summary';
import { Standing } from '@/ui/primitives/Standing';

export function JobList({ jobs }: { jobs: JobSummary[] }) {
  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="mb-3 text-xl font-semibold">Jobs</h1>
      {jobs.length === 0 ? (
        <p className="ruled border-rule-strong bg-sheet text-ink-soft border p-8">
          There are no jobs yet. <code className="font-mono">bin/demo</code> makes the demo jobs when it
          starts.
        </p>
      ) : (
        <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y">
          {jobs.map((job) => (
            <li key={job.id}>
              <Link
                href={`/jobs/${job.id}`}
                className="hover:bg-accent-soft grid gap-x-4 gap-y-1 px-3 py-3 md:grid-cols-[1fr_11rem_20rem]"
              >
                <span>
                  <span className="block font-semibold">{job.title}</span>
                  <span className="text-ink-soft text-sm">{job.system}</span>
                </span>
                <span className="text-ink-soft text-sm">
                  {job.complaints.map((one) => COMPLAINT_WORDS[one]).join(', ')}
                  <span className="block font-mono text-xs">
                    {job.openedAt.slice(0, 10)} · {job.recordings} {job.recordings === 1 ? 'log' : 'logs'}
                  </span>
                </span>
                <span className="text-sm">
                  {job.headline === null ? (
                    <span className="text-ink-soft">
                      {job.recordings === 0 ? 'No logs yet' : 'Not analysed yet'}
                    </span>
                  ) : job.headline === 'nothing' ? (
                    <span className="text-ink-soft">Nothing wrong was found</span>
                  ) : (
                    <>
                      <Standing standing={job.headline.standing} />
                      <span className="block">{job.headline.title}</span>
                    </>
                  )}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
