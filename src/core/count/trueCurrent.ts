/** The battery's own current as well as it can be had: the BMS's, else the monitor's with what it misses or turns round put right. */

import type { Channel, Series } from '../log/channels';
import { interpolateAt } from '../log/interpolateAt';
import { meansAround } from '../log/meansAround';
import { isFiner } from '../log/seldom';
import { logOf, type Timeline } from '../log/timeline';
import type { System } from '../system/schema';
import { betweenRows } from './betweenRows';
import type { CounterLog } from './counterLog';
import type { Meters } from './meters';
import type { Share } from './shares';

/** What is wrong with the monitor's current, as far as other logs show it. */
export interface Wrong {
  /** Shown over true current: 1 where nothing is wrong, under 0 the wrong way round. */
  gain: number;
  /** Devices that the monitor does not see. */
  unseen: Share[];
}

/** Between these a ratio is that of a good meter. */
export const GOOD_SHARE = { low: 0.88, high: 1.14 };
/** Below this a device is not seen at all, by as much as this its error may be. */
const NOT_SEEN = 0.12;
const SURE = 0.1;
/** A current of this part and less flows against its source. */
export const FLOWS_AGAINST = -0.3;
/**
 * Steps of voltage against current that show a sensor that is turned round; or looser ones, if many, where what it calls a discharge stands so
 * many times as high as what it calls a charge, a volt a 12 V block and more, for hours.
 */
const TURNED = { correlation: -0.6, steps: 4 };
const TURNED_LEVELS = { correlation: -0.2, steps: 40, times: 1.08, hours: 2 };

export const isUnseen = ({ share, error, steps }: Share): boolean =>
  share < NOT_SEEN && share > -NOT_SEEN && error < SURE && steps >= 2;

/** Shares of sources that are known well enough to say which way the sensor sits. What is open may still plainly flow against its source. */
export const sureSources = (shares: readonly Share[]): Share[] =>
  shares.filter(
    ({ kind, share, error }) => kind === 'source' && (error < 0.3 || share + PLAINLY * error < FLOWS_AGAINST),
  );

/** Whether the monitor shows sources the wrong way round. One that is not sure may go along with another that is. */
export const flowAgainst = (sources: readonly Share[]): boolean =>
  sources.some((one) => one.share < FLOWS_AGAINST) &&
  sources.every((one) => one.share - one.error < FLOWS_AGAINST);

/** While it shows what chargers give turned over, and the loads of their idle hours as a charge; the voltage must not speak against it. */
const TURNED_IDLE = { share: -0.5, times: 1.01 };

/** Whether the loads show as a charge while no charger gives, and what chargers give as drawn, at the higher voltage. */
export function isTurnedWhileIdle({ whileIdle, voltageFollows }: Meters): boolean {
  const { correlation, chargingV, drawingV } = voltageFollows;
  return (
    whileIdle !== null &&
    whileIdle.amps > 0 &&
    whileIdle.share < TURNED_IDLE.share &&
    drawingV > TURNED_IDLE.times * chargingV &&
    !(correlation > 0)
  );
}

export function isTurned(meters: Meters): boolean {
  const { shares, bms, voltageFollows } = meters;
  if (bms && bms.slopeError < 0.5) return bms.slope < FLOWS_AGAINST;
  const sources = sureSources(shares);
  if (sources.length > 0) return flowAgainst(sources);
  if (isTurnedWhileIdle(meters)) return true;
  const { correlation, steps, chargingV, drawingV, bothHours } = voltageFollows;
  return (
    (correlation < TURNED.correlation && steps >= TURNED.steps && chargingV < drawingV) ||
    (correlation < TURNED_LEVELS.correlation &&
      steps >= TURNED_LEVELS.steps &&
      bothHours >= TURNED_LEVELS.hours &&
      drawingV > TURNED_LEVELS.times * chargingV)
  );
}

/** @param system tells who is wired past the sensor, where no steps show it */
export function wrongOf(meters: Meters, system: Pick<System, 'sources' | 'loads'>): Wrong {
  const { shares, bms, means } = meters;
  const told = means
    .filter(({ id, kind }) => {
      const devices: readonly { id: string; counted: boolean | null }[] =
        kind === 'source' ? system.sources : system.loads;
      return devices.find((one) => one.id === id)?.counted === false && !shares.some((one) => one.id === id);
    })
    .map(({ id, kind }): Share => ({ id, kind, share: 0, error: 0, steps: 0 }));
  const unseen = [...shares.filter(isUnseen), ...told];
  if (isTurned(meters)) return { gain: -1, unseen: [] };
  const seen = shares.filter(
    (one) => one.kind === 'source' && one.share > 0.3 && (one.error < 0.12 || isPlainlyOff(one)),
  );
  // Beside the BMS a load that the monitor does not see looks like a ratio; what it shows of a charger tells the two apart.
  if (seen.some(isGood)) return { gain: 1, unseen };
  if (bms && Math.abs(bms.slope) > 0.3 && bms.slopeError < 0.1)
    return { gain: isGood({ share: bms.slope, error: bms.slopeError }) ? 1 : bms.slope, unseen };
  const [first] = seen;
  if (!first) return { gain: 1, unseen };
  // All by the same ratio: it is the monitor's.
  const alike = seen.every((one) => Math.abs(one.share / first.share - 1) < 0.15);
  return { gain: alike && first.share < MOST_GAIN ? first.share : 1, unseen };
}

/** No shunt is mistaken for one of so many times its size; steps that fall together by chance can look so. */
const MOST_GAIN = 2.6;

/** A ratio that is open may still be far from that of a good meter: by so many of its errors. */
const PLAINLY = 3;
export const isPlainlyOff = ({ share, error }: Pick<Share, 'share' | 'error'>): boolean =>
  share - PLAINLY * error > GOOD_SHARE.high || share + PLAINLY * error < GOOD_SHARE.low;

/** Within its error it may be that of a good meter. */
const isGood = ({ share, error }: Pick<Share, 'share' | 'error'>): boolean =>
  share + error > GOOD_SHARE.low && share - error < GOOD_SHARE.high;

/**
 * A at the monitor's times; where the log of an unseen device is silent, it counts as nothing. Where the monitor seldom writes a row, what
 * the devices' own logs show between the rows is in it.
 */
export function trueCurrent(timeline: Timeline, log: CounterLog, wrong: Wrong): Float32Array {
  const bms = logOf(timeline, 'bms', 'battery_current');
  const atRows = (one: Series, channel: Channel) =>
    (isFiner(one.time, log.time) ? meansAround : interpolateAt)(one.time, one.channels[channel]!, log.time);
  const measured = bms && log.device !== 'bms' ? atRows(bms, 'battery_current') : null;
  const { gain, unseen } = wrong;
  const amps = gain === 1 ? log.amps.slice() : log.amps.map((one) => one / gain);
  const isSeen = (device: string) => !unseen.some(({ id }) => id === device);
  const between = log.ampsAreItsOwn ? betweenRows(timeline, log, amps, isSeen) : null;
  if (between) between.forEach((one, i) => (amps[i]! += one));
  for (const { id, kind } of unseen) {
    const channel = kind === 'source' ? 'source_current' : 'load_current';
    const there = atRows(logOf(timeline, id, channel)!, channel);
    for (let i = 0; i < amps.length; i++)
      if (there[i]! === there[i]!) amps[i]! += kind === 'source' ? there[i]! : -there[i]!;
  }
  if (measured)
    for (let i = 0; i < amps.length; i++) if (measured[i]! === measured[i]!) amps[i] = measured[i]!;
  return amps;
}
