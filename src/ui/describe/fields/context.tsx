'use client';
/** What every field of the description shares: the system as it is typed, and in what other unit figures are shown beside. */

import { createContext, type ReactNode, useContext, useDeferredValue, useMemo } from 'react';
import { useWatch } from 'react-hook-form';
import { keepable, withoutBlanks } from '@/core/system/check';
import { type Job, jobSchema, type System, systemSchema } from '@/core/system/schema';

const Typed = createContext<{ system: System; job: Job } | null>(null);

/** The description as far as it can be used: what is half typed is as it was, or left out. */
export function TypedDescription({
  system,
  job,
  children,
}: {
  system: System;
  job: Job;
  children: ReactNode;
}) {
  const watched = useDeferredValue(useWatch() as { system?: unknown; job?: unknown });
  const value = useMemo(
    () => ({
      system: keepable<System>(systemSchema, withoutBlanks(watched.system, 'system'), system) ?? system,
      job: keepable<Job>(jobSchema, withoutBlanks(watched.job, 'job'), job) ?? job,
    }),
    [watched, system, job],
  );
  return <Typed.Provider value={value}>{children}</Typed.Provider>;
}

export function useTyped(): { system: System; job: Job } {
  const value = useContext(Typed);
  if (!value) throw new Error('useTyped is for what stands in a description form.');
  return value;
}
