'use client';
/** Taking in a log: choose a file, confirm what its columns are, send it. */

import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { type Intake, type IntakeAnswer, type Recipe, recipeKey } from '@/core/log/intake';
import type { LogDescription } from '@/core/log/takeIn';
import { idForNew, NEW_DEVICES, type NewDevice } from '@/core/system/newDevice';
import { devicesOf, type System } from '@/core/system/schema';
import type { RecordingInfo } from '@/core/log/recording';
import { ANYTHING, ask } from '@/ui/primitives/ask';
import { Confirm } from './Confirm';
import { IntakeQuestion } from './IntakeQuestion';
import { answerIntake, followLog, sendLog, type Sending, type Sent } from './sendLog';
import { type Looked, useHead } from './useHead';

interface Props {
  jobId: string;
  system: System;
  recordings: RecordingInfo[];
  /** Tells which intake is followed here, so that it is not listed twice. */
  onFollowing: (id: string | null) => void;
}

/** What a device is called before it has a name. */
const MADE_WORDS: Record<NewDevice, string> = {
  source: 'A charger',
  monitor: 'The battery monitor, or a logger at the battery',
  bms: 'The BMS',
};

interface KnownRecipe {
  recipe: Recipe;
  fileName: string;
  confirmedAt: string;
}

