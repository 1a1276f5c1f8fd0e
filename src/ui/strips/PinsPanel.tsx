'use client';
/** Moments and spans that were pinned, with their notes: kept with the job, and printed in its report. */

import { useState } from 'react';
import type { Span } from '@/core/quantity/span';
import type { Pin } from '@/core/system/schema';
import { buttonClass } from '@/ui/primitives/buttons';
import { momentText } from './momentText';

interface Props {
  pins: readonly Pin[];
  zone: string;
  /** What would be pinned: between the marks, or the view. */
  span: Span;
  onAdd(span: Span, note: string): Promise<boolean>;
  onRemove(pin: Pin): void;
  onGo(span: Span): void;
}

export const spanOfPin = ({ from, to }: Pin): Span => ({ from: Date.parse(from), to: Date.parse(to) });

export function PinsPanel({ pins, zone, span, onAdd, onRemove, onGo }: Props) {
  const [note, setNote] = useState('');
  const [isBusy, setBusy] = useState(false);
  async function add(): Promise<void> {
    setBusy(true);
    if (await onAdd(span, note)) setNote('');
    setBusy(false);
  }
  return (
    <div className="text-sm">
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <label className="min-w-56 flex-1">
          <span className="text-ink-soft block text-xs">
            Note for {momentText(span.from, zone)} – {momentText(span.to, zone)}
          </span>
          <input
            className="border-rule-strong bg-paper w-full border px-1.5 py-1"
            value={note}
            maxLength={500}
            onChange={({ target }) => setNote(target.value)}
          />
        </label>
        <button type="submit" className={buttonClass} disabled={isBusy || note.trim() === ''}>
          Pin it
        </button>
      </form>
      {pins.length === 0 ? (
        <p className="text-ink-soft mt-2">Nothing is pinned yet.</p>
      ) : (
        <ul className="divide-rule mt-2 divide-y">
          {pins.map((pin) => (
            <li key={pin.id} className="flex flex-wrap items-center gap-x-3 py-1">
              <button
                type="button"
                className="text-accent font-mono text-xs underline"
                onClick={() => onGo(spanOfPin(pin))}
              >
                {momentText(Date.parse(pin.from), zone)}
              </button>
              <span className="flex-1">{pin.note}</span>
              <button type="button" className="text-ink-soft underline" onClick={() => onRemove(pin)}>
                Take off<span className="sr-only"> the pin “{pin.note}”</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
