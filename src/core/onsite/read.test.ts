/** What is read on a visit: displays, shares, the monitor's memory, ratings. Limits are common practice, no source. */

import { demoSystem, ON_SITE_DEMOS } from '../simulate/demo';
import { judgeDisplays } from './displays';
import { judgeMemory } from './memory';
import { chainsOf, generatorDraw, judgeRatings } from './ratings';
import type { Said } from './said';
import { batteryShares, judgeShares } from './shares';

const pumps = ON_SITE_DEMOS[0]!.system;
const vault = demoSystem('seismic-vault').system;
const factsOf = (said: readonly Said[]) => said.flatMap((one) => one.fact ?? []);
const faults = (said: readonly Said[]) => said.filter((one) => one.weight === 'fault').map((one) => one.text);
const texts = (said: readonly Said[]) => said.map((one) => one.text).join(' ');

describe('displays', () => {
  test('percentages that disagree, a count that was lost, a monitor that misses a current', () => {
    const shown = {
      monitor: { percent: 41, amps: -20 },
      'battery-1': { percent: 88, amps: -5 },
      'battery-2': { percent: 86, amps: -5 },
    };
    expect(faults(judgeDisplays(pumps, { shown }))).toEqual([
      'Battery 1 shows 88 %, Monitor 41 %.',
      'The monitor shows −20.0 A, the 2 batteries together −10.0 A.',
    ]);
    expect(factsOf(judgeDisplays(pumps, { shown: { monitor: { noPercent: true } } }))).toEqual([
      'count-lost',
    ]);
    const agreed = {
      monitor: { percent: 87, amps: -10.2 },
      'battery-1': shown['battery-1'],
      'battery-2': shown['battery-2'],
    };
    expect(faults(judgeDisplays(pumps, { shown: agreed }))).toEqual([]);
  });
  test('a drop on the way from a charger and to a load, in milliohms', () => {
    const of = (charger: number, inverter: number) =>
      factsOf(
        judgeDisplays(pumps, {
          postsV: 13.2,
          shown: { mains: { volts: charger, amps: 40 }, inverter: { volts: inverter, amps: 20 } },
        }),
      );
    expect(of(13.8, 12.6)).toEqual(['charge-path-loses', 'load-path-loses']);
    expect(of(13.3, 13.1)).toEqual(['charge-path-sound', 'load-path-sound']);
    expect(
      texts(judgeDisplays(pumps, { postsV: 13.2, shown: { mains: { volts: 13.8, amps: 40 } } })),
    ).toContain('15.0 mΩ');
  });
  test('halves: apart, or not adding up to the pack', () => {
    const at = (lowerV: number, upperV: number, postsV?: number) =>
      judgeDisplays(vault, { lowerV, upperV, ...(postsV ? { postsV } : {}) });
    expect(factsOf(at(12.4, 12.9))).toEqual(['halves-apart']);
    expect(factsOf(at(12.65, 12.7))).toEqual([]);
    expect(texts(at(12.65, 12.7, 26))).toContain('add up to 25.35 V, the pack reads 26.00 V');
    expect(texts(at(12.65, 12.7, 25.4))).not.toContain('add up');
  });
  test('a rested battery against the monitor', () => {
    const rested = (percent: number) =>
      judgeDisplays(vault, { postsV: 24.48, hoursAtRest: 12, shown: { monitor: { percent } } }).map(
        (one) => one.weight,
      );
    expect(rested(100)).toEqual(['fault']);
    expect(rested(50)).toEqual(['fine']);
  });
});

test('batteries in parallel: the current’s shares, and who does not share', () => {
  const at = (first: number, second: number, volts: [number, number] = [13.2, 13.2]) => ({
    shown: {
      'battery-1': { amps: first, volts: volts[0] },
      'battery-2': { amps: second, volts: volts[1] },
    },
  });
  expect(batteryShares(pumps, at(-15, -5)).map((one) => one.carries)).toEqual([0.75, 0.25]);
  expect(faults(judgeShares(pumps, at(-20, 0)))[0]).toContain('Battery 2 carries 0.0 % of the current');
  expect(judgeShares(pumps, at(-20, 0))[1]!.follows).toMatch(/BMS is open/);
  expect(
    judgeShares(pumps, at(-16, -4, [13.2, 13.05])).find((one) => one.text.startsWith('Battery 2'))!.follows,
  ).toMatch(/joint or a cable/);
  expect(judgeShares(pumps, at(-11, -9)).map((one) => one.weight)).toEqual(['fine']);
  expect(judgeShares(pumps, at(-0.5, -0.4)).map((one) => one.weight)).toEqual(['open']);
});

