/** Each check against random sites: told where the fault was put in, silent where there is none. */

import { seriesOf, testSite } from '../../../../tests/support/testSites';
import type { KnownSystem } from '../../system/known';
import type { Series } from '../channels';
import { clockOffset } from '../clockOffset';
import { alignClocks } from '../align';
import { timelineOf } from '../timeline';
import { judgeTrust, type TrustCode } from './index';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

const isMonitor = (one: Series) => one.device === 'monitor';

interface Drawn {
  system: KnownSystem;
  series: Series[];
}

const drawn = (name: string): Drawn[] =>
  [0, 1, 2, 3, 4, 5].map((k) => {
    const site = testSite(`${name}-${k}`);
    return { system: site.system, series: seriesOf(site) };
  });
/** A sign shows where loads step, a ratio where only the sun moves the current. */
const sites = drawn('stepping');
const calm = drawn('calm');

type Site = Drawn;
const codes = ({ system, series }: Site): TrustCode[] =>
  judgeTrust(system, alignClocks(timelineOf(series)))
    .map((note) => note.code)
    .filter((code) => code !== 'gaps');
const changed = (site: Site, device: (one: Series) => boolean, change: (one: Series) => Series): Site => ({
  ...site,
  series: site.series.map((one) => (device(one) ? change(one) : one)),
});
const isCharger = (one: Series) => one.device !== 'monitor';
const scaled = (
  one: Series,
  channel: 'battery_current' | 'source_voltage',
  by: number,
  plus = 0,
): Series => ({
  ...one,
  channels: { ...one.channels, [channel]: one.channels[channel]?.map((value) => value * by + plus) },
});

test.each(sites.map((site, i) => [i, site] as const))('site %d as it is: nothing is told', (_, site) => {
  expect(codes(site)).toEqual([]);
});

describe('clocks', () => {
  test.each([
    ['an hour ahead', HOUR],
    ['two hours behind', -2 * HOUR],
    ['37 minutes ahead', 37 * MINUTE],
    ['a time zone away', 8 * HOUR],
  ])('%s is told and measured', (_, shift) => {
    for (const site of sites) {
      const moved = changed(site, isCharger, (one) => ({ ...one, time: one.time.map((t) => t + shift) }));
      expect(codes(moved)).toContain('clock-offset');
      const [charger, monitor] = [moved.series.find(isCharger)!, moved.series.find(isMonitor)!];
      const found = clockOffset(monitor, charger)!;
      expect(Math.abs(found.ms + shift)).toBeLessThan(4 * MINUTE);
    }
  });

  test('the sentence says who is ahead', () => {
    const moved = changed(sites[0]!, isCharger, (one) => ({ ...one, time: one.time.map((t) => t + HOUR) }));
    const note = judgeTrust(moved.system, alignClocks(timelineOf(moved.series))).find(
      (one) => one.code === 'clock-offset',
    )!;
    expect(note.text).toMatch(
      /^The clock of Charger is (58|59|60|61) min ahead of that of the monitor\. With the clock corrected/,
    );
    expect(note.spans).toHaveLength(1);
  });

  test('logs that hardly overlap, or share no voltage, say nothing', () => {
    const [a, b] = sites[0]!.series as [Series, Series];
    expect(clockOffset(a, { ...b, time: b.time.map((t) => t + 400 * 24 * HOUR) })).toBeNull();
    expect(clockOffset(a, { ...b, channels: {} })).toBeNull();
  });
});

describe('currents', () => {
  // A meter of a tenth of a volt may not show the small steps of a good battery.
  test('a reversed sign is told on five of six sites and more', () => {
    const told = sites.filter((site) =>
      codes(changed(site, isMonitor, (one) => scaled(one, 'battery_current', -1))).includes('sign-disagrees'),
    );
    expect(told.length).toBeGreaterThanOrEqual(5);
  });

  test('a shunt ratio of 0.75 or 1.5 is told with its figure; 5 % is within the meters', () => {
    let told = 0;
    for (const site of calm) {
      for (const ratio of [0.75, 1.5]) {
        const moved = changed(site, isMonitor, (one) => scaled(one, 'battery_current', ratio));
        const note = judgeTrust(moved.system, alignClocks(timelineOf(moved.series))).find(
          (one) => one.code === 'scale-disagrees',
        );
        if (!note) continue;
        told++;
        const figure = Number(/by (\d+) % of it/.exec(note.text)![1]);
        expect(Math.abs(figure - 100 * ratio)).toBeLessThan(12 * ratio);
      }
      expect(codes(changed(site, isMonitor, (one) => scaled(one, 'battery_current', 1.05)))).toEqual([]);
    }
    // Where loads step all the time, or the logs average differently, the ratio cannot be seen.
    expect(told).toBeGreaterThanOrEqual(4);
  });
});

