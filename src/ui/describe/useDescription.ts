'use client';
/**
 * One form over a system and a job. What is typed is kept in the browser at once and on the server a moment later; what somebody
 * else saved meanwhile is joined field by field, and a field that both changed is put before the technician.
 */

import { zodResolver } from '@hookform/resolvers/zod';
import { useCallback, useEffect, useRef, useState } from 'react';
import { type FieldValues, type Resolver, useForm, type UseFormReturn } from 'react-hook-form';
import { z } from 'zod';
import { keepable, withoutBlanks } from '@/core/system/check';
import { mergeChanges, sameValue } from '@/core/system/merge';
import { plainCopy } from '@/core/system/paths';
import { type Job, jobSchema, type System, systemSchema } from '@/core/system/schema';
import { type Doc, type DocConflict, type Draft, readDraft, writeDraft } from './draft';

export interface Description {
  system: System;
  job: Job;
}

export interface DescriptionStart extends Description {
  jobId: string;
  jobVersion: number;
  systemId: string;
  systemVersion: number;
}

export type SaveState = 'saved' | 'waiting' | 'saving' | 'unreachable' | 'gone' | 'refused';
/** What is said until a save has come through. */
const KEPT_STATES: ReadonlySet<SaveState> = new Set(['unreachable', 'gone', 'refused']);

export interface DescriptionForm {
  form: UseFormReturn<FieldValues>;
  state: SaveState;
  conflicts: DocConflict[];
  /** Settles a conflict: with mine, or with what stands. */
  settle(conflict: DocConflict, mine: boolean): void;
  /** What was saved elsewhere by another road, such as a changed setting for the record. */
  adopt(doc: Doc, version: number, value: System | Job): void;
  /** Version on the server of a description whose typing is saved; saves first. */
  settledVersion(doc: Doc): Promise<number>;
}

const SCHEMAS = { system: systemSchema, job: jobSchema } as const;
const both = z.object(SCHEMAS);
const check = zodResolver(both) as unknown as Resolver<FieldValues>;
const resolver: Resolver<FieldValues> = (values, context, options) =>
  check(withoutBlanks(values) as FieldValues, context, options);

const DOCS: readonly Doc[] = ['system', 'job'];
const SAVE_AFTER_MS = 600;
const TRY_AGAIN_MS = 3000;

