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

/** @returns what sets them back, or null when a clock could not be set */
export async function setClocks(clocks: readonly ClockOf[]): Promise<(() => Promise<unknown>) | null> {
  const before: ClockOf[] = [];
  for (const { id, clock } of clocks) {
    const answer = await fetch(`/api/recordings/${id}/clock`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(clock),
    }).catch(() => null);
    if (!answer?.ok) {
      if (before.length > 0) await setClocks(before);
      return null;
    }
    before.push({ id, clock: ((await answer.json()) as { before: Clock }).before });
  }
  return () => setClocks(before);
}