export function TakeInLog({ jobId, system, recordings, onFollowing }: Props) {
  const router = useRouter();
  const devices = devicesOf(system);
  const [file, setFile] = useState<File | null>(null);
  // Devices that nobody has described yet can be chosen too: they are made with their first log.
  const makeable = NEW_DEVICES.flatMap((kind) => {
    const id = idForNew(system, kind);
    return id ? [{ id, kind }] : [];
  });
  const [device, setDevice] = useState(
    devices.find((one) => !recordings.some((rec) => rec.device === one.id))?.id ??
      devices[0]?.id ??
      makeable[0]!.id,
  );
  const made = devices.some((one) => one.id === device)
    ? undefined
    : makeable.find((one) => one.id === device)?.kind;
  const kind = devices.find((one) => one.id === device)?.kind ?? made ?? 'monitor';
  const head = useHead(file, kind);
  /** What was looked at again because another column is said to hold the time. */
  const [again, setAgain] = useState<{ of: Looked; looked: Looked } | null>(null);
  const looked = again && again.of === head.looked ? again.looked : head.looked;
  const { known, forget } = useRecipe(looked, kind);
  const [problem, setProblem] = useState<string | null>(null);
  const [sending, setSending] = useState<Sending | null>(null);
  const [asking, setAsking] = useState<Intake | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const sent = useRef<Sent | null>(null);

  function choose(chosen: File | undefined) {
    setProblem(null);
    setDone(null);
    setAsking(null);
    setFile(chosen ?? null);
  }

  function over(intake: Intake) {
    if (intake.state === 'asking') return setAsking(intake);
    setAsking(null);
    if (intake.state === 'failed') {
      // Said here; there is no need to list it too.
      void ask(`/api/intakes/${intake.id}`, ANYTHING, { method: 'DELETE' });
      return setProblem(intake.problem);
    }
    setDone(`${intake.fileName} was taken in and the job weighed anew.`);
    setFile(null);
    router.refresh();
  }

  function follow(next: Sent) {
    sent.current = next;
    setProblem(null);
    next.finished
      .then(over, (error: Error) => {
        if (error.name !== 'AbortError') setProblem(error.message);
      })
      .finally(() => {
        setSending(null);
        onFollowing(null);
      });
  }

  function send(description: LogDescription) {
    if (!file || !looked) return;
    follow(
      sendLog(
        {
          jobId,
          file,
          description,
          newDevice: made,
          recipeKey: recipeKey(kind, looked.reading.dialect.delimiter, looked.preview.headings),
        },
        setSending,
        onFollowing,
      ),
    );
  }

  async function answer(given: IntakeAnswer | 'leave') {
    const { id } = asking!;
    if (given === 'leave') {
      void ask(`/api/intakes/${id}`, ANYTHING, { method: 'DELETE' });
      setAsking(null);
      return setFile(null);
    }
    if (!(await answerIntake(id, given)))
      return setProblem('The answer did not reach the server: try again.');
    setAsking(null);
    follow(followLog(id, setSending, onFollowing));
  }

  return (
    <section
      className="border-rule-strong bg-sheet border border-dashed p-4"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        choose(event.dataTransfer.files[0]);
      }}
    >
      <h2 className="mb-1 font-semibold">Take in a log</h2>
      <p className="text-ink-soft mb-3 text-sm">
        As it came off the charger, the monitor, the BMS or a data logger: CSV and its kin, JSON, a
        spreadsheet or Parquet, packed or not. Drop it here or choose it.
      </p>
      <div className="flex flex-wrap items-end gap-4">
        <label className="text-sm">
          <span className="mb-1 block">File</span>
          <input
            type="file"
            onChange={(event) => choose(event.target.files?.[0])}
            disabled={sending !== null}
            className="max-w-72"
          />
        </label>
        <label className="text-sm">
          <span className="mb-1 block">Written by</span>
          <select
            value={device}
            onChange={(event) => setDevice(event.target.value)}
            disabled={sending !== null}
            className="border-rule-strong bg-paper border px-2 py-1"
          >
            {devices.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
            {makeable.length > 0 && (
              <optgroup label="Not described yet">
                {makeable.map((one) => (
                  <option key={one.id} value={one.id}>
                    {MADE_WORDS[one.kind]}
                  </option>
                ))}
              </optgroup>
            )}
          </select>
        </label>
      </div>
      {(problem ?? head.problem) && (
        <p role="alert" className="border-hazard mt-3 border-l-3 pl-2 text-sm">
          {file && <bdi>{file.name}: </bdi>}
          {problem ?? head.problem}
        </p>
      )}
      {done && (
        <p role="status" className="border-accent mt-3 border-l-3 pl-2 text-sm">
          {done}
        </p>
      )}
      {asking && (
        <IntakeQuestion intake={asking} zone={system.timeZone} onAnswer={(one) => void answer(one)} />
      )}
      {looked && known !== 'looking' && !sending && !asking && (
        <>
          {known && (
            <p className="mt-3 flex flex-wrap items-center gap-2 text-sm">
              These headings were confirmed before, with {known.fileName}: they are read in the same way.
              <button type="button" className="text-accent underline" onClick={forget}>
                Start from what is recognised
              </button>
            </p>
          )}
          <Confirm
            key={`${file?.name}${device}${looked.reading.columns.findIndex((one) => one.role === 'time')}${known?.fileName}`}
            looked={looked}
            device={device}
            timeZone={system.timeZone}
            recipe={known?.recipe ?? null}
            timesOf={head.timesOf}
            onTimeColumn={(heading) =>
              void head.lookAgain(heading).then((found) => {
                if (found && head.looked) setAgain({ of: head.looked, looked: found });
              })
            }
            onConfirm={send}
          />
        </>
      )}
      {sending && (
        <div className="mt-3 flex items-center gap-3 text-sm" role="status">
          <progress value={sending.part} max={1} className="h-2 w-56" aria-label="Progress" />
          <span>{sending.what}</span>
          <button
            type="button"
            className="border-rule-strong border px-2 py-1"
            onClick={() => sent.current?.cancel()}
          >
            Cancel
          </button>
        </div>
      )}
    </section>
  );
}

/** A confirmed reading of logs with these headings; 'looking' until that is known. */
function useRecipe(
  looked: Looked | null,
  kind: string,
): { known: KnownRecipe | null | 'looking'; forget(): void } {
  const [found, setFound] = useState<{ of: Looked; recipe: KnownRecipe | null } | null>(null);
  useEffect(() => {
    if (!looked) return;
    let stale = false;
    const key = recipeKey(kind, looked.reading.dialect.delimiter, looked.preview.headings);
    fetch('/api/recipes', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ key }),
    })
      .then((response) => (response.ok ? (response.json() as Promise<KnownRecipe | null>) : null))
      .catch(() => null)
      .then((recipe) => !stale && setFound({ of: looked, recipe }));
    return () => {
      stale = true;
    };
  }, [looked, kind]);
  return {
    known: looked && found?.of === looked ? found.recipe : 'looking',
    forget: () => looked && setFound({ of: looked, recipe: null }),
  };
}
