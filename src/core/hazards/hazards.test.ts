/** Each hazard where a drawn log shows it, and silence where it only comes near. The limits are common practice, with no source. */

import { MINUTE } from '../quantity/span';
import type { Channel, Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { demoSite } from '../simulate/demo';
import type { SourceCharging } from '../charge/types';
import type { LoadPath } from '../cutoff/types';
import type { KnownSystem } from '../system/known';
import { hazardsIn } from './index';
import { howOften, spells } from './spells';

const START = Date.UTC(2026, 0, 10);
const COUNT = 600;
const lead = demoSite('tide-gauge').system;
const lithium = demoSite('weather-mast').system;
const blocks = lead.bank.cellsInSeries / 6;

/** A log of ten hours by the minute, drawn by channel. */
function log(device: string, channels: Partial<Record<Channel, (minute: number) => number>>): Series {
  return {
    device,
    time: Float64Array.from({ length: COUNT }, (_, i) => START + i * MINUTE),
    channels: Object.fromEntries(
      Object.entries(channels).map(([name, at]) => [
        name,
        Float32Array.from({ length: COUNT }, (_, i) => at!(i)),
      ]),
    ),
  };
}

const told = (
  system: KnownSystem,
  series: Series[],
  charging: SourceCharging[] = [],
  loadPaths: LoadPath[] = [],
) => hazardsIn({ system, timeline: timelineOf(series), charging, loadPaths });
const between = (from: number, to: number, inside: number, outside: number) => (minute: number) =>
  minute >= from && minute < to ? inside : outside;

test('spells: short returns do not part them, gaps do, a single sample is none', () => {
  const time = Float64Array.from({ length: 60 }, (_, i) => START + (i < 30 ? i : i + 60) * MINUTE);
  const holds = new Set([3, 4, 5, 7, 8, 28, 29, 30, 31, 50]);
  const found = spells(time, (i) => holds.has(i), MINUTE);
  expect(found.map(({ from, to }) => [(from - START) / MINUTE, (to - START) / MINUTE])).toEqual([
    [3, 8],
    [28, 29],
    [90, 91],
  ]);
  expect(howOften(found)).toBe('3 times, 7 min in all');
});

describe('lithium charged below freezing', () => {
  const cold = (degrees: number, amps: number) =>
    log('bms', {
      battery_temperature: between(100, 160, degrees, 4),
      battery_current: between(120, 300, amps, -1),
    });
  test('is told with its spans, its current and how cold it was', () => {
    const [hazard, ...others] = told(lithium, [cold(-4, 12)]);
    expect(others).toEqual([]);
    expect(hazard!.code).toBe('lithium-charged-below-freezing');
    expect(hazard!.text).toContain('once, for 39 min: with up to 12.0 A, at down to −4 °C');
    expect(hazard!.spans).toEqual([{ from: START + 120 * MINUTE, to: START + 159 * MINUTE }]);
  });
  test('not at freezing itself, not without a current, not of lead', () => {
    expect(told(lithium, [cold(-0.3, 12)])).toEqual([]);
    expect(told(lithium, [cold(-8, 0.001 * lithium.bank.capacityAh)])).toEqual([]);
    expect(told(lead, [cold(-8, 12)])).toEqual([]);
  });
  test('the temperature may stand in another log, at a slower rate', () => {
    const heat = log('bms', { battery_temperature: () => -6 });
    const slow = {
      ...heat,
      time: heat.time.filter((_, i) => i % 10 === 0),
      channels: { battery_temperature: heat.channels.battery_temperature!.filter((_, i) => i % 10 === 0) },
    };
    const codes = told(lithium, [log('monitor', { battery_current: () => 20 }), slow]).map((one) => one.code);
    expect(codes).toEqual(['lithium-charged-below-freezing']);
  });
});

describe('over-voltage', () => {
  const at = (volts: number, celsius = 25) =>
    log('monitor', {
      battery_voltage: between(200, 230, volts, 12.6 * blocks),
      battery_temperature: () => celsius,
    });
  const sealed: KnownSystem = {
    ...lead,
    bank: { ...lead.bank, chemistry: 'agm', chargeVolts: { min: 14.2 * blocks, max: 14.6 * blocks } },
  };
  delete sealed.bank.equalise;
  test('is told of a sealed battery at 15.4 V a block', () => {
    const found = told(sealed, [at(15.4 * blocks)]);
    expect(found.map((one) => one.code)).toEqual(['over-voltage']);
    expect(found[0]!.text).toContain(`at up to ${(15.4 * blocks).toFixed(2)} V`);
  });
  test('not where the cold asks for as much, and not of a flooded battery that may be equalised', () => {
    expect(told(sealed, [at(15.4 * blocks, -10)])).toEqual([]);
    expect(told({ ...sealed, bank: { ...sealed.bank, chemistry: 'flooded' } }, [at(15.4 * blocks)])).toEqual(
      [],
    );
  });
  test('where no temperature was logged, the battery may have been cold', () => {
    const blind = at(15.4 * blocks);
    delete blind.channels.battery_temperature;
    expect(told(sealed, [blind])).toEqual([]);
  });
  test('a charger’s own voltage is allowed what its cable loses', () => {
    const charger = (volts: number) =>
      log('solar', { source_voltage: () => volts * blocks, battery_temperature: () => 25 });
    expect(told(sealed, [charger(15.2)])).toEqual([]);
    expect(told(sealed, [charger(15.6)]).map((one) => one.code)).toEqual(['over-voltage']);
  });
});

test('a hot battery: above 50 °C of lead, 55 °C of lithium', () => {
  const hot = (celsius: number) => [log('monitor', { battery_temperature: between(50, 90, celsius, 30) })];
  expect(told(lead, hot(52)).map((one) => one.code)).toEqual(['over-temperature']);
  expect(told(lithium, hot(52))).toEqual([]);
  expect(told(lithium, hot(57)).map((one) => one.code)).toEqual(['over-temperature']);
});

test('a lithium cell past its limit is named; one that the BMS stopped in time is not', () => {
  const cells = (volts: number) => [
    log('bms', { cell_01_voltage: () => 3.42, cell_02_voltage: between(300, 305, volts, 3.44) }),
  ];
  const found = told(lithium, cells(3.78));
  expect(found.map((one) => one.code)).toEqual(['cell-over-voltage']);
  expect(found[0]!.text).toMatch(/^Cell 2 stood above 3\.65 V once, for 4 min, at up to 3\.78 V\./);
  expect(told(lithium, cells(3.66))).toEqual([]);
});

const charging = (over: Partial<SourceCharging>): SourceCharging[] => [
  {
    source: lead.sources[0]!,
    bank: lead.bank,
    charges: [],
    path: null,
    logged: { span: { from: START, to: START + 60 * MINUTE }, gaps: [] },
    ...over,
  } as SourceCharging,
];

test('a path that loses far more than a sound cable is a hazard; what a cable usually loses is none', () => {
  const path = (ohms: number) => ({
    ohms,
    error: ohms / 20,
    offsetVolts: 0,
    amps: 40,
    lostVolts: ohms * 40,
    lostWatts: ohms * 1600,
    overRange: true,
  });
  const sound = (0.025 * 14.2 * blocks) / 40;
  expect(told(lead, [log('monitor', {})], charging({ path: path(sound) }))).toEqual([]);
  const found = told(lead, [log('monitor', {})], charging({ path: path(sound + 0.015) }));
  expect(found.map((one) => one.code)).toEqual(['hot-joint']);
});

test('an equalisation is a hazard for sealed batteries and lithium, unless their maker asks for it', () => {
  const charges = [{ stages: [{ stage: 'equalise', from: START, to: START + 30 * MINUTE, topVolts: 31 }] }];
  const equalised = charging({ charges: charges as never });
  const bank = { ...lead.bank, chemistry: 'agm' as const };
  delete bank.equalise;
  const codes = (of: KnownSystem) => told(of, [log('monitor', {})], equalised).map((one) => one.code);
  expect(codes({ ...lead, bank })).toEqual(['equalise-on-sealed-or-lithium']);
  expect(codes({ ...lead, bank: { ...bank, chemistry: 'flooded' } })).toEqual([]);
  expect(codes({ ...lead, bank: { ...bank, equalise: { volts: 31, minutes: 60, everyDays: 30 } } })).toEqual(
    [],
  );
});

describe('deep discharge', () => {
  const battery = (perBlock: number, minutes: number) => [
    log('monitor', { battery_voltage: between(100, 100 + minutes, perBlock * blocks, 12.4 * blocks) }),
  ];
  test('lead under 1.75 V a cell for more than an hour, with how low it came', () => {
    const [hazard, ...others] = told(lead, battery(9.8, 90));
    expect(others).toEqual([]);
    expect(hazard!.code).toBe('deep-discharge');
    expect(hazard!.text).toContain('once, for 89 min, down to 9.80 V');
    expect(hazard!.spans).toEqual([{ from: START + 100 * MINUTE, to: START + 189 * MINUTE }]);
  });
  test('not a dip under a large load, not the end of a discharge, not a dead bus', () => {
    expect(told(lead, battery(9.8, 40))).toEqual([]);
    expect(told(lead, battery(10.6, 200))).toEqual([]);
    expect(told(lead, battery(0.2, 200))).toEqual([]);
  });
  test('a lithium cell far below what a BMS stops at is named; a loose wire is none', () => {
    const cells = (volts: number) => [
      log('bms', { cell_01_voltage: () => 3.2, cell_02_voltage: between(300, 310, volts, 3.1) }),
    ];
    expect(told(lithium, cells(2.1)).map((one) => one.text)).toEqual([
      expect.stringMatching(/^Cell 2 stood under 2\.30 V once, for 9 min, down to 2\.10 V\./),
    ]);
    expect(told(lithium, cells(2.45))).toEqual([]);
    expect(told(lithium, cells(0.1))).toEqual([]);
  });
});

test('on the way to a load too: what the cable itself loses is no hot joint', () => {
  const id = lead.loads[0]!.id;
  const path = (ohms: number): LoadPath[] => [
    { id, ohms, error: ohms / 20, apart: 0, amps: 40, trend: null },
  ];
  const sound = (0.025 * lead.bank.chargeVolts.min) / 40;
  expect(told(lead, [log('monitor', {})], [], path(sound))).toEqual([]);
  const found = told(lead, [log('monitor', {})], [], path(sound + 0.015));
  expect(found.map((one) => one.code)).toEqual(['hot-joint']);
  expect(found[0]!.text).toContain(lead.loads[0]!.name);
  // Forty metres of 10 mm² there and back have 0.15 Ω (IEC 60228, from memory): nothing is hot in one place.
  const long = { ...lead, loads: [{ ...lead.loads[0]!, conductor: { metres: 40, squareMm: 10 } }] };
  expect(told(long, [log('monitor', {})], [], path(sound + 0.015))).toEqual([]);
});
