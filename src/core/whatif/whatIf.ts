/** What-if for charging, from the grid of a job's logs and its diagnosis to outcomes: what the worker and the tests call. */

import type { KnownSystem } from '../system/known';
import { fitBattery, type Fitted } from './fitted';
import type { Minutes } from './minutes';
import { recordedOf, type Recorded, type ReplayFacts } from './recorded';
import { type Outcome, replayCharging, type ReplayError, replayError } from './replay';
import { type ChargerSettings, settingsAsTheyWere } from './settings';

export interface SourceSettings {
  id: string;
  settings: ChargerSettings;
}

export interface Prepared {
  /** Sources that can be set otherwise, as they were set. */
  sources: SourceSettings[];
  was: Outcome;
  error: ReplayError;
  /** Charges that the battery was fitted to. */
  charges: number;
  /** Begin of the first cell of an outcome's curves, epoch ms, and the length of a cell. */
  from: number;
  stepMs: number;
  /** How long the log is silent in between: there nothing flows. */
  silentMs: number;
}

export interface WhatIf {
  prepared: Prepared;
  /** @param settings of the sources in the order of `prepared.sources` */
  replay(settings: readonly ChargerSettings[]): Outcome;
}

/** Null where the logs hold no charge that a battery can be fitted to. @param onDone part of the fit that is done, 0 to 1 */
export function prepareWhatIf(
  system: KnownSystem,
  minutes: Minutes,
  facts: ReplayFacts,
  onDone?: (part: number) => void,
): WhatIf | null {
  const recorded: Recorded | null = recordedOf(system, minutes, facts);
  if (!recorded) return null;
  const battery: Fitted | null = fitBattery(system, recorded, onDone);
  if (!battery) return null;
  const sources = recorded.sources.map(({ source }) => ({
    id: source.id,
    settings: settingsAsTheyWere(system, source, facts),
  }));
  const replay = (settings: readonly ChargerSettings[]) =>
    replayCharging(system, recorded, battery, settings);
  const was = replay(sources.map((one) => one.settings));
  return {
    prepared: {
      sources,
      was,
      error: replayError(recorded, was),
      charges: battery.charges,
      from: minutes.from,
      stepMs: minutes.stepMs,
      silentMs: minutes.stepMs * recorded.loads.filter((one) => one !== one).length,
    },
    replay,
  };
}
