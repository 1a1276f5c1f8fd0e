'use client';
/** A round while it is typed: everything goes into the browser’s own database at each change, and is judged as it stands. */

import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';
import { judgeVisit, type Judged, stopsOf } from '@/core/onsite/judge';
import { type StopId, type Visit, visitSchema } from '@/core/onsite/visit';
import { keepable, problemsOf, type Problems, withoutBlanks } from '@/core/system/check';
import { valueAt, withValue } from '@/core/system/paths';
import type { Job, System } from '@/core/system/schema';
import { today } from '@/ui/primitives/today';
import { keepDraft } from '@/ui/records/waiting';

export interface RoundDraft {
  stop: StopId;
  /** A visit as far as it is typed; figures that are no figures stand as text. */
  typed: Record<string, unknown>;
}

export const newRound = (jobId: string): RoundDraft => ({
  stop: 'displays',
  typed: { id: crypto.randomUUID(), job: jobId, on: today() },
});

interface Round {
  jobId: string;
  job: Job;
  system: System;
  stops: StopId[];
  stop: StopId;
  go(stop: StopId): void;
  /** What stands at a path, as it is typed. */
  at(path: string): unknown;
  set(path: string, value: unknown): void;
  /** What can be used of it. */
  visit: Visit;
  judged: Judged;
  problems: Problems;
  /** Begins with another: a new one, or one that was kept before. */
  open(draft: RoundDraft): void;
  /** The visit, where nothing in it is wrong. */
  whole(): { visit: Visit } | { problem: string; path: string };
}

const Context = createContext<Round | null>(null);

interface Props {
  jobId: string;
  job: Job;
  system: System;
  start: RoundDraft;
  children: ReactNode;
}

export function RoundProvider({ jobId, job, system, start, children }: Props) {
  const [draft, setDraft] = useState(start);
  const stops = useMemo(() => stopsOf(system), [system]);
  const read = useMemo(() => {
    const clean = withoutBlanks(draft.typed);
    const bare = { id: draft.typed.id, job: jobId, on: today() } as Visit;
    const parsed = visitSchema.safeParse(clean);
    const visit = parsed.success ? parsed.data : (keepable<Visit>(visitSchema, clean, bare) ?? bare);
    return { visit, problems: parsed.success ? {} : problemsOf(parsed.error) };
  }, [draft, jobId]);
  const judged = useMemo(() => judgeVisit(system, read.visit, job.checks), [system, read, job]);
  const change = (next: RoundDraft) => {
    setDraft(next);
    void keepDraft(jobId, 'visit', next);
  };
  const value: Round = {
    jobId,
    job,
    system,
    stops,
    stop: stops.includes(draft.stop) ? draft.stop : stops[0]!,
    go: (stop) => change({ ...draft, stop }),
    at: (path) => valueAt(draft.typed, path),
    set(path, entered) {
      const next = withValue(draft.typed, path, entered);
      if (next) change({ ...draft, typed: next });
    },
    visit: read.visit,
    judged,
    problems: read.problems,
    open: change,
    whole() {
      const [first] = Object.entries(read.problems);
      return first ? { problem: first[1], path: first[0] } : { visit: read.visit };
    },
  };
  return <Context.Provider value={value}>{children}</Context.Provider>;
}

export function useRound(): Round {
  const value = useContext(Context);
  if (!value) throw new Error('useRound is for what stands in a round.');
  return value;
}
