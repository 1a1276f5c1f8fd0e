'use client';
/** What is due on which system, done with a click and a note. */

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { DUE_WORDS, type Planned } from '@/core/plan/due';
import { dayText } from '@/core/quantity/text';
import { ANYTHING, ask } from '@/ui/primitives/ask';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { DateInput } from '@/ui/primitives/DateInput';
import { useToast } from '@/ui/primitives/Toasts';
import { recordInputClass } from '@/ui/records/fields';
import { groupsOf } from './groups';

const SHOWN = 50;

export function PlanPage({ planned, today }: { planned: Planned[]; today: string }) {
  const [only, setOnly] = useState('');
  const [all, setAll] = useState(false);
  const words = only.trim().toLowerCase();
  const wanted = planned.filter((one) =>
    `${one.system} ${DUE_WORDS[one.what]}`.toLowerCase().includes(words),
  );
  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="mb-1 text-xl font-semibold">Plan of visits</h1>
      <p className="text-ink-soft mb-3 text-sm">
        What is due on each system, from its facts and the schools chosen for it.{' '}
        <a href="/api/plan/calendar" className="text-accent underline">
          As a calendar file
        </a>
        ; the same address can be subscribed to from a calendar.
      </p>
      <label className="mb-3 block max-w-sm text-sm font-semibold">
        System or kind of work
        <input className={recordInputClass} value={only} onChange={({ target }) => setOnly(target.value)} />
      </label>
      {wanted.length === 0 && (
        <p className="ruled border-rule-strong bg-sheet text-ink-soft border p-8">
          {planned.length === 0
            ? 'Nothing is due. The plan fills as systems are described.'
            : 'Nothing fits.'}
        </p>
      )}
      {groupsOf(wanted, today).map(({ title, planned: own }) => (
        <section key={title} className="mb-4" aria-label={title}>
          <h2 className="mb-1 font-semibold">
            {title} <span className="text-ink-soft font-normal">{own.length}</span>
          </h2>
          <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y">
            {(all ? own : own.slice(0, SHOWN)).map((one) => (
              <PlanItem key={`${one.systemId} ${one.what}`} one={one} today={today} />
            ))}
          </ul>
          {!all && own.length > SHOWN && (
            <button type="button" className={`${buttonClass} mt-1`} onClick={() => setAll(true)}>
              Show all {own.length}
            </button>
          )}
        </section>
      ))}
    </main>
  );
}

function PlanItem({ one, today }: { one: Planned; today: string }) {
  const router = useRouter();
  const tell = useToast();
  const [open, setOpen] = useState(false);
  const [on, setOn] = useState(today);
  const [note, setNote] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  async function done(): Promise<void> {
    const id = crypto.randomUUID();
    const address = `/api/systems/${one.systemId}/records/${id}`;
    const record = { id, on, what: one.what, ...(note.trim() ? { note: note.trim() } : {}) };
    const answer = await ask(address, ANYTHING, { method: 'PUT', body: { kind: 'done', record } });
    if (!answer.ok) {
      setProblem(answer.problem);
      return;
    }
    setOpen(false);
    router.refresh();
    tell(`Done: ${DUE_WORDS[one.what].toLowerCase()} of ${one.system}.`, () => {
      void ask(address, ANYTHING, { method: 'DELETE' }).then(() => router.refresh());
    });
  }
  return (
    <li className="grid gap-x-4 gap-y-1 px-3 py-2 text-sm sm:grid-cols-[7.5rem_1fr_auto] sm:items-start">
      <span className="font-mono">{dayText(one.on)}</span>
      <div>
        <p>
          <span className="font-semibold">{DUE_WORDS[one.what]}</span> ·{' '}
          <Link href={`/jobs/${one.jobId}/on-site`} className="text-accent inline-block min-h-6 underline">
            <bdi>{one.system}</bdi>
          </Link>
        </p>
        <p className="text-ink-soft">{one.why}</p>
        {open && (
          <div className="mt-2 flex flex-wrap items-end gap-2">
            <label className="font-semibold">
              Done on
              <DateInput className={recordInputClass} value={on} onChange={setOn} />
            </label>
            <label className="min-w-48 grow font-semibold">
              Note
              <input
                className={recordInputClass}
                value={note}
                onChange={({ target }) => setNote(target.value)}
              />
            </label>
            <button type="button" className={`${mainButtonClass} min-h-11`} onClick={() => void done()}>
              Keep
            </button>
            {problem && (
              <p role="alert" className="text-hazard basis-full">
                {problem}
              </p>
            )}
          </div>
        )}
      </div>
      <button
        type="button"
        className={`${buttonClass} min-h-9 justify-self-start`}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {open ? 'Not yet' : 'Done'}
        <span className="sr-only">
          : {DUE_WORDS[one.what].toLowerCase()} of {one.system}
        </span>
      </button>
    </li>
  );
}
