'use client';
/** A hydrometer round, typed with gloves on: large fields, one below the other, and the next cell with the return key. */

import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { judgeRounds } from '@/core/hydrometer/judge';
import { type Round, TAKEN_OF } from '@/core/hydrometer/round';
import type { System } from '@/core/system/schema';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { BLOCKS, cellNames, type CellsPerBlock, type Draft, newDraft, roundOf } from './draft';
import { dropDraft, keepDraft, readDraft } from './waiting';

interface Props {
  systemId: string;
  system: System;
  /** Those before, the oldest first. */
  rounds: readonly Round[];
  onKeep(round: Round): Promise<void>;
}

const inputClass = 'border-rule-strong bg-paper block w-full border px-2 py-2 text-base font-normal';
const TAKEN_WORDS = {
  electrolyte: 'the electrolyte',
  case: 'the case (weaker)',
  ambient: 'the air (weakest)',
} as const;

export function RoundForm({ systemId, system, rounds, onKeep }: Props) {
  const [draft, setDraft] = useState<Draft | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [wrongCell, setWrongCell] = useState<string | null>(null);
  const fields = useRef<(HTMLInputElement | null)[]>([]);

  // What was being typed when the tab was closed, or died.
  useEffect(() => {
    let current = true;
    void readDraft<Draft>(systemId)
      .catch(() => undefined)
      .then((kept) => current && setDraft(kept ?? newDraft(system, rounds)));
    return () => {
      current = false;
    };
    // Only when the form opens: a round that comes in later does not touch what is typed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [systemId]);

  const judged = useMemo(() => {
    const made = draft && roundOf(draft);
    return made && 'round' in made ? judgeRounds([made.round], system)[0]! : null;
  }, [draft, system]);

  if (!draft) return <p className="text-ink-soft p-4">Opening the round…</p>;

  const change = (some: Partial<Draft>) => {
    const next = { ...draft, ...some };
    setDraft(next);
    void keepDraft(systemId, next);
  };
  const changeReading = (at: number, some: Partial<Draft['readings'][number]>) =>
    change({ readings: draft.readings.map((one, k) => (k === at ? { ...one, ...some } : one)) });
  const toNext = (event: KeyboardEvent, at: number) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    (fields.current[at + 1] ?? fields.current[at])?.focus();
  };

  async function keep(): Promise<void> {
    if (!draft) return;
    const made = roundOf(draft);
    if ('problem' in made) {
      setProblem(made.problem);
      setWrongCell(made.cell ?? null);
      return;
    }
    setProblem(null);
    setWrongCell(null);
    await onKeep(made.round);
    await dropDraft(systemId);
    setDraft(newDraft(system, [...rounds, made.round]));
  }

  return (
    <form
      aria-label="New round"
      className="border-rule-strong bg-sheet border p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <p className="border-hazard mb-3 border-l-3 pl-2 text-sm">
        Acid: goggles, gloves, rinse water at hand. No sparks, no smoking. Rinse the instrument with distilled
        water, and never put the rinse back into the bottle.
      </p>
      <div className="grid gap-3 sm:grid-cols-3">
        <label className="text-sm font-semibold">
          Taken on
          <input
            type="date"
            required
            className={inputClass}
            value={draft.on}
            onChange={({ target }) => change({ on: target.value })}
          />
        </label>
        <label className="text-sm font-semibold">
          The day after a full charge
          <select
            className={inputClass}
            value={draft.afterFullCharge}
            onChange={({ target }) => change({ afterFullCharge: target.value as Draft['afterFullCharge'] })}
          >
            <option value="">not known</option>
            <option value="yes">yes</option>
            <option value="no">no</option>
          </select>
        </label>
        <label className="text-sm font-semibold">
          Water last added on
          <input
            type="date"
            className={inputClass}
            value={draft.wateredOn}
            onChange={({ target }) => change({ wateredOn: target.value })}
          />
        </label>
        <label className="text-sm font-semibold">
          Temperature, °C
          <input
            inputMode="decimal"
            className={inputClass}
            value={draft.celsius}
            onChange={({ target }) => change({ celsius: target.value })}
          />
        </label>
        <label className="text-sm font-semibold">
          Taken of
          <select
            className={inputClass}
            value={draft.takenOf}
            onChange={({ target }) => change({ takenOf: target.value as Draft['takenOf'] })}
          >
            {TAKEN_OF.map((one) => (
              <option key={one} value={one}>
                {TAKEN_WORDS[one]}
              </option>
            ))}
          </select>
        </label>
        <label className="text-sm font-semibold">
          Instrument, by your own name
          <input
            className={inputClass}
            value={draft.instrument}
            onChange={({ target }) => change({ instrument: target.value })}
          />
        </label>
        <label className="text-sm font-semibold">
          It compensates for temperature
          <select
            className={inputClass}
            value={draft.compensates}
            onChange={({ target }) => change({ compensates: target.value as Draft['compensates'] })}
          >
            <option value="">not known</option>
            <option value="yes">yes</option>
            <option value="no">no</option>
          </select>
        </label>
        <label className="text-sm font-semibold">
          Cells are named
          <select
            className={inputClass}
            value=""
            onChange={({ target }) => {
              const names = cellNames(draft.readings.length, Number(target.value) as CellsPerBlock);
              change({ readings: draft.readings.map((one, k) => ({ ...one, cell: names[k]! })) });
            }}
          >
            <option value="" disabled>
              {draft.readings[0]?.cell} to {draft.readings.at(-1)?.cell}
            </option>
            {BLOCKS.map(({ cells, name }) => (
              <option key={cells} value={cells}>
                {name}
              </option>
            ))}
          </select>
        </label>
      </div>
      <fieldset className="mt-3">
        <legend className="text-sm font-semibold">
          Specific gravity of each cell, such as 1.250 or 1250
        </legend>
        <ol className="mt-1 grid grid-cols-2 gap-2 sm:grid-cols-4 lg:grid-cols-6">
          {draft.readings.map((one, k) => {
            const found = judged?.readings.find((each) => each.cell === one.cell);
            return (
              <li key={k}>
                <label className="block">
                  <span className="font-mono text-sm">
                    Cell {one.cell}
                    {found?.isLow && <span className="text-hazard"> low</span>}
                  </span>
                  <input
                    ref={(element) => {
                      fields.current[k] = element;
                    }}
                    inputMode="decimal"
                    enterKeyHint="next"
                    aria-invalid={wrongCell === one.cell}
                    className={`${inputClass} font-mono text-lg`}
                    value={one.gravity}
                    onChange={({ target }) => changeReading(k, { gravity: target.value })}
                    onKeyDown={(event) => toNext(event, k)}
                  />
                </label>
              </li>
            );
          })}
        </ol>
        <div className="mt-2 flex gap-2">
          <button
            type="button"
            className={buttonClass}
            onClick={() =>
              change({
                readings: [
                  ...draft.readings,
                  { cell: String(draft.readings.length + 1), gravity: '', celsius: '' },
                ],
              })
            }
          >
            One cell more
          </button>
          <button
            type="button"
            className={buttonClass}
            disabled={draft.readings.length < 2}
            onClick={() => change({ readings: draft.readings.slice(0, -1) })}
          >
            One less
          </button>
        </div>
      </fieldset>
      <label className="mt-3 block text-sm font-semibold">
        Notes
        <textarea
          rows={2}
          className={inputClass}
          value={draft.notes}
          onChange={({ target }) => change({ notes: target.value })}
        />
      </label>
      {judged && (
        <p className="mt-2 text-sm" aria-live="polite">
          {judged.readings.length} read, mean {judged.mean.toFixed(3)}, {Math.round(1000 * judged.spread)}{' '}
          points apart.
        </p>
      )}
      {problem && (
        <p role="alert" className="text-hazard mt-2 text-sm">
          {problem}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="submit" className={`${mainButtonClass} min-h-11`}>
          Keep the round
        </button>
        <button
          type="button"
          className={`${buttonClass} min-h-11`}
          onClick={() => {
            void dropDraft(systemId);
            setDraft(newDraft(system, rounds));
            setProblem(null);
          }}
        >
          Begin anew
        </button>
      </div>
    </form>
  );
}
