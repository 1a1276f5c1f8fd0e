import { seededRandom } from '../simulate/random';
import { leadBattery, usualLeadBattery } from '../simulate/leadBattery';
import { stratifiedLead } from '../simulate/stratifiedLead';
import type { Battery } from '../simulate/battery';
import { fitTail, fitTowards, forecastTail } from './tail';

const hours = Array.from({ length: 120 }, (_, i) => i / 60);
const curve = (start: number, rest: number, tau: number) =>
  hours.map((t) => rest + (start - rest) * Math.exp(-t / tau));

test.each([
  [12, 1, 0.7],
  [20, 0, 1.5],
  [8, 2.5, 0.4],
])('a clean decay is found again: from %d A to %d A, τ %d h', (start, rest, tau) => {
  const fit = fitTail(hours, curve(start, rest, tau))!;
  expect(fit.restAmps).toBeCloseTo(rest, 0);
  expect(fit.tauHours / tau).toBeGreaterThan(0.9);
  expect(fit.tauHours / tau).toBeLessThan(1.1);
});

test('noise and a load that comes and goes do not turn it', () => {
  const random = seededRandom(3);
  const amps = curve(12, 1, 0.7).map((one, i) => one + random.normal(0, 0.1) + (i % 20 === 7 ? 9 : 0));
  const fit = fitTail(hours, amps)!;
  expect(fit.tauHours).toBeGreaterThan(0.6);
  expect(fit.tauHours).toBeLessThan(0.8);
});

test('no fit to a rising current or to a handful of points', () => {
  expect(fitTail(hours, hours)).toBeNull();
  expect(fitTail([0, 1, 2], [3, 2, 1])).toBeNull();
});

test('time and charge to the tail follow from the curve: t = τ·ln((I − I∞)/(tail − I∞))', () => {
  const fit = { startAmps: 12, restAmps: 1, tauHours: 0.7, scatter: 0 };
  const { minutes, ampHours } = forecastTail(fit, 6, 2);
  expect(minutes).toBeCloseTo(60 * 0.7 * Math.log(5 / 1), 9);
  // Integral of the curve between the two currents, by small steps.
  let sum = 0;
  for (let t = 0; t < minutes! / 60; t += 1e-4) sum += (1 + 5 * Math.exp(-t / 0.7)) * 1e-4;
  expect(ampHours).toBeCloseTo(sum, 2);
  expect(forecastTail(fit, 6, 0.9)).toEqual({ minutes: null, ampHours: null });
  expect(forecastTail(fit, 1.5, 2)).toEqual({ minutes: 0, ampHours: 0 });
});

/** Current by the minute from the moment that 14.4 V is reached until it is down to the tail of a 100 Ah battery. */
function absorb(battery: Battery, bulkAmps: number): number[] {
  const falling: number[] = [];
  for (let minute = 0; minute < 2400; minute++) {
    const limited = battery.ampsAt(14.4) > bulkAmps;
    if (limited && falling.length > 0) throw new Error('Absorption fell back into bulk.');
    const amps = limited ? bulkAmps : battery.ampsAt(14.4);
    battery.step(60, limited ? battery.voltsAt(bulkAmps) : 14.4, amps, 25);
    if (!limited) falling.push(amps);
    if (amps <= 2) break;
  }
  return falling;
}

const wells = (from: number) =>
  leadBattery(usualLeadBattery(100, 6), { available: from, bound: from, celsius: 25 });
const layers = (from: number) =>
  stratifiedLead(
    {
      kind: 'stratified',
      capacityAh: 100,
      cells: 6,
      resistance: 1,
      gassing: 1,
      acidHours: 6,
      acceptance: 0.55,
      celsius: 25,
    },
    from,
  );

describe.each([
  ['two wells', wells],
  ['layers of acid', layers],
])('a lead battery of %s, absorption cut short', (_, make) => {
  test.each([
    [0.5, 10],
    [0.5, 25],
    [0.75, 10],
    [0.75, 25],
  ])('from %d at %d A: the missing minutes and ampere-hours within 20 %% after 90 min', (from, bulkAmps) => {
    const whole = absorb(make(from), bulkAmps);
    for (const cut of [90, 105]) {
      const seen = whole.slice(0, cut);
      const fit = fitTowards(
        seen.map((_, minute) => minute / 60),
        seen,
        0.5,
      )!;
      const { minutes, ampHours } = forecastTail(fit, seen.at(-1)!, 2);
      const missing = whole.slice(cut).reduce((sum, one) => sum + one / 60, 0);
      expect(minutes! / (whole.length - cut)).toBeGreaterThan(0.8);
      expect(minutes! / (whole.length - cut)).toBeLessThan(1.2);
      expect(ampHours! / missing).toBeGreaterThan(0.8);
      expect(ampHours! / missing).toBeLessThan(1.2);
    }
  });
});

test('a current that does not fall has no end to go to', () => {
  expect(
    fitTowards(
      hours,
      hours.map(() => 5),
      0.5,
    ),
  ).toBeNull();
  expect(
    fitTowards(
      hours,
      hours.map(() => 0.3),
      0.5,
    ),
  ).toBeNull();
});
