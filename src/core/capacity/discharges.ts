/** Discharges from a battery that is as good as full in a log: what came out down to the lowest point, held against the rating. */

import type { Anchor } from '../count/anchors';
import type { CounterLog } from '../count/counterLog';
import { interpolateAt } from '../log/interpolateAt';
import { type Reference, referenceAt } from '../count/reference';
import type { Series } from '../log/channels';
import { cellStart, firstAtOrAfter, gapLimit, integrate, medianStep } from '../log/grid';
import { isNumber, mean } from '../quantity/numbers';
import { HOUR, MINUTE, type Span } from '../quantity/span';
import { capacityShare } from '../system/capacityTemperature';
import type { KnownBank } from '../system/known';
import { DOUBT, type Drawn, drawnOver, ratingOf, ROOM } from './effective';

export interface Discharge extends Span, Drawn {
  /** Lowest V of the bank near its end; NaN where not logged. */
  endVolts: number;
  celsius: number;
  /** % that the battery still held at the lowest point, and one standard deviation. */
  left: number;
  leftDeviation: number;
  /** Per cent of the rating at 25 °C that came out. */
  percent: number;
  /** What it holds by this, per cent of the rating, with one way two standard deviations; null where it did not go on until it was empty. */
  holds: { percent: number; band: number } | null;
  /** In even steps: V at the end of each (NaN where not logged), and A drawn on the mean of it. */
  course: { stepMs: number; volts: number[]; amps: number[] };
}

/** As good as full, %, known so well, and at its top within so many points; and what makes a discharge: so deep, and ended when so much has gone back in; parts of the capacity. */
const FULL = { percent: 92, deviation: 4, top: 0.5 };
const DEEP = 0.2;
const BACK = 0.05;
/** A trip comes so soon after the lowest point; above so much left, %, it was not empty. */
const TRIP_AFTER = HOUR;
const EMPTY = 15;
/** The latest are enough. */
const MOST = 50;
/** A silence hides what flowed. */
const SILENCE = 2 * HOUR;

/** What is left at the knee is known no better, %. */
const LEFT = 4;

export interface DischargesInput {
  bank: KnownBank;
  exponent: number;
  log: Pick<CounterLog, 'time' | 'volts'>;
  /** Into the battery, A, at the log's times, put right. */
  amps: Float32Array;
  reference: Reference;
  /** A log with the battery's temperature; null where nobody logged it. */
  heat: Series | null;
}

export function dischargesOf(input: DischargesInput): Discharge[] {
  const { bank, log, reference } = input;
  const offset = reference.offsetA.value;
  const amps = input.amps.map((one) => one - offset);
  const limit = gapLimit(medianStep(log.time));
  const found: Discharge[] = [];
  for (const from of endsOfFull(reference)) {
    const start = firstAtOrAfter(log.time, from);
    if (found.length > 0 && log.time[start]! < found.at(-1)!.to) continue;
    const deepest = lowestAfter(log.time, amps, start, limit, BACK * bank.capacityAh);
    if (deepest === null || deepest.ampHours < DEEP * bank.capacityAh) continue;
    found.push(described(input, amps, limit, start, deepest.at));
  }
  return found.slice(-MOST);
}

/** Moments at which a battery that is as good as full begins to give: when it was last at its top. */
function endsOfFull({ grid, percent, deviation }: Reference): number[] {
  const ends: number[] = [];
  let most = 0;
  let atTop = 0;
  for (let k = 0; k < grid.count; k++) {
    const isFull = percent[k]! >= FULL.percent && deviation[k]! <= FULL.deviation;
    if (most > 0 && !isFull) ends.push(cellStart(grid, atTop + 1));
    most = isFull ? Math.max(most, percent[k]!) : 0;
    if (isFull && percent[k]! >= most - FULL.top) atTop = k;
  }
  return ends;
}

