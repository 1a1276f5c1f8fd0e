/**
 * What the monitor sees of each device: its current held against the currents that chargers, loads and the BMS logged, and against the
 * voltage. Not seen at all, seen at a ratio, or seen the wrong way round are told apart before anything is counted.
 */

import { mean, quantile, robustDeviation } from '../quantity/numbers';
import { HOUR, MINUTE, mergeSpans, type Span } from '../quantity/span';
import { cellOf, cellStart, type Grid, judgingGrid, medianStep, toGrid } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import type { SourceCharging, Stage } from '../charge/types';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank, KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';
import { robustLeastSquares, type Solution } from './leastSquares';

/** How much of a device's current the monitor shows: 1 all, 0 nothing, under 0 the wrong way round. */
export interface Share {
  id: string;
  kind: 'source' | 'load';
  share: number;
  /** One standard deviation. */
  error: number;
  /** Steps that it was seen by. */
  steps: number;
}

/** The monitor's current against another meter of the same current: times the slope, plus the offset, A. */
export interface Against {
  slope: number;
  slopeError: number;
  offsetA: number;
  offsetError: number;
  /** What is left between the two, one standard deviation, A: a load that comes and goes makes it large, a zero error does not. */
  scatter: number;
}

/** Charging voltages while the monitor shows a current out of the battery. */
export interface Unseen {
  spans: Span[];
  hours: number;
  /** Median current then, and while the battery is drawn on at rest voltages, A. */
  amps: number;
  drawnAmps: number;
  /** Hours at charging voltage in all. */
  ofHours: number;
}

/** The monitor's current while a full battery is only kept so. */
export interface AtFloat {
  amps: number;
  /** What scatter from time to time leaves open, A. */
  error: number;
  hours: number;
  spans: Span[];
}

export interface Meters {
  shares: Share[];
  /** Mean current of each device that has a log of its own, A. */
  means: { id: string; kind: Share['kind']; amps: number }[];
  bms: Against | null;
  /** Correlation of steps of voltage with steps of current, and how many there were. */
  voltageFollows: { correlation: number; steps: number; chargingV: number; drawingV: number };
  unseen: Unseen | null;
  atFloat: AtFloat | null;
  /** Greatest current into the battery that the monitor shows, A: 99.5th percentile. */
  mostIn: number;
  /** 95th percentile of its current either way, A: what its range must reach. */
  usualAmps: number;
}

/** Steps are taken over so long: clouds and switching both show in it. */
const LAG = 6 * MINUTE;
/** Least step of a device's current, parts of the capacity, and fewest that decide. */
const LEAST_STEP = 0.02;
const FEWEST = 4;

