'use client';
/** The logs of a job, and taking in another: choose a file, confirm what its columns are, send it. */

import { useRouter } from 'next/navigation';
import { DateTime } from 'luxon';
import { useEffect, useRef, useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/diagnose';
import { duration } from '@/core/quantity/text';
import type { LogReading } from '@/core/log/recognise';
import { devicesOf, type System } from '@/core/system/schema';
import type { RecordingInfo } from '@/core/log/recording';
import { useToast } from '@/ui/primitives/Toasts';
import { Confirm, type Confirmed } from './Confirm';
import { sendLog, type Sending } from './sendLog';

interface Props {
  jobId: string;
  system: System;
  recordings: RecordingInfo[];
  trust: Diagnosis['trust'];
}

export function LogsStep({ jobId, system, recordings, trust }: Props) {
  const router = useRouter();
  const tell = useToast();
  const devices = devicesOf(system);
  const [file, setFile] = useState<File | null>(null);
  const [device, setDevice] = useState(
    devices.find((one) => !recordings.some((rec) => rec.device === one.id))?.id ?? devices[0]?.id ?? '',
  );
  const [reading, setReading] = useState<LogReading | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [sending, setSending] = useState<Sending | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const cancel = useRef<(() => void) | null>(null);
  const worker = useRef<Worker | null>(null);

  useEffect(() => {
    if (!file) return;
    let stale = false;
    const kind = devices.find((one) => one.id === device)?.kind ?? 'monitor';
    worker.current?.terminate();
    const head = new Worker(new URL('../../workers/head.ts', import.meta.url), { type: 'module' });
    worker.current = head;
    head.onmessage = ({ data }: MessageEvent<{ reading: LogReading } | { problem: string }>) => {
      if (stale) return;
      setReading('reading' in data ? data.reading : null);
      setProblem('problem' in data ? data.problem : null);
      head.terminate();
    };
    head.postMessage({ file, kind });
    return () => {
      stale = true;
      head.terminate();
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the devices come with the system, which stays
  }, [file, device]);

  async function remove({ id, fileName }: RecordingInfo): Promise<void> {
    const url = `/api/recordings/${id}`;
    if (!(await fetch(url, { method: 'DELETE' })).ok) return;
    router.refresh();
    tell(`${fileName} was removed.`, () => {
      void fetch(url, { method: 'POST' }).then(async (response) => {
        if (!response.ok) tell(((await response.json()) as { error: string }).error);
        router.refresh();
      });
    });
  }

  function choose(chosen: File | undefined) {
    setReading(null);
    setProblem(null);
    setDone(null);
    setFile(chosen ?? null);
  }

  function send(confirmed: Confirmed) {
    if (!file) return;
    const sent = sendLog(jobId, file, { device, ...confirmed }, setSending);
    cancel.current = sent.cancel;
    sent.finished
      .then(
        () => {
          setDone(`${file.name} was taken in and the job weighed anew.`);
          setFile(null);
          setReading(null);
          router.refresh();
        },
        (error: Error) => {
          if (error.name !== 'AbortError') setProblem(error.message);
        },
      )
      .finally(() => setSending(null));
  }

  return (
    <div className="grid gap-4">
      <section>
        <h2 className="mb-1 font-semibold">Logs of this job</h2>
        {recordings.length === 0 ? (
          <p className="text-ink-soft text-sm">None yet.</p>
        ) : (
          <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y text-sm">
            {recordings.map((one) => (
              <li key={one.id} className="grid gap-x-4 px-3 py-2 sm:grid-cols-[1fr_14rem_1fr]">
                <span>
                  <span className="font-semibold">{one.fileName}</span>
                  <span className="text-ink-soft block">
                    {devices.find((d) => d.id === one.device)?.name}
                  </span>
                  <span className="flex flex-wrap items-baseline gap-x-3">
                    {(['csv', 'parquet'] as const).map((format) => (
                      <a
                        key={format}
                        href={`/api/recordings/${one.id}/export?format=${format}`}
                        className="text-accent inline-block min-h-6 underline"
                        download
                      >
                        {format === 'csv' ? 'CSV' : 'Parquet'}
                        <span className="sr-only"> of {one.fileName}</span>
                      </a>
                    ))}
                    <button
                      type="button"
                      className="text-accent min-h-6 underline"
                      onClick={() => void remove(one)}
                    >
                      Remove<span className="sr-only"> {one.fileName}</span>
                    </button>
                  </span>
                </span>
                <span className="font-mono text-xs">
                  {DateTime.fromMillis(one.from, { zone: system.timeZone }).toFormat('d LLL yyyy HH:mm')}
                  <span className="text-ink-soft block">
                    {duration(one.to - one.from)}, {one.sampleCount.toLocaleString('en')} samples
                  </span>
                </span>
                <span className="text-ink-soft">
                  {one.channels.map((channel) => channel.replace(/_/g, ' ')).join(', ')}
                  {trust
                    .filter((note) => note.devices.includes(one.device))
                    .map((note) => (
                      <span
                        key={note.text}
                        className="text-ink border-rule-strong my-1 block border-l-3 pl-2"
                      >
                        {note.text}
                      </span>
                    ))}
                  {one.problemCount > 0 && (
                    <span className="text-ink block">
                      {one.problemCount} rows had a problem. Line {one.problems[0]?.line}:{' '}
                      {one.problems[0]?.reason}
                    </span>
                  )}
                </span>
              </li>
            ))}
          </ul>
        )}
      </section>

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
            </select>
          </label>
        </div>
        {problem && (
          <p role="alert" className="border-hazard mt-3 border-l-3 pl-2 text-sm">
            {file ? `${file.name}: ` : ''}
            {problem}
          </p>
        )}
        {done && (
          <p role="status" className="border-accent mt-3 border-l-3 pl-2 text-sm">
            {done}
          </p>
        )}
        {reading && !sending && (
          <Confirm
            key={`${file?.name}${device}`}
            reading={reading}
            timeZone={system.timeZone}
            onConfirm={send}
          />
        )}
        {sending && (
          <div className="mt-3 flex items-center gap-3 text-sm" role="status">
            <progress value={sending.part} max={1} className="h-2 w-56" aria-label="Progress" />
            <span>{sending.what}</span>
            <button
              type="button"
              className="border-rule-strong border px-2 py-1"
              onClick={() => cancel.current?.()}
            >
              Cancel
            </button>
          </div>
        )}
      </section>
    </div>
  );
}
