'use client';
/** A new job from nothing but log files: what the files are, the few facts that they cannot tell, and off it goes. */

import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import { COMPLAINT_WORDS } from '@/core/diagnosis/summary';
import { idForNew, type NewDevice, withDevice } from '@/core/system/newDevice';
import { type Complaint, COMPLAINTS, type System } from '@/core/system/schema';
import { ask } from '@/ui/primitives/ask';
import { mainButtonClass } from '@/ui/primitives/buttons';
import { type Sending, sendLog } from '@/ui/upload/sendLog';
import { leaveFiles, leftFiles } from './chosenFiles';
import { FactFields } from './FactFields';
import { bankOfFacts, type Facts, joinSuggestions, NO_FACTS, openFacts, withSuggestion } from './facts';
import { type FileState, StartFile } from './StartFile';

interface Entry {
  key: number;
  file: File;
}

const inputClass = 'border-rule-strong bg-paper mt-0.5 block w-full border px-2 py-2 text-base font-normal';
const withoutEnding = (name: string): string => name.replace(/\.[a-z0-9.]{1,8}$/i, '');

export function StartPage() {
  const router = useRouter();
  const [entries, setEntries] = useState<Entry[]>(() => leftFiles().map((file, k) => ({ key: -k, file })));
  const [states, setStates] = useState<ReadonlyMap<number, FileState>>(new Map());
  const [facts, setFacts] = useState<Facts>(NO_FACTS);
  const [names, setNames] = useState({ system: '', title: '' });
  const [complaints, setComplaints] = useState<Complaint[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const [sending, setSending] = useState<Sending | null>(null);
  const [timeZone] = useState(() => Intl.DateTimeFormat().resolvedOptions().timeZone);
  const keys = useRef(0);

  const add = useCallback((files: readonly File[]) => {
    setProblem(null);
    setEntries((was) => [...was, ...files.map((file) => ({ key: ++keys.current, file }))]);
  }, []);
  // What was left here is taken once.
  useEffect(() => leaveFiles([]), []);

  const remove = (key: number) => {
    setEntries((was) => was.filter((one) => one.key !== key));
    setStates((was) => new Map([...was].filter(([one]) => one !== key)));
  };
  const known = entries.flatMap(({ key }) => states.get(key) ?? []);
  const suggested = joinSuggestions(known.flatMap((one) => one.suggested ?? []));
  const filled = withSuggestion(facts, suggested);
  const open = openFacts(filled);
  const first = entries[0]?.file.name;
  const title = names.title || (first ? `Log ${withoutEnding(first)}` : '');
  const system = names.system || (first ? `System of ${withoutEnding(first)}` : '');
  const trouble =
    entries.length === 0
      ? 'Choose a log first.'
      : known.length < entries.length
        ? 'The files are still being looked at.'
        : (known.find((one) => one.trouble !== null)?.trouble ?? null);

  async function start(): Promise<void> {
    const made = bankOfFacts(filled);
    if ('problem' in made) return setProblem(made.problem);
    if (trouble) return setProblem(trouble);
    setProblem(null);
    setSending({ part: 0, what: 'Opening the job …' });
    try {
      const id = await openJob({ system, title, timeZone, complaints, bank: made.bank });
      const unclear = await sendAll(id, entries, states, setSending);
      router.push(`/jobs/${id}/${unclear ? 'logs' : open.length > 0 ? 'take-in' : 'charging'}`);
    } catch (error) {
      setSending(null);
      setProblem(error instanceof Error ? error.message : 'Something went wrong. Try again.');
    }
  }

  return (
    <main className="mx-auto w-full max-w-3xl p-4">
      <h1 className="mb-1 text-xl font-semibold">Start from a log</h1>
      <p className="text-ink-soft mb-3 text-sm">
        Drop the files as they came off the devices. What they cannot tell is asked below; everything else can
        be described later.
      </p>
      <form
        aria-label="Start from a log"
        onSubmit={(event) => {
          event.preventDefault();
          void start();
        }}
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          add([...event.dataTransfer.files]);
        }}
      >
        <label className="border-rule-strong bg-sheet block border border-dashed p-4 text-sm">
          <span className="mb-1 block font-semibold">
            {entries.length === 0 ? 'Log files' : 'More files'}
          </span>
          <input
            type="file"
            multiple
            disabled={sending !== null}
            className="max-w-full"
            onChange={({ target }) => {
              add([...(target.files ?? [])]);
              target.value = '';
            }}
          />
          <span className="text-ink-soft mt-1 block text-xs">
            CSV and its kin, JSON, a spreadsheet or Parquet, packed or not. Several files: several devices of
            one job.
          </span>
        </label>
        {entries.length > 0 && (
          <>
            <ul className="mt-3 flex flex-col gap-3">
              {entries.map(({ key, file }) => (
                <StartFile
                  key={key}
                  file={file}
                  timeZone={timeZone}
                  onState={(state) => setStates((was) => new Map(was).set(key, state))}
                  onRemove={() => remove(key)}
                />
              ))}
            </ul>
            <FactFields
              facts={filled}
              suggested={suggested}
              onChange={(some) => setFacts((was) => ({ ...was, ...some }))}
            />
            <details className="mt-3">
              <summary className="text-accent cursor-pointer text-sm underline">Names and complaint</summary>
              <div className="mt-2 grid gap-3 sm:grid-cols-2">
                <label className="text-sm font-semibold">
                  Name of the system
                  <input
                    className={inputClass}
                    value={system}
                    onChange={({ target }) => setNames({ ...names, system: target.value })}
                  />
                </label>
                <label className="text-sm font-semibold">
                  Title of the job
                  <input
                    className={inputClass}
                    value={title}
                    onChange={({ target }) => setNames({ ...names, title: target.value })}
                  />
                </label>
                <fieldset className="sm:col-span-2">
                  <legend className="text-sm font-semibold">Complaint</legend>
                  <div className="flex flex-wrap gap-x-4 gap-y-1 pt-1">
                    {COMPLAINTS.map((one) => (
                      <label key={one} className="flex min-h-6 items-center gap-1.5 text-sm">
                        <input
                          type="checkbox"
                          className="size-4 accent-(--accent)"
                          checked={complaints.includes(one)}
                          onChange={({ target }) =>
                            setComplaints(
                              target.checked
                                ? [...complaints, one]
                                : complaints.filter((other) => other !== one),
                            )
                          }
                        />
                        {COMPLAINT_WORDS[one]}
                      </label>
                    ))}
                  </div>
                </fieldset>
              </div>
            </details>
            {open.length > 0 && (
              <p className="mt-3 text-sm">
                Not known yet: {open.join(', ')}. Without {open.length === 1 ? 'it' : 'them'} the log is taken
                in but not judged.
              </p>
            )}
            {problem && (
              <p role="alert" className="text-hazard mt-3 text-sm">
                {problem}
              </p>
            )}
            {sending ? (
              <div className="mt-3 flex items-center gap-3 text-sm" role="status">
                <progress value={sending.part} max={1} className="h-2 w-56" aria-label="Progress" />
                <span>{sending.what}</span>
              </div>
            ) : (
              <button
                type="submit"
                className={`${mainButtonClass} mt-3 min-h-11`}
                disabled={trouble !== null}
              >
                Weigh it
              </button>
            )}
          </>
        )}
      </form>
    </main>
  );
}

