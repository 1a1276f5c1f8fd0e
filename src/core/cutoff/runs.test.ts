/** Runs that ended by themselves, and those that were cut. */

import { HOUR } from '../quantity/span';
import type { Drop } from './drops';
import type { LoadCurrent } from './loadCurrents';
import { usualRuns } from './runs';

const MINUTES = 60_000;
const load: LoadCurrent = {
  id: 'lamp',
  time: Float64Array.from({ length: 100 }, (_, k) => k * MINUTES),
  amps: new Float32Array(100),
  volts: null,
  hidden: null,
  given: null,
};
const run = (minutes: number, volts: number, some: Partial<Drop> = {}): Drop => ({
  load,
  at: 0,
  back: HOUR,
  amps: 10,
  peak: 10,
  goesOn: false,
  takesAll: false,
  fell: 10,
  ranMs: minutes * MINUTES,
  beginSeen: true,
  most: 10,
  loadVolts: NaN,
  moment: { volts, sinks: { volts: 0, since: 0 } } as Drop['moment'],
  ...some,
});
const nights = [598, 600, 600, 601, 602].map((one) => run(one, 12.2));
const above = (one: Drop) => one.moment.volts > 12;

test('a run of the usual length has ended by itself, a shorter or longer one has not', () => {
  const { isDone } = usualRuns(nights, above, 1);
  expect(isDone(run(590, 11.8))).toBe(true);
  expect(isDone(run(400, 11.8))).toBe(false);
  expect(isDone(run(700, 11.8))).toBe(false);
});

test('ends that no limit seems near tell nothing of others that end no lower', () => {
  // Five sank too slowly to be seen near their limit; three that sank faster were, at the same voltage.
  const near = [599, 600, 601].map((one) => run(one, 12.2));
  const judged = (ends: number) =>
    usualRuns(
      [...nights, ...near.map((one) => run(one.ranMs / MINUTES, ends))],
      (one) => nights.includes(one),
      1,
    );
  expect(judged(12.2).isDone(run(600, 12.2))).toBe(false);
  expect(judged(11.8).isDone(run(600, 11.8))).toBe(true);
});

test('a run that seems to take little else with it is one of those that leave it on', () => {
  const all = Array.from({ length: 12 }, (_, k) => run(45, 11.6, { goesOn: k > 1 }));
  const { leavesLikeOthers } = usualRuns(all, () => false, 1);
  expect(leavesLikeOthers(all[0]!)).toBe(true);
  expect(leavesLikeOthers({ ...all[0]!, takesAll: true })).toBe(false);
  expect(usualRuns(all.slice(0, 5), () => false, 1).leavesLikeOthers(all[0]!)).toBe(false);
});

test('runs of another load, or of other amperes, say nothing', () => {
  const { isDone } = usualRuns(nights, above, 1);
  expect(isDone(run(600, 11.8, { load: { ...load } }))).toBe(false);
  expect(isDone(run(600, 11.8, { amps: 20 }))).toBe(false);
  expect(isDone(run(600, 11.8, { amps: 11 }))).toBe(true);
});

test('too few runs, or runs that are unlike, have no usual length', () => {
  expect(usualRuns(nights.slice(0, 3), above, 1).isDone(run(600, 11.8))).toBe(false);
  const unlike = [100, 300, 500, 700, 900].map((one) => run(one, 12.2));
  expect(usualRuns(unlike, above, 1).isDone(run(500, 11.8))).toBe(false);
});

test('where every run comes low, the long ones were not cut if the short ones ended lower', () => {
  const short = [300, 350, 400, 450].map((one) => run(one, 11.4));
  const low = nights.map((one) => run(one.ranMs / MINUTES, 11.7));
  const cut = usualRuns([...low, ...short], () => false, 1);
  expect(low.every(cut.isWhole)).toBe(true);
  expect(short.some(cut.isWhole)).toBe(false);
  // Behind a poor joint they ended lower at the load alone.
  const behind = (some: readonly Drop[]) =>
    some.map((one) => ({ ...one, loadVolts: one.moment.volts, moment: { ...one.moment, volts: 12.6 } }));
  const all = behind([...low, ...short]);
  expect(all.slice(0, low.length).every(usualRuns(all, () => false, 1).isWhole)).toBe(true);
  expect(all.slice(low.length).some(usualRuns(all, () => false, 1).isWhole)).toBe(false);
  // Over as they began, they say nothing of the others.
  const refused = short.map((one) => run(1, one.moment.volts));
  expect(low.some(usualRuns([...low, ...refused], () => false, 1).isWhole)).toBe(false);
  // The short ones ended as high: nothing says that they were cut.
  const high = short.map((one) => run(one.ranMs / MINUTES, 11.7));
  expect(low.some(usualRuns([...low, ...high], () => false, 1).isWhole)).toBe(false);
});

