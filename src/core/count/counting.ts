/** The counting of a job: from the timeline to judged syncs, the true state of charge, and how the reading parts from it. */

import { isNumber, median, quantile } from '../quantity/numbers';
import { HOUR, type Span } from '../quantity/span';
import { cellOf, type Grid, integrate, toGrid } from '../log/grid';
import { unseenHalf } from '../log/otherHalf';
import { anyLogWith, logOf, type Timeline } from '../log/timeline';
import { dischargesOf } from '../capacity/discharges';
import type { SourceCharging } from '../charge/types';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Anchor } from './anchors';
import { besideUnseen, blindOf } from './blind';
import { bmsAnchors, tripAnchors } from './bmsAnchors';
import { mostZeroOf } from './atFloat';
import { chargeAnchors } from './chargeAnchors';
import { type CountedPart, countedBank, countedCharges, countedParts } from './countedParts';
import { emptyAnchors, restAnchors } from './restAnchors';
import type { CounterLog } from './counterLog';
import { withFullHours } from './fullHours';
import { collapsesOf, judged, replayedSyncs } from './judgedSyncs';
import { emptierOf, type OtherHalf, otherHalfOf } from './emptierHalf';
import { behavesAs, isJumpy, tells } from './device';
import { driftOf } from './drift';
import { followsVolts } from './followsVolts';
import { halvesOf } from './halves';
import { interpolateAt } from '../log/interpolateAt';
import { jumpsIn } from './jumps';
import type { Meters } from './meters';
import { fullCharges, missedSyncs } from './missed';
import { onGrid } from './onGrid';
import { recipesOf } from './recipes';
import { lastDigit } from '../log/resolution';
import { type Reference, referenceAt, referenceOf } from './reference';
import { type CounterSettings, configuredSettings } from './settings';
import { sinkingOf } from './sinking';
import { overchargedSpans } from './overcharged';
import { spentSpans } from './spent';
import { syncsIn, withoutRestarts } from './syncs';
import { ledgerGrid, throughOf } from './through';
import { trueCurrent, type Wrong } from './trueCurrent';
import type { Counting, Hourly, ReadingOff } from './types';

export interface CountingInput {
  system: KnownSystem;
  timeline: Timeline;
  log: CounterLog;
  /** By the battery's current as it ought to have been. */
  charging: readonly SourceCharging[];
  meters: Meters;
  wrong: Wrong;
}

/** Null where the log is too short to say anything. */
export function countingOf(input: CountingInput): Counting | null {
  const { system, timeline, log, charging, meters, wrong } = input;
  if (log.time.length < 10) return null;
  const { settings, assumed } = configuredSettings(system);
  const amps = trueCurrent(timeline, log, wrong);
  const { seen, bank: reference, otherHalf } = referencesFor(input, amps);
  const behaves = behavesAs(log, settings);
  const counts = countsBy(settings, behaves);
  const fulls = withFullHours(fullCharges(countedCharges(input)), seen);
  const found = log.reading ? syncsIn(log, counts.capacityAh, fulls) : replayedSyncs(log, settings, seen);
  const jumps = jumpsIn(log, counts, givenBy(system, timeline));
  const collapses = collapsesOf(charging);
  const syncs = withoutRestarts(found, jumps).map((one) => judged(one, log, reference, collapses));
  return {
    settings,
    assumed,
    device: log.device,
    logged: { from: log.time[0]!, to: log.time[log.time.length - 1]! },
    hasReading: log.reading !== null,
    byBms: log.device !== 'bms' && logOf(timeline, 'bms', 'battery_current') !== null,
    syncs,
    replayed: log.reading === null,
    missed: missedSyncs(log, settings, fulls, found),
    fulls: fulls.filter((one) => one.full).map(({ from, to }) => ({ from, to })),
    intervals: driftOf({ log, timeline, settings: counts, reference, seen, wrong, syncs: found, jumps }),
    jumps,
    off: offOf(log, reference),
    behaves,
    followsVolts: followsVolts(log, counts.capacityAh, blocksInSeries(countedBank(system))),
    meters,
    through: integrate(log.time, log.amps, { from: log.time[0]!, to: log.time[log.time.length - 1]! }),
    halves: halvesOf(system, timeline),
    otherHalf,
    sinking: seen.sinking,
    recipes: recipesOf(log, countedCharges(input), seen.anchors),
    discharges: dischargesOf({
      bank: countedBank(system),
      exponent: settings.peukert,
      log,
      amps,
      reference: seen,
      heat: anyLogWith(timeline, 'battery_temperature'),
    }),
    wrong,
    capacityAh: reference.capacityAh,
    efficiencyPercent: reference.efficiencyPercent,
    offsetA: reference.offsetA,
    entangled: reference.entangled,
    favours: reference.favours,
    anchors: reference.anchors.reduce<Record<string, number>>(
      (counted, { kind }) => ({ ...counted, [kind]: (counted[kind] ?? 0) + 1 }),
      {},
    ),
    deviation: median(reference.deviation),
    hourly: hourlyOf(log, reference),
    course: { grid: reference.grid, percent: reference.percent, deviation: reference.deviation },
  };
}

/** The state of charge of what the monitor sees, and of the bank: as full as its emptier half. */
interface References {
  seen: Reference;
  bank: Reference;
  otherHalf: OtherHalf | null;
}

