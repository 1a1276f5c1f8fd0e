/** Regulated or supply-limited: drawn minutes of voltage and current whose answer is known. */

import { MINUTE } from '../quantity/span';
import { mean } from '../quantity/numbers';
import { seededRandom } from '../simulate/random';
import { findLimits } from './limit';
import { judgeRegulation } from './regulation';
import type { ChargeView } from './view';

const BANK = { chemistry: 'agm', capacityAh: 100 } as const;

interface Drawing {
  volts: (minute: number) => number;
  amps: (minute: number) => number;
  minutes?: number;
  blocks?: number;
  noise?: number;
  quantum?: number;
}

function viewOf({
  volts,
  amps,
  minutes = 120,
  blocks = 1,
  noise = 0.004,
  quantum = 0.01,
}: Drawing): ChargeView {
  const random = seededRandom(17);
  const column = (value: (minute: number) => number, spread: number, step: number) =>
    Float32Array.from(
      { length: minutes },
      (_, i) => Math.round((value(i) + random.normal(0, spread)) / step) * step,
    );
  const drawnVolts = column(volts, noise * blocks, quantum);
  const drawnAmps = column(amps, 0.03, 0.1);
  return {
    source: 'charger',
    grid: { from: 0, step: MINUTE, count: minutes, cuts: [] },
    volts: drawnVolts,
    amps: drawnAmps,
    ampsAreBattery: true,
    batteryAmps: drawnAmps,
    batteryNoise: 0,
    batteryVolts: null,
    celsius: null,
    drift: null,
    allowed: null,
    reported: null,
    blocks,
    others: null,
    voltNoise: Math.max(noise * blocks, quantum / Math.sqrt(12)),
    ampNoise: 0.06,
    voltQuantum: quantum,
    log: { time: new Float64Array(0), volts: drawnVolts, amps: drawnAmps },
  };
}

const judge = (view: ChargeView) =>
  judgeRegulation(view, BANK, {
    limits: findLimits(view, 0.3),
    onAmps: 0.3,
    source: null,
    answers: null,
    spare: new Uint8Array(view.grid.count),
    loads: null,
  });

/** Mean judgement between two minutes: positive is regulated. */
function judged(drawing: Drawing, from: number, to: number): number {
  return mean(judge(viewOf(drawing)).subarray(from, to));
}

const decay = (from: number, to: number, tau: number) => (minute: number) =>
  to + (from - to) * Math.exp(-minute / tau);

describe('regulated', () => {
  test('absorption: the voltage stands, the current falls', () => {
    expect(judged({ volts: () => 14.4, amps: decay(12, 1, 40) }, 10, 110)).toBeGreaterThan(2);
  });
  test('the same at 48 V, and on a meter of 0.1 V', () => {
    expect(judged({ volts: () => 57.6, amps: decay(12, 1, 40), blocks: 4 }, 10, 110)).toBeGreaterThan(1);
    expect(judged({ volts: () => 14.4, amps: decay(12, 1, 40), quantum: 0.1 }, 10, 110)).toBeGreaterThan(1);
  });
  test('float with a load that comes and goes', () => {
    expect(judged({ volts: () => 13.7, amps: (m) => (m % 15 < 3 ? 8 : 1) }, 10, 110)).toBeGreaterThan(2);
  });
  test('a plateau of only twenty minutes between a climb and a fall', () => {
    const volts = (m: number) => (m < 50 ? 13.4 + 0.02 * m : m < 70 ? 14.4 : 13.2);
    const amps = (m: number) => (m < 50 ? 10 : m < 70 ? decay(10, 3, 12)(m - 50) : 0);
    expect(judged({ volts, amps }, 54, 66)).toBeGreaterThan(1);
  });
});

describe('supply-limited', () => {
  test('bulk at constant current: the voltage climbs', () => {
    expect(judged({ volts: (m) => 12.8 + 0.01 * m, amps: () => 10 }, 10, 110)).toBeLessThan(-1);
  });
  test('bulk so slow that minutes look flat', () => {
    expect(judged({ volts: (m) => 13.2 + 0.003 * m, amps: () => 4 }, 10, 110)).toBeLessThan(0.9);
  });
  test('clouds: the voltage follows the current', () => {
    const sun = (m: number) => (Math.floor(m / 7) % 2 === 0 ? 12 : 4);
    expect(judged({ volts: (m) => 12.9 + 0.03 * sun(m), amps: sun }, 10, 110)).toBeLessThan(-1);
  });
  test('morning sun: both rise', () => {
    expect(judged({ volts: (m) => 12.4 + 0.012 * m, amps: (m) => 0.1 * m }, 10, 110)).toBeLessThan(-2);
  });
});

test('a gap is not judged', () => {
  const view = viewOf({ volts: () => 14.4, amps: decay(12, 1, 40) });
  view.volts.fill(NaN, 40, 60);
  const held = judge(view);
  expect(held.subarray(40, 60).every((one) => Number.isNaN(one))).toBe(true);
  expect(held[20]).toBeGreaterThan(1);
});
