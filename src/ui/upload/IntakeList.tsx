'use client';
/** Logs on their way in that are not followed elsewhere: begun before, sent by others, or come to nothing. */

import { useRouter } from 'next/navigation';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Intake, IntakeAnswer } from '@/core/log/intake';
import { ANYTHING, ask } from '@/ui/primitives/ask';
import { asked } from '@/ui/primitives/Queries';
import { useToast } from '@/ui/primitives/Toasts';
import { intakesSchema } from './answers';
import { IntakeQuestion } from './IntakeQuestion';
import { answerIntake } from './sendLog';

/** How often their progress is asked for while a worker is at one, ms. */
const ASK_EVERY = 1500;

const WORDS: Partial<Record<Intake['state'], string>> = {
  waiting: 'waits for a worker',
  reading: 'is being read',
  storing: 'is being stored',
  analysing: 'is in; the job is being weighed',
};

const isMoving = ({ state }: Intake): boolean => Object.hasOwn(WORDS, state);

interface Props {
  jobId: string;
  intakes: Intake[];
  zone: string;
  /** Of the intake that is followed by the form above. */
  following: string | null;
}

export function IntakeList({ jobId, intakes: given, zone, following }: Props) {
  const router = useRouter();
  const tell = useToast();
  const { data, error, refetch } = useQuery({
    // With another list from the page, what was fetched before it is of no interest.
    queryKey: ['intakes', jobId, given],
    queryFn: ({ signal }) => asked(`/api/jobs/${jobId}/intakes`, intakesSchema, signal),
    initialData: given,
    staleTime: Infinity,
    refetchInterval: ({ state }) => (state.data?.some(isMoving) ? ASK_EVERY : false),
  });
  const intakes = data.filter((one) => one.id !== following);
  // One that is gone has been taken in.
  const isGone = given.some((one) => !data.some((other) => other.id === one.id));
  useEffect(() => {
    if (isGone) router.refresh();
  }, [isGone, router]);

  async function putAway(id: string) {
    const away = await ask(`/api/intakes/${id}`, ANYTHING, { method: 'DELETE' });
    if (!away.ok) tell(`It was not removed. ${away.problem}`);
    await refetch();
  }

  async function answer(id: string, given: IntakeAnswer | 'leave') {
    if (given === 'leave') return putAway(id);
    if (!(await answerIntake(id, given))) tell('The answer did not reach the server: try again.');
    await refetch();
  }

  if (intakes.length === 0) return null;
  return (
    <section aria-label="Uploads in progress">
      <h2 className="mb-1 font-semibold">Uploads in progress</h2>
      {error && (
        <p role="alert" className="text-hazard mb-1 text-sm">
          {error.message} Progress is asked for again by itself.
        </p>
      )}
      <ul className="divide-rule border-rule-strong bg-sheet divide-y border-y text-sm">
        {intakes.map((one) => (
          <li key={one.id} className="px-3 py-2">
            <bdi className="font-semibold">{one.fileName}</bdi>{' '}
            {one.state === 'receiving'
              ? `was sent as far as ${Math.round((100 * one.received) / one.size)} %. Choose the same file again and it goes on from there.`
              : one.state === 'failed'
                ? `was not taken in. ${one.problem}`
                : one.state === 'asking'
                  ? ''
                  : `${WORDS[one.state]} …`}{' '}
            {one.state === 'asking' ? (
              <IntakeQuestion intake={one} zone={zone} onAnswer={(given) => void answer(one.id, given)} />
            ) : (
              <button
                type="button"
                className="text-accent min-h-6 underline"
                onClick={() => void putAway(one.id)}
              >
                {one.state === 'failed' ? 'Put away' : 'Cancel'}
                <span className="sr-only"> {one.fileName}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
