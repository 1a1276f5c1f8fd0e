/** Batteries in parallel, drawn by hand: what each carries is known. */

import { diagnose } from '../diagnosis/diagnose';
import { parallelOut, parallelText } from '../diagnosis/parallelOut';
import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { seededRandom } from '../simulate/random';
import { demoSystem } from '../simulate/demo';
import { type System, systemSchema } from '../system/schema';
import { besideEachOther } from './beside';
import { setApart } from './setApart';

const radio = demoSystem('parish-radio');
const battery = (n: number, capacityAh?: number) => ({
  id: `battery-${n}`,
  name: `Battery ${n}`,
  capacityAh,
});
const system: System = {
  ...radio.system,
  bms: {},
  bank: { ...radio.system.bank, capacityAh: 300 },
  batteries: [battery(1, 100), battery(2, 100), battery(3, 100)],
};

/** A day of loads and a day of charging by turns of six hours; each battery carries its part, by its own noisy meter. */
function logs(
  parts: readonly number[],
  { open }: { open?: { k: number; from: number; to: number } } = {},
): Series[] {
  const random = seededRandom(8);
  const count = 2 * 1440;
  const total = (i: number) => (Math.floor(i / 360) % 2 === 0 ? -60 : 45);
  return parts.map((part, k) => ({
    device: `battery-${k + 1}`,
    // Each by its own clock, seconds apart.
    time: Float64Array.from({ length: count }, (_, i) => i * 60_000 + 7_000 * k),
    channels: {
      battery_current: Float32Array.from({ length: count }, (_, i) => {
        const isOpen = open && i >= open.from && i < open.to;
        const others = isOpen ? 1 - parts[open.k]! : 1;
        return (isOpen && open.k === k ? 0 : (part / others) * total(i)) + random.normal(0, 0.2);
      }),
      battery_voltage: Float32Array.from({ length: count }, () => 49.5 + random.normal(0, 0.01)),
      soc: Float32Array.from({ length: count }, () => 60 + 4 * k),
    },
  }));
}
const beside = (series: Series[], of = system) =>
  besideEachOther(setApart(of, timelineOf(series)).batteries, 300);

test('batteries that share are said to share', () => {
  const found = beside(logs([0.34, 0.33, 0.33]));
  expect(found.map((one) => one.verdict)).toEqual(['shares', 'shares', 'shares']);
  expect(found[0]!.given).toBeCloseTo(0.34, 2);
  expect(found[0]!.taken).toBeCloseTo(0.34, 2);
  expect(found.map((one) => Math.round(one.percentApart))).toEqual([-6, 0, 6]);
  expect(parallelText(parallelOut(found))).toEqual(['The batteries share the current as they should.']);
});

test('a battery behind a poor joint carries too little, the others its part', () => {
  const found = beside(logs([0.44, 0.42, 0.14]));
  expect(found.map((one) => one.verdict)).toEqual(['too-much', 'shares', 'too-little']);
  const lines = parallelText(parallelOut(found));
  expect(lines.join(' ')).toMatch(
    /Battery 3 gives 14 % and takes 14 % of the current, where 33 % is its part/,
  );
});

test('a BMS that was open for hours is seen, a moment is not', () => {
  const third = { k: 1, from: 400, to: 700 };
  const found = beside(logs([0.34, 0.33, 0.33], { open: third }));
  expect(found.map((one) => one.verdict)).toEqual(['shares', 'out', 'shares']);
  expect(found[1]!.hoursOut).toBeCloseTo(5, 1);
  expect(found[1]!.out[0]!.from / 60_000).toBeCloseTo(400, -1);
  expect(beside(logs([0.34, 0.33, 0.33], { open: { ...third, to: 405 } }))[1]!.hoursOut).toBe(0);
});

test('a smaller battery has a smaller part; without labels all have the same', () => {
  const unlike = { ...system, batteries: [battery(1, 200), battery(2, 50), battery(3, 50)] };
  expect(beside(logs([0.66, 0.17, 0.17]), unlike).map((one) => one.verdict)).toEqual([
    'shares',
    'shares',
    'shares',
  ]);
  const unknown = { ...system, batteries: [battery(1, 200), battery(2), battery(3)] };
  expect(beside(logs([0.33, 0.33, 0.34]), unknown).map((one) => one.part)).toEqual([1 / 3, 1 / 3, 1 / 3]);
});

test('percentages far apart are told', () => {
  const far = logs([0.34, 0.33, 0.33]);
  far[2]!.channels.soc!.fill(95);
  expect(parallelText(parallelOut(beside(far))).join(' ')).toMatch(/stand 33 points apart/);
});

describe('the bank', () => {
  test('is judged by their sum where all were logged, and by nothing of them where one is missing', () => {
    const all = setApart(system, timelineOf(logs([0.34, 0.33, 0.33])));
    expect(all.timeline.series.map((one) => one.device)).toEqual(['bms']);
    const [whole] = all.timeline.series;
    expect(whole!.channels.battery_current![100]).toBeCloseTo(-60, 0);
    expect(whole!.channels.battery_voltage![100]).toBeCloseTo(49.5, 1);
    expect(whole!.channels.soc![100]).toBeCloseTo(64, 3);
    const some = setApart(system, timelineOf(logs([0.34, 0.33])));
    expect(some.timeline.series).toEqual([]);
    expect(some.batteries).toHaveLength(2);
  });
  test('a battery’s current beside the monitor’s is no wrong scale', () => {
    const series = logs([0.34, 0.33, 0.33]);
    const [whole] = setApart(system, timelineOf(series)).timeline.series;
    const monitor = { ...whole!, device: 'monitor' };
    const found = diagnose({ job: radio.job, system, series: [monitor, ...series] });
    expect(found.trust.map((one) => one.code)).not.toContain('scale-disagrees');
    expect(found.batteries.map((one) => one.verdict)).toEqual(['shares', 'shares', 'shares']);
  });
  test('cells are those of the battery in which they stand furthest apart', () => {
    const withCells = logs([0.34, 0.33, 0.33]).map((one, k) => ({
      ...one,
      channels: {
        ...one.channels,
        cell_01_voltage: one.channels.battery_voltage!.map((volts) => volts / 15),
        cell_02_voltage: one.channels.battery_voltage!.map((volts) => volts / 15 - (k === 1 ? 0.08 : 0.005)),
      },
    }));
    const { cells } = diagnose({ job: radio.job, system, series: withCells });
    expect(cells).toMatchObject({ battery: 'battery-2', kind: 'cells' });
    expect(cells!.spread.flat).toBeCloseTo(80, -1);
  });
});

test('two devices of one id are refused', () => {
  const clash = { ...system, batteries: [battery(1), { ...battery(2), id: system.loads[0]!.id }] };
  expect(systemSchema.safeParse(clash).error!.issues[0]!.message).toContain('is taken');
});
