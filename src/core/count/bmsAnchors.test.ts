import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { tripAnchors } from './bmsAnchors';

/** A BMS that lets nothing out from the hundredth minute on; a load that stops lets the cells recover. */
function tripped(lowest: number, others: number): Series {
  const time = Float64Array.from({ length: 200 }, (_, i) => i * MINUTE);
  const cell = (volts: number) => Float32Array.from(time, (_, i) => (i < 97 ? 3.2 : i < 100 ? volts : 3.25));
  return {
    device: 'bms',
    time,
    channels: {
      bms_discharge_allowed: Float32Array.from(time, (_, i) => (i < 100 ? 1 : 0)),
      cell_01_voltage: cell(others),
      cell_02_voltage: cell(lowest),
      cell_03_voltage: cell(others),
      cell_04_voltage: cell(others),
    },
  };
}

describe('a low-cell trip of the BMS', () => {
  test('is a true empty where the mean of the cells is near the knee', () => {
    const [one, ...others] = tripAnchors(timelineOf([tripped(2.6, 2.9)]));
    expect(others).toEqual([]);
    expect(one).toMatchObject({ kind: 'empty', at: 100 * MINUTE });
    expect(one!.charge).toBeLessThan(0.06);
  });

  test('says nothing of the battery where the others are well', () => {
    expect(tripAnchors(timelineOf([tripped(2.6, 3.22)]))).toEqual([]);
  });

  test('an overcurrent with good cells is none', () => {
    expect(tripAnchors(timelineOf([tripped(3.1, 3.15)]))).toEqual([]);
  });
});
