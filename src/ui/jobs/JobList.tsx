'use client';
/** All jobs, the latest first, each with its foremost finding; new ones, bundles, and removal that can be undone. */

import { Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { COMPLAINT_WORDS, type JobSummary } from '@/core/diagnosis/summary';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { Standing } from '@/ui/primitives/Standing';
import { useToast } from '@/ui/primitives/Toasts';

export function JobList({ jobs }: { jobs: JobSummary[] }) {
  const router = useRouter();
  const tell = useToast();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');

  async function takeInBundle(file: File): Promise<void> {
    setBusy(true);
    setProblem('');
    try {
      const response = await fetch('/api/bundles', { method: 'POST', body: file });
      const answer = (await response.json()) as { id?: string; left?: string[]; error?: string };
      if (answer.id) {
        for (const one of answer.left ?? []) tell(one);
        router.push(`/jobs/${answer.id}/take-in`);
      } else setProblem(`${file.name}: ${answer.error ?? 'it could not be taken in.'}`);
    } catch {
      setProblem(`${file.name}: the server could not be reached. Nothing was taken in; try again.`);
    }
    setBusy(false);
  }

  async function remove({ id, title }: JobSummary): Promise<void> {
    if (!(await fetch(`/api/jobs/${id}`, { method: 'DELETE' })).ok) return;
    router.refresh();
    tell(`“${title}” was removed.`, () => {
      void fetch(`/api/jobs/${id}`, { method: 'POST' }).then(() => router.refresh());
    });
  }

  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-2">
        <h1 className="text-xl font-semibold">Jobs</h1>
        <div className="flex items-center gap-2">
          <label className={`${buttonClass} cursor-pointer py-1.5 focus-within:outline-2`}>
            {busy ? 'Taking in …' : 'Take in a bundle'}
            <input
              type="file"
              accept=".zip,application/zip"
              className="sr-only"
              disabled={busy}
              onChange={({ target }) => {
                const file = target.files?.[0];
                if (file) void takeInBundle(file).then(() => (target.value = ''));
              }}
            />
          </label>
          <Link href="/jobs/new" className={mainButtonClass}>
            New job
          </Link>
        </div>
      </div>
      {problem && (
        <p role="alert" className="text-hazard mb-2">
          {problem}
        </p>
      )}
      {jobs.length === 0 ? (
        <p className="ruled border-rule-strong bg-sheet text-ink-soft border p-8">
          There are no jobs yet. Open a new one, or take in a bundle that a colleague has sent.
        </p>
      ) : (
        <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y">
          {jobs.map((job) => (
            <li key={job.id} className="flex items-start">
              <Link
                href={`/jobs/${job.id}`}
                className="hover:bg-accent-soft grid min-w-0 flex-1 gap-x-4 gap-y-1 px-3 py-2 md:grid-cols-[1fr_12rem_19rem]"
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
                  {job.headline && job.headline !== 'nothing' ? (
                    <>
                      <Standing standing={job.headline.standing} />
                      <span className="block">{job.headline.title}</span>
                    </>
                  ) : (
                    <span className="text-ink-soft">
                      {job.recordings === 0
                        ? 'No logs yet'
                        : job.headline === 'nothing'
                          ? 'No cause found so far'
                          : 'Not analysed yet'}
                    </span>
                  )}
                  {job.toChange > 0 && (
                    <span className="text-ink-soft block">
                      {job.toChange} {job.toChange === 1 ? 'setting' : 'settings'} to change
                    </span>
                  )}
                </span>
              </Link>
              <button
                type="button"
                aria-label={`Remove “${job.title}”`}
                title="Remove"
                className="text-ink-soft hover:text-ink m-1.5 p-1.5"
                onClick={() => void remove(job)}
              >
                <Trash2 className="size-4" aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
