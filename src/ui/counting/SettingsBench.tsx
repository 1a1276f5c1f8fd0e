'use client';
/** The monitor's settings tried over the whole log: sliders, the schools as presets, and what each would have given. */

import { useMemo, useState } from 'react';
import { schoolPresets } from '@/core/count/bench';
import type { CounterSettings } from '@/core/count/settings';
import type { Diagnosis } from '@/core/diagnosis/result';
import type { RecordingInfo } from '@/core/log/recording';
import { HOUR } from '@/core/quantity/span';
import { knownSystem } from '@/core/system/known';
import type { System } from '@/core/system/schema';
import { buttonClass } from '@/ui/primitives/buttons';
import { Options } from '@/ui/primitives/Options';
import { TakeOver } from '@/ui/primitives/TakeOver';
import { useChosenEarly } from '@/ui/primitives/useChosenEarly';
import { BenchChart } from './BenchChart';
import { type BenchKind, benchKinds } from './benchKinds';
import { SettingFields } from './SettingFields';
import { takenSettings } from './takenSettings';
import { TrialsTable } from './TrialsTable';
import { reasonText, trialText } from './trialText';
import { useBench } from './useBench';

interface Props {
  jobId: string;
  systemId: string;
  system: System;
  systemVersion: number;
  recordings: readonly RecordingInfo[];
  diagnosis: Diagnosis;
}

export function SettingsBench(props: Props) {
  const { system, diagnosis, recordings } = props;
  const configured = useMemo(() => diagnosis.counting!.settings as unknown as CounterSettings, [diagnosis]);
  const [settings, setSettings] = useState(configured);
  const kinds = useMemo(() => {
    const logged = recordings
      .filter(({ channels }) => channels.includes('source_current') || channels.includes('load_current'))
      .map((one) => one.device);
    return benchKinds(system, knownSystem(system)!.bank, diagnosis, logged);
  }, [system, diagnosis, recordings]);
  const [kind, setKind] = useState(kinds[0]!.id);
  const ref = useChosenEarly(kind, setKind);
  return (
    <section aria-label="Settings bench">
      <label className="mb-2 flex flex-wrap items-baseline gap-x-2 text-sm">
        The percentage is made from
        <select
          ref={ref}
          className="border-rule-strong bg-paper max-w-full border px-1.5 py-1"
          value={kind}
          onChange={({ target }) => setKind(target.value)}
        >
          <Options of={kinds.map(({ id, name }) => [id, name])} />
        </select>
      </label>
      <Bench
        key={kind}
        {...props}
        {...{ configured, settings, setSettings }}
        kind={kinds.find((one) => one.id === kind)!}
      />
    </section>
  );
}

interface BenchProps extends Props {
  kind: BenchKind;
  /** As the monitor was set while the log ran. */
  configured: CounterSettings;
  settings: CounterSettings;
  setSettings(settings: CounterSettings): void;
}

function Bench(props: BenchProps) {
  const { jobId, systemId, system, systemVersion, diagnosis, kind, configured, settings, setSettings } =
    props;
  const { soc } = diagnosis;
  const bank = knownSystem(system)!.bank;
  const presets = useMemo(() => {
    const held = (of: 'absorptionV' | 'floatV') =>
      diagnosis.setpoints.flatMap((one) => (one[of] === null ? [] : [one[of]]));
    const absorption = held('absorptionV');
    const float = held('floatV');
    return [
      { name: 'As it was set', settings: configured },
      ...schoolPresets(
        bank,
        {
          absorption:
            absorption.length > 0
              ? Math.min(...absorption)
              : (bank.chargeVolts.min + bank.chargeVolts.max) / 2,
          float: float.length > 0 ? Math.min(...float) : null,
        },
        configured,
      ),
    ];
  }, [bank, diagnosis, configured]);
  const [start] = useState(() => ({
    url: `/api/jobs/${jobId}/counter?${new URLSearchParams({ of: kind.of.join(), less: kind.less.join() })}`,
    by: kind.by,
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
  const bench = useBench(start, settings, presets, setSettings);
  const counts = kind.by.by === 'count';

  return (
    <>
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
      {kind.by.by === 'voltage' ? (
        <p className="text-ink-soft max-w-3xl text-sm">
          There is nothing to set: such a display shows the charge that a rested battery has at this voltage,
          and jumps with every load and charger.
        </p>
      ) : (
        <div className="grid gap-4 lg:grid-cols-2">
          <SettingFields {...{ bank, settings }} disabled={!bench.ready} onChange={setSettings} />
          <div>
            <TrialsTable presets={presets} trials={bench.trials} onTry={setSettings} />
            <div className="mt-3 flex items-center gap-3">
              <button
                type="button"
                className={buttonClass}
                disabled={!bench.ready || bench.fitting !== null}
                onClick={() =>
                  bench.fit(
                    bank,
                    presets.map((one) => one.settings),
                  )
                }
              >
                Fit to this log
              </button>
              {counts && (
                <TakeOver
                  {...{ systemId, systemVersion }}
                  rows={takenSettings(system, settings)}
                  on="the monitor"
                  reason={bench.replayed ? reasonText(bench.replayed.trial, bench.trials[0]) : ''}
                  disabled={!bench.replayed || !system.monitor}
                />
              )}
              {bench.fitting !== null && (
                <progress className="accent-accent" value={bench.fitting} aria-label="Fitting">
                  {Math.round(100 * bench.fitting)} %
                </progress>
              )}
            </div>
            <p className="text-ink-soft mt-2 text-xs">
              Off by: the usual distance of the replayed reading from the true charge, in points. False: syncs
              with the battery plainly under 90 %. Missed: full charges after which the reading did not stand
              at full. The fit takes the settings with the smallest error that keep syncs true over this whole
              log; weigh it against the schools before you set it.
            </p>
          </div>
        </div>
      )}
    </>
  );
}
