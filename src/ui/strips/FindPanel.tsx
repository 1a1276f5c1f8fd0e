'use client';
/** The next or previous time that a channel does something, and the next event of a kind. */

import { type ReactNode, useState } from 'react';
import type { FindRule } from '@/core/log/find';
import type { RecordingInfo } from '@/core/log/recording';
import { channelInfo } from '@/core/log/channels';
import type { Span } from '@/core/quantity/span';
import type { System } from '@/core/system/schema';
import { ask } from '@/ui/primitives/ask';
import { buttonClass } from '@/ui/primitives/buttons';
import { foundSchema } from './answers';
import { EVENT_KINDS, EVENT_WORDS, type EventKind, nextEvent, type StripEvent } from './events';
import { channelsOf, labelOfChannel, nameOfChannel } from './lanes';
import { momentText } from './momentText';

type Rule = FindRule | 'span';
const RULES: Record<Rule, string> = {
  'rises-above': 'rises above',
  'falls-below': 'falls below',
  jumps: 'jumps by',
  'stays-above': 'stays above',
  'stays-below': 'stays below',
  span: 'goes from',
};

interface Props {
  jobId: string;
  system: System;
  recordings: readonly RecordingInfo[];
  events: readonly StripEvent[];
  /** Where the search begins: the middle of the view. */
  from: number;
  onFound(span: Span): void;
  /** Two crossings of a voltage: the caliper is set on them. */
  onSpan(span: Span): void;
}

const fieldClass = 'border-rule-strong bg-paper border px-1.5 py-1';

export function FindPanel({ jobId, system, recordings, events, from, onFound, onSpan }: Props) {
  const channels = channelsOf(recordings);
  const [typed, setTyped] = useState({
    channel: channels[0] ? nameOfChannel(channels[0]) : '',
    rule: 'rises-above' as Rule,
    value: '',
    to: '',
    minutes: '10',
  });
  const [kind, setKind] = useState<EventKind | ''>('');
  const [said, setSaid] = useState('');
  // Where the last find was: the next goes on from there although the view's middle may lie elsewhere.
  const [last, setLast] = useState<number | null>(null);
  const chosen = channels.find((one) => nameOfChannel(one) === typed.channel);
  const change = (some: Partial<typeof typed>) => {
    setTyped({ ...typed, ...some });
    setLast(null);
  };
  const stays = typed.rule.startsWith('stays');

  function tell(found: Span, what: string): void {
    setLast(found.from);
    setSaid(`${momentText(found.from, system.timeZone)}: ${what}`);
  }
  async function find(way: 'next' | 'previous'): Promise<void> {
    if (!chosen) return;
    if (typed.value.trim() === '' || (typed.rule === 'span' && typed.to.trim() === '')) {
      setSaid('Write down the figure first.');
      return;
    }
    const query = new URLSearchParams({
      recording: chosen.recording.id,
      channel: chosen.channel,
      rule: typed.rule,
      value: typed.value.trim(),
      ...(typed.rule === 'span' ? { to: typed.to.trim() } : {}),
      ...(stays ? { minutes: typed.minutes.trim() || '0' } : {}),
      from: String(Math.round(last ?? from)),
      way,
    });
    setSaid('Looking …');
    const answer = await ask(`/api/jobs/${jobId}/find?${query}`, foundSchema);
    if (!answer.ok) {
      setSaid(answer.problem);
      return;
    }
    const { found } = answer.value;
    if (!found) {
      setSaid(way === 'next' ? 'Not again in this log.' : 'Not before in this log.');
      return;
    }
    tell(found, labelOfChannel(system, chosen));
    if (found.to > found.from) onSpan(found);
    onFound(found);
  }
  function goTo(way: 'next' | 'previous'): void {
    const event = nextEvent(events, last ?? from, way, kind);
    if (!event) {
      setSaid(way === 'next' ? 'No such event after this.' : 'No such event before this.');
      return;
    }
    tell(event, `${EVENT_WORDS[event.kind].toLowerCase()}, ${event.text}`);
    onFound(event);
  }

  return (
    <div className="flex flex-col gap-3 text-sm">
      <Row name="Find the time">
        <select
          aria-label="Channel"
          className={`${fieldClass} max-w-56`}
          value={typed.channel}
          onChange={({ target }) => change({ channel: target.value })}
        >
          {channels.map((one) => (
            <option key={nameOfChannel(one)} value={nameOfChannel(one)}>
              {labelOfChannel(system, one)}
            </option>
          ))}
        </select>
        <select
          aria-label="What it does"
          className={fieldClass}
          value={typed.rule}
          onChange={({ target }) => change({ rule: target.value as Rule })}
        >
          {Object.entries(RULES).map(([rule, name]) => (
            <option key={rule} value={rule}>
              {name}
            </option>
          ))}
        </select>
        <input
          aria-label="Figure"
          inputMode="decimal"
          className={`${fieldClass} w-20 text-right font-mono`}
          value={typed.value}
          onChange={({ target }) => change({ value: target.value })}
        />
        {typed.rule === 'span' && (
          <>
            to
            <input
              aria-label="To the figure"
              inputMode="decimal"
              className={`${fieldClass} w-20 text-right font-mono`}
              value={typed.to}
              onChange={({ target }) => change({ to: target.value })}
            />
          </>
        )}
        <span className="text-ink-soft">{chosen && channelInfo(chosen.channel).unit}</span>
        {stays && (
          <>
            for
            <input
              aria-label="Minutes"
              inputMode="numeric"
              className={`${fieldClass} w-16 text-right font-mono`}
              value={typed.minutes}
              onChange={({ target }) => change({ minutes: target.value })}
            />
            <span className="text-ink-soft">min</span>
          </>
        )}
        <Ways what="time" onWay={(way) => void find(way)} onlyNext={typed.rule === 'span'} />
      </Row>
      <Row name="Go to">
        <select
          aria-label="Event"
          className={fieldClass}
          value={kind}
          onChange={({ target }) => {
            setKind(target.value as EventKind | '');
            setLast(null);
          }}
        >
          <option value="">any event</option>
          {EVENT_KINDS.map((one) => (
            <option key={one} value={one}>
              {EVENT_WORDS[one]}
            </option>
          ))}
        </select>
        <Ways what="event" onWay={goTo} />
      </Row>
      <p role="status" className="min-h-5">
        {said}
      </p>
    </div>
  );
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div role="group" aria-label={name} className="flex flex-wrap items-center gap-2">
      <span className="w-24 font-semibold">{name}</span>
      {children}
    </div>
  );
}

function Ways({
  what,
  onWay,
  onlyNext = false,
}: {
  what: string;
  onWay(way: 'next' | 'previous'): void;
  onlyNext?: boolean;
}) {
  return (
    <>
      {!onlyNext && (
        <button type="button" className={buttonClass} onClick={() => onWay('previous')}>
          Previous<span className="sr-only"> {what}</span>
        </button>
      )}
      <button type="button" className={buttonClass} onClick={() => onWay('next')}>
        Next<span className="sr-only"> {what}</span>
      </button>
    </>
  );
}
