/** The demo systems: every log is recognised by itself, every story shows in its logs, and nothing is found that is not in the story. */

import { diagnose } from '../../diagnosis/diagnose';
import { diagnosisSchema } from '../../diagnosis/result';
import type { Series } from '../../log/channels';
import { takeInLog } from '../../log/takeIn';
import { devicesOf } from '../../system/schema';
import { keptDemo, keptTruth } from '../../../../tests/support/demos';
import { DEMO_SLUGS } from './index';

function read({ system, logs }: ReturnType<typeof keptDemo>): Series[] {
  return logs.map(({ device, text }) => {
    const { kind } = devicesOf(system).find((one) => one.id === device)!;
    return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
  });
}

/** What may be shown as likely or strong, and how far each clock was put out of step, s (drift: s a day). */
const STORIES: Record<string, { shown: string[]; clocks: Record<string, [number, number]> }> = {
  'tide-gauge': { shown: ['absorption-too-short'], clocks: {} },
  'seismic-vault': {
    shown: ['compensation-missing', 'equalisation-overdue'],
    clocks: { rectifier: [250, 0] },
  },
  'vaccine-cold-room': {
    shown: ['float-unsuited', 'percentage-cutoff', 'source-not-counted'],
    clocks: { second: [1380, 0] },
  },
  'ferry-lamps': { shown: ['false-sync'], clocks: {} },
  'fog-horn': { shown: ['load-path-drop'], clocks: { mains: [-3600, 0] } },
  'parish-radio': { shown: ['cell-imbalance', 'runner-stops-charge'], clocks: { mains: [0, -28] } },
  'weather-mast': {
    shown: ['cold-charge-block', 'compensation-wrong', 'really-empty'],
    clocks: { bms: [3600, 0] },
  },
  'harbour-office': { shown: [], clocks: {} },
};

test('every system has its story', () => {
  expect(Object.keys(STORIES).sort()).toEqual([...DEMO_SLUGS].sort());
});

describe.each(DEMO_SLUGS)('%s', (slug) => {
  const demo = keptDemo(slug);
  const { job, system, logs } = demo;
  const series = read(demo);
  const diagnosis = diagnose({ job, system, series });
  const { findings, trust, charges } = diagnosis;

  test('the diagnosis is what its schema says, no more and no less, and survives JSON', () => {
    expect(diagnosisSchema.parse(JSON.parse(JSON.stringify(diagnosis)))).toEqual(diagnosis);
    expect(diagnosis.hazards.filter((one) => one.spans.length > 0)).toEqual([]);
  });

  test('has a log of the monitor and one of a charger, under headings of their own', () => {
    const devices = logs.map((one) => one.device);
    expect(devices).toContain('monitor');
    expect(system.sources.some((source) => devices.includes(source.id))).toBe(true);
    const headings = logs.map(({ text }) => text.slice(0, 400));
    expect(new Set(headings).size).toBe(logs.length);
  });

  test('every log brings what its device measures', () => {
    for (const { device, channels } of series) {
      const { kind } = devicesOf(system).find((one) => one.id === device)!;
      const names = Object.keys(channels);
      const wanted = {
        monitor: ['battery_voltage', 'battery_current', 'soc'],
        source: ['source_current'],
        load: ['load_voltage', 'load_current'],
        bms: ['battery_voltage', 'battery_current', 'bms_charge_allowed', 'bms_discharge_allowed'],
      }[kind];
      expect(names).toEqual(expect.arrayContaining(wanted));
      if (kind === 'bms')
        expect(names.filter((name) => /^cell_\d\d_voltage$/.test(name))).toHaveLength(
          system.bank.cellsInSeries,
        );
    }
  });

  test('a charge that is called full did fill the battery', () => {
    const { series: exact, trueCharge } = keptTruth(slug);
    for (const one of charges.filter((each) => each.full)) {
      const [from, to] = [Date.parse(one.from), Date.parse(one.to)];
      const highest = trueCharge.filter((_, i) => exact.time[i]! >= from && exact.time[i]! <= to);
      expect([one.from, Math.max(...highest) > 90]).toEqual([one.from, true]);
    }
  });

  test('what the story tells is shown as likely, and nothing else, and the clocks that were put out of step are found', () => {
    const shown = findings
      .filter((one) => one.standing === 'likely' || one.standing === 'strong')
      .map((one) => one.cause);
    expect(shown.sort()).toEqual(STORIES[slug]!.shown);
    const found = trust.flatMap((note) => (note.clock ? [note.clock] : []));
    expect(found.map((one) => one.device).sort()).toEqual(Object.keys(STORIES[slug]!.clocks).sort());
    for (const { device, offsetSeconds, secondsPerDay } of found) {
      const [ahead, gains] = STORIES[slug]!.clocks[device]!;
      // No clock is found much finer than its log was sampled.
      expect(Math.abs(offsetSeconds + ahead)).toBeLessThan(60);
      expect(Math.abs(secondsPerDay + gains)).toBeLessThan(2);
    }
    expect(trust.map((note) => note.code).filter((code) => !['clock-offset', 'gaps'].includes(code))).toEqual(
      [],
    );
  });
});

