/** Can the currents be believed: their sign against the voltage, their size against each other? */

import { percent } from '../../quantity/text';
import { type Series, spanOf } from '../channels';
import { cellStart, firstAtOrAfter, judgingGrid, medianStep, toGrid } from '../grid';
import { anyLogWith } from '../timeline';
import { deviceName, type TrustInput, type TrustNote } from './note';

interface Moments {
  n: number;
  /** Correlation, and ratio of the deviations of y and x. */
  r: number;
  ratio: number;
}

/** Over steps from cell to cell in which x moves by more than `least`. */
function stepMoments(x: Float32Array, y: Float32Array, least: number): Moments {
  let n = 0;
  let sxx = 0;
  let syy = 0;
  let sxy = 0;
  for (let i = 1; i < x.length; i++) {
    const dx = x[i]! - x[i - 1]!;
    const dy = y[i]! - y[i - 1]!;
    if (dx !== dx || dy !== dy || Math.abs(dx) < least) continue;
    n++;
    sxx += dx * dx;
    syy += dy * dy;
    sxy += dx * dy;
  }
  return { n, r: n > 0 && sxx > 0 && syy > 0 ? sxy / Math.sqrt(sxx * syy) : 0, ratio: Math.sqrt(syy / sxx) };
}

/** Fewer steps than this decide nothing. */
const LEAST_STEPS = 30;

/**
 * A step of current into the battery lifts its voltage by its inner resistance: where it sinks instead, again and again, the sign is
 * the wrong way round. In regulation the voltage does not move, and says nothing.
 */
export function signDisagrees({ timeline, system, bank }: TrustInput): TrustNote[] {
  if (!bank) return [];
  return timeline.series.flatMap((series): TrustNote[] => {
    const { battery_current: amps, battery_voltage: volts } = series.channels;
    if (!amps || !volts) return [];
    const { n, r } = stepMoments(amps, volts, 0.02 * bank.capacityAh);
    const levels = meanVolts(amps, volts, 0.02 * bank.capacityAh);
    // Steps that agree decide by themselves; where they scatter, the mean voltages of charge and discharge must say the same.
    const plain = n >= 15 && r < -0.7;
    const scattered = n >= LEAST_STEPS && r < -0.15 && r * Math.sqrt(n) < -5;
    if (!plain && !(scattered && levels.charging < levels.discharging)) return [];
    return [
      {
        code: 'sign-disagrees',
        devices: [series.device],
        text: `In the log of ${deviceName(system, series.device)} the voltage falls when the current says charge, and rises when it says discharge: its current has the wrong sign.`,
        spans: [spanOf(series)],
      },
    ];
  });
}

function meanVolts(amps: Float32Array, volts: Float32Array, least: number) {
  const sums = { charging: 0, discharging: 0 };
  const counts = { charging: 0, discharging: 0 };
  for (let i = 0; i < amps.length; i++) {
    const way = amps[i]! > least ? 'charging' : amps[i]! < -least ? 'discharging' : null;
    if (!way || volts[i] !== volts[i]) continue;
    sums[way] += volts[i]!;
    counts[way]++;
  }
  return { charging: sums.charging / counts.charging, discharging: sums.discharging / counts.discharging };
}

/** Within this the two currents are taken to agree. */
const RATIO = { low: 0.8, high: 1.25 };

/**
 * When a charger's current moves, the battery's moves by as much while loads stay: where it moves by another amount at a fixed ratio, one
 * of the two is scaled wrongly. Only with one source on the bank, so that nobody else can make the difference.
 */
export function scaleDisagrees({ timeline, system, bank }: TrustInput): TrustNote[] {
  const sources = system.sources.filter((one) => (one.across ?? 'bank') === 'bank');
  const [source] = sources;
  if (!bank || !source || sources.length !== 1) return [];
  const own = timeline.series.find((one) => one.device === source.id && one.channels.source_current);
  const other = anyLogWith(timeline, 'battery_current');
  if (!own || !other || own.device === other.device) return [];
  const { grid, x, y } = onOneGrid(own, own.channels.source_current!, other, other.channels.battery_current!);
  // One logger may write what it measured at a moment, the other means: only what shows both ways is a scale.
  const means = stepMoments(x, y, 0.01 * bank.capacityAh);
  const moments = stepMoments(
    ...atMoments(own, own.channels.source_current!, other, other.channels.battery_current!),
    0.01 * bank.capacityAh,
  );
  const off = ({ n, r, ratio }: Moments) =>
    n < LEAST_STEPS || r < 0.9 ? 0 : ratio <= RATIO.low ? -1 : ratio >= RATIO.high ? 1 : 0;
  if (off(means) === 0 || off(means) !== off(moments)) return [];
  const { ratio } = moments;
  return [
    {
      code: 'scale-disagrees',
      devices: [own.device, other.device],
      text: `When the current of ${deviceName(system, own.device)} moves, that of ${deviceName(system, other.device)} moves by ${percent(100 * ratio)} of it: one of the two is scaled wrongly.`,
      spans: [{ from: grid.from, to: cellStart(grid, grid.count) }],
    },
  ];
}

/** Both values at the samples of the slower log; NaN where the faster has none within half its step. */
function atMoments(
  a: Series,
  valuesA: Float32Array,
  b: Series,
  valuesB: Float32Array,
): [Float32Array, Float32Array] {
  const slow = medianStep(a.time) >= medianStep(b.time);
  const [time, values, fast, fastValues] = slow
    ? [a.time, valuesA, b, valuesB]
    : [b.time, valuesB, a, valuesA];
  const reach = medianStep(fast.time) / 2;
  const other = new Float32Array(time.length).fill(NaN);
  for (let i = 0; i < time.length; i++) {
    const after = firstAtOrAfter(fast.time, time[i]!);
    const near = [after - 1, after].filter((k) => k >= 0 && k < fast.time.length);
    const at = near.reduce(
      (best, k) =>
        Math.abs(fast.time[k]! - time[i]!) < Math.abs((fast.time[best] ?? Infinity) - time[i]!) ? k : best,
      -1,
    );
    if (at >= 0 && Math.abs(fast.time[at]! - time[i]!) <= reach) other[i] = fastValues[at]!;
  }
  return slow ? [values, other] : [other, values];
}

export function onOneGrid(a: Series, valuesA: Float32Array, b: Series, valuesB: Float32Array) {
  const one = spanOf(a);
  const two = spanOf(b);
  const span = {
    from: Math.max(one.from, two.from),
    to: Math.max(Math.min(one.to, two.to), Math.max(one.from, two.from)),
  };
  const grid = judgingGrid(span, Math.max(medianStep(a.time), medianStep(b.time)), a.time);
  return { grid, x: toGrid(a.time, valuesA, grid), y: toGrid(b.time, valuesB, grid) };
}
