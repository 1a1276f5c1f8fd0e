/** What there is to go to on the strips: stages, syncs, cut-offs, doubts, changes of settings. */

import { cutterName, REASON_WORDS } from '@/core/diagnosis/cutoffsText';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { Span } from '@/core/quantity/span';
import type { Pin, System } from '@/core/system/schema';
import { deviceName } from '@/core/system/sourceName';

export const EVENT_KINDS = ['stage', 'sync', 'cut-off', 'doubt', 'change', 'pin'] as const;
export type EventKind = (typeof EVENT_KINDS)[number];

export const EVENT_WORDS: Record<EventKind, string> = {
  stage: 'Stage',
  sync: 'Synchronisation',
  'cut-off': 'Cut-off',
  doubt: 'Doubt or gap',
  change: 'Change of a setting',
  pin: 'Pin',
};

export interface StripEvent extends Span {
  kind: EventKind;
  text: string;
}

const spanOf = ([from, to]: readonly [string, string]): Span => ({
  from: Date.parse(from),
  to: Date.parse(to),
});
const at = (moment: string): Span => spanOf([moment, moment]);

/** In order of time. */
export function eventsOf(
  { charges, syncs, cutoffs, trust }: Diagnosis,
  system: System,
  {
    pins = [],
    changes = [],
  }: { pins?: readonly Pin[]; changes?: readonly { on: string; label: string }[] } = {},
): StripEvent[] {
  return [
    ...charges
      .flatMap((one) => one.stages)
      .filter((one) => one.stage !== 'off')
      .map((one) => ({ kind: 'stage' as const, text: one.stage, ...spanOf([one.from, one.to]) })),
    ...syncs.map((one) => ({
      kind: 'sync' as const,
      text: `set to full, ${one.judged === 'unsure' ? 'not sure whether rightly' : one.judged === 'true' ? 'rightly' : 'too soon'}`,
      ...at(one.at),
    })),
    ...cutoffs.map((one) => ({
      kind: 'cut-off' as const,
      text: `by ${cutterName(one, (id) => deviceName(system, id))}, ${REASON_WORDS[one.why]}`,
      ...at(one.at),
    })),
    ...trust.flatMap((note) =>
      note.spans.map((span) => ({ kind: 'doubt' as const, text: note.text, ...spanOf(span) })),
    ),
    ...changes.map((one) => ({ kind: 'change' as const, text: one.label, ...at(one.on) })),
    ...pins.map((one) => ({ kind: 'pin' as const, text: one.note, ...spanOf([one.from, one.to]) })),
  ].sort((a, b) => a.from - b.from);
}

/** Next or previous of a kind from a moment; any kind where none is given. */
export function nextEvent(
  events: readonly StripEvent[],
  from: number,
  way: 'next' | 'previous',
  kind: EventKind | '',
): StripEvent | null {
  const some = kind === '' ? events : events.filter((one) => one.kind === kind);
  return (
    (way === 'next'
      ? some.find((one) => one.from > from + 1000)
      : some.findLast((one) => one.from < from - 1000)) ?? null
  );
}

/** Stages and doubts that a moment lies in. */
export const eventsAt = (events: readonly StripEvent[], ms: number): StripEvent[] =>
  events.filter((one) => one.from <= ms && ms <= one.to && (one.kind === 'stage' || one.kind === 'doubt'));