/** The true state of charge over a counter's log. */
function referencesFor(input: CountingInput, amps: Float32Array): References {
  const { seen: part, other } = countedParts(input, amps);
  const seen = referenceFor(input, part);
  const unseen = unseenHalf(input.system);
  if (!unseen || !other) return { seen, bank: seen, otherHalf: null };
  const beside = referenceFor(input, other);
  return { seen, bank: emptierOf(seen, beside), otherHalf: otherHalfOf(unseen, seen, beside) };
}

function referenceFor(
  { system, timeline, log, meters }: CountingInput,
  { bank, charging, amps, volts }: CountedPart,
): Reference {
  const span = { from: log.time[0]!, to: log.time[log.time.length - 1]! };
  const { grid } = onGrid(log);
  const cells = ledgerGrid(span, log.time);
  const flows = toGrid(log.time, amps, grid);
  const anchors: Anchor[] = [
    ...chargeAnchors(charging),
    ...(volts ? restAnchors(bank, grid, flows, volts) : []),
    ...(volts ? emptyAnchors(bank, grid, flows, volts) : []),
    ...tripAnchors(timeline),
    ...bmsAnchors(timeline, cells),
  ].filter((one) => one.at >= span.from && one.at <= span.to);
  const blind = blindOf(system, timeline, onGrid(log), meters.unseen, cells);
  const heat = anyLogWith(timeline, 'battery_temperature');
  const celsius = heat ? toGrid(heat.time, heat.channels.battery_temperature!, grid) : null;
  return referenceOf({
    bank,
    through: besideUnseen(throughOf(log.time, amps, cells), blind, bank.capacityAh),
    anchors,
    coarse: isJumpy(log),
    celsius: celsius ? median(celsius.filter(isNumber)) : NaN,
    sinking: volts ? sinkingOf(bank, grid, flows, volts, celsius, charging, lastDigit(log.volts!)) : null,
    mostZeroA: mostZeroOf(bank, charging, grid, flows),
    blind: blind.deviation,
    overcharged: cellsIn(cells, volts ? overchargedSpans(bank, grid, volts, celsius) : []),
    spent: cellsIn(cells, volts ? spentSpans(bank, grid, flows, volts) : []),
  });
}

function cellsIn(grid: Grid, spans: readonly Span[]): Uint8Array {
  const within = new Uint8Array(grid.count);
  for (const { from, to } of spans)
    for (let k = Math.max(0, cellOf(grid, from)); k <= Math.min(grid.count - 1, cellOf(grid, to)); k++)
      within[k] = 1;
  return within;
}

/** What the device counts by: as told, unless its own reading plainly tells otherwise. */
function countsBy(settings: CounterSettings, behaves: Counting['behaves']): CounterSettings {
  if (!behaves || !tells(behaves)) return settings;
  const { capacityAh, capacityError, efficiencyPercent, efficiencyError, peukert } = behaves;
  const capacityDiffers =
    Math.abs(capacityAh - settings.capacityAh) > 4 * capacityError + 0.06 * settings.capacityAh;
  const efficiencyDiffers =
    efficiencyPercent === efficiencyPercent &&
    Math.abs(efficiencyPercent - settings.efficiencyPercent) > 4 * efficiencyError + 6;
  return {
    ...settings,
    peukert,
    ...(capacityDiffers ? { capacityAh } : {}),
    ...(efficiencyDiffers ? { efficiencyPercent: Math.min(100, efficiencyPercent) } : {}),
  };
}

/** So much of a span must have been logged. */
const LOGGED = 0.95;

/** Ah that the sources gave in a span; null where one of them has no log, or is silent in it. */
const givenBy =
  ({ sources }: KnownSystem, timeline: Timeline) =>
  (span: Span): number | null => {
    let given = 0;
    for (const { id } of sources) {
      const own = logOf(timeline, id, 'source_current');
      const through = own && integrate(own.time, own.channels.source_current!, span);
      if (!through || through.hours < (LOGGED * (span.to - span.from)) / HOUR) return null;
      given += through.in;
    }
    return sources.length > 0 ? given : null;
  };

/** The truth is known well enough to call a reading wrong, %. */
const KNOWN = 8;

function offOf(log: CounterLog, reference: Reference): ReadingOff | null {
  if (!log.reading) return null;
  const { grid, percent, deviation } = reference;
  const reading = toGrid(log.time, log.reading, grid);
  const off: number[] = [];
  for (let k = 0; k < grid.count; k++)
    if (deviation[k]! < KNOWN && reading[k]! === reading[k]!) off.push(reading[k]! - percent[k]!);
  if (off.length === 0) return null;
  return {
    median: median(off),
    most: quantile(off.map(Math.abs), 0.9),
    last: off.at(-1)!,
    hours: (off.length * grid.step) / HOUR,
  };
}

function hourlyOf(log: CounterLog, reference: Reference): Hourly {
  const from = Math.ceil(log.time[0]! / HOUR) * HOUR;
  const count = Math.max(0, Math.floor((log.time[log.time.length - 1]! - from) / HOUR) + 1);
  const at = Float64Array.from({ length: count }, (_, k) => from + k * HOUR);
  const truth = Array.from(at, (ms) => referenceAt(reference, ms));
  return {
    from,
    stepMs: HOUR,
    reported: log.reading ? interpolateAt(log.time, log.reading, at) : new Float32Array(count).fill(NaN),
    reference: Float32Array.from(truth, (one) => one.percent),
    band: Float32Array.from(truth, (one) => 2 * one.deviation),
  };
}
