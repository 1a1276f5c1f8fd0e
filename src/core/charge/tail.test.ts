import { seededRandom } from '../simulate/random';
import { fitTail, forecastTail } from './tail';

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
