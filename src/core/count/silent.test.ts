/** A sync that nobody saw, in an hour without a log: listed where the battery was charged, a jump alone where it was not. */

import { keptDemo } from '../../../tests/support/demos';
import { observe } from '../diagnosis/observe';
import type { Series } from '../log/channels';
import { takeInLog } from '../log/takeIn';
import { HOUR } from '../quantity/span';
import { devicesOf, type System } from '../system/schema';
import type { Counting } from './types';

const { system, logs } = keptDemo('ferry-lamps');
const series = logs.map(({ device, text }) => {
  const { kind } = devicesOf(system).find((one) => one.id === device)!;
  return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
});
const countingOf = (of: System, seen: readonly Series[]): Counting => observe(of, [...seen]).counting!;

/** The logs with an hour before a moment cut out of the monitor's. */
const silentBefore = (at: number): Series[] =>
  series.map((one) => {
    if (one.device !== 'monitor') return one;
    const kept = [...one.time.keys()].filter((i) => one.time[i]! < at - HOUR || one.time[i]! >= at);
    return {
      ...one,
      time: Float64Array.from(kept, (i) => one.time[i]!),
      channels: Object.fromEntries(
        Object.entries(one.channels).map(([name, values]) => [
          name,
          Float32Array.from(kept, (i) => values![i]!),
        ]),
      ),
    };
  });

const whole = countingOf(system, series);
const { at } = whole.syncs[4]!;
const syncAt = ({ syncs }: Counting) => syncs.find((one) => one.at === at);
const jumpAt = ({ jumps }: Counting) => jumps.find((one) => one.at === at);

test('seen, it is a sync and no jump', () => {
  expect(syncAt(whole)!.afterGap).toBe(false);
  expect(jumpAt(whole)).toBeUndefined();
});

test('in a silence, with the battery at its charged voltage, it is listed all the same, and said to be unseen', () => {
  const counting = countingOf(system, silentBefore(at));
  expect(jumpAt(counting)).toMatchObject({ to: 100, mayBeSync: true });
  expect(syncAt(counting)).toMatchObject({ to: 100, afterGap: true });
  expect(counting.syncs).toHaveLength(whole.syncs.length);
});

test('where the battery stood below its charged voltage, something else set the reading: no sync', () => {
  const unreached = { ...system, monitor: { ...system.monitor!, chargedV: 15 } };
  const counting = countingOf(unreached, silentBefore(at));
  expect(jumpAt(counting)).toMatchObject({ to: 100, mayBeSync: false });
  expect(syncAt(counting)).toBeUndefined();
});
