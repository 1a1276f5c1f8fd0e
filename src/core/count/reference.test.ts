/** The true state of charge by what is drawn by hand: what a high rate costs, and what it does not. */

import { agm, lithium } from '../../../tests/support/drawnCharges';
import { HOUR, MINUTE } from '../quantity/span';
import type { Anchor } from './anchors';
import { referenceOf } from './reference';

const STEP = 10 * MINUTE;
const DAY = (24 * HOUR) / STEP;
const DAYS = 16;

/** Sixteen days in which nothing flows. */
function nothing() {
  const count = DAYS * DAY;
  const column = () => new Float64Array(count);
  const grid = { from: 0, step: STEP, count, cuts: [] };
  return {
    grid,
    in: column(),
    out: column(),
    hours: column().fill(STEP / HOUR),
    hidden: column(),
    hiddenError: column(),
  };
}

/**
 * A battery of 100 Ah that is full each morning and gives 35 Ah: in one hour on one day, in seven on the next.
 * @param quick what the hour takes from it, parts of the capacity
 */
function after(quick: number) {
  const through = nothing();
  const anchors: Anchor[] = [];
  const known = (at: number, charge: number, kind: Anchor['kind'], deviation: number) =>
    anchors.push({ kind, at, until: at, charge, deviation });
  for (let day = 0; day < DAYS; day++) {
    const from = day * DAY;
    const hours = day % 2 === 0 ? 1 : 7;
    const takes = hours === 1 ? quick : 0.35;
    known((from + 6) * STEP, 0.96, 'full', 0.022);
    for (let k = 0; k < 6 * hours; k++) through.out[from + 12 + k] = 35 / (6 * hours);
    known((from + 66) * STEP, 0.96 - takes, 'empty', 0.03);
    // Back in ten hours, with the usual losses.
    for (let k = 0; k < 60; k++) through.in[from + 70 + k] = (100 * takes) / 0.94 / 60;
  }
  return referenceOf({ bank: agm, through, anchors });
}

test('a battery that loses by its rate what Peukert’s law says has lost no capacity', () => {
  // W. Peukert, Elektrotechnische Zeitschrift 20, 1897: at seven times the rate of twenty hours an exponent of 1.2 makes 1.476 of each Ah.
  const { capacityAh } = after(0.35 * 7 ** 0.2);
  expect(capacityAh.value).toBeGreaterThan(92);
  expect(capacityAh.value).toBeLessThan(108);
});

test('a voltage that sinks as that of 40 Ah moves the capacity there; one that sinks as the label does leaves it', () => {
  const through = nothing();
  const sinks = (capacityAh: number) =>
    referenceOf({
      bank: agm,
      through,
      anchors: [{ kind: 'full', at: 0, until: 0, charge: 0.96, deviation: 0.022 }],
      sinking: { capacityAh, deviation: 0.2 * capacityAh, spans: [], volts: 0.2, ampHours: 10, amps: 1 },
    }).capacityAh;
  const less = sinks(40);
  expect(less.value).toBeLessThan(65);
  expect(less.value - 2 * less.deviation).toBeLessThan(40);
  expect(Math.abs(sinks(100).value - 100)).toBeLessThan(4);
});

test('nor has it where the rate costs nothing', () => {
  const { capacityAh } = after(0.35);
  expect(capacityAh.value).toBeGreaterThan(92);
  expect(capacityAh.value).toBeLessThan(108);
});

/**
 * Sixteen days of a battery of 100 Ah by its label: full, or as a charge leaves it, in the morning; so much drawn within seven hours, or
 * others, and put back within ten.
 */
