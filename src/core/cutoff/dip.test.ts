/** A dip that falls between two samples of the battery's log, seen by a charger's. Drawn, so that the answer is known. */

import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import { column, DAY, MINUTE } from '../../../tests/support/drawnLoads';
import { findCutOffs } from './findCutOffs';
import { loadCurrents } from './loadCurrents';
import { momentReader } from './moment';

const DAYS = 5;
/** The load of 40 A runs from ten o'clock, by 10 to 50 minutes from day to day. A cloud ends it: the sun falls from 30 A to 10 A. */
const endOf = (day: number) => 600 + 10 * (day + 1);
const runs = (m: number) => m % DAY >= 600 && m % DAY < endOf(Math.floor(m / DAY));

/** The charger is read 20 s before the battery; its last sample under the load shows the cloud, by so much higher each day. */
function drawn(
  dipV: number,
  dipA = 10,
  higher = 0,
  cutoffV = 11.2,
): { system: KnownSystem; series: Series[] } {
  const time = (late: number) => Float64Array.from({ length: DAYS * DAY }, (_, i) => i * MINUTE + late);
  const isCloud = (m: number) => runs(m - 1) && !runs(m);
  const series: Series[] = [
    {
      device: 'sun',
      time: time(-20_000),
      channels: {
        source_voltage: column(
          (m) => (isCloud(m) ? dipV + higher * Math.floor(m / DAY) : runs(m) ? 12.1 : 13.6),
          DAYS,
        ),
        source_current: column((m) => (isCloud(m) ? dipA : runs(m) ? 30 : 1), DAYS),
      },
    },
    {
      device: 'monitor',
      time: time(0),
      channels: {
        battery_voltage: column((m) => (runs(m) ? 12 : 13.6), DAYS),
        battery_current: column((m) => (runs(m) ? -10 : 1), DAYS),
      },
    },
  ];
  const system = {
    bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
    sources: [{ id: 'sun', name: 'Sun', kind: 'solar' }],
    loads: [{ id: 'pump', name: 'Pump', cutoffV, counted: true }],
    timeZone: 'UTC',
  } as unknown as KnownSystem;
  return { system, series };
}

const cuts = ({ system, series }: ReturnType<typeof drawn>) => {
  const timeline = timelineOf(series);
  return findCutOffs(system, timeline, loadCurrents(system, timeline, 0), null);
};

test('a load that a cloud left to the battery alone, which then sank under the limit, was cut', () => {
  const found = cuts(drawn(11));
  expect(found).toHaveLength(DAYS);
  // The battery gave 10 A beside 30 A of sun, then 30 A beside 10 A: worked by hand.
  for (const one of found) {
    expect(one.why).toBe('volts');
    expect(one.volts).toBeCloseTo(11, 2);
    expect(one.amps).toBeCloseTo(30, 1);
  }
});

test('one that sank no further than well above the limit was not', () => {
  expect(cuts(drawn(11.5, 10, 0.1, 10.8))).toEqual([]);
  expect(cuts(drawn(10.4, 10, 0.1, 10.8))).toHaveLength(DAYS);
});

test('a charger that gives nothing, and a bus that the battery has left, tell nothing of its voltage', () => {
  const at = endOf(0) * MINUTE;
  const voltsOf = (log: ReturnType<typeof drawn>) => momentReader(timelineOf(log.series), null)(at);
  expect(voltsOf(drawn(11)).volts).toBeCloseTo(11, 2);
  expect(voltsOf(drawn(11)).dips).toBe(true);
  expect(voltsOf(drawn(11, 0)).volts).toBeCloseTo(12, 2);
  expect(voltsOf(drawn(2)).volts).toBeCloseTo(12, 2);
  expect(voltsOf(drawn(2)).dips).toBe(false);
});

test('a meter that reads lower than the battery’s is not taken for a dip', () => {
  const log = drawn(11.6);
  const sun = log.series[0]!.channels;
  sun.source_voltage = sun.source_voltage!.map((one) => one - 0.6);
  // It shows 11.5 V under the load and 11.0 V in the dip: by the battery's meter 12.0 V and 11.5 V.
  const { volts } = momentReader(timelineOf(log.series), null)(endOf(0) * MINUTE);
  expect(volts).toBeCloseTo(11.5, 2);
});