test('weather mast: what the controller holds is found behind its compensation, and a battery that is not let charge is not full', () => {
  const demo = keptDemo('weather-mast');
  const { setpoints, charges } = diagnose({ ...demo, series: read(demo) });
  const { profile } = demo.system.sources[0]!;
  expect(setpoints[0]!.absorptionV!).toBeCloseTo(profile.absorptionV!, 1);
  expect(setpoints[0]!.floatV!).toBeCloseTo(profile.floatV!, 1);
  expect(setpoints[0]!.compensationMvPerCellPerC).toBe(profile.compensationMvPerCellPerC);
  expect(charges.filter((one) => one.full)).toEqual([]);
});

describe('the stories happen in the simulation', () => {
  const count = (values: Float32Array, test: (value: number, i: number) => boolean) =>
    values.reduce((sum, value, i) => sum + (test(value, i) ? 1 : 0), 0);

  test('ferry lamps: the reading is set to 100 % while the battery is far from full', () => {
    const { series, trueCharge } = keptTruth('ferry-lamps');
    const soc = series.channels.soc!;
    expect(
      count(soc, (value, i) => value === 100 && soc[i - 1]! < 99 && trueCharge[i]! < 85),
    ).toBeGreaterThan(2);
  });

  test('cold room: the second charger bypasses the monitor, and the inverter goes off by a reading that is far too low', () => {
    const { series, of, trueCharge } = keptTruth('vaccine-cold-room');
    const soc = series.channels.soc!;
    const load = of.inverter!.load_current!;
    const dropped = load.findIndex((amps, i) => amps === 0 && soc[i]! <= 20.5);
    expect(dropped).toBeGreaterThan(0);
    expect(trueCharge[dropped]!).toBeGreaterThan(soc[dropped]! + 20);
    const missed = of.monitor!.battery_current!.findIndex(
      (amps, i) =>
        of.second!.source_current![i]! > 10 && Math.abs(amps - series.channels.battery_current![i]!) > 9,
    );
    expect(missed).toBeGreaterThan(0);
  });

  test('fog horn: it drops out by the voltage at its own end while the battery is well', () => {
    const { series, of, trueCharge } = keptTruth('fog-horn');
    const { load_voltage: atHorn, load_current: amps } = of.horn!;
    const low = atHorn!.findIndex((volts, i) => amps![i]! > 60 && volts < 47.6);
    expect(low).toBeGreaterThan(0);
    expect(series.channels.battery_voltage![low]!).toBeGreaterThan(atHorn![low]! + 4);
    expect(trueCharge[low]!).toBeGreaterThan(70);
  });

  test('parish radio: the cell that is ahead stops the charge, the one that is behind the discharge; 100 % is never shown', () => {
    const { series, of } = keptTruth('parish-radio');
    const bms = of.bms!;
    const highest = (i: number) =>
      Math.max(
        ...Array.from({ length: 15 }, (_, k) => bms[`cell_${String(k + 1).padStart(2, '0')}_voltage`]![i]!),
      );
    const stopped = bms.bms_charge_allowed!.findIndex((allowed) => allowed === 0);
    const opened = bms.bms_discharge_allowed!.findIndex((allowed) => allowed === 0);
    expect(stopped).toBeGreaterThan(0);
    expect(bms.cell_09_voltage![stopped]).toBe(highest(stopped));
    expect(opened).toBeGreaterThan(0);
    expect(bms.cell_05_voltage![opened]).toBeLessThan(2.75);
    expect(bms.cell_01_voltage![opened]).toBeGreaterThan(3);
    expect(count(series.channels.soc!, (value) => value >= 99.5)).toBe(0);
  });

  test('weather mast: the charge is refused in the cold, and the station goes dark', () => {
    const { series, of } = keptTruth('weather-mast');
    const refused = count(
      of.bms!.bms_charge_allowed!,
      (allowed, i) => allowed === 0 && series.channels.battery_temperature![i]! < 0.5,
    );
    expect(refused).toBeGreaterThan(1000);
    expect(count(of.station!.load_current!, (amps) => amps === 0)).toBeGreaterThan(1000);
  });

  test('seismic vault: one attempt to equalise, held far below what the cells need', () => {
    const { series } = keptTruth('seismic-vault');
    const equalising = series.channels.source_stage!.map((stage) => (stage === 4 ? 1 : 0));
    expect(count(equalising, (value, i) => value === 1 && equalising[i - 1] === 0)).toBe(1);
    const volts = series.channels.source_voltage!.filter((_, i) => equalising[i] === 1);
    expect(Math.max(...volts)).toBeLessThan(29.7);
  });
});
