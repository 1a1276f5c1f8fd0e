'use client';
/** A hydrometer round, typed with gloves on: large fields, one below the other, and the next cell with the return key. */

import { type KeyboardEvent, useMemo, useRef, useState } from 'react';
import { judgeRounds } from '@/core/hydrometer/judge';
import { type Round, TAKEN_OF } from '@/core/hydrometer/round';
import type { System } from '@/core/system/schema';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { BLOCKS, cellNames, type CellsPerBlock, type Draft, newDraft, roundOf } from './draft';
import { Choice, recordInputClass, Typed } from '@/ui/records/fields';
import { YES_NO } from '@/ui/records/typed';
import { dropDraft, keepDraft } from '@/ui/records/waiting';
import { WithDraft } from '@/ui/records/WithDraft';

interface Props {
  systemId: string;
  system: System;
  /** Those before, the oldest first. */
  rounds: readonly Round[];
  onKeep(round: Round): Promise<void>;
}

const KIND = 'hydrometer-round';
const TAKEN_WORDS = {
  electrolyte: 'the electrolyte',
  case: 'the case (weaker)',
  ambient: 'the air (weakest)',
} as const;

/** Opens with what was being typed when the tab was closed, or died; else with a new round. */
export const RoundForm = (props: Props) => (
  <WithDraft<Draft> systemId={props.systemId} kind={KIND} noun="round">
    {(kept) => <OpenRound {...props} kept={kept} />}
  </WithDraft>
);

function OpenRound({ systemId, system, rounds, onKeep, kept }: Props & { kept: Draft | null }) {
  // A round that comes in later does not touch what is typed.
  const [draft, setDraft] = useState<Draft>(() => kept ?? newDraft(system, rounds));
  const [problem, setProblem] = useState<string | null>(null);
  const [wrongCell, setWrongCell] = useState<string | null>(null);
  const fields = useRef<(HTMLInputElement | null)[]>([]);

  const judged = useMemo(() => {
    const made = roundOf(draft);
    return 'round' in made ? judgeRounds([made.round], system)[0]! : null;
  }, [draft, system]);

  const change = (some: Partial<Draft>) => {
    const next = { ...draft, ...some };
    setDraft(next);
    void keepDraft(systemId, KIND, next);
  };
  const changeReading = (at: number, some: Partial<Draft['readings'][number]>) =>
    change({ readings: draft.readings.map((one, k) => (k === at ? { ...one, ...some } : one)) });
  const toNext = (event: KeyboardEvent, at: number) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    (fields.current[at + 1] ?? fields.current[at])?.focus();
  };

  async function keep(): Promise<void> {
    const made = roundOf(draft);
    if ('problem' in made) {
      setProblem(made.problem);
      setWrongCell(made.cell ?? null);
      return;
    }
    setProblem(null);
    setWrongCell(null);
    await onKeep(made.round);
    await dropDraft(systemId, KIND);
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
        <Typed label="Taken on" type="date" value={draft.on} onChange={(on) => change({ on })} />
        <Choice
          label="The day after a full charge"
          value={draft.afterFullCharge}
          options={YES_NO}
          onChange={(afterFullCharge) => change({ afterFullCharge })}
        />
        <Typed
          label="Water last added on"
          type="date"
          value={draft.wateredOn}
          onChange={(wateredOn) => change({ wateredOn })}
        />
        <Typed
          label="Temperature, °C"
          value={draft.celsius}
          isNumber
          onChange={(celsius) => change({ celsius })}
        />
        <Choice
          label="Taken of"
          value={draft.takenOf}
          options={TAKEN_OF.map((one) => [one, TAKEN_WORDS[one]] as const)}
          onChange={(takenOf) => change({ takenOf })}
        />
        <Typed
          label="Instrument, by your own name"
          value={draft.instrument}
          onChange={(instrument) => change({ instrument })}
        />
        <Choice
          label="It compensates for temperature"
          value={draft.compensates}
          options={YES_NO}
          onChange={(compensates) => change({ compensates })}
        />
        <label className="text-sm font-semibold">
          Cells are named
          <select
            className={recordInputClass}
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
                    className={`${recordInputClass} font-mono text-lg`}
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
            Add a cell
          </button>
          <button
            type="button"
            className={buttonClass}
            disabled={draft.readings.length < 2}
            onClick={() => change({ readings: draft.readings.slice(0, -1) })}
          >
            Take off the last
          </button>
        </div>
      </fieldset>
      <label className="mt-3 block text-sm font-semibold">
        Notes
        <textarea
          rows={2}
          className={recordInputClass}
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
            void dropDraft(systemId, KIND);
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
