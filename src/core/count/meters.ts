/**
 * What the monitor sees of each device: its current held against the currents that chargers, loads and the BMS logged, and against the
 * voltage. Not seen at all, seen at a ratio, or seen the wrong way round are told apart before anything is counted.
 */

import { quantile } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { cellOf, type Grid } from '../log/grid';
import type { Timeline } from '../log/timeline';
import type { SourceCharging } from '../charge/types';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank, KnownSystem } from '../system/known';
import { type Against, againstBms } from './againstBms';
import { sharesAnswering } from './answering';
import { type AtFloat, atFloatOf } from './atFloat';
import type { CounterLog } from './counterLog';
import { asLowestHalf, withoutOtherHalf } from './ofHalves';
import { onGrid } from './onGrid';
import { type MeanCurrent, meansOf, type Share, sharesOf } from './shares';
import { sharesByBms } from './sharesByBms';
import { type Unseen, unseenOf } from './unseen';
import { type WhileIdle, whileIdle } from './whileIdle';

export interface Meters {
  shares: Share[];
  /** Mean current of each device that has a log of its own, A. */
  means: MeanCurrent[];
  bms: Against | null;
  /** Correlation of steps of voltage with steps of current, and how many there were. */
  voltageFollows: {
    correlation: number;
    steps: number;
    /** Mean voltage at what it calls a charge, and a discharge, and hours of the shorter of the two. */
    chargingV: number;
    drawingV: number;
    bothHours: number;
  };
  unseen: Unseen | null;
  whileIdle: WhileIdle | null;
  atFloat: AtFloat | null;
  /** Greatest current into the battery that the monitor shows, A: 99.5th percentile. */
  mostIn: number;
}

export function metersOf(
  system: KnownSystem,
  timeline: Timeline,
  log: CounterLog,
  charging: readonly SourceCharging[],
): Meters {
  const { grid, amps, volts } = onGrid(log);
  const held = heldCells(charging, grid);
  const bySteps = (): Share[] => {
    const shares = sharesOf(system, timeline, log, grid, { amps, volts }, held);
    const isOpen = ({ id }: { id: string }) => !shares.some((one) => one.id === id);
    if (!system.sources.some(isOpen)) return shares;
    return [...shares, ...sharesAnswering(system, timeline, log, grid, amps).filter(isOpen)];
  };
  return {
    means: meansOf(system, timeline),
    shares: log.ampsAreItsOwn
      ? withoutOtherHalf(system, sharesByBms(system, timeline, log, grid, amps) ?? bySteps())
      : [],
    bms: againstBms(timeline, log, grid, amps, system),
    voltageFollows: volts
      ? follows(amps, volts, held, system.bank, grid.step)
      : { correlation: NaN, steps: 0, chargingV: NaN, drawingV: NaN, bothHours: 0 },
    unseen: volts ? unseenOf(system, grid, amps, asLowestHalf(system, timeline, log, volts)) : null,
    whileIdle: log.ampsAreItsOwn ? whileIdle(system, timeline, log, grid, amps) : null,
    atFloat: atFloatOf(system, charging, grid, amps),
    mostIn: quantile(amps, 0.995),
  };
}

/** Cells in which some charger holds a voltage: there it answers the loads, and the battery’s current does not. */
function heldCells(charging: readonly SourceCharging[], grid: Grid): Uint8Array {
  const held = new Uint8Array(grid.count);
  for (const { charges } of charging)
    for (const { stages } of charges)
      for (const { stage, from, to } of stages) {
        if (stage === 'bulk' || stage === 'off') continue;
        const last = Math.min(grid.count - 1, cellOf(grid, to) + 1);
        for (let cell = Math.max(0, cellOf(grid, from) - 1); cell <= last; cell++) held[cell] = 1;
      }
  return held;
}

/** V a 12 V block under the charge voltage, and for lithium the end of its flat part: higher up the current falls while the voltage rises. */
const UNDER = 0.2;
const KNEE = 13.7;

/** Whether voltage follows current, by steps from cell to cell where nobody holds it and the battery is not being filled up. */
function follows(
  amps: Float32Array,
  volts: Float32Array,
  held: Uint8Array,
  bank: KnownBank,
  step: number,
): Meters['voltageFollows'] {
  const { capacityAh } = bank;
  const blocks = blocksInSeries(bank);
  const high = isLead(bank.chemistry) ? bank.chargeVolts.min - UNDER * blocks : KNEE * blocks;
  let steps = 0;
  let xx = 0;
  let yy = 0;
  let xy = 0;
  const sums = { in: 0, out: 0 };
  const counts = { in: 0, out: 0 };
  for (let i = 1; i < amps.length; i++) {
    const a = amps[i]!;
    const v = volts[i]!;
    if (a !== a || v !== v) continue;
    const way = a > 0.01 * capacityAh ? 'in' : a < -0.005 * capacityAh ? 'out' : null;
    if (way) {
      sums[way] += v;
      counts[way]++;
    }
    const da = a - amps[i - 1]!;
    const dv = v - volts[i - 1]!;
    if (v > high || volts[i - 1]! > high) continue;
    if (da !== da || dv !== dv || held[i] || held[i - 1] || Math.abs(da) < 0.015 * capacityAh) continue;
    steps++;
    xx += da * da;
    yy += dv * dv;
    xy += da * dv;
  }
  return {
    correlation: steps > 0 && xx > 0 && yy > 0 ? xy / Math.sqrt(xx * yy) : NaN,
    steps,
    chargingV: sums.in / counts.in,
    drawingV: sums.out / counts.out,
    bothHours: (Math.min(counts.in, counts.out) * step) / HOUR,
  };
}
