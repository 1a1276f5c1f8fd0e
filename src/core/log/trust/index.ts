/** Whether the logs can be believed: what is found comes before any diagnosis. One check a code. */

import { knownSystem } from '../../system/known';
import type { System } from '../../system/schema';
import type { Aligned } from '../align';
import { clocks } from './clocks';
import { scaleDisagrees, signDisagrees } from './currents';
import { gaps, sampledTooCoarsely } from './gaps';
import type { TrustInput, TrustNote } from './note';
import { stuckValue, voltageDisagrees } from './voltages';
import { wildValues, writtenOnChange } from './madeReady';

export type { TrustCode } from './codes';
export type { TrustNote } from './note';

const CHECKS: readonly ((input: TrustInput) => TrustNote[])[] = [
  clocks,
  signDisagrees,
  scaleDisagrees,
  voltageDisagrees,
  stuckValue,
  sampledTooCoarsely,
  gaps,
  wildValues,
  writtenOnChange,
];

export function judgeTrust(system: System, timeline: Aligned): TrustNote[] {
  const input: TrustInput = { timeline, system, bank: knownSystem(system)?.bank ?? null };
  return CHECKS.flatMap((check) => check(input));
}
