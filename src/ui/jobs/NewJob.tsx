'use client';
/** A new job: on which system, what it is about; the rest is asked under Take in. */

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useId, useRef, useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { z } from 'zod';
import { COMPLAINT_WORDS } from '@/core/diagnosis/summary';
import { type Complaint, COMPLAINTS } from '@/core/system/schema';
import { inputClass } from '@/ui/describe/fields/FieldFrame';
import { ask } from '@/ui/primitives/ask';
import { asked } from '@/ui/primitives/Queries';
import { mainButtonClass } from '@/ui/primitives/buttons';

interface Wanted {
  systemId: string;
  systemName: string;
  likeSystemId: string;
  title: string;
  complaints: Complaint[];
}

interface Known {
  id: string;
  name: string;
  owner?: string | null | undefined;
}

const openedSchema = z.object({ id: z.string() });
const systemsSchema = z.object({
  rows: z.array(z.object({ id: z.string(), name: z.string(), owner: z.string().nullish() })),
});

interface Props {
  /** The first page of systems, and the chosen one. */
  systems: Known[];
  /** Whether there are more than these. */
  more: boolean;
  /** System that is chosen to begin with; empty for a new one. */
  chosen: string;
}

const nameOf = ({ name, owner }: Known): string => (owner ? `${name} (${owner})` : name);

export function NewJob({ systems: given, more, chosen }: Props) {
  const id = useId();
  const router = useRouter();
  const { control, handleSubmit, register, setError, setFocus, formState } = useForm<Wanted>({
    defaultValues: {
      systemId: given.some((one) => one.id === chosen) ? chosen : '',
      systemName: '',
      likeSystemId: '',
      title: '',
      complaints: [],
    },
  });
  const [failed, setFailed] = useState('');
  const { systems, search } = useSystems(given);
  const systemId = useWatch({ control, name: 'systemId' });

  async function open({ systemId: of, systemName, likeSystemId, title, complaints }: Wanted): Promise<void> {
    setFailed('');
    const answer = await ask('/api/jobs', openedSchema, {
      method: 'POST',
      body: {
        ...(of ? { systemId: of } : { systemName, ...(likeSystemId ? { likeSystemId } : {}) }),
        timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
        title,
        complaints,
      },
    });
    if (answer.ok) return router.push(`/jobs/${answer.value.id}/take-in`);
    for (const [name, message] of Object.entries(answer.problems))
      setError(name as keyof Wanted, { message });
    const first = Object.keys(answer.problems)[0];
    if (first) setFocus(first as keyof Wanted);
    else setFailed(`${answer.problem} What you typed is still here.`);
  }

  const problem = (name: keyof Wanted) =>
    formState.errors[name]?.message && (
      <p role="alert" className="text-hazard text-sm">
        {formState.errors[name].message}
      </p>
    );
  return (
    <main className="mx-auto w-full max-w-xl p-4">
      <h1 className="mb-3 text-xl font-semibold">New job</h1>
      <form
        noValidate
        className="border-rule-strong bg-sheet flex flex-col gap-3 border p-4"
        onSubmit={(event) => void handleSubmit(open)(event)}
      >
        <div>
          <label htmlFor={`${id}-system`} className="block font-semibold">
            System
          </label>
          {more && (
            <input
              type="search"
              aria-label="Find a system by its name or its customer’s"
              placeholder="Find by name or customer"
              maxLength={100}
              className={`${inputClass} mb-1 h-8 w-full`}
              onChange={({ target }) => search(target.value)}
            />
          )}
          <select id={`${id}-system`} className={`${inputClass} h-8 w-full`} {...register('systemId')}>
            <option value="">a new system</option>
            {systems.map((one) => (
              <option key={one.id} value={one.id}>
                {nameOf(one)}
              </option>
            ))}
          </select>
          {problem('systemId')}
        </div>
        {systemId === '' && (
          <div>
            <label htmlFor={`${id}-name`} className="block font-semibold">
              Name of the system
            </label>
            <input
              id={`${id}-name`}
              autoComplete="off"
              className={`${inputClass} h-8 w-full`}
              {...register('systemName')}
            />
            {problem('systemName')}
          </div>
        )}
        {systemId === '' && systems.length > 0 && (
          <div>
            <label htmlFor={`${id}-like`} className="block font-semibold">
              Like an earlier system
            </label>
            <select id={`${id}-like`} className={`${inputClass} h-8 w-full`} {...register('likeSystemId')}>
              <option value="">no</option>
              {systems.map((one) => (
                <option key={one.id} value={one.id}>
                  {nameOf(one)}
                </option>
              ))}
            </select>
            <p className="text-ink-soft text-xs">
              Its devices and settings are copied; dates, cables and what is counted are left open.
            </p>
            {problem('likeSystemId')}
          </div>
        )}
        <div>
          <label htmlFor={`${id}-title`} className="block font-semibold">
            Title of the job
          </label>
          <input
            id={`${id}-title`}
            autoComplete="off"
            className={`${inputClass} h-8 w-full`}
            {...register('title')}
          />
          <p className="text-ink-soft text-xs">One line that the owner would recognise.</p>
          {problem('title')}
        </div>
        <fieldset>
          <legend className="font-semibold">Complaint</legend>
          <Controller
            name="complaints"
            control={control}
            render={({ field }) => (
              <div className="flex flex-wrap gap-x-4 gap-y-1 pt-1">
                {COMPLAINTS.map((one) => (
                  <label key={one} className="flex min-h-6 items-center gap-1.5">
                    <input
                      type="checkbox"
                      className="size-4 accent-(--accent)"
                      checked={field.value.includes(one)}
                      onChange={({ target }) =>
                        field.onChange(
                          target.checked
                            ? [...field.value, one]
                            : field.value.filter((other) => other !== one),
                        )
                      }
                    />
                    {COMPLAINT_WORDS[one]}
                  </label>
                ))}
              </div>
            )}
          />
        </fieldset>
        {failed && (
          <p role="alert" className="text-hazard">
            {failed}
          </p>
        )}
        <button type="submit" className={`${mainButtonClass} self-start`} disabled={formState.isSubmitting}>
          Open the job
        </button>
      </form>
    </main>
  );
}

/** How long is waited for the next letter, ms. */
const PAUSE = 250;

/** Systems to choose from: the first page, and those that a search finds. What was found stands until the next has come. */
function useSystems(given: Known[]) {
  const [words, setWords] = useState('');
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const { data } = useQuery({
    queryKey: ['systems', words],
    queryFn: ({ signal }) => asked(`/api/systems?search=${encodeURIComponent(words)}`, systemsSchema, signal),
    enabled: words !== '',
    placeholderData: keepPreviousData,
  });
  return {
    systems: words === '' ? given : (data?.rows ?? given),
    search(next: string) {
      clearTimeout(timer.current);
      timer.current = setTimeout(() => setWords(next.trim()), PAUSE);
    },
  };
}
