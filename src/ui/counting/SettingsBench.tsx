'use client';
/** The monitor's settings tried over the whole log: sliders, the schools as presets, and what each would have given. */

import { Slider } from 'radix-ui';
import { useMemo, useState } from 'react';
import { schoolPresets, type Trial } from '@/core/count/bench';
import type { CounterSettings } from '@/core/count/settings';
import type { Diagnosis } from '@/core/diagnosis/result';
import { counted } from '@/core/quantity/text';
import { HOUR } from '@/core/quantity/span';
import { blocksInSeries, isLead } from '@/core/system/chemistry';
import { type KnownBank, knownSystem } from '@/core/system/known';
import type { System } from '@/core/system/schema';
import { buttonClass } from '@/ui/primitives/buttons';
import { BenchChart } from './BenchChart';
import { useBench } from './useBench';

interface Props {
  jobId: string;
  system: System;
  diagnosis: Diagnosis;
}

interface Field {
  name: Exclude<keyof CounterSettings, 'peukertBelowRate'>;
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
}

function fieldsOf(bank: KnownBank): Field[] {
  const blocks = blocksInSeries(bank);
  const lead = isLead(bank.chemistry);
  const ah = bank.capacityAh;
  return [
    {
      name: 'chargedV',
      label: 'Charged voltage',
      unit: 'V',
      min: 12.6 * blocks,
      max: 15 * blocks,
      step: 0.05 * blocks,
    },
    { name: 'tailPercent', label: 'Tail current', unit: '% of capacity', min: 0.5, max: 20, step: 0.5 },
    { name: 'detectionMinutes', label: 'Detection time', unit: 'min', min: 0, max: 60, step: 1 },
    {
      name: 'efficiencyPercent',
      label: 'Charge efficiency',
      unit: '%',
      min: lead ? 50 : 80,
      max: 100,
      step: 1,
    },
    {
      name: 'capacityAh',
      label: 'Capacity',
      unit: 'Ah',
      min: Math.round(ah / 4),
      max: Math.round(2.5 * ah),
      step: ah > 250 ? 5 : 1,
    },
    { name: 'peukert', label: 'Peukert exponent', unit: '', min: 1, max: 1.5, step: 0.01 },
    { name: 'thresholdA', label: 'Zero threshold', unit: 'A', min: 0, max: 2, step: 0.05 },
  ];
}

const digitsOf = (step: number): number => (step >= 1 ? 0 : step >= 0.1 ? 1 : 2);

