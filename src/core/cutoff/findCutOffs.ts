/**
 * When loads went off although nobody switched them off: by their own limit of voltage or percentage, by their protection, by the BMS.
 * A drop of the current alone is none: something must show what cut it.
 */

import type { Counting } from '../count/types';
import { refusalsOf } from '../charge/refusals';
import type { Series } from '../log/channels';
import { resolutionOf } from '../log/resolution';
import { batteryLog, type Timeline } from '../log/timeline';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import { type Drop, dropsOf, LEAST_PART } from './drops';
import { alike, type Found } from './alike';
import { withoutAsLow } from './asLow';
import { coldStops } from './coldStops';
import { busDeaths } from './deadBus';
import { drainedStops } from './drained';
import { doubtfulCuts, runDaily } from './doubtful';
import { withoutFarAbove } from './farAbove';
import { withoutFarUnder } from './farUnder';
import { endLikeOthers } from './likeOthers';
import { idOf, type LoadCurrent, loadOf, voltLimits } from './loadCurrents';
import { endAtOneVoltage } from './oneVoltage';
import {
  bmsReason,
  gives,
  mayBeCut,
  ranUnder,
  reasonOf,
  reasonOfPart,
  standsHigher,
  staysAway,
} from './reasons';
import { usualRuns } from './runs';
import { momentReader } from './moment';
import { together, TOGETHER } from './together';
import type { CutOff } from './types';

/** A load whose percentage is known draws so much at least, parts of the capacity in A. */
const PERCENT_PART = 0.004;
/** More than this part of what was drawn is still drawn after it: others go on. */
const GOES_ON = 0.08;

/** Cut-offs, the earliest first, and what may be some ({@link doubtfulCuts}). */
export function judgeDrops(
  system: KnownSystem,
  timeline: Timeline,
  loads: readonly LoadCurrent[],
  counting: Counting | null,
): { list: CutOff[]; doubtful: CutOff[] } {
  const readMoment = momentReader(timeline, counting);
  const { capacityAh } = system.bank;
  const hasPercent = (load: LoadCurrent) =>
    loadOf(system, load).some((one) => one.cutoffPercent !== undefined);
  const all = loads.flatMap((load) =>
    dropsOf(load, capacityAh, readMoment, hasPercent(load) ? PERCENT_PART : LEAST_PART),
  );
  // Where the begin was not seen, what was drawn before it is not known: what is drawn after it has gone on.
  const goesOn = (one: Drop) => one.goesOn || (!one.beginSeen && one.fell < (1 - GOES_ON) * one.amps);
  const isSmall = (one: Drop) => goesOn(one) && one.fell < LEAST_PART * capacityAh;
  const drops = all.filter((one) => !isSmall(one));
  // Null where the BMS does not say when it stopped the discharge: then its cells do.
  const stops = refusalsOf(timeline, 'bms_discharge_allowed');
  const plain: Found[] = [];
  const open: Drop[] = [];
  const ended: Drop[] = [];
  const isTooCold = stops === null ? coldStops(system, timeline) : () => false;
  const runs = usualRuns(drops, (one) => !mayBeCut(one, system), blocksInSeries(system.bank));
  // A meter that rounds shows a limit that was reached from half a step above it.
  const rounds = new Map(
    loads.map((load) => [load, load.volts ? resolutionOf(load.volts).quantum / 2 + 1e-4 : 0]),
  );
  for (const drop of drops) {
    // While the BMS lets nothing out the loads come and go with the chargers: that is one stop.
    if (stops?.some((one) => drop.at > one.from + TOGETHER && drop.at <= one.to + TOGETHER)) continue;
    const isPart = drop.goesOn || runs.leavesLikeOthers(drop);
    const reason = isPart
      ? reasonOfPart(drop, system, runs, rounds.get(drop.load)!)
      : (reasonOf(drop, system, stops, runs, rounds.get(drop.load)!) ??
        (isTooCold(drop.moment.celsius) ? ({ by: 'bms', why: 'cold' } as const) : null));
    if (reason) plain.push({ ...reason, drop, at: drop.at, moment: drop.moment });
    // What ends while others go on has ended by itself, unless a limit that is known was reached, or all end at one voltage.
    else if (isPart) ended.push(drop);
    // Of runs that all come low, the whole ones were not cut; nor was what ran on far below its limit.
    else if (!runs.isWhole(drop) && !ranUnder(drop, voltLimits(system, drop.load)) && gives(drop))
      open.push(drop);
  }
  for (const drop of all.filter(isSmall))
    if (staysAway(drop, system, readMoment))
      plain.push({ drop, at: drop.at, by: idOf(drop.load), why: 'percent', moment: drop.moment });
  const same = endLikeOthers(
    ended.filter((one) => !runs.isUsual(one) && !runs.isDone(one)),
    plain,
    system,
  );
  const left = ended.filter((drop) => !same.some((one) => one.drop === drop));
  const near = withoutFarAbove(
    [
      ...plain,
      ...same,
      ...endAtOneVoltage(left, system),
      ...alike(open, left, system, loads, batteryLog(timeline, 'soc')).filter(
        ({ drop, why }) =>
          why !== 'volts' || standsHigher(drop!, voltLimits(system, drop!.load), rounds.get(drop!.load)!),
      ),
    ],
    system,
    quantumOf(batteryLog(timeline, 'battery_voltage')),
  );
  const found = withoutAsLow(
    withoutFarUnder(near, system, (drop) => runs.isRefused(drop)),
    drops,
    system,
    readMoment,
  );
  // What the BMS says stopped, or a bus that has lost its voltage, though no load's current shows it.
  const seen = [
    ...(stops ?? []).flatMap(({ from: at, beginSeen }) =>
      beginSeen ? [{ at, moment: readMoment(at) }] : [],
    ),
    ...busDeaths(timeline, system.bank, readMoment),
  ];
  for (const { at, moment } of seen)
    if (!found.some((one) => one.by === 'bms' && Math.abs(one.at - at) < TOGETHER))
      found.push({ drop: null, at, by: 'bms', why: bmsReason(moment, system, false), moment });
  // A load that is small beside others is none of their runs.
  for (const { at, moment } of stops === null ? drainedStops(timeline, system, readMoment) : [])
    if (!found.some((one) => Math.abs(one.at - at) < TOGETHER))
      found.push({ drop: null, at, by: 'bms', why: 'cell-low', moment });
  const asOne = (some: Found[]) =>
    together(
      some.sort((a, b) => a.at - b.at),
      timeline,
      system.bank,
    );
  const timed = new Set(runDaily(found, system));
  return {
    doubtful: asOne([...doubtfulCuts(drops, found, system, runs), ...timed]).map((one) => ({
      ...one,
      isDoubtful: true,
    })),
    list: asOne(found.filter((one) => !timed.has(one))),
  };
}

/** The cut-offs alone. */
export const findCutOffs = (...of: Parameters<typeof judgeDrops>): CutOff[] => judgeDrops(...of).list;

const quantumOf = (log: Series | null): number =>
  log ? resolutionOf(log.channels.battery_voltage!).quantum : 0;
