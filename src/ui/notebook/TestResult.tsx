'use client';
/** What a test found, written down: a question for each thing that it tells, and every cause that asks for it is weighed by the answer. */

import { useState } from 'react';
import type { FieldTestOut } from '@/core/diagnosis/result';
import type { TestResult as Result } from '@/core/system/schema';
import { AskDialog, DayField, DialogEnd, LinesField } from '@/ui/primitives/AskDialog';
import { today } from '@/ui/primitives/today';

interface Props {
  test: FieldTestOut;
  /** Null when it is saved; else what went wrong. */
  onSave(result: Result): Promise<string | null>;
}

export const TestResult = ({ test, onSave }: Props) => (
  <AskDialog trigger="Write down the result" title={test.title}>
    {(close) => <ResultForm test={test} onSave={onSave} onDone={close} />}
  </AskDialog>
);

function ResultForm({ test, onSave, onDone }: Props & { onDone(): void }) {
  const [chosen, setChosen] = useState<Record<number, number>>({});
  const [on, setOn] = useState(today);
  const [note, setNote] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  async function save(): Promise<void> {
    if (Object.keys(chosen).length === 0) {
      setProblem('Choose what was found, for one question at least.');
      return;
    }
    setBusy(true);
    const outcomes = Object.fromEntries(
      test.asks.flatMap(({ causes }, k) =>
        chosen[k] === undefined ? [] : causes.map((cause) => [cause, chosen[k]!] as const),
      ),
    );
    const wrong = await onSave({
      test: test.test,
      on,
      outcomes,
      ...(note.trim() === '' ? {} : { note: note.trim() }),
    });
    setBusy(false);
    setProblem(wrong);
    if (wrong === null) onDone();
  }

  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <p className="text-ink-soft text-sm">{test.how}</p>
      {test.caution && <p className="border-hazard mt-1 border-l-3 pl-2 text-sm">{test.caution}</p>}
      {test.asks.map(({ about, outcomes }, k) => (
        <fieldset key={about} className="border-rule mt-3 border-t pt-2">
          <legend className="sr-only">{about}</legend>
          <p className="text-ink-soft text-xs" aria-hidden>
            {about}
          </p>
          {[...outcomes, 'not looked at'].map((outcome, i) => (
            <label key={outcome} className="flex min-h-[28px] items-center gap-2 text-sm">
              <input
                type="radio"
                name={`question-${k}`}
                className="accent-accent size-4"
                checked={i === outcomes.length ? chosen[k] === undefined : chosen[k] === i}
                onChange={() =>
                  setChosen(({ [k]: _, ...rest }) => (i === outcomes.length ? rest : { ...rest, [k]: i }))
                }
              />
              {outcome}
            </label>
          ))}
        </fieldset>
      ))}
      <DayField label="Tested on" value={on} onChange={setOn} />
      <LinesField label="Figures and notes" rows={2} value={note} onChange={setNote} />
      <DialogEnd problem={problem} disabled={busy}>
        Keep the result
      </DialogEnd>
    </form>
  );
}