export function useDescription(start: DescriptionStart): DescriptionForm {
  const { jobId } = start;
  const [initial] = useState(() => plainCopy({ system: start.system, job: start.job }));
  const form = useForm<FieldValues>({ defaultValues: initial, resolver, mode: 'onChange' });
  const [state, setState] = useState<SaveState>('saved');
  const [conflicts, setConflicts] = useState<DocConflict[]>([]);
  const conflictsNow = useRef<DocConflict[]>([]);
  const docs = useRef({
    system: {
      url: `/api/systems/${start.systemId}`,
      version: start.systemVersion,
      saved: start.system as unknown,
    },
    job: { url: `/api/jobs/${jobId}`, version: start.jobVersion, saved: start.job as unknown },
  });
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const running = useRef<Promise<void> | null>(null);

  /** A copy of what the form holds of one description, blanks left out. */
  const typed = useCallback(
    (doc: Doc): unknown => withoutBlanks(plainCopy(form.getValues(doc) as unknown), doc),
    [form],
  );

  const tellConflicts = useCallback((list: DocConflict[]) => {
    conflictsNow.current = list;
    setConflicts(list);
  }, []);

  const keepDraft = useCallback(() => {
    const draft: Draft = { conflicts: conflictsNow.current };
    for (const doc of DOCS) {
      const { version, saved } = docs.current[doc];
      const now = typed(doc);
      if (!sameValue(now, withoutBlanks(saved, doc))) draft[doc] = { version, saved, typed: now };
    }
    writeDraft(jobId, draft.system || draft.job || draft.conflicts.length > 0 ? draft : null);
  }, [jobId, typed]);

  /** Joins what stands on the server into the form. */
  const join = useCallback(
    (doc: Doc, version: number, theirs: unknown, mine: unknown, base: unknown) => {
      const { value, conflicts: found } = mergeChanges(
        withoutBlanks(base, doc),
        mine,
        withoutBlanks(theirs, doc),
      );
      docs.current[doc].version = version;
      docs.current[doc].saved = theirs;
      if (!sameValue(value, typed(doc)))
        form.reset({ ...form.getValues(), [doc]: value }, { keepErrors: false });
      if (found.length > 0)
        tellConflicts([...conflictsNow.current, ...found.map((one) => ({ ...one, doc }))]);
    },
    [form, tellConflicts, typed],
  );

  const saveOne = useCallback(
    async (doc: Doc): Promise<SaveState> => {
      for (let round = 0; round < 5; round++) {
        const { url, version, saved } = docs.current[doc];
        const value = keepable(SCHEMAS[doc] as z.ZodType<unknown>, typed(doc), saved);
        if (value === null || sameValue(value, saved)) return 'saved';
        const body = JSON.stringify({ base: version, value });
        const response = await fetch(url, {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body,
          // So that it goes out while the page is left; browsers allow 64 kB for it.
          keepalive: body.length < 32_000,
        });
        if (response.status === 404) return 'gone';
        if (response.status === 409) {
          const theirs = (await response.json()) as { version: number; value: unknown };
          join(doc, theirs.version, theirs.value, typed(doc), saved);
          continue;
        }
        if (response.status >= 400 && response.status < 500) return 'refused';
        if (!response.ok) return 'unreachable';
        docs.current[doc].version = ((await response.json()) as { version: number }).version;
        docs.current[doc].saved = value;
      }
      return 'saved';
    },
    [join, typed],
  );

  const saveRef = useRef<() => Promise<void>>(async () => undefined);
  const save = useCallback((): Promise<void> => {
    clearTimeout(timer.current);
    running.current ??= (async () => {
      setState('saving');
      let outcome: SaveState = 'saved';
      try {
        for (const doc of DOCS) {
          const one = await saveOne(doc);
          if (one !== 'saved') outcome = one;
        }
      } catch {
        outcome = 'unreachable';
      }
      running.current = null;
      keepDraft();
      setState(outcome);
      if (outcome === 'unreachable') timer.current = setTimeout(() => void saveRef.current(), TRY_AGAIN_MS);
    })();
    return running.current;
  }, [keepDraft, saveOne]);
  useEffect(() => {
    saveRef.current = save;
  }, [save]);

  // What an earlier visit left unsaved is joined to what stands on the server now.
  useEffect(() => {
    const draft = readDraft(jobId);
    if (!draft) return;
    // A task of its own: the form has shown what the server sent, and now becomes what was typed.
    const task = setTimeout(() => {
      tellConflicts(draft.conflicts);
      for (const doc of DOCS) {
        const left = draft[doc];
        if (left) join(doc, docs.current[doc].version, docs.current[doc].saved, left.typed, left.saved);
      }
      void form.trigger();
      void save();
    });
    return () => clearTimeout(task);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the form opens
  }, []);

  useEffect(() => {
    const unsubscribe = form.subscribe({
      formState: { values: true },
      callback() {
        keepDraft();
        setState((now) => (KEPT_STATES.has(now) ? now : 'waiting'));
        clearTimeout(timer.current);
        timer.current = setTimeout(() => void saveRef.current(), SAVE_AFTER_MS);
      },
    });
    const leave = () => void saveRef.current();
    window.addEventListener('pagehide', leave);
    return () => {
      unsubscribe();
      window.removeEventListener('pagehide', leave);
      clearTimeout(timer.current);
      leave();
    };
  }, [form, keepDraft]);

  const settle = useCallback(
    (conflict: DocConflict, mine: boolean) => {
      tellConflicts(conflictsNow.current.filter((one) => one !== conflict));
      if (mine) form.setValue(`${conflict.doc}.${conflict.path}`, conflict.mine, { shouldValidate: true });
      keepDraft();
    },
    [form, keepDraft, tellConflicts],
  );

  const adopt = useCallback(
    (doc: Doc, version: number, value: System | Job) => {
      join(doc, version, value, typed(doc), docs.current[doc].saved);
      keepDraft();
    },
    [join, keepDraft, typed],
  );

  const settledVersion = useCallback(
    async (doc: Doc) => {
      await running.current;
      await save();
      return docs.current[doc].version;
    },
    [save],
  );

  return { form, state, conflicts, settle, adopt, settledVersion };
}
