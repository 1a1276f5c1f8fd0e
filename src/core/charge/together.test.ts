/** Who holds a voltage, and whether a source has more to give: drawn minutes whose answer is known. */

import { mean } from '../quantity/numbers';
import { seededRandom } from '../simulate/random';
import { compareMoves } from './moves';
import { SPARES, spareOf } from './spare';
import { answersLoads, answersOf } from './together';
import { drawnView, type Drawing } from '../../../tests/support/drawnView';

const DAY = 1440;
const NONE = new Uint8Array(4 * DAY);
const ON = 0.3;

/** A load that comes and goes with no rhythm, A. */
const draws = new Array<number>(4 * DAY).fill(0);
const random = seededRandom(11);
for (let m = 0, amps = 4; m < draws.length; m++) {
  if (random.next() < 0.1) amps = random.uniform(2, 10);
  draws[m] = amps;
}
const load = (minute: number) => draws[Math.floor(minute)]!;
/** The sun on a day with clouds, A. */
const sun = (minute: number) => (Math.floor(minute / 9) % 3 === 0 ? 3 : 7);

const answers = (drawing: Omit<Drawing, 'minutes' | 'volts'>, constant: boolean): number =>
  mean(
    answersOf(drawnView({ minutes: 240, volts: () => 14.4, ...drawing }), ON, constant, NONE)!.subarray(
      30,
      210,
    ),
  );

describe('of two sources on a bus', () => {
  test('the one whose current answers the loads holds the voltage', () => {
    const regulator = (m: number) => 12 + load(m) - 5;
    expect(answers({ amps: regulator, others: () => 5 }, true)).toBeGreaterThan(3);
    expect(answers({ amps: () => 5, others: regulator, othersConstant: true }, false)).toBeLessThan(-3);
  });
  test('under clouds the mains give what the sun leaves: the sun holds nothing', () => {
    const mains = (m: number) => 20 - sun(m);
    expect(answers({ amps: sun, others: mains, othersConstant: true }, false)).toBeLessThan(-3);
    expect(answers({ amps: mains, others: sun }, true)).toBeGreaterThan(3);
  });
  test('both hold it where both answer', () => {
    expect(answers({ amps: (m) => 0.6 * load(m), others: (m) => 0.4 * load(m) }, false)).toBeGreaterThan(0.8);
  });
  test('where nothing moves nothing is said, nor of a source that is alone', () => {
    expect(answers({ amps: () => 5, others: () => 5 }, false)).toBe(0);
    expect(answersOf(drawnView({ minutes: 60, volts: () => 14.4, amps: load }), ON, false, NONE)).toBeNull();
  });
});

describe('loads', () => {
  const answer = (amps: (m: number) => number, battery: (m: number) => number) =>
    mean(answersLoads(drawnView({ minutes: 240, volts: () => 13.4, amps, battery }), ON)!.subarray(30, 210));
  test('a source that gives what they ask for holds the voltage; one that leaves it to the battery does not', () => {
    expect(
      answer(
        (m) => 1 + load(m),
        () => 1,
      ),
    ).toBeGreaterThan(3);
    expect(
      answer(
        () => 12,
        (m) => 12 - load(m),
      ),
    ).toBeLessThan(-3);
  });
  test('clouds move both alike and say nothing', () => {
    expect(Math.abs(answer(sun, (m) => sun(m) - 3))).toBeLessThan(0.5);
  });
});

test('the one that moves more is found whatever the length of a cell', () => {
  for (const minutes of [1, 5, 10]) {
    const step = minutes * 60_000;
    const take = (of: (m: number) => number) => Float32Array.from({ length: 96 }, (_, i) => of(i * minutes));
    const moves = compareMoves(
      { amps: take(load), noise: 0.06 },
      { amps: take(() => 5), noise: 0.06 },
      step,
      step,
    )(48)!;
    expect([moves.one, moves.other]).toEqual([true, false]);
    expect(moves.more).toBeGreaterThan(2);
  }
});

describe('more to give', () => {
  const night = (minute: number) => minute % DAY < 6 * 60 || minute % DAY >= 18 * 60;
  const nights = Uint8Array.from({ length: 4 * DAY }, (_, m) => (night(m) ? 1 : 0));
  const arc = (minute: number) =>
    night(minute) ? 0 : 20 * Math.sin((((minute % DAY) - 360) / 720) * Math.PI);
  const spare = (
    amps: (m: number) => number,
    battery: (m: number) => number = () => 8,
    { sunny = true, seenByBattery = false } = {},
  ) =>
    spareOf(
      drawnView({ minutes: 4 * DAY, volts: () => 13.4, amps, battery, seenByBattery }),
      100,
      ON,
      sunny ? { night: nights, constant: false } : { night: null, constant: true },
    );
  const at = (day: number, hour: number) => day * DAY + hour * 60;

  test('the sun by its arc has none to spare', () => {
    expect(spare(arc).every((one) => one === SPARES.no)).toBe(true);
  });
  test('an ampere at noon, where it gave twenty before, is held back', () => {
    const found = spare((m) => (m < at(2, 10) ? arc(m) : Math.min(arc(m), 1)));
    expect(found[at(2, 12)]).toBe(SPARES.itself);
    expect(found[at(1, 12)]).toBe(SPARES.no);
  });
  test('a current that stands still while the sun sinks is no longer the sun’s', () => {
    const found = spare((m) => (m < at(2, 11) ? arc(m) : Math.min(arc(m), 6)));
    expect(found[at(2, 14)]).toBe(SPARES.itself);
  });
  test('a source that feeds the loads while the battery rests could give more; one that just happens to give as much could not', () => {
    const rests = (m: number) => (m < at(1, 0) ? 8 : 0);
    const mains = (m: number) => (m < at(1, 0) ? 12 : 4);
    expect(spare(mains, rests, { sunny: false })[at(2, 0)]).toBe(SPARES.somebody);
    expect(spare(() => 4, rests, { sunny: false })[at(2, 0)]).toBe(SPARES.no);
  });
  test('seen through the battery alone, a rest between hours of loads is somebody’s doing; one without loads is not', () => {
    const loaded = (m: number) => (m < at(1, 0) ? -3 : 0);
    expect(spare(loaded, loaded, { sunny: false, seenByBattery: true })[at(2, 0)]).toBe(SPARES.somebody);
    expect(
      spare(
        () => 0,
        () => 0,
        { sunny: false, seenByBattery: true },
      )[at(2, 0)],
    ).toBe(SPARES.no);
  });
  test('loads that pause are nobody’s doing: before and after them the battery gives', () => {
    // A compressor draws 6 A for half an hour in every two hours, day and night; between them next to nothing flows.
    const paused = (m: number) => (m % 120 < 30 ? -6 : 0.1);
    const found = spare(paused, paused, { sunny: false, seenByBattery: true });
    expect(found.every((one) => one === SPARES.no)).toBe(true);
    // With a source that carries it from the third day on the battery rests.
    const carried = (m: number) => (m < at(2, 0) ? paused(m) : 0.1);
    expect(spare(carried, carried, { sunny: false, seenByBattery: true })[at(3, 0)]).toBe(SPARES.somebody);
  });
});
