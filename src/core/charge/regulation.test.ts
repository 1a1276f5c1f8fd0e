/** Regulated or supply-limited: drawn minutes of voltage and current whose answer is known. */

import { mean } from '../quantity/numbers';
import { findLimits } from './limit';
import { judgeRegulation } from './regulation';
import type { ChargeView } from './view';
import { drawnView, type Drawing } from '../../../tests/support/drawnView';

const BANK = { chemistry: 'agm', capacityAh: 100 } as const;

type Plateau = Omit<Drawing, 'minutes'> & { minutes?: number };
const viewOf = (drawing: Plateau): ChargeView => drawnView({ minutes: 120, seenByBattery: true, ...drawing });

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
function judged(drawing: Plateau, from: number, to: number): number {
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
  describe('broken by a cloud every few minutes', () => {
    // A battery of 20 mΩ behind 14.4 V that takes less and less; each third minute a cloud leaves it less than that.
    const takes = decay(12, 4, 40);
    const isCloudy = (m: number) => m % 3 === 1;
    const sky = {
      volts: (m: number) => (isCloudy(m) ? 14.4 - 0.02 * 0.6 * takes(m) : 14.4),
      amps: (m: number) => (isCloudy(m) ? 0.4 : 1) * takes(m),
    };
    const clear = (m: number) => !isCloudy(m) && m >= 10 && m < 80;
    test('it is held between the clouds, and not in them', () => {
      const held = judge(viewOf(sky));
      expect(mean([...held].filter((_, m) => clear(m)))).toBeGreaterThan(1);
      expect(mean([...held].filter((_, m) => isCloudy(m)))).toBeLessThan(-1);
    });
    test('not where the top sinks with the current that the sun leaves', () => {
      const held = judge(viewOf({ ...sky, volts: (m) => 14.1 + 0.02 * sky.amps(m) }));
      expect(mean([...held].filter((_, m) => clear(m)))).toBeLessThan(-1);
    });
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