/** Where the charge stood lowest before so much had gone back in; null when the log falls silent first. */
function lowestAfter(
  time: Float64Array,
  amps: Float32Array,
  start: number,
  limit: number,
  back: number,
): { at: number; ampHours: number } | null {
  let out = 0;
  let most = { at: start, ampHours: 0 };
  for (let i = start + 1; i < time.length; i++) {
    const step = time[i]! - time[i - 1]!;
    if (step > SILENCE) return null;
    const flows = (amps[i]! + amps[i - 1]!) / 2;
    if (flows === flows && step <= Math.max(limit, SILENCE)) out -= (flows * step) / HOUR;
    if (out > most.ampHours) most = { at: i, ampHours: out };
    else if (most.ampHours - out > back) return most;
  }
  return most;
}

function described(
  { bank, exponent, log, reference, heat }: DischargesInput,
  amps: Float32Array,
  limit: number,
  start: number,
  end: number,
): Discharge {
  const span = { from: log.time[start]!, to: log.time[end]! };
  const drawn = drawnOver(
    log.time,
    amps,
    log.volts,
    { from: start, to: end },
    { gap: Math.max(limit, SILENCE), rated: ratingOf(bank), exponent },
  );
  const celsius = heat
    ? mean(
        interpolateAt(
          heat.time,
          heat.channels.battery_temperature!,
          Float64Array.from({ length: 25 }, (_, k) => span.from + ((span.to - span.from) * k) / 24),
        ).filter(isNumber),
      )
    : NaN;
  const isRead = isNumber(celsius);
  const share = capacityShare(bank.chemistry, isRead ? celsius : ROOM);
  const percent = (100 * drawn.effectiveAh) / (bank.capacityAh * share);
  const at = referenceAt(reference, span.to);
  const began = referenceAt(reference, span.from);
  return {
    ...span,
    ...drawn,
    endVolts: lowestVolts(log, start, end),
    celsius,
    left: at.percent,
    leftDeviation: at.deviation,
    percent,
    holds:
      reference.anchors.some((one) => showsEmpty(one, span)) && at.percent <= EMPTY
        ? {
            percent: (100 * percent) / (began.percent - at.percent),
            band:
              2 *
              percent *
              Math.hypot(
                DOUBT.meter,
                Math.max(DOUBT.full, began.deviation / 100),
                isRead ? 0 : DOUBT.room,
                Math.max(LEFT, at.deviation) / 100,
              ),
          }
        : null,
    course: courseOf(log, amps, span),
  };
}

const COURSE_STEPS = 40;

function courseOf(
  { time, volts }: DischargesInput['log'],
  amps: Float32Array,
  { from, to }: Span,
): Discharge['course'] {
  const stepMs = (to - from) / COURSE_STEPS;
  const ends = Float64Array.from({ length: COURSE_STEPS + 1 }, (_, k) => from + k * stepMs);
  const drawn = Array.from({ length: COURSE_STEPS }, (_, k) => {
    const through = integrate(time, amps, { from: ends[k]!, to: ends[k + 1]! });
    return through.hours > 0 ? (through.out - through.in) / through.hours : NaN;
  });
  return {
    stepMs,
    volts: volts ? Array.from(interpolateAt(time, volts, ends)) : [],
    amps: [drawn[0]!, ...drawn],
  };
}

/** It came to the knee of its voltage, or a low cell tripped with the others near it. */
const showsEmpty = ({ kind, at }: Anchor, { from, to }: Span): boolean =>
  kind === 'empty' && at > from && at <= to + TRIP_AFTER;

function lowestVolts({ time, volts }: DischargesInput['log'], start: number, end: number): number {
  if (!volts) return NaN;
  let lowest = Infinity;
  for (let i = end; i >= start && time[end]! - time[i]! <= 30 * MINUTE; i--)
    if (volts[i]! > 1 && volts[i]! < lowest) lowest = volts[i]!;
  return Number.isFinite(lowest) ? lowest : NaN;
}
