'use client';
/** A web worker that looks at the head of a chosen file. */

import { useEffect, useRef, useState } from 'react';
import type { HeadTimes, Preview } from '@/core/log/preview';
import type { DeviceKind, LogReading } from '@/core/log/recognise';
import type { LogDescription } from '@/core/log/takeIn';
import type { BankSuggestion } from '@/core/suggest/bank';
import { type OpenWorker, openWorker, sentenceOf } from '@/ui/primitives/openWorker';
import type { HeadReader } from '@/workers/head';

export interface Looked {
  reading: LogReading;
  preview: Preview;
}

export interface Head {
  looked: Looked | null;
  /** Why the file cannot be read as a log. */
  problem: string | null;
  /** When the first rows were written, read as described; or why that cannot be said. */
  timesOf(description: LogDescription, timeZone: string): Promise<HeadTimes | string>;
  /** What bank the log suggests, read as described; null where it cannot be read so. */
  suggest(description: LogDescription, timeZone: string): Promise<BankSuggestion | null>;
  /** Looks again, with another column as the time. */
  lookAgain(timeHeading: string): Promise<Looked | null>;
}

/** @param file null while none is chosen */
export function useHead(file: File | null, device: DeviceKind): Head {
  const [seen, setSeen] = useState<{
    file: File | null;
    device: DeviceKind;
    looked: Looked | null;
    problem: string | null;
  }>({
    file: null,
    device,
    looked: null,
    problem: null,
  });
  const worker = useRef<OpenWorker<HeadReader> | null>(null);

  useEffect(() => {
    if (!file) return;
    const head = openWorker<HeadReader>(
      new Worker(new URL('../../workers/head.ts', import.meta.url), { type: 'module' }),
    );
    worker.current = head;
    let stale = false;
    head
      .call((reader) => reader.look(file, device))
      .then(
        (looked) => ({ looked, problem: null }),
        (error: unknown) => ({ looked: null, problem: sentenceOf(error) }),
      )
      .then((found) => {
        if (!stale) setSeen({ file, device, ...found });
      });
    return () => {
      stale = true;
      head.close();
    };
  }, [file, device]);

  // What was seen as another device's log is not what is asked now.
  const current = file !== null && seen.file === file && seen.device === device;
  return {
    looked: current ? seen.looked : null,
    problem: current ? seen.problem : null,
    timesOf: (description, timeZone) =>
      worker.current!.call((reader) => reader.times(description, timeZone)).catch(sentenceOf),
    suggest: (description, timeZone) =>
      worker.current!.call((reader) => reader.suggest(description, timeZone)).catch(() => null),
    lookAgain: (timeHeading) =>
      worker.current!.call((reader) => reader.look(file!, device, timeHeading)).catch(() => null),
  };
}
