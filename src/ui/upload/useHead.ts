'use client';
/** A web worker that looks at the head of a chosen file. */

import { useEffect, useRef, useState } from 'react';
import type { HeadTimes, Preview } from '@/core/log/preview';
import type { DeviceKind, LogReading } from '@/core/log/recognise';
import type { LogDescription } from '@/core/log/takeIn';
import type { BankSuggestion } from '@/core/suggest/bank';
import type { HeadAnswer, HeadTask } from '@/workers/head';

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
  const worker = useRef<Worker | null>(null);
  const waiting = useRef<((answer: HeadAnswer) => void)[]>([]);

  /** Answers come in the order of the questions. */
  const ask = (task: HeadTask): Promise<HeadAnswer> =>
    new Promise((resolve) => {
      waiting.current.push(resolve);
      worker.current?.postMessage(task);
    });

  useEffect(() => {
    if (!file) return;
    const head = new Worker(new URL('../../workers/head.ts', import.meta.url), { type: 'module' });
    worker.current = head;
    waiting.current = [];
    head.onmessage = ({ data }: MessageEvent<HeadAnswer>) => waiting.current.shift()?.(data);
    let stale = false;
    void ask({ kind: 'look', file, device }).then((answer) => {
      if (stale) return;
      setSeen({
        file,
        device,
        looked: answer.kind === 'looked' ? answer : null,
        problem: answer.kind === 'problem' ? answer.problem : null,
      });
    });
    return () => {
      stale = true;
      head.terminate();
    };
  }, [file, device]);

  // What was seen as another device's log is not what is asked now.
  const current = file !== null && seen.file === file && seen.device === device;
  return {
    looked: current ? seen.looked : null,
    problem: current ? seen.problem : null,
    async timesOf(description, timeZone) {
      const answer = await ask({ kind: 'times', description, timeZone });
      return answer.kind === 'times' ? answer.times : answer.kind === 'problem' ? answer.problem : '';
    },
    async suggest(description, timeZone) {
      const answer = await ask({ kind: 'suggest', description, timeZone });
      return answer.kind === 'suggested' ? answer.bank : null;
    },
    async lookAgain(timeHeading) {
      const answer = await ask({ kind: 'look', file: file!, device, timeHeading });
      return answer.kind === 'looked' ? answer : null;
    },
  };
}