export function SettingsBench({ jobId, system, diagnosis }: Props) {
  const { counting, soc } = diagnosis;
  const bank = knownSystem(system)!.bank;
  const told = useMemo(() => counting!.settings as unknown as CounterSettings, [counting]);
  const [settings, setSettings] = useState<CounterSettings>(told);
  const fields = useMemo(() => fieldsOf(bank), [bank]);
  const presets = useMemo(() => {
    const held = (of: 'absorptionV' | 'floatV') =>
      diagnosis.setpoints.flatMap((one) => (one[of] === null ? [] : [one[of]]));
    const absorption = held('absorptionV');
    const float = held('floatV');
    return schoolPresets(
      bank,
      {
        absorption:
          absorption.length > 0 ? Math.min(...absorption) : (bank.chargeVolts.min + bank.chargeVolts.max) / 2,
        float: float.length > 0 ? Math.min(...float) : null,
      },
      told,
    );
  }, [bank, diagnosis, told]);
  const [start] = useState(() => ({
    url: `/api/jobs/${jobId}/counter`,
    truth: {
      from: Date.parse(soc!.from),
      stepMs: soc!.stepHours * HOUR,
      percent: soc!.reference.map((one) => one ?? NaN),
      band: soc!.band.map((one) => one ?? NaN),
    },
    fulls: diagnosis.charges
      .filter((one) => one.full)
      .map((one) => ({ from: Date.parse(one.from), to: Date.parse(one.to) })),
    start: soc!.reference.find((one) => one !== null) ?? 50,
  }));
  const withTold = useMemo(() => [{ name: 'As it is set', settings: told }, ...presets], [told, presets]);
  const bench = useBench(start, settings, withTold, setSettings);
  const set = (name: keyof CounterSettings, value: number) =>
    setSettings((now) => ({ ...now, [name]: value }));

  return (
    <section aria-label="Settings bench">
      <BenchChart soc={soc!} replayed={bench.replayed} zone={system.timeZone} />
      {bench.problem && (
        <p role="alert" className="border-hazard my-2 border-l-3 pl-2 text-sm">
          {bench.problem}
        </p>
      )}
      <p className="my-2 text-sm" aria-live="polite">
        {!bench.ready && !bench.problem
          ? 'The log is being fetched.'
          : bench.replayed
            ? trialText(bench.replayed.trial, start.fulls.length)
            : ''}
      </p>
      <div className="grid gap-4 lg:grid-cols-2">
        <fieldset className="border-rule-strong bg-sheet border p-3" disabled={!bench.ready}>
          <legend className="px-1 text-sm font-semibold">Settings tried</legend>
          <div className="flex flex-col gap-2">
            {fields.map(({ name, label, unit, min, max, step }) => (
              <div key={name} className="grid grid-cols-[8.5rem_1fr_8rem] items-center gap-2 text-sm">
                <label htmlFor={`bench-${name}`}>{label}</label>
                <Slider.Root
                  className="relative flex h-6 touch-none items-center select-none"
                  min={min}
                  max={max}
                  step={step}
                  value={[Math.min(max, Math.max(min, settings[name]))]}
                  disabled={!bench.ready}
                  onValueChange={([value]) => set(name, Number(value!.toFixed(3)))}
                >
                  <Slider.Track className="bg-rule-strong relative h-[3px] grow">
                    <Slider.Range className="bg-accent absolute h-full" />
                  </Slider.Track>
                  <Slider.Thumb
                    aria-label={label}
                    className="border-accent bg-sheet block size-4 rounded-full border-2"
                  />
                </Slider.Root>
                <span className="flex items-center gap-1">
                  <input
                    id={`bench-${name}`}
                    type="number"
                    className="border-rule-strong bg-paper w-18 border px-1.5 py-0.5 text-right font-mono"
                    min={0}
                    step={step}
                    value={Number(settings[name].toFixed(digitsOf(step)))}
                    onChange={(event) => {
                      const value = event.target.valueAsNumber;
                      if (Number.isFinite(value) && value >= 0) set(name, value);
                    }}
                  />
                  <span className="text-ink-soft text-xs">{unit === '% of capacity' ? '%' : unit}</span>
                </span>
              </div>
            ))}
            <label className="flex items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="accent-accent size-4"
                checked={settings.peukertBelowRate}
                onChange={(event) =>
                  setSettings((now) => ({ ...now, peukertBelowRate: event.target.checked }))
                }
              />
              The exponent works below the rated current too
            </label>
          </div>
        </fieldset>
        <div>
          <div
            className="border-rule-strong bg-sheet overflow-x-auto border"
            tabIndex={0}
            role="region"
            aria-label="What each school would have given"
          >
            <table className="w-full border-collapse text-left text-xs">
              <thead>
                <tr className="border-rule-strong text-ink-soft border-b">
                  <th scope="col" className="px-2 py-1 font-normal">
                    Settings
                  </th>
                  <th scope="col" className="px-2 py-1 text-right font-normal">
                    Off by
                  </th>
                  <th scope="col" className="px-2 py-1 text-right font-normal">
                    Syncs
                  </th>
                  <th scope="col" className="px-2 py-1 text-right font-normal">
                    False
                  </th>
                  <th scope="col" className="px-2 py-1 text-right font-normal">
                    Missed
                  </th>
                  <th scope="col" className="px-2 py-1">
                    <span className="sr-only">Try</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {withTold.map(({ name, settings: some }, k) => {
                  const trial = bench.trials[k];
                  return (
                    <tr key={name} className="border-rule border-b">
                      <th scope="row" className="px-2 py-1 font-semibold">
                        {name}
                      </th>
                      <td className="px-2 py-1 text-right font-mono">{trial ? offText(trial) : '–'}</td>
                      <td className="px-2 py-1 text-right font-mono">{trial?.syncs ?? '–'}</td>
                      <td className="px-2 py-1 text-right font-mono">{trial?.wrong ?? '–'}</td>
                      <td className="px-2 py-1 text-right font-mono">{trial?.missed ?? '–'}</td>
                      <td className="px-2 py-1 text-right">
                        <button
                          type="button"
                          className="text-accent underline"
                          aria-label={`Try ${name}`}
                          onClick={() => setSettings(some)}
                        >
                          try
                        </button>
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
          <div className="mt-3 flex items-center gap-3">
            <button
              type="button"
              className={buttonClass}
              disabled={!bench.ready || bench.fitting !== null}
              onClick={() =>
                bench.fit(
                  bank,
                  withTold.map((one) => one.settings),
                )
              }
            >
              Fit to this log
            </button>
            {bench.fitting !== null && (
              <progress className="accent-accent" value={bench.fitting} aria-label="Fitting">
                {Math.round(100 * bench.fitting)} %
              </progress>
            )}
          </div>
          <p className="text-ink-soft mt-2 text-xs">
            Off by: the usual distance of the replayed reading from the true charge, in points. False: syncs
            with the battery under 90 %. Missed: full charges after which the reading did not stand at full.
            The fit takes the settings with the smallest error that keep syncs true over this whole log; weigh
            it against the schools before you set it.
          </p>
        </div>
      </div>
    </section>
  );
}

const offText = ({ off }: Trial): string => (Number.isFinite(off) ? off.toFixed(1) : '–');

function trialText(trial: Trial, fulls: number): string {
  const off = Number.isFinite(trial.off)
    ? `The replayed reading is ${trial.off.toFixed(1)} points off as a rule`
    : 'How far it is off cannot be told';
  const wrong = trial.wrong === 0 ? 'none of them false' : `${trial.wrong} of them false`;
  const missed =
    fulls === 0
      ? ''
      : trial.missed === 0
        ? '; no full charge is missed'
        : `; ${counted(trial.missed, 'full charge')} of ${fulls} missed`;
  const jump = Number.isFinite(trial.jump)
    ? ` The usual jump at a sync is ${trial.jump.toFixed(1)} points.`
    : '';
  return `${off}, with ${counted(trial.syncs, 'sync')}${trial.syncs > 0 ? `, ${wrong}` : ''}${missed}.${jump}`;
}