export function metersOf(
  system: KnownSystem,
  timeline: Timeline,
  log: CounterLog,
  charging: readonly SourceCharging[],
): Meters {
  const { capacityAh } = system.bank;
  const grid = judgingGrid(
    { from: log.time[0]!, to: log.time[log.time.length - 1]! },
    medianStep(log.time),
    log.time,
  );
  const amps = toGrid(log.time, log.amps, grid);
  const volts = log.volts ? toGrid(log.time, log.volts, grid) : null;
  const held = heldCells(charging, grid);
  return {
    means: meansOf(system, timeline),
    shares: log.ampsAreItsOwn
      ? (sharesByBms(system, timeline, log, grid, amps) ??
        sharesOf(system, timeline, log, grid, { amps, volts }, held))
      : [],
    bms: againstBms(timeline, log, grid, amps, capacityAh),
    voltageFollows: volts
      ? follows(amps, volts, held, capacityAh)
      : { correlation: NaN, steps: 0, chargingV: NaN, drawingV: NaN },
    unseen: volts ? unseenOf(system, grid, amps, volts) : null,
    atFloat: atFloatOf(system, charging, grid, amps),
    mostIn: quantile(amps, 0.995),
    usualAmps: quantile(amps.map(Math.abs), 0.95),
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

const meansOf = (system: KnownSystem, timeline: Timeline): Meters['means'] =>
  devicesWithCurrent(system).flatMap(({ id, kind, channel }) => {
    const own = logOf(timeline, id, channel);
    return own ? [{ id, kind, amps: mean(own.channels[channel]!) }] : [];
  });

const devicesWithCurrent = ({ sources, loads }: KnownSystem) => [
  ...sources.map(({ id }) => ({ id, kind: 'source' as const, channel: 'source_current' as const })),
  ...loads.map(({ id }) => ({ id, kind: 'load' as const, channel: 'load_current' as const })),
];

/** All devices with logs of their own at once: two suns move together. */
function sharesOf(
  system: KnownSystem,
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  { amps, volts }: { amps: Float32Array; volts: Float32Array | null },
  held: Uint8Array,
): Share[] {
  const { capacityAh } = system.bank;
  const level = chargingVolts(system.bank);
  const devices = devicesWithCurrent(system).flatMap(({ id, kind, channel }) => {
    const own = logOf(timeline, id, channel);
    return own && own.device !== log.device
      ? [{ id, kind, amps: toGrid(own.time, own.channels[channel]!, grid), every: medianStep(own.time) }]
      : [];
  });
  if (devices.length === 0) return [];
  // What a sun without a log gives moves with the others: nothing can be told of one alone.
  const hidden = system.sources.some(
    (one) => one.kind === 'solar' && !devices.some(({ id }) => id === one.id),
  );
  const slowest = Math.max(grid.step, ...devices.map((one) => one.every));
  const lag = Math.max(1, Math.round(Math.max(LAG, 2 * slowest) / grid.step));
  // What moves little is judged by what it moves.
  const least = devices.map((one) =>
    Math.max(
      0.002 * capacityAh,
      Math.min(LEAST_STEP * capacityAh, 0.3 * (quantile(one.amps, 0.98) - quantile(one.amps, 0.02))),
    ),
  );
  const rows: number[] = [];
  const moved = new Float64Array(devices.length);
  const step = new Float64Array(devices.length);
  for (let i = 0; i + lag < grid.count; i++) {
    if (held[i] || held[i + lag]) continue;
    const dy = amps[i + lag]! - amps[i]!;
    if (dy !== dy) continue;
    let known = true;
    let sources = false;
    let loads = false;
    for (let k = 0; k < devices.length; k++) {
      step[k] = Math.abs(devices[k]!.amps[i + lag]! - devices[k]!.amps[i]!);
      if (step[k]! !== step[k]!) known = false;
      else if (step[k]! >= least[k]!) {
        if (devices[k]!.kind === 'source') sources = true;
        else loads = true;
      }
    }
    if (!known) continue;
    // A load shows in the battery's current only where no charger answers it.
    const drawn = !(volts && (volts[i]! >= level || volts[i + lag]! >= level));
    if (drawn ? !sources && !loads : !sources || loads) continue;
    rows.push(i);
    for (let k = 0; k < devices.length; k++) if (step[k]! >= least[k]!) moved[k]! += 1 / lag;
  }
  const told = devices.map((_, k) => k).filter((k) => moved[k]! > 0);
  if (told.length === 0) return [];
  const columns = told.map((k) =>
    Float64Array.from(rows, (i) => {
      const step = devices[k]!.amps[i + lag]! - devices[k]!.amps[i]!;
      return devices[k]!.kind === 'source' ? step : -step;
    }),
  );
  const values = Float64Array.from(rows, (i) => amps[i + lag]! - amps[i]!);
  const fit: Solution | null = robustLeastSquares({ columns, values });
  if (!fit) return [];
  // Steps that overlap are no steps of their own.
  const widen = Math.sqrt(lag);
  return told
    .map((k, at) => ({
      id: devices[k]!.id,
      kind: devices[k]!.kind,
      share: fit.values[at]!,
      error: fit.errors[at]! * widen,
      steps: Math.round(moved[k]!),
    }))
    .filter((one) => one.steps >= FEWEST / 2)
    .filter(({ id }) => !hidden || system.sources.find((one) => one.id === id)?.kind !== 'solar');
}

const LEAST_CELLS = 300;

/**
 * What the BMS sees and the monitor does not, against each device's own current: beside it a device that bypasses the monitor shows
 * whether or not somebody holds the voltage. Null without a BMS, or where all flows alike.
 */
function sharesByBms(
  system: KnownSystem,
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  amps: Float32Array,
): Share[] | null {
  const bms = logOf(timeline, 'bms', 'battery_current');
  if (!bms || log.device === 'bms') return null;
  const whole = toGrid(bms.time, bms.channels.battery_current!, grid);
  const devices = devicesWithCurrent(system).flatMap(({ id, kind, channel }) => {
    const own = logOf(timeline, id, channel);
    return own ? [{ id, kind, amps: toGrid(own.time, own.channels[channel]!, grid) }] : [];
  });
  const cells: number[] = [];
  for (let i = 0; i < grid.count; i++)
    if ([amps, whole, ...devices.map((one) => one.amps)].every((one) => one[i]! === one[i]!)) cells.push(i);
  const moves = devices.filter(
    (one) => quantile(one.amps, 0.95) - quantile(one.amps, 0.05) > 0.01 * system.bank.capacityAh,
  );
  if (cells.length < LEAST_CELLS || moves.length === 0) return null;
  const column = (of: (cell: number) => number) => Float64Array.from(cells, of);
  const fit = robustLeastSquares({
    columns: [
      ...moves.map(({ kind, amps: own }) => column((i) => (kind === 'source' ? own[i]! : -own[i]!))),
      column(() => 1),
    ],
    values: column((i) => whole[i]! - amps[i]!),
  });
  if (!fit) return null;
  return moves.map(({ id, kind }, k) => ({
    id,
    kind,
    share: 1 - fit.values[k]!,
    error: fit.errors[k]! * Math.sqrt(10),
    steps: Math.min(100, Math.round(cells.length / 30)),
  }));
}

function againstBms(
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  amps: Float32Array,
  capacityAh: number,
): Against | null {
  const bms = logOf(timeline, 'bms', 'battery_current');
  if (!bms || log.device === 'bms' || !log.ampsAreItsOwn) return null;
  const other = toGrid(bms.time, bms.channels.battery_current!, grid);
  const cells: number[] = [];
  for (let i = 0; i < grid.count; i++) if (amps[i]! === amps[i]! && other[i]! === other[i]!) cells.push(i);
  const x = Float64Array.from(cells, (i) => other[i]!);
  if (cells.length < LEAST_CELLS) return null;
  if (quantile(x, 0.95) - quantile(x, 0.05) < 0.02 * capacityAh) {
    // Of a current that hardly moves only the difference can be told.
    const apart = cells.map((i) => amps[i]! - other[i]!);
    const scatter = robustDeviation(apart);
    return {
      slope: 1,
      slopeError: 1,
      offsetA: quantile(apart, 0.5),
      offsetError: scatter / Math.sqrt(apart.length / 10),
      scatter,
    };
  }
  const fit = robustLeastSquares({
    columns: [x, new Float64Array(cells.length).fill(1)],
    values: Float64Array.from(cells, (i) => amps[i]!),
  });
  if (!fit) return null;
  // Loads that stay make neighbours alike: a tenth of the cells speak.
  const [slopeError, offsetError] = Array.from(fit.errors, (one) => one * Math.sqrt(10)) as [number, number];
  return { slope: fit.values[0]!, slopeError, offsetA: fit.values[1]!, offsetError, scatter: fit.scatter };
}

/** Whether voltage follows current, by steps from cell to cell where nobody holds it. */
function follows(
  amps: Float32Array,
  volts: Float32Array,
  held: Uint8Array,
  capacityAh: number,
): Meters['voltageFollows'] {
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
  };
}

/** V a 12 V block that no battery has which is being drawn on, some minutes after charging. */
const CHARGING_V = { lead: 13.3, lithium: 14 };
const PIECE = { lead: 30 * MINUTE, lithium: 10 * MINUTE };

const chargingVolts = (bank: KnownBank): number =>
  (isLead(bank.chemistry) ? CHARGING_V.lead : CHARGING_V.lithium) * blocksInSeries(bank);

function unseenOf({ bank }: KnownSystem, grid: Grid, amps: Float32Array, volts: Float32Array): Unseen | null {
  const level = chargingVolts(bank);
  const out = 0.002 * bank.capacityAh;
  const spans: Span[] = [];
  const currents: number[] = [];
  const drawn: number[] = [];
  let atLevel = 0;
  let from = -1;
  const blocks = blocksInSeries(bank);
  const least = Math.max(3, Math.round((isLead(bank.chemistry) ? PIECE.lead : PIECE.lithium) / grid.step));
  // In pieces: a voltage that is held for hours and then let go is held for those hours.
  const close = (cell: number) => {
    for (let first = from; from >= 0 && cell - first >= least; first += least) {
      const last = cell - first >= 2 * least ? first + least : cell;
      if (stands(volts, first, last, blocks)) {
        spans.push({ from: cellStart(grid, first), to: cellStart(grid, last) });
        for (let i = first; i < last; i++) currents.push(amps[i]!);
      }
      if (last === cell) break;
    }
    from = -1;
  };
  for (let i = 0; i < grid.count; i++) {
    const charging = volts[i]! >= level;
    if (charging) atLevel++;
    if (charging && amps[i]! < -out) {
      if (from < 0) from = i;
      continue;
    }
    close(i);
    if (volts[i]! < level && amps[i]! < -out) drawn.push(amps[i]!);
  }
  close(grid.count);
  if (atLevel === 0) return null;
  return {
    spans: mergeSpans(spans, 10 * MINUTE),
    hours: (currents.length * grid.step) / HOUR,
    amps: quantile(currents, 0.5),
    drawnAmps: quantile(drawn, 0.5),
    ofHours: (atLevel * grid.step) / HOUR,
  };
}

/** V a 12 V block by which a held voltage may fall meanwhile; one that only lasts from a charge falls further. */
const FALLS = 0.03;

/** Whether the last third of a stretch stands as high as the first. */
function stands(volts: Float32Array, from: number, to: number, blocks: number): boolean {
  const third = Math.max(1, Math.floor((to - from) / 3));
  const first = quantile(volts.subarray(from, from + third), 0.5);
  const last = quantile(volts.subarray(to - third, to), 0.5);
  return last >= first - FALLS * blocks;
}

/** A battery is only kept full when a charger has been on float for so long. */
const SETTLED = 2 * HOUR;
/** A charger that feeds the loads at least so much holds the voltage itself, parts of the capacity in A. */
const FED = 0.004;

function atFloatOf(
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
  for (const { from, to } of spans) {
    const first = Math.max(0, cellOf(grid, from));
    const last = Math.min(grid.count, cellOf(grid, to));
    if (last - first < 10) continue;
    const middle = quantile(amps.subarray(first, last), 0.5);
    if (middle !== middle) continue;
    medians.push(middle);
    cells += last - first;
  }
  if (medians.length === 0) return null;
  const spread = quantile(medians, 0.84) - quantile(medians, 0.16);
  return {
    amps: quantile(medians, 0.5),
    error: Math.max(0.0005 * bank.capacityAh, spread / 2 / Math.sqrt(medians.length)),
    hours: (cells * grid.step) / HOUR,
    spans,
  };
}