describe('the monitor’s memory', () => {
  const CASES: [string, Parameters<typeof judgeMemory>[1], Parameters<typeof judgeMemory>[1], string][] = [
    ['never set to full', { syncs: 0, cycles: 40 }, { syncs: 9 }, 'never-synced'],
    [
      'a charged voltage that was never reached',
      { highestV: 13.8 },
      { highestV: 14.3 },
      'charged-voltage-above-highest',
    ],
    ['long since full', { daysSinceFull: 40 }, { daysSinceFull: 5 }, 'long-since-full'],
    ['deeper than the bank', { deepestAh: 240 }, { deepestAh: 150 }, 'deeper-than-capacity'],
    ['emptied', { lowestV: 10.1 }, { lowestV: 12.6 }, 'emptied'],
    ['charged too high', { highestV: 15.1 }, { highestV: 14.4 }, 'charged-too-high'],
  ];
  test.each(CASES)('%s is said, and not where it is not so', (_, wrong, right, fact) => {
    expect(factsOf(judgeMemory(pumps, wrong))).toContain(fact);
    expect(factsOf(judgeMemory(pumps, right))).not.toContain(fact);
  });
});

describe('ratings chain', () => {
  const typed = { mainPath: { fuseA: 150, cableA: 160, busbarA: 250, jumperA: 160 }, shuntA: 500 };
  test('the running sum, the largest start on top of the rest, and the weakest link', () => {
    const { out, in: into } = chainsOf(pumps, typed);
    expect(out.running).toBe(14 + 6);
    expect(out.starting).toBe(6 + 62);
    expect(out.weakest).toEqual({ name: 'main fuse', amps: 150 });
    // Two BMS of 50 A each, while both share.
    expect(into.weakest).toEqual({ name: 'BMS', amps: 100 });
    expect(into.running).toBe(70);
    expect(chainsOf(pumps, { ...typed, setA: { mains: 20 } }).in.running).toBe(50);
  });
  test('what is overloaded is a fault, what is not known is asked, the rest is in order', () => {
    expect(faults(judgeRatings(pumps, typed))).toEqual([]);
    expect(
      faults(judgeRatings(pumps, { ...typed, mainPath: { ...typed.mainPath, fuseA: 15 } }))[0],
    ).toContain('is more than the main fuse carries');
    expect(faults(judgeRatings(pumps, { ...typed, mainPath: { ...typed.mainPath, cableA: 100 } }))).toContain(
      'The main fuse of 150.0 A is larger than its cable carries, 100.0 A.',
    );
    expect(faults(judgeRatings(pumps, { ...typed, bmsMaxDischargeA: 30 }))[0]).toContain(
      'the BMS lets 60.0 A through',
    );
    const asked = judgeRatings(pumps).filter((one) => one.weight === 'open');
    expect(asked.map((one) => one.text)).toEqual(
      ['main fuse', 'main cable', 'shunt', 'busbars', 'jumpers'].map((name) =>
        expect.stringContaining(`The rating of the ${name} is not known`),
      ) as string[],
    );
  });
  test('a jumper is as thick as its cable', () => {
    const jumper = (jumperA: number) =>
      texts(judgeRatings(pumps, { ...typed, mainPath: { ...typed.mainPath, jumperA } }));
    expect(jumper(90)).toContain('The jumpers carry 90.0 A, the cable that it joins 160.0 A.');
    expect(jumper(160)).not.toContain('The jumpers carry');
  });
  test('a small generator: volt-amperes are amperes times volts over efficiency and power factor', () => {
    expect(generatorDraw(pumps)).toBeCloseTo((40 * 14.6) / 0.88 / 0.7, 6);
    const behind = (generatorVa: number) => faults(judgeRatings(pumps, { mainPath: { generatorVa } }));
    expect(behind(700)[0]).toContain('of a generator of 700 VA');
    expect(behind(2000)).toEqual([]);
  });
});
