'use client';
/** What-if for charging: the logged weather and loads once more, with chargers set otherwise. */

import { useMemo, useState } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import { type KnownSystem, knownSystem } from '@/core/system/known';
import type { System } from '@/core/system/schema';
import { sourceName } from '@/core/system/sourceName';
import { MOST_DAYS } from '@/core/whatif/minutes';
import { whyNoReplay } from '@/core/whatif/recorded';
import type { Outcome } from '@/core/whatif/replay';
import { type ChargerSettings, SHEET_SETTINGS } from '@/core/whatif/settings';
import { comparedText, fitText, isTooFar, replayReason, unknowns } from '@/core/whatif/text';
import type { Prepared } from '@/core/whatif/whatIf';
import { buttonClass } from '@/ui/primitives/buttons';
import { type Curve, PercentChart } from '@/ui/primitives/PercentChart';
import { type SettingRow, TakeOver } from '@/ui/primitives/TakeOver';
import { trueCurve } from '@/ui/primitives/trueCurve';
import { ChargerFields } from './ChargerFields';
import { OutcomeTable } from './OutcomeTable';
import { useReplay } from './useReplay';

interface Props {
  jobId: string;
  systemId: string;
  system: System;
  systemVersion: number;
  diagnosis: Diagnosis;
}

export function WhatIfView(props: Props) {
  const { system, diagnosis } = props;
  const known = useMemo(() => knownSystem(system), [system]);
  const why = known
    ? whyNoReplay(known, diagnosis)
    : 'The basics of the battery are not known yet: describe it first.';
  if (!known || why) return <p className="max-w-3xl text-sm">{why}</p>;
  return <Fitting {...props} known={known} />;
}

function Fitting({ known, ...props }: Props & { known: KnownSystem }) {
  const { jobId, diagnosis } = props;
  const replay = useReplay(jobId, known, diagnosis);
  const { prepared, fitted, problem, cancel } = replay;
  if (problem)
    return (
      <p role="alert" className="border-hazard max-w-3xl border-l-3 pl-2 text-sm">
        {problem}
      </p>
    );
  if (!prepared)
    return (
      <div className="flex flex-wrap items-center gap-3 text-sm" aria-live="polite">
        <p>{fitted > 0 ? 'A battery is being fitted to this log.' : 'The logs are being fetched.'}</p>
        <progress className="accent-accent" value={fitted} aria-label="Fitting the battery">
          {Math.round(100 * fitted)} %
        </progress>
        <button type="button" className={buttonClass} onClick={cancel}>
          Cancel
        </button>
      </div>
    );
  return <Bench {...props} {...{ known, prepared }} outcome={replay.outcome} replay={replay.replay} />;
}

interface BenchProps extends Props {
  known: KnownSystem;
  prepared: Prepared;
  outcome: Outcome | null;
  replay(settings: ChargerSettings[]): void;
}

function Bench(props: BenchProps) {
  const { systemId, system, systemVersion, diagnosis, known, prepared, outcome, replay } = props;
  const { bank } = known;
  const asSet = useMemo(() => prepared.sources.map((one) => one.settings), [prepared]);
  const [settings, setSettings] = useState(asSet);
  const now = outcome ?? prepared.was;
  const { error, was, from, stepMs } = prepared;
  const set = (tried: ChargerSettings[]) => {
    setSettings(tried);
    replay(tried);
  };
  const changed = settings.some((one, k) => one !== asSet[k]);
  const nameOf = (id: string) => sourceName(system, id);
  const still = useMemo((): Curve[] => {
    const played = (name: string, { percent }: Outcome) => ({
      name,
      count: percent.length,
      at: (k: number) => from + k * stepMs,
      percent: (k: number) => Math.min(100, Math.max(0, percent[k]!)),
    });
    return [
      trueCurve(diagnosis.soc!),
      { ...played('Replayed as it was set', was), dash: '5 3', ink: 'var(--ink-soft)', wide: 1.1 },
    ];
  }, [diagnosis, was, from, stepMs]);
  const tried = useMemo(
    (): Curve[] =>
      outcome
        ? [
            {
              name: 'Replayed as tried',
              count: outcome.percent.length,
              at: (k) => from + k * stepMs,
              percent: (k) => Math.min(100, Math.max(0, outcome.percent[k]!)),
              dash: '1 2.5',
              ink: 'var(--ink)',
              wide: 1.8,
            },
          ]
        : [],
    [outcome, from, stepMs],
  );
  const days = ((was.percent.length * stepMs) / 86_400_000).toFixed(0);
  return (
    <section aria-label="What if" className="flex flex-col gap-3">
      <p className="max-w-3xl text-sm">
        The weather, loads and temperatures of this log once more, with chargers set otherwise.{' '}
        {fitText(error, prepared.charges, bank)}
      </p>
      <PercentChart
        label="Charge, true and replayed"
        from={from}
        to={from + was.percent.length * stepMs}
        zone={system.timeZone}
        curves={[...still, ...tried]}
      />
      <p className="max-w-3xl text-sm font-semibold" aria-live="polite">
        {changed && outcome ? comparedText(outcome, was, bank) : ''}
      </p>
      <div className="grid gap-4 lg:grid-cols-2">
        <div className="flex flex-col gap-3">
          {prepared.sources.map(({ id }, k) => (
            <ChargerFields
              key={id}
              name={nameOf(id)}
              bank={bank}
              settings={settings[k]!}
              was={asSet[k]!}
              disabled={false}
              onChange={(one) => set(settings.map((other, i) => (i === k ? one : other)))}
            />
          ))}
          <div className="flex flex-wrap items-center gap-3">
            <button type="button" className={buttonClass} disabled={!changed} onClick={() => set([...asSet])}>
              As it was set
            </button>
            <TakeOver
              {...{ systemId, systemVersion }}
              rows={rowsOf(system, prepared, settings)}
              on="the charger"
              reason={replayReason(now, was, error, bank)}
              disabled={!changed || !outcome || isTooFar(error, bank)}
            />
          </div>
        </div>
        <div>
          <OutcomeTable was={was} now={now} nameOf={nameOf} />
          <h3 className="mt-3 mb-1 text-sm font-semibold">What this replay cannot know</h3>
          <ul className="text-ink-soft list-disc pl-5 text-sm">
            {unknowns(bank, {
              sun: system.sources.some((one) => one.kind === 'solar'),
              silentMs: prepared.silentMs,
            }).map((one) => (
              <li key={one}>{one}</li>
            ))}
            {Number(days) >= MOST_DAYS && (
              <li>Of a longer log only the last {MOST_DAYS} days are replayed.</li>
            )}
          </ul>
        </div>
      </div>
    </section>
  );
}

/** Settings that were tried and differ from what stands on the sheet. */
function rowsOf(system: System, { sources }: Prepared, tried: readonly ChargerSettings[]): SettingRow[] {
  return sources.flatMap(({ id, settings: asSet }, k) => {
    const index = system.sources.findIndex((one) => one.id === id);
    return SHEET_SETTINGS.flatMap((name): SettingRow[] => {
      const after = tried[k]![name];
      // What was not touched is as the log shows it, and no news.
      if (after === asSet[name]) return [];
      const before = system.sources[index]?.profile[name] ?? null;
      return after === before ? [] : [{ path: `sources.${index}.profile.${name}`, before, after }];
    });
  });
}
