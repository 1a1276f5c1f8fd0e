/** Clocks of recordings: as words, and setting them with a way back. */

import type { Clock } from '@/core/log/clock';
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

/** Sets clocks, all or none. @returns what sets them back, or why they could not be set, as a sentence */
export async function setClocks(clocks: readonly ClockOf[]): Promise<(() => Promise<unknown>) | string> {
  const answer = await fetch('/api/recordings/clocks', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ clocks }),
  }).catch(() => null);
  if (!answer) return 'The server was not reached: try again.';
  const { before, error } = (await answer.json()) as { before?: ClockOf[]; error?: string };
  return before ? () => setClocks(before) : (error ?? 'The clock could not be set.');
}
