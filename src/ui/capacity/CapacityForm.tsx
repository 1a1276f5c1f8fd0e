'use client';
/** A capacity test from the plan to the last reading. It goes on after the tab was closed, and without the network. */

import { DateTime } from 'luxon';
import { useState } from 'react';
import { judgeTest } from '@/core/capacity/judge';
import { type CapacityTest, ENDED_BY, type EndedBy } from '@/core/capacity/record';
import { runningTest } from '@/core/capacity/running';
import { testText } from '@/core/capacity/text';
import { duration, volts } from '@/core/quantity/text';
import { HOUR, MINUTE } from '@/core/quantity/span';
import { isLead } from '@/core/system/chemistry';
import type { System } from '@/core/system/schema';
import { buttonClass, mainButtonClass } from '@/ui/primitives/buttons';
import { Choice, recordInputClass, Typed } from '@/ui/records/fields';
import { YES_NO } from '@/ui/records/typed';
import { dropDraft, keepDraft } from '@/ui/records/waiting';
import { WithDraft } from '@/ui/records/WithDraft';
import {
  type CapacityDraft,
  capacityTestOf,
  type DraftReading,
  newCapacityDraft,
  nextReading,
  planOf,
  ratedOf,
  usableReadings,
} from './draft';

interface Props {
  systemId: string;
  system: System;
  onKeep(test: CapacityTest): Promise<void>;
}

const KIND = 'capacity-test';
const ENDED_WORDS: Record<EndedBy, string> = {
  'end-voltage': 'the end voltage was reached',
  cell: 'one cell was too low',
  bms: 'the BMS cut it off',
  knee: 'its voltage fell away',
  stopped: 'it was stopped early',
};

/** Opens with the test that runs, if there is one. */
export const CapacityForm = (props: Props) => (
  <WithDraft<CapacityDraft> systemId={props.systemId} kind={KIND} noun="test">
    {(kept) => <OpenTest {...props} kept={kept} />}
  </WithDraft>
);

