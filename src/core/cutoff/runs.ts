/** How long a load runs when nobody cuts it: a run that went its whole length has ended by itself. */

import { medianStep } from '../log/grid';
import { median, quantile } from '../quantity/numbers';
import { endOnTime, laterInDay } from './byClock';
import { type Drop, endVolts, isOfCurrent } from './drops';
import type { LoadCurrent } from './loadCurrents';
import { LONG } from './moment';

/** So many runs of one length, and so alike: parts of it between a fifth and four fifths of them. */
const RUNS = { fewest: 4, spread: 0.05 };
/** Cut runs are shorter than those that end by themselves, and end at a lower voltage, V a 12 V block. */
const LOWER = 0.04;

/**
 * Runs of one length whose ends lie so far apart, V a 12 V block, beyond what the voltage sinks by in so many samples: no limit ended them.
 * A log in tenths of a volt parts them by less.
 */
const APART = { volts: 0.12, samples: 2, spread: 0.01 };

/** A load has run lower where it drew so much of its amperes, and so far under, V a 12 V block. */
const LOW = { amps: 0.7, volts: 0.1 };

/** Of runs that leave the other loads on, fewer than this part take them with them. */
const LEAVES = 0.2;

/** Over within so many samples, where so many others ran so many times as long. */
const REFUSED = { samples: 2, fewest: 3, longer: 5 };

/** So many runs that end at one time of the day, to a sample, and this part of them. */
const ITS_TIME = { fewest: 2, mostly: 0.5 };

/** So fine are the classes of amperes, parts. */
const CLASS = 0.05;

export interface Runs {
  /** Whether it went as long as runs like it that ended well above any limit, or as many of one length that no limit ended. */
  isAsUncut(drop: Drop): boolean;
  /** Whether it went as long as runs like it do when nobody cuts them, or until a time of the day at which they end. */
  isDone(drop: Drop): boolean;
  /** Whether runs like it are all as long as it is. */
  isUsual(drop: Drop): boolean;
  /** Whether it is one of the longest runs, where shorter ones were cut at a lower voltage; or of many of one length that no limit ended. */
  isWhole(drop: Drop): boolean;
  /** Whether it was over as it began, where others like it ran on. */
  isRefused(drop: Drop): boolean;
  /** Whether it leaves the other loads on, where what lets runs like it go takes them with it. */
  leavesWhatCutsTake(drop: Drop): boolean;
  /** Whether nearly all runs like it leave the other loads on, and it takes none with it: what else is drawn is too little to be seen each time. */
  leavesLikeOthers(drop: Drop): boolean;
  /** Whether the same load has drawn as much for long under the voltage that it ended at: it has no limit there. */
  hasRunLower(drop: Drop): boolean;
}

/**
 * What is usual among the runs of each load; it is worked out once for each load and class of amperes.
 * @param drops of all loads. @param isUncut ends that no limit can have brought. @param blocks 12 V blocks in series
 */
export function usualRuns(drops: readonly Drop[], isUncut: (drop: Drop) => boolean, blocks: number): Runs {
  const like = perClass((load, amps) => drops.filter((one) => one.load === load && isOfCurrent(one, amps)));
  // How long a run took that ended by itself shows only where its begin was seen.
  const whole = perClass((load, amps) => like(load, amps).filter((one) => one.beginSeen));
  const uncut = perClass((load, amps) => lengthOf(plainlyUncut(whole(load, amps), isUncut, blocks), load));
  const usual = perClass((load, amps) => lengthOf(like(load, amps), load));
  const most = perClass((load, amps) => longest(like(load, amps), load, blocks));
  const even = perClass((load, amps) => ofOneLength(like(load, amps), blocks));
  const onTime = perClass((load, amps) => endOnTime(like(load, amps), medianStep(load.time)));
  const take = perClass((load, amps) => takesRest(like(load, amps).filter((one) => !isUncut(one))));
  const leave = perClass((load, amps) => leavesRest(like(load, amps).filter(isUncut)));
  const leaveMostly = perClass((load, amps) => leavesMostly(like(load, amps)));
  // A run that ends by itself does not take other loads with it.
  const takesMore = ({ load, amps, takesAll }: Drop) => takesAll && leave(load, amps);
  const isEven = (drop: Drop) => lasted(drop, even(drop.load, drop.amps), APART.spread);
  const isWhole = (drop: Drop) => lasted(drop, most(drop.load, drop.amps)) || isEven(drop);
  /** A run of which the begin is not known goes with those of other days that end at its time. */
  const asOthers = (drop: Drop, judge: (one: Drop) => boolean): boolean => {
    const same = atItsTime(drop, whole(drop.load, drop.amps));
    return same.length >= ITS_TIME.fewest && same.filter(judge).length >= ITS_TIME.mostly * same.length;
  };
  const isAsUncut = (drop: Drop): boolean =>
    !takesMore(drop) &&
    (drop.beginSeen ? lasted(drop, uncut(drop.load, drop.amps)) || isEven(drop) : asOthers(drop, isAsUncut));
  const isDone = (drop: Drop): boolean => {
    if (takesMore(drop)) return false;
    if (onTime(drop.load, drop.amps).has(drop)) return true;
    if (!drop.beginSeen) return asOthers(drop, isDone);
    const length = uncut(drop.load, drop.amps);
    return length === null ? isWhole(drop) : lasted(drop, length);
  };
  return {
    isAsUncut,
    isDone,
    isRefused: (drop) =>
      isBegun(drop) &&
      like(drop.load, drop.amps).filter((one) => one.ranMs >= REFUSED.longer * drop.ranMs).length >=
        REFUSED.fewest,
    leavesWhatCutsTake: ({ load, amps, goesOn }) => goesOn && take(load, amps),
    leavesLikeOthers: ({ load, amps, takesAll }) => !takesAll && leaveMostly(load, amps),
    hasRunLower: ({ load, amps, moment }) =>
      drops.some(
        (one) =>
          one.load === load &&
          one.ranMs > LONG &&
          one.amps >= LOW.amps * amps &&
          one.moment.highestV < moment.volts - LOW.volts * blocks,
      ),
    isUsual: (drop) => lasted(drop, usual(drop.load, drop.amps)),
    isWhole,
  };
}

