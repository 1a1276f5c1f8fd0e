/** Suggestions of a log alone: right where they are given, open where the log does not tell. */

import { keptDemo } from '../../../tests/support/demos';
import { seriesOf, testSite } from '../../../tests/support/testSites';
import type { Series } from '../log/channels';
import { recognise } from '../log/recognise';
import { takeInLog } from '../log/takeIn';
import { cellsSeenBy } from '../system/bankOf';
import { blocksInSeries, isLead } from '../system/chemistry';
import { suggestBank } from './bank';
import { suggestDevice } from './device';

const MINUTE = 60_000;
const bytes = (text: string) => new TextEncoder().encode(text);

test('the demo systems: never wrong, and the cells where they were logged', () => {
  const open: string[] = [];
  for (const slug of ['tide-gauge', 'vaccine-cold-room', 'parish-radio', 'fog-horn', 'weather-mast']) {
    const { system, logs } = keptDemo(slug);
    for (const { device, text } of logs) {
      if (device !== 'monitor' && device !== 'bms') continue;
      const { series } = takeInLog(bytes(text), device, { device }, system.timeZone);
      const { blocks, chemistry, cells } = suggestBank(series);
      expect([slug, device, blocks.value]).toEqual([slug, device, Math.round(blocksInSeries(system.bank))]);
      if (chemistry.isLead === null) open.push(`${slug} ${device}`);
      else expect([slug, chemistry.isLead]).toEqual([slug, isLead(system.bank.chemistry)]);
      if (device === 'bms') expect(cells).toBe(system.bank.cellsInSeries);
    }
  }
  // Fifteen cells stand where lead does, and so does lithium in the cold: there the voltage alone does not tell.
  expect(open).toEqual(['parish-radio monitor', 'weather-mast monitor']);
});

test('random sites: never the wrong voltage or family, and nearly always one from a monitor', () => {
  let asked = 0;
  let told = 0;
  for (const k of [1, 2, 3, 4, 5, 6]) {
    const site = testSite(`counted-${k}`);
    for (const series of seriesOf(site)) {
      if (cellsSeenBy(site.system, series.device) !== 'bank') continue;
      const { blocks, chemistry } = suggestBank(series);
      if (blocks.value !== null) expect(blocks.value).toBe(site.plan.blocks);
      if (chemistry.isLead !== null) expect(chemistry.isLead).toBe(site.plan.chemistry !== 'lfp');
      if (series.device !== 'monitor') continue;
      asked++;
      if (blocks.value !== null && chemistry.isLead !== null) told++;
    }
  }
  expect(asked).toBeGreaterThan(4);
  expect(told).toBeGreaterThanOrEqual(asked - 1);
});

/** By the minute: V and A into the battery, and a percentage. */
function drawn(
  volts: (i: number) => number,
  amps?: (i: number) => number,
  soc?: (i: number) => number,
): Series {
  const count = 3000;
  const column = (of: (i: number) => number) => Float32Array.from({ length: count }, (_, i) => of(i));
  return {
    device: 'log',
    time: Float64Array.from({ length: count }, (_, i) => i * MINUTE),
    channels: {
      battery_voltage: column(volts),
      ...(amps ? { battery_current: column(amps) } : {}),
      ...(soc ? { soc: column(soc) } : {}),
    },
  };
}

test('without a current: where it rests tells, a battery that is always held up does not', () => {
  expect(suggestBank(drawn((i) => (i % 1440 < 400 ? 13.8 : 12.5))).chemistry).toMatchObject({
    value: null,
    isLead: true,
  });
  expect(suggestBank(drawn((i) => (i % 1440 < 400 ? 27.4 : 26.4))).chemistry).toMatchObject({ value: 'lfp' });
  const held = suggestBank(drawn(() => 13.7));
  expect(held.blocks.value).toBe(1);
  expect(held.chemistry).toMatchObject({ value: null, isLead: null });
  expect(held.chemistry.why).toContain('held up by a charger');
});

test('an equalisation is for flooded cells; without one the lead is not guessed', () => {
  const days = (top: number) => drawn((i) => (i % 1440 < 300 ? top : 12.4));
  expect(suggestBank(days(15.6)).chemistry.value).toBe('flooded');
  expect(suggestBank(days(14.4)).chemistry).toMatchObject({ value: null, isLead: true });
});

test('either sign of the current will do', () => {
  const amps = (i: number) => (Math.floor(i / 60) % 2 === 0 ? -10 : 5);
  const volts = (i: number) => 12.6 + 0.03 * amps(i);
  expect(suggestBank(drawn(volts, amps)).chemistry.isLead).toBe(true);
  expect(suggestBank(drawn(volts, (i) => -amps(i))).chemistry.isLead).toBe(true);
});

test('ampere-hours for each point of its percentage', () => {
  // 160 Ah set, drawn at 8 A.
  const soc = (i: number) => Math.round(1000 - (1000 * 8 * i) / 60 / 160) / 10;
  const { capacityAh } = suggestBank(
    drawn(
      () => 12.4,
      () => -8,
      soc,
    ),
  );
  expect(capacityAh.value).toBe(160);
  expect(capacityAh.why).toContain('The label goes before it');
  expect(
    suggestBank(
      drawn(
        () => 12.4,
        () => -8,
      ),
    ).capacityAh.value,
  ).toBeNull();
  expect(
    suggestBank(
      drawn(
        () => 12.4,
        () => -8,
        () => 100,
      ),
    ).capacityAh.value,
  ).toBeNull();
});

describe('which device wrote it', () => {
  const told = (name: string, headings: string, row: string) =>
    suggestDevice(name, recognise(bytes(`${headings}\n${`${row}\n`.repeat(20)}`), 'monitor')).value;
  test('by its columns', () => {
    expect(told('a.csv', 'time,cell 1 voltage,cell 2 voltage', '2026-01-01 00:00,3.30,3.31')).toBe('bms');
    expect(told('a.csv', 'time,battery voltage,current,state of charge', '2026-01-01 00:00,12.6,-3,80')).toBe(
      'monitor',
    );
    expect(told('a.csv', 'time,battery voltage,pv power', '2026-01-01 00:00,13.6,120')).toBe('source');
  });
  test('by the name of the file where the columns do not tell, and else not', () => {
    expect(told('mains-charger.csv', 'time,voltage,current', '2026-01-01 00:00,13.6,12')).toBe('source');
    expect(told('log.csv', 'time,voltage,current', '2026-01-01 00:00,13.6,12')).toBeNull();
  });
});
