'use client';
/** What a test found, written down: a question for each thing that it tells, and every cause that asks for it is weighed by the answer. */

import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { FieldTestOut } from '@/core/diagnosis/result';
import type { TestResult as Result } from '@/core/system/schema';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';

interface Props {
  test: FieldTestOut;
  /** Null when it is saved; else what went wrong. */
  onSave(result: Result): Promise<string | null>;
}

export function TestResult({ test, onSave }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className={buttonClass}>Write down the result</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-rule-strong bg-sheet fixed top-1/2 left-1/2 max-h-[90dvh] w-[min(32rem,calc(100vw-2rem))] -translate-1/2 overflow-y-auto border p-4"
        >
          <Dialog.Title className="font-semibold">{test.title}</Dialog.Title>
          {open && <ResultForm test={test} onSave={onSave} onDone={() => setOpen(false)} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function ResultForm({ test, onSave, onDone }: Props & { onDone(): void }) {
  const [chosen, setChosen] = useState<Record<number, number>>({});
  const [on, setOn] = useState(() => new Date().toLocaleDateString('sv'));
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
      <label className="mt-3 block text-sm font-semibold">
        Tested on
        <input
          type="date"
          className="border-rule-strong bg-paper mt-0.5 block border px-1.5 py-1 font-normal"
          value={on}
          required
          onChange={({ target }) => setOn(target.value)}
        />
      </label>
      <label className="mt-2 block text-sm font-semibold">
        Figures and notes
        <textarea
          rows={2}
          className="border-rule-strong bg-paper mt-0.5 block w-full border px-1.5 py-1 font-normal"
          value={note}
          onChange={({ target }) => setNote(target.value)}
        />
      </label>
      {problem && (
        <p role="alert" className="text-hazard mt-2 text-sm">
          {problem}
        </p>
      )}
      <div className="mt-3 flex justify-end gap-2">
        <Dialog.Close className={buttonClass}>Leave it</Dialog.Close>
        <button type="submit" className={mainButtonClass} disabled={busy}>
          Keep the result
        </button>
      </div>
    </form>
  );
}