/** @throws Error with a sentence */
async function openJob({
  system,
  ...job
}: {
  system: string;
  title: string;
  timeZone: string;
  complaints: Complaint[];
  bank: System['bank'];
}): Promise<string> {
  const answer = await ask('/api/jobs', z.object({ id: z.string() }), {
    method: 'POST',
    body: { systemName: system, ...job },
  });
  if (!answer.ok) throw new Error(`${answer.problem} What you typed is still here.`);
  return answer.value.id;
}

/** One after the other: each makes its device. @returns whether one of them asks something, or failed: the step on logs says what */
async function sendAll(
  jobId: string,
  entries: readonly Entry[],
  states: ReadonlyMap<number, FileState>,
  onProgress: (sending: Sending) => void,
): Promise<boolean> {
  let system: System = { name: 'new', timeZone: 'UTC', bank: {}, sources: [], loads: [] };
  let isUnclear = false;
  for (const [nth, { key, file }] of entries.entries()) {
    const state = states.get(key)!;
    const kind: NewDevice = state.kind!;
    const made = idForNew(system, kind);
    // A second log of the monitor goes on where the first ended.
    const device = made ?? kind;
    if (made) system = withDevice(system, made, kind);
    const { finished } = sendLog(
      {
        jobId,
        file,
        description: state.describe(device),
        newDevice: made ? kind : undefined,
        recipeKey: state.recipe,
      },
      ({ part, what }) =>
        onProgress({
          part: (nth + part) / entries.length,
          what: entries.length > 1 ? `${file.name}: ${what}` : what,
        }),
      () => undefined,
    );
    const intake = await finished;
    isUnclear ||= intake.state !== 'done';
  }
  return isUnclear;
}
