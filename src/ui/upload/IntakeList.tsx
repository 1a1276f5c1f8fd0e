'use client';
/** Logs on their way in that are not followed elsewhere: begun before, sent by others, or come to nothing. */

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { Intake, IntakeAnswer } from '@/core/log/intake';
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

interface Props {
  jobId: string;
  intakes: Intake[];
  zone: string;
  /** Of the intake that is followed by the form above. */
  following: string | null;
}

export function IntakeList({ jobId, intakes: given, zone, following }: Props) {
  const router = useRouter();
  const [now, setNow] = useState({ given, intakes: given });
  const intakes = (now.given === given ? now.intakes : given).filter((one) => one.id !== following);
  const moving = intakes.some((one) => Object.hasOwn(WORDS, one.state));

  const look = async () => {
    const answer = await fetch(`/api/jobs/${jobId}/intakes`).catch(() => null);
    if (!answer?.ok) return;
    const next = (await answer.json()) as Intake[];
    setNow({ given, intakes: next });
    // One that is gone has been taken in.
    if (given.some((one) => !next.some((other) => other.id === one.id))) router.refresh();
  };

  useEffect(() => {
    if (!moving) return;
    const timer = setInterval(() => void look(), ASK_EVERY);
    return () => clearInterval(timer);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- looks with what was given last
  }, [moving, given]);

  async function putAway(id: string) {
    await fetch(`/api/intakes/${id}`, { method: 'DELETE' });
    await look();
  }

  async function answer(id: string, given: IntakeAnswer | 'leave') {
    if (given === 'leave') return putAway(id);
    await answerIntake(id, given);
    await look();
  }

  if (intakes.length === 0) return null;
  return (
    <section aria-label="Logs on their way in">
      <h2 className="mb-1 font-semibold">On their way in</h2>
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
