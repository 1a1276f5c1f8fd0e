/** The monitor's current while float only keeps a full battery: what is left then is its zero, or a load that it does not see. */

import { isNumber, quantile } from '../quantity/numbers';
import { HOUR, MINUTE, type Span } from '../quantity/span';
import { cellOf, type Grid } from '../log/grid';
import type { SourceCharging, Stage } from '../charge/types';
import { isLead } from '../system/chemistry';
import type { KnownBank, KnownSystem } from '../system/known';

/** The monitor's current while a full battery is only kept so. */
export interface AtFloat {
  /** What nearly every float shows at least, A; 0 where some show a current in and others one out. */
  amps: number;
  /** What scatter from time to time leaves open, A. */
  error: number;
  hours: number;
  /** Over a day and more it stayed what it was: what a battery still gives or takes goes down. */
  steady: boolean;
  spans: Span[];
}

/** A battery is only kept full when a charger has been on float for so long. */
const SETTLED = 2 * HOUR;
/** So long a float shows whether a current goes down: by more than this part, or this part of the capacity in A, from first third to last. */
const STAYS = { ms: 24 * HOUR, part: 0.15, capacity: 0.0002 };
/** A charger that feeds the loads at least so much holds the voltage itself, parts of the capacity in A. */
const FED = 0.004;

export function atFloatOf(
  { bank }: KnownSystem,
  charging: readonly SourceCharging[],
  grid: Grid,
  amps: Float32Array,
): AtFloat | null {
  const lead = isLead(bank.chemistry);
  // A lead battery that is not full yet takes what it can on float too; a lithium battery above its float gives until it has come down.
  const kept = (stage: Stage, full: boolean, own: boolean) =>
    stage.stage === 'float' &&
    stage.to - stage.from > SETTLED + HOUR &&
    (lead ? full : own && stage.usualSourceAmps > FED * bank.capacityAh);
  const spans = charging.flatMap(({ charges, knowsOwnAmps }) =>
    charges.flatMap(({ stages, full }) =>
      stages
        .filter((stage) => kept(stage, full, knowsOwnAmps))
        .map(({ from, to }) => ({ from: from + SETTLED, to: to - 10 * MINUTE })),
    ),
  );
  const medians: number[] = [];
  let cells = 0;
  let long = 0;
  let stayed = 0;
  for (const { from, to } of spans) {
    const first = Math.max(0, cellOf(grid, from));
    const last = Math.min(grid.count, cellOf(grid, to));
    if (last - first < 10) continue;
    const middle = quantile(amps.subarray(first, last), 0.5);
    if (middle !== middle) continue;
    medians.push(middle);
    cells += last - first;
    if (to - from < STAYS.ms) continue;
    long++;
    const third = Math.floor((last - first) / 3);
    const by =
      quantile(amps.subarray(first, first + third), 0.5) - quantile(amps.subarray(last - third, last), 0.5);
    if (Math.abs(by) <= Math.max(STAYS.part * Math.abs(middle), STAYS.capacity * bank.capacityAh)) stayed++;
  }
  if (medians.length === 0) return null;
  const [low, high] = [quantile(medians, 0.16), quantile(medians, 0.84)];
  return {
    // A zero error is there on every float; what is there on some alone is what the battery still takes then.
    amps: low > 0 ? low : high < 0 ? high : 0,
    error: Math.max(0.0005 * bank.capacityAh, (high - low) / 2 / Math.sqrt(medians.length)),
    hours: (cells * grid.step) / HOUR,
    steady: long > 0 && stayed === long,
    spans,
  };
}

/**
 * The most that the zero may be off by: while a charger floats a lead battery nothing flows out of it, full or not, so that what is shown is
 * the zero and more. A; null where no float shows it.
 */
export function mostZeroOf(
  bank: KnownBank,
  charging: readonly SourceCharging[],
  grid: Grid,
  amps: Float32Array,
): number | null {
  if (!isLead(bank.chemistry)) return null;
  const shown = charging
    .filter((one) => one.knowsBatteryAmps)
    .flatMap(({ charges }) => charges.flatMap(({ stages }) => stages))
    .filter(({ stage, from, to, blocked }) => stage === 'float' && !blocked && to - from > SETTLED + HOUR)
    .map(({ from, to }) =>
      quantile(amps.subarray(cellOf(grid, from + SETTLED), cellOf(grid, to - 10 * MINUTE)), 0.5),
    )
    .filter(isNumber);
  if (shown.length === 0) return null;
  return Math.abs(quantile(shown, 0.16)) + 0.0005 * bank.capacityAh;
}