function days(
  { out, loses, hours = 7 }: { out: number; loses: number; hours?: number },
  anchorsOf: (from: number, known: (cell: number, anchor: Omit<Anchor, 'at' | 'until'>) => void) => void,
) {
  const through = nothing();
  const anchors: Anchor[] = [];
  for (let day = 0; day < DAYS; day++) {
    const from = day * DAY;
    anchorsOf(from, (cell, anchor) =>
      anchors.push({ ...anchor, at: (from + cell) * STEP, until: (from + cell) * STEP }),
    );
    for (let k = 0; k < 6 * hours; k++) through.out[from + 12 + k] = out / (6 * hours);
    for (let k = 0; k < 60; k++) through.in[from + 70 + k] = out / (1 - loses) / 60;
  }
  return referenceOf({ bank: agm, through, anchors });
}

const FULL = { kind: 'full', charge: 0.96, deviation: 0.022 } as const;

test('a battery that holds less than half of its label is counted about that, though its charges lose a fifth', () => {
  const holds = 45;
  const { capacityAh, percent, deviation } = days({ out: 42, loses: 0.2 }, (_, known) => {
    known(6, FULL);
    known(33, { kind: 'rest', charge: 0.96 - 18 / holds, deviation: 0.07, byTable: 1 });
    known(66, { kind: 'rest', charge: 0.96 - 42 / holds, deviation: 0.07, byTable: 1 });
  });
  expect(Math.abs(capacityAh.value / holds - 1)).toBeLessThan(0.25);
  const empty = 5 * DAY + 66;
  expect(Math.abs(percent[empty]! - 100 * (0.96 - 42 / holds))).toBeLessThan(2 * deviation[empty]!);
});

test('so is it where the rate took much of that: from its label the way there is far', () => {
  // A third of an hour at three quarters of what it holds; by Peukert's law (1.2) that takes 1.7 of each Ah.
  const holds = 47;
  const out = 14;
  const hours = 1 / 3;
  const takes = (out / holds) * ((out / hours / holds) * 20) ** 0.2;
  const loses = 1 - (0.94 * out) / (takes * holds);
  const { capacityAh, percent } = days({ out, loses, hours }, (_, known) => {
    known(6, FULL);
    known(11, { kind: 'rest', charge: 0.93, deviation: 0.07, byTable: 1 });
    known(60, { kind: 'rest', charge: 0.96 - takes, deviation: 0.07, byTable: 1 });
  });
  expect(Math.abs(capacityAh.value / holds - 1)).toBeLessThan(0.25);
  expect(Math.abs(percent[5 * DAY + 60]! - 100 * (0.96 - takes))).toBeLessThan(12);
});

test('charges that lack another part than their current says: all of a log may be off by it', () => {
  // By the current 10 % were missing each time; by sixteen rests, of a table that is right, 16.
  const { percent, deviation } = days({ out: 30, loses: 0.06 }, (_, known) => {
    known(6, { kind: 'absorption', charge: 0.86, deviation: 0.042, lacks: 0.1 });
    known(66, { kind: 'rest', charge: 0.5, deviation: 0.07, byTable: 1 });
  });
  const morning = 5 * DAY + 8;
  expect(percent[morning]).toBeLessThan(86);
  // Sixteen that each were off by themselves would leave a point.
  expect(deviation[morning]).toBeGreaterThan(2.5);
  expect(Math.abs(percent[morning]! - 80)).toBeLessThan(2 * deviation[morning]!);
});

test('what stands at the end of its table is as open as the table; what stands far under it is empty', () => {
  const low = (byTable: number) => {
    const { percent, deviation } = days({ out: 30, loses: 0.06 }, (_, known) =>
      known(66, { kind: 'empty', charge: 0.01, deviation: 0.06, byTable }),
    );
    const evening = 5 * DAY + 66;
    return { percent: percent[evening]!, deviation: deviation[evening]! };
  };
  expect(low(1).deviation).toBeGreaterThan(6);
  expect(low(0).deviation).toBeLessThan(4);
  expect(low(0).percent).toBeLessThan(6);
});

