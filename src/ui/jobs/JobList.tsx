'use client';
/** A page of jobs, the latest first, each with its foremost finding; new ones, bundles, and removal that can be undone. */

import Link from 'next/link';
import { dayText } from '@/core/quantity/text';
import { useRouter } from 'next/navigation';
import { type ReactNode, useState } from 'react';
import { COMPLAINT_WORDS, type JobSummary } from '@/core/diagnosis/summary';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { Standing } from '@/ui/primitives/Standing';
import { leaveFiles } from '@/ui/start/chosenFiles';
import { useRemoval } from '@/ui/primitives/useRemoval';

/** Bytes. */
const MOST_BUNDLE = 512 * 2 ** 20;

interface Props {
  jobs: JobSummary[];
  filters: ReactNode;
  pages: ReactNode;
  /** Whether the list was searched or narrowed. */
  narrowed: boolean;
}

export function JobList({ jobs, filters, pages, narrowed }: Props) {
  const router = useRouter();
  const removal = useRemoval();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');
  const [asking, setAsking] = useState<{ file: File; left: string[] } | null>(null);

  async function takeInBundle(file: File, leave = false): Promise<void> {
    setBusy(true);
    setProblem('');
    setAsking(null);
    if (file.size > MOST_BUNDLE) {
      setBusy(false);
      return setProblem(
        `${file.name}: a bundle has 512 MB at most. Take its logs out and send them one by one.`,
      );
    }
    try {
      const response = await fetch(`/api/bundles${leave ? '?leave=1' : ''}`, {
        method: 'POST',
        headers: { 'content-type': 'application/zip' },
        body: file,
      });
      const answer = (await response.json()) as { id?: string; left?: string[]; error?: string };
      if (answer.id) router.push(`/jobs/${answer.id}/take-in`);
      else if (answer.left) setAsking({ file, left: answer.left });
      else setProblem(`${file.name}: ${answer.error ?? 'it could not be taken in.'}`);
    } catch {
      setProblem(`${file.name}: the server could not be reached. Nothing was taken in; try again.`);
    }
    setBusy(false);
  }

  /** A zip is a bundle; anything else is a log that a job is started from. */
  function dropped(files: File[]): void {
    const [first] = files;
    if (!first) return;
    if (files.length === 1 && /\.zip$/i.test(first.name)) return void takeInBundle(first);
    leaveFiles(files);
    router.push('/jobs/start');
  }

  async function remove({ id, title }: JobSummary): Promise<void> {
    const refresh = () => router.refresh();
    await removal({ address: `/api/jobs/${id}`, what: `“${title}”`, onGone: refresh, onBack: refresh });
  }

  return (
    <main
      className="mx-auto w-full max-w-5xl p-4"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        dropped([...event.dataTransfer.files]);
      }}
    >
      <div className="mb-3 flex flex-wrap items-center justify-between gap-2">
        <h1 className="text-xl font-semibold">Jobs</h1>
        <div className="flex flex-wrap items-center gap-2">
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
          <Link href="/jobs/start" className={`${buttonClass} py-1.5`}>
            Start from a log
          </Link>
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
      {asking && (
        <div role="alert" className="border-accent bg-sheet mb-3 border-l-3 p-2 text-sm">
          <p>
            Of <bdi className="font-semibold">{asking.file.name}</bdi> this would be left out:
          </p>
          <ul className="my-1 list-disc pl-5">
            {asking.left.map((one) => (
              <li key={one}>
                <bdi>{one}</bdi>
              </li>
            ))}
          </ul>
          <p className="flex flex-wrap gap-2">
            <button
              type="button"
              className={buttonClass}
              onClick={() => void takeInBundle(asking.file, true)}
            >
              Take in the rest
            </button>
            <button type="button" className={buttonClass} onClick={() => setAsking(null)}>
              Take in nothing
            </button>
          </p>
        </div>
      )}
      {filters}
      {jobs.length === 0 ? (
        <p className="ruled border-rule-strong bg-sheet text-ink-soft border p-8">
          {narrowed
            ? 'No job fits. Ask for less, or show all.'
            : 'There are no jobs yet. Drop a log here, open a new job, or take in a bundle that a colleague has sent.'}
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
                  <bdi className="block font-semibold">{job.title}</bdi>
                  <bdi className="text-ink-soft text-sm">{job.system}</bdi>
                </span>
                <span className="text-ink-soft text-sm">
                  {job.complaints.map((one) => COMPLAINT_WORDS[one]).join(', ')}
                  <span className="block font-mono text-xs">
                    {dayText(job.openedAt)} · {job.recordings} {job.recordings === 1 ? 'log' : 'logs'}
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
                  {job.stale && <span className="text-ink-soft block">Changed since it was weighed</span>}
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
                className="text-ink-soft hover:text-ink p-2.5 text-sm underline"
                onClick={() => void remove(job)}
              >
                Remove
              </button>
            </li>
          ))}
        </ul>
      )}
      {pages}
    </main>
  );
}