test('runs of one length whose ends lie far apart in voltage ended by themselves; near one voltage they may have been cut', () => {
  // All near the limit: eight minutes and a cut one of seven.
  const all = [11.55, 11.6, 11.65, 11.7, 11.72].map((volts) => run(480, volts));
  const { isWhole, isDone } = usualRuns([...all, run(420, 11.5)], () => false, 1);
  expect(all.every(isWhole)).toBe(true);
  expect(isDone(run(420, 11.5))).toBe(false);
  const near = [11.55, 11.56, 11.57, 11.58, 11.58].map((volts) => run(480, volts));
  expect(near.some(usualRuns(near, () => false, 1).isWhole)).toBe(false);
  // A voltage that sinks fast may be seen that far from its limit.
  const fast = all.map((one) => ({ ...one, moment: { ...one.moment, sinks: { volts: 0.06, since: 0 } } }));
  expect(fast.some(usualRuns(fast, () => false, 1).isWhole)).toBe(false);
});

test('a run that takes the other loads with it has not ended by itself, where others like it leave them on', () => {
  const leave = nights.map((one) => ({ ...one, goesOn: true }));
  const taking = run(600, 11.8, { takesAll: true });
  expect(usualRuns(leave, above, 1).isDone(taking)).toBe(false);
  expect(usualRuns(nights, above, 1).isDone(taking)).toBe(true);
});

test('runs of one length whose ends lie far apart ended by themselves under a limit too', () => {
  const all = [11.4, 11.45, 11.5, 11.6, 11.7].map((volts) => run(480, volts));
  const { isAsUncut } = usualRuns(all, () => false, 1);
  expect(all.every(isAsUncut)).toBe(true);
  expect(isAsUncut(run(470, 11.4))).toBe(false);
});

test('a load that has drawn as much for long at a lower voltage has no limit where it ended higher', () => {
  const lower = (amps: number, minutes = 90) =>
    run(minutes, 11, { amps, moment: { volts: 11, highestV: 11.5 } as Drop['moment'] });
  const high = run(600, 12.1);
  const hasRunLower = (other: Drop) => usualRuns([high, other], above, 1).hasRunLower(high);
  expect(hasRunLower(lower(9))).toBe(true);
  expect(hasRunLower(lower(3))).toBe(false);
  expect(hasRunLower(lower(9, 10))).toBe(false);
  expect(hasRunLower({ ...lower(9), load: { ...load } })).toBe(false);
});

test('a run that leaves the other loads on has ended by itself, where what is cut takes them with it', () => {
  const cut = [300, 320, 350, 380, 400, 450].map((one) => run(one, 11.5, { takesAll: true }));
  const whole = run(480, 11.6, { goesOn: true });
  const leaves = (some: readonly Drop[], one: Drop) =>
    usualRuns([...some, one], above, 1).leavesWhatCutsTake(one);
  expect(leaves(cut, whole)).toBe(true);
  expect(leaves(cut, { ...whole, goesOn: false })).toBe(false);
  expect(leaves(cut.slice(0, 3), whole)).toBe(false);
  const both = cut.map((one) => ({ ...one, takesAll: false, goesOn: true }));
  expect(leaves([...cut, ...both], whole)).toBe(false);
});

test('a run of which the begin is not known goes with those of other days that end at its time', () => {
  const at = (hour: number, some: Partial<Drop>) => run(600, 12.2, { ...some, at: hour * HOUR });
  const whole = [6, 30, 54, 78].map((hour) => at(hour, {}));
  const { isDone, isAsUncut } = usualRuns(whole, above, 1);
  const unseen = { beginSeen: false, ranMs: 200 * MINUTES };
  for (const judge of [isDone, isAsUncut]) {
    expect(judge(at(102, unseen))).toBe(true);
    // At another time none has ended; and how long it was seen to run says nothing.
    expect(judge(at(104, unseen))).toBe(false);
    expect(judge(at(104, { beginSeen: false }))).toBe(false);
    expect(judge(at(102, { ...unseen, beginSeen: true }))).toBe(false);
  }
});