test('in the cold no number of charges tells as well how full lead gets; lithium and a warm battery are as they were', () => {
  const anchors = Array.from({ length: 8 }, (_, day) => {
    const at = (day * DAY + 6) * STEP;
    return { kind: 'full' as const, at, until: at, charge: 0.96, deviation: 0.022 };
  });
  const open = (celsius: number, bank: typeof agm | typeof lithium = agm) =>
    Math.min(...referenceOf({ bank, through: nothing(), anchors, celsius }).deviation);
  expect(open(-10)).toBeGreaterThan(5);
  expect(open(5)).toBeLessThan(4);
  // Where nobody logged it the voltage that it asks for is open too.
  expect(open(NaN)).toBeGreaterThan(open(25));
  expect(open(-10, lithium)).toBe(open(25, lithium));
});

test('a capacity that is as likely as not leaves the state as open', () => {
  // Half of what the label says would explain the rests, and so would a table that is off.
  const at = (charge: number) => {
    const { percent, deviation, favours } = days({ out: 40, loses: 0.2 }, (_, known) => {
      known(6, FULL);
      known(66, { kind: 'rest', charge, deviation: 0.07, byTable: 1 });
    });
    const evening = 5 * DAY + 66;
    return { percent: percent[evening]!, deviation: deviation[evening]!, favours: favours.capacity };
  };
  const asLabelled = at(0.5);
  expect(asLabelled.favours).toBeLessThan(0);
  expect(asLabelled.deviation).toBeLessThan(6);
  const open = at(0.2);
  expect(open.favours).toBeGreaterThan(1);
  expect(open.favours).toBeLessThan(4);
  expect(open.deviation).toBeGreaterThan(1.5 * asLabelled.deviation);
  // 20 % as the rests say, 55 as the label does.
  expect(open.percent - 2 * open.deviation).toBeLessThan(25);
  expect(open.percent + 2 * open.deviation).toBeGreaterThan(55);
});

test('no number of rests under the knee of lithium narrows what its table is off by there', () => {
  const rests = (atKnee: boolean) => {
    const anchors = Array.from({ length: 12 }, (_, k) => ({
      kind: 'rest' as const,
      at: (100 + 100 * k) * STEP,
      until: (100 + 100 * k) * STEP,
      charge: 0.1,
      deviation: 0.03,
      ...(atKnee ? { atKnee } : {}),
    }));
    const { deviation } = referenceOf({ bank: lithium, through: nothing(), anchors });
    return Math.min(...deviation);
  };
  expect(rests(true)).toBeGreaterThan(3.5);
  expect(rests(false)).toBeLessThan(2.5);
});

test('a zero that is off adds to the current at the end of a charge, which looks like charge that is missing', () => {
  // Each day 20 Ah out by night and back by day; the meter shows 2 A too much into the battery all the time, and a rest ties it down.
  const zero = 2;
  const through = nothing();
  const anchors: Anchor[] = [];
  for (let day = 0; day < DAYS; day++)
    for (let k = 0; k < DAY; k++) {
      const at = day * DAY + k;
      const flows = k < 72 ? -20 / 12 : 20 / 0.94 / 12;
      const shown = (flows + zero) * (STEP / HOUR);
      if (shown > 0) through.in[at] = shown;
      else through.out[at] = -shown;
      if (k === DAY - 1) {
        // By its shown current it lacks 1.6 h times 2 A of 100 Ah; in truth nothing.
        const lacks = (1.6 * zero) / 100;
        anchors.push({
          kind: 'absorption',
          at: at * STEP,
          until: at * STEP,
          charge: 0.96 - lacks,
          deviation: 0.02,
          lacks,
          zeroHours: 1.6,
        });
      }
    }
  const found = referenceOf({ bank: agm, through, anchors });
  const plain = referenceOf({
    bank: agm,
    through,
    anchors: anchors.map((one) => ({ ...one, zeroHours: 0 })),
  });
  const last = found.percent.length - 1;
  expect(found.offsetA.value).toBeCloseTo(zero, 0);
  expect(found.percent[last]! - plain.percent[last]!).toBeGreaterThan(1.5);
  expect(Math.abs(found.percent[last]! - 96)).toBeLessThan(2);
});