/** Made once for each load and class, with the amperes at the middle of the class. */
export function perClass<T>(
  make: (load: LoadCurrent, amps: number) => T,
): (load: LoadCurrent, amps: number) => T {
  const made = new Map<LoadCurrent, Map<number, T>>();
  return (load, amps) => {
    const step = Math.log1p(CLASS);
    const at = Math.round(Math.log(amps) / step);
    let own = made.get(load);
    if (!own) made.set(load, (own = new Map<number, T>()));
    if (!own.has(at)) own.set(at, make(load, Math.exp(at * step)));
    return own.get(at)!;
  };
}

const lasted = ({ load, ranMs }: Drop, usual: number | null, spread: number = RUNS.spread): boolean =>
  usual !== null && Math.abs(ranMs - usual) <= marginOf(load, usual, spread);

/** Those that end at its time of the day. */
const atItsTime = ({ at, load }: Drop, like: readonly Drop[]): Drop[] =>
  like.filter((one) => Math.abs(laterInDay(one.at, at)) <= medianStep(load.time));

const marginOf = (load: LoadCurrent, ms: number, spread: number = RUNS.spread): number =>
  Math.max(1.5 * medianStep(load.time), spread * ms);

/** It was over as it began. */
const isBegun = ({ ranMs, load }: Drop): boolean => ranMs <= REFUSED.samples * medianStep(load.time);

/** The length of runs that are alike, ms; null where they are too few or too unlike. */
function lengthOf(some: readonly Drop[], load: LoadCurrent): number | null {
  if (some.length < RUNS.fewest) return null;
  const lengths = some.map((one) => one.ranMs);
  const ms = median(lengths);
  return quantile(lengths, 0.8) - quantile(lengths, 0.2) > 2 * marginOf(load, ms) ? null : ms;
}

/** Those that no limit can have ended; what ends no higher than those that one may have is no other kind. */
function plainlyUncut(like: readonly Drop[], isUncut: (drop: Drop) => boolean, blocks: number): Drop[] {
  const level = median(like.filter((one) => !isUncut(one)).map(endVolts));
  return like.filter((one) => isUncut(one) && !(endVolts(one) < level + LOWER * blocks));
}

/** The length that most runs have whose ends lie too far apart for a limit: they ended by themselves. */
function ofOneLength(like: readonly Drop[], blocks: number): number | null {
  const ms = median(like.map((one) => one.ranMs));
  // What a voltage comes to that falls at once, or in a run that is over as it begins, lies anywhere under the limit.
  const some = like.filter((one) => !one.moment.dips && !isBegun(one) && lasted(one, ms, APART.spread));
  if (some.length < RUNS.fewest) return null;
  const ends = some.map(endVolts);
  const sinks = median(some.map(({ moment }) => moment.sinks.volts)) || 0;
  const apart = APART.volts * blocks + APART.samples * Math.max(0, sinks);
  return quantile(ends, 0.9) - quantile(ends, 0.1) > apart ? ms : null;
}

/** Whether what else was drawn goes on after such runs. */
const leavesRest = (some: readonly Drop[]): boolean =>
  some.filter((one) => one.goesOn).length >= RUNS.fewest &&
  some.filter((one) => one.takesAll).length < LEAVES * some.length;

/** Whether nearly all of such runs leave what else was drawn. */
const leavesMostly = (some: readonly Drop[]): boolean =>
  some.length >= RUNS.fewest && some.filter((one) => !one.goesOn).length < LEAVES * some.length;

/** Whether nearly all of such runs took what else was drawn with them. */
const takesRest = (some: readonly Drop[]): boolean => {
  const taken = some.filter((one) => one.takesAll).length;
  return taken >= RUNS.fewest && some.filter((one) => one.goesOn).length < LEAVES * taken;
};

/** Where every run comes near the limit: the longest of them, where many are of that length and the shorter ones ended lower. */
function longest(like: readonly Drop[], load: LoadCurrent, blocks: number): number | null {
  if (like.length === 0) return null;
  const ms = quantile(
    like.map((one) => one.ranMs),
    0.95,
  );
  const margin = marginOf(load, ms);
  const long = like.filter((one) => Math.abs(one.ranMs - ms) <= margin);
  // What is over as it begins pulls the voltage down further, and says nothing of where others end.
  const short = like.filter((one) => one.ranMs < ms - margin && !isBegun(one));
  if (short.length < RUNS.fewest) return null;
  const voltsOf = (some: readonly Drop[]) => median(some.map(endVolts));
  return voltsOf(short) < voltsOf(long) - LOWER * blocks ? lengthOf(long, load) : null;
}
