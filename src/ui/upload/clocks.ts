/** Clocks of recordings: as words, and setting them with a way back. */

import { z } from 'zod';
import type { Clock } from '@/core/log/clock';
import { ask } from '@/ui/primitives/ask';
import { duration } from '@/core/quantity/text';

/** "+1 h", "−90 s, +4 s a day". */
export function clockText({ offsetSeconds, secondsPerDay }: Clock): string {
  const signed = (value: number, text: string) => `${value < 0 ? '−' : '+'}${text}`;
  return [
    ...(offsetSeconds === 0 ? [] : [signed(offsetSeconds, duration(Math.abs(offsetSeconds) * 1000))]),
    ...(secondsPerDay === 0 ? [] : [signed(secondsPerDay, `${Math.abs(secondsPerDay)} s a day`)]),
  ].join(', ');
}

interface ClockOf {
  id: string;
  clock: Clock;
}

const beforeSchema = z.object({
  before: z.array(
    z.object({
      id: z.string(),
      clock: z.object({ timeZone: z.string(), offsetSeconds: z.number(), secondsPerDay: z.number() }),
    }),
  ),
});

/** Sets clocks, all or none. @returns what sets them back, or why they could not be set, as a sentence */
export async function setClocks(clocks: readonly ClockOf[]): Promise<(() => Promise<unknown>) | string> {
  const answer = await ask('/api/recordings/clocks', beforeSchema, { method: 'POST', body: { clocks } });
  if (!answer.ok) return answer.problem;
  const { before } = answer.value;
  return () => setClocks(before);
}