function OpenTest({ systemId, system, onKeep, kept }: Props & { kept: CapacityDraft | null }) {
  const [draft, setDraft] = useState<CapacityDraft>(() => kept ?? newCapacityDraft(system));
  const [problem, setProblem] = useState<string | null>(null);
  const plan = planOf(draft, system);
  const isRunning = draft.startedAt !== null;

  const change = (some: Partial<CapacityDraft>) => {
    const next = { ...draft, ...some };
    setDraft(next);
    void keepDraft(systemId, KIND, next);
  };
  const field = (
    key: 'amps' | 'celsius' | 'ratedAh' | 'ratedHours' | 'exponent',
    label: string,
    unit: string,
  ) => (
    <Typed
      label={label}
      unit={unit}
      isNumber
      value={draft[key]}
      onChange={(value) => change({ [key]: value })}
    />
  );
  const begin = () => {
    const startedAt = Date.now();
    const started = { ...draft, startedAt };
    change({ startedAt, readings: [nextReading(started, startedAt)] });
  };
  const beginAnew = () => {
    void dropDraft(systemId, KIND);
    setDraft(newCapacityDraft(system));
    setProblem(null);
  };

  async function keep(): Promise<void> {
    const made = capacityTestOf(draft, plan);
    if ('problem' in made) {
      setProblem(made.problem);
      return;
    }
    await onKeep(made.test);
    beginAnew();
  }

  return (
    <form
      aria-label="New capacity test"
      className="border-rule-strong bg-sheet border p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <p className="border-hazard mb-3 border-l-3 pl-2 text-sm">
        Do not leave the battery alone while it is emptied. Insulated tools, no jewellery, ventilate. Charge
        it again at once: a lead battery that stands empty sulphates. The maker’s sheet goes before these
        figures.
      </p>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        {field('amps', 'Steady load', 'A')}
        {field('celsius', 'Battery temperature', '°C')}
        <Choice
          label="Full, and rested since"
          value={draft.wasFull}
          options={YES_NO}
          onChange={(wasFull) => change({ wasFull })}
        />
        <Typed label="Made on" type="date" value={draft.on} onChange={(on) => change({ on })} />
        {field('ratedAh', 'Rated capacity', 'Ah')}
        {field('ratedHours', 'At the hour rate', 'h')}
        {field('exponent', 'Peukert exponent', '')}
      </div>
      {plan ? <PlanText plan={plan} system={system} /> : <PlanMissing system={system} />}
      {!isRunning ? (
        <button type="button" className={`${mainButtonClass} mt-3 min-h-11`} disabled={!plan} onClick={begin}>
          The load is on: start the clock
        </button>
      ) : (
        <Readings draft={draft} system={system} change={change} />
      )}
      {isRunning && (
        <>
          <div className="mt-3 grid gap-3 sm:grid-cols-2">
            <Choice
              label="It ended because"
              value={draft.endedBy}
              options={ENDED_BY.map((one) => [one, ENDED_WORDS[one]] as const)}
              onChange={(endedBy) => change({ endedBy })}
            />
            <Typed label="Notes" value={draft.notes} onChange={(notes) => change({ notes })} />
          </div>
          <Outcome draft={draft} system={system} />
        </>
      )}
      {problem && (
        <p role="alert" className="text-hazard mt-2 text-sm">
          {problem}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        {isRunning && (
          <button type="submit" className={`${mainButtonClass} min-h-11`}>
            Keep the test
          </button>
        )}
        {isRunning && (
          <button type="button" className={`${buttonClass} min-h-11`} onClick={beginAnew}>
            Begin anew
          </button>
        )}
      </div>
    </form>
  );
}

function PlanMissing({ system: { bank } }: { system: System }) {
  const missing = !bank.chemistry
    ? 'the chemistry of the bank: describe it first'
    : !bank.cellsInSeries
      ? 'the number of cells: describe the bank first'
      : 'load, rating, hour rate and exponent';
  return <p className="text-ink-soft mt-3 text-sm">Missing for the plan: {missing}.</p>;
}

function PlanText({
  plan,
  system: { bank },
}: {
  plan: NonNullable<ReturnType<typeof planOf>>;
  system: System;
}) {
  const cold = plan.share < 0.99 ? ` (${duration(plan.ratedHours * HOUR)} at 25 °C)` : '';
  return (
    <ol className="mt-3 list-decimal pl-5 text-sm">
      <li>
        Charge it until it is truly full, then let it stand{' '}
        {bank.chemistry && isLead(bank.chemistry) ? 'overnight' : 'an hour'}; read its temperature.
      </li>
      <li>
        At this load a battery in good order lasts about{' '}
        <strong className="font-mono">{duration(plan.expectedHours * HOUR)}</strong>
        {cold}.
      </li>
      <li>
        Stop at <strong className="font-mono">{volts(plan.endVolts)}</strong> at the posts, or when one cell
        is at {volts(plan.lowestCellVolts)}. Hold the load steady; read voltage, current and the lowest cell.
      </li>
    </ol>
  );
}

const READING_FIELDS = [
  { key: 'minutes', label: 'Minutes' },
  { key: 'volts', label: 'V' },
  { key: 'amps', label: 'A' },
  { key: 'lowestCellVolts', label: 'Lowest cell, V' },
  { key: 'cell', label: 'Cell' },
] as const satisfies readonly { key: keyof DraftReading; label: string }[];

function Readings({
  draft,
  system,
  change,
}: {
  draft: CapacityDraft;
  system: System;
  change(some: Partial<CapacityDraft>): void;
}) {
  const plan = planOf(draft, system);
  const running = plan && runningTest(plan, usableReadings(draft), ratedOf(draft));
  const at = (minutes: number) => DateTime.fromMillis(draft.startedAt! + minutes * MINUTE).toFormat('HH:mm');
  return (
    <fieldset className="mt-3">
      <legend className="text-sm font-semibold">
        Readings; the load went on at {DateTime.fromMillis(draft.startedAt!).toFormat('HH:mm')}
      </legend>
      {running && (
        <div className="my-2 text-sm" aria-live="polite">
          {running.lines.map((one) => (
            <p key={one}>{one}</p>
          ))}
          {running.stop ? (
            <p className="text-hazard font-semibold">{running.stop}</p>
          ) : (
            <p>
              Read again at <strong className="font-mono">{at(running.readAt)}</strong>.
            </p>
          )}
        </div>
      )}
      <ol className="flex flex-col gap-2">
        {draft.readings.map((one, row) => (
          <li key={row} className="grid grid-cols-3 gap-2 sm:grid-cols-5">
            {READING_FIELDS.map(({ key, label }) => (
              <label key={key} className="text-xs">
                {label}
                <span className="sr-only"> of reading {row + 1}</span>
                <input
                  inputMode={key === 'cell' ? undefined : 'decimal'}
                  className={`${recordInputClass} font-mono`}
                  value={one[key]}
                  onChange={({ target }) =>
                    change({
                      readings: draft.readings.map((each, k) =>
                        k === row ? { ...each, [key]: target.value } : each,
                      ),
                    })
                  }
                />
              </label>
            ))}
          </li>
        ))}
      </ol>
      <div className="mt-2 flex gap-2">
        <button
          type="button"
          className={`${buttonClass} min-h-11`}
          onClick={() => change({ readings: [...draft.readings, nextReading(draft, Date.now())] })}
        >
          Read now
        </button>
        <button
          type="button"
          className={`${buttonClass} min-h-11`}
          disabled={draft.readings.length < 2}
          onClick={() => change({ readings: draft.readings.slice(0, -1) })}
        >
          Take off the last
        </button>
      </div>
    </fieldset>
  );
}

function Outcome({ draft, system }: { draft: CapacityDraft; system: System }) {
  const made = capacityTestOf(draft, planOf(draft, system));
  if (!('test' in made)) return null;
  const judged = judgeTest(made.test, system);
  return (
    <div className="border-accent mt-3 border-l-3 pl-2 text-sm">
      <p>{testText(judged)}</p>
      {judged.weak.map((one) => (
        <p key={one} className="text-ink-soft">
          {one}
        </p>
      ))}
    </div>
  );
}
