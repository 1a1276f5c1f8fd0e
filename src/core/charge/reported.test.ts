/** A charger's own word is a strong witness, never the judge; and a year of a log is judged as its first week. */

import { REPORTED_STAGES, type Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { DAY, HOUR, MINUTE } from '../quantity/span';
import { demoSite } from '../simulate/demo';
import { seededRandom } from '../simulate/random';
import type { KnownSystem } from '../system/known';
import { findCharges } from './charges';

const START = Date.UTC(2026, 0, 5);
const { system } = demoSite('tide-gauge');
const source = { ...system.sources[0]!, ratedA: 20, profile: {} };
const site = (kind: 'mains' | 'solar'): KnownSystem => ({ ...system, sources: [{ ...source, kind }] });
const word = (name: (typeof REPORTED_STAGES)[number]) => REPORTED_STAGES.indexOf(name);

/** @param at volts, amps and the charger's word by minute of the day and day */
function draw(
  days: number,
  every: number,
  at: (minute: number, day: number) => [number, number, number],
): Series {
  const random = seededRandom(5);
  const count = (days * 1440) / every;
  const time = Float64Array.from({ length: count }, (_, i) => START + i * every * MINUTE);
  const columns = [0, 1, 2].map(() => new Float32Array(count));
  for (let i = 0; i < count; i++) {
    const [volts, amps, stage] = at((i * every) % 1440, Math.floor((i * every) / 1440));
    columns[0]![i] = Math.round((volts + random.normal(0, 0.004)) * 100) / 100;
    columns[1]![i] = Math.round((amps + random.normal(0, 0.04)) * 10) / 10;
    columns[2]![i] = stage;
  }
  return {
    device: source.id,
    time,
    channels: { source_voltage: columns[0]!, source_current: columns[1]!, source_stage: columns[2]! },
  };
}

/** A good charge every day: bulk for three hours, absorption for two, float until six. */
function good(minute: number): [number, number, number] {
  const into = minute - 8 * 60;
  if (into < 0 || into >= 600) return [12.5, 0, word('off')];
  if (into < 180) return [12.7 + 1.7 * (into / 180) ** 1.5, 20, word('bulk')];
  if (into < 300) return [14.4, 3 + 17 * Math.exp(-(into - 180) / 40), word('absorption')];
  return [13.6, 2.5, word('float')];
}

const hoursOf = (found: ReturnType<typeof findCharges>[number], name: string) =>
  found.charges
    .flatMap((one) => one.stages)
    .filter((one) => one.stage === name)
    .reduce((sum, one) => sum + (one.to - one.from) / HOUR, 0);

test('where word and voltage agree, nothing is told', () => {
  const [found] = findCharges(site('mains'), timelineOf([draw(5, 1, good)]));
  expect(found!.saysOtherwise).toBeNull();
  expect(hoursOf(found!, 'absorption')).toBeCloseTo(10, 0);
});

test('a charger that says absorption while its voltage follows the sun is in bulk, and that is told', () => {
  const cloudy = (minute: number, day: number): [number, number, number] => {
    const into = minute - 7 * 60;
    if (into < 0 || into >= 600) return [12.3, 0, word('off')];
    const sun =
      Math.sin((into / 600) * Math.PI) * (0.55 + 0.25 * Math.sin(into / 17 + day) + 0.2 * Math.sin(into / 5));
    const amps = Math.max(0, 14 * sun);
    return [12.4 + 0.07 * amps, amps, word(into < 60 ? 'bulk' : 'absorption')];
  };
  const [found] = findCharges(site('solar'), timelineOf([draw(6, 1, cloudy)]));
  expect(hoursOf(found!, 'absorption')).toBeLessThan(2);
  expect(hoursOf(found!, 'bulk')).toBeGreaterThan(30);
  expect(found!.saysOtherwise).toMatchObject({ reported: 'absorption', found: 'bulk' });
  expect(found!.saysOtherwise!.hours).toBeGreaterThan(25);
  expect(found!.charges.some((one) => one.full)).toBe(false);
});

test('the stages are the same with the word and without it', () => {
  const log = draw(5, 1, good);
  const silent = { ...log, channels: { ...log.channels } };
  delete silent.channels.source_stage;
  const [told] = findCharges(site('mains'), timelineOf([log]));
  const [found] = findCharges(site('mains'), timelineOf([silent]));
  const names = (one: typeof told) => one!.charges.map((each) => each.stages.map((stage) => stage.stage));
  expect(names(found)).toEqual(names(told));
  const ratio = hoursOf(found!, 'absorption') / hoursOf(told!, 'absorption');
  expect(Math.abs(ratio - 1)).toBeLessThan(0.02);
});

test('a year at five minutes: the last week is judged as the first, to the minute and the ampere-hour', () => {
  const [found] = findCharges(site('mains'), timelineOf([draw(365, 5, good)]));
  const { charges } = found!;
  expect(charges.length).toBe(365);
  const week = (from: number) =>
    charges
      .filter((one) => one.from >= START + from * DAY && one.from < START + (from + 7) * DAY)
      .flatMap((one) =>
        one.stages.map((stage) => [stage.stage, Math.round((stage.to - stage.from) / MINUTE / 5)]),
      );
  expect(week(357)).toEqual(week(1));
  const [first, last] = [charges[1]!, charges[360]!];
  expect(last.ampHours / first.ampHours).toBeCloseTo(1, 2);
  expect(last.stages.map((one) => one.endedBy)).toEqual(first.stages.map((one) => one.endedBy));
});