describe('voltages', () => {
  test('a meter that is off by 0.3 V a block is told', () => {
    for (const site of sites) {
      const blocks = site.system.bank.cellsInSeries / (site.system.bank.chemistry === 'lfp' ? 4 : 6);
      const moved = changed(site, isCharger, (one) => scaled(one, 'source_voltage', 1, 0.3 * blocks));
      expect(codes(moved)).toContain('voltage-disagrees');
    }
  });

  const day = (volts: (hour: number) => number, amps: (hour: number) => number): Site => {
    const count = 24 * 60;
    const at = (f: (hour: number) => number) => Float32Array.from({ length: count }, (_, i) => f(i / 60));
    return {
      system: sites[0]!.system,
      series: [
        {
          device: 'monitor',
          time: Float64Array.from({ length: count }, (_, i) => Date.UTC(2026, 8, 21) + i * MINUTE),
          channels: { battery_voltage: at(volts), battery_current: at(amps) },
        },
      ],
    };
  };
  const capacity = sites[0]!.system.bank.capacityAh;

  test('a voltage that stands still while the battery is drawn on is told; one held by a charger is not', () => {
    const nominal = sites[0]!.system.bank.cellsInSeries * 2.1;
    expect(
      codes(
        day(
          () => nominal,
          () => -0.05 * capacity,
        ),
      ),
    ).toContain('stuck-value');
    expect(
      codes(
        day(
          () => 1.09 * nominal,
          (hour) => 0.1 * capacity * Math.exp(-hour),
        ),
      ),
    ).toEqual([]);
  });

  test('a current that stands still while the battery is cycled is told; a steady load is not', () => {
    const nominal = sites[0]!.system.bank.cellsInSeries * 2.1;
    const cycle = (hour: number) => nominal * (1 + 0.08 * Math.sin((hour / 24) * 4 * Math.PI));
    expect(codes(day(cycle, () => 2.5))).toContain('stuck-value');
    expect(
      codes(
        day(
          (hour) => nominal * (1 - 0.002 * hour),
          () => -1.1,
        ),
      ),
    ).toEqual([]);
  });
});

/** Voltage and current as they were at the start of a day and a half. */
const frozen = (one: Series): Series => {
  const from = one.time[0]! + 2 * 24 * HOUR;
  const first = one.time.findIndex((ms) => ms >= from);
  const last = one.time.findIndex((ms) => ms >= from + 36 * HOUR);
  const still = (column: Float32Array | undefined) =>
    column?.map((value, i) => (i > first && i < last ? column[first]! : value));
  const { battery_voltage, battery_current, ...others } = one.channels;
  return {
    ...one,
    channels: {
      ...others,
      battery_voltage: still(battery_voltage)!,
      battery_current: still(battery_current)!,
    },
  };
};

test('a monitor that stands still for a day and a half while the charger moves is told', () => {
  for (const site of sites) {
    const moved = changed(site, isMonitor, frozen);
    const notes = judgeTrust(moved.system, alignClocks(timelineOf(moved.series)));
    expect(notes.map((one) => one.code)).toContain('stuck-value');
    expect(notes.find((one) => one.code === 'stuck-value')!.text).toMatch(
      /voltage and current in the log of the monitor stand still for up to 3[56] h/,
    );
  }
});

/** Every so many rows a poll that failed and was written as zeros. */
const polled = (one: Series): Series => ({
  ...one,
  channels: Object.fromEntries(
    Object.entries(one.channels).map(([name, column]) => [
      name,
      (column as Float32Array).map((value, i) => (i % 700 === 350 ? 0 : value)),
    ]),
  ),
});

test('polls that failed and were written as zeros are told, and nothing is judged by them', () => {
  for (const site of sites) {
    const failing = changed(site, isMonitor, polled);
    expect(codes(failing)).toEqual(['wild-values']);
    const aligned = alignClocks(timelineOf(failing.series), site.system);
    const volts = aligned.series.flatMap((one) => [...(one.channels.battery_voltage ?? [])]);
    expect(volts.length).toBeGreaterThan(1000);
    expect(Math.min(...volts)).toBeGreaterThan(0);
  }
});

test('where its clock is set, so are the times at which a log is wild', () => {
  let seen = 0;
  for (const site of sites) {
    const late = changed(site, isCharger, (one) => ({
      ...polled(one),
      time: one.time.map((ms) => ms + 37 * MINUTE),
    }));
    const { series, wild, clocks } = alignClocks(timelineOf(late.series), site.system);
    for (const { device, spans } of wild) {
      const log = series.find((one) => one.device === device)!;
      if (!clocks.some((one) => one.device === device)) continue;
      seen++;
      // The rows before and after are still there.
      expect(spans.flatMap(({ from, to }) => [from, to]).every((ms) => log.time.includes(ms))).toBe(true);
    }
  }
  expect(seen).toBeGreaterThan(2);
});

test('a log with a sample every quarter of an hour is said to be too coarse', () => {
  const site = sites[0]!;
  const thin = changed(site, isMonitor, (one) => {
    const step = Math.round((15 * MINUTE) / (one.time[1]! - one.time[0]!));
    const pick = <A extends Float32Array | Float64Array>(column: A) =>
      column.filter((_, i) => i % step === 0) as A;
    return {
      ...one,
      time: pick(one.time),
      channels: Object.fromEntries(
        Object.entries(one.channels).map(([name, column]) => [name, pick(column as Float32Array)]),
      ),
    };
  });
  expect(codes(thin)).toContain('sampled-too-coarsely');
});
