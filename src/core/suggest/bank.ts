/**
 * What a log alone suggests of the bank behind it: nominal voltage, chemistry, capacity, each with its evidence. A suggestion is put
 * before the technician, never taken silently.
 */

import { cellChannels, type Series } from '../log/channels';
import { gapLimit, medianStep } from '../log/grid';
import { signOf } from '../log/sign';
import { isNumber, median, quantile } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { ampHours, volts } from '../quantity/text';
import { CHEMISTRY } from '../system/chemistry';
import type { Chemistry } from '../system/schema';

export interface Suggestion<T> {
  /** Null where the log does not tell. */
  value: T | null;
  why: string;
}

export interface BankSuggestion {
  /** 12 V blocks in series. */
  blocks: Suggestion<number>;
  /** Which lead it is a log hardly tells: then only that it is lead. */
  chemistry: Suggestion<Chemistry> & { isLead: boolean | null };
  /** Where cells were logged. */
  cells: number | null;
  capacityAh: Suggestion<number>;
}

/** 12 V blocks that there are, and V of one block that a log may stand at (common practice, no source). */
const BLOCKS = [1, 2, 3, 4];
const STANDS = { least: 11.4, most: 14.8 };
/** Below this a meter reads nothing, or a bus that was switched off, V. */
const DEAD = 6;
const MOST_SAMPLES = 20_000;

/** V a 12 V block while it gives: lead stands under the first, lithium over the second until it is nearly empty (common practice, no source). */
const GIVING = { lead: 12.85, lithium: 12.95 };
/** Fifteen lithium cells at 48 V stand where lead does, and are charged no higher than this, V a block. */
const FEWER = { giving: 12.2, top: 13.75 };
/** V a block at which lithium rests and lead never stays, and what is held up by a charger and tells nothing; parts of the time that decide. */
const FLAT = { from: 12.95, to: 13.42, lithium: 0.25, little: 0.1, low: 0.04 };
/** V a cell: lead about 2, lithium iron phosphate about 3.3. */
const BETWEEN_CELLS = 2.6;
/** Held so high a block it is an equalisation, which only flooded cells get, V. */
const EQUALISED = 15.1;

export function suggestBank(series: Series): BankSuggestion {
  const measured =
    series.channels.battery_voltage ?? series.channels.source_voltage ?? series.channels.load_voltage;
  const cells = cellsLogged(series);
  const bank = measured ?? cells?.bank;
  if (!bank) {
    const nothing = { value: null, why: 'The log has no voltage: read the label.' };
    return {
      blocks: nothing,
      chemistry: { ...nothing, isLead: null },
      cells: null,
      capacityAh: capacityOf(series),
    };
  }
  const stride = Math.max(1, Math.floor(bank.length / MOST_SAMPLES));
  const seen: number[] = [];
  for (let i = 0; i < bank.length; i += stride) if (bank[i]! > DEAD) seen.push(bank[i]!);
  const blocks = blocksOf(seen, cells);
  return {
    blocks,
    chemistry: chemistryOf(series, bank, seen, blocks.value, cells),
    cells: cells?.count ?? null,
    capacityAh: capacityOf(series),
  };
}

interface LoggedCells {
  count: number;
  /** V of one on the median. */
  volts: number;
  /** Their sum. */
  bank: Float32Array;
}

function cellsLogged(series: Series): LoggedCells | null {
  const names = cellChannels(series);
  if (names.length < 2) return null;
  const bank = new Float32Array(series.time.length);
  for (const one of names) series.channels[one]!.forEach((value, i) => (bank[i]! += value));
  return { count: names.length, volts: median(bank.map((one) => one / names.length)), bank };
}

function blocksOf(seen: readonly number[], cells: LoggedCells | null): Suggestion<number> {
  const [low, middle, high] = [quantile(seen, 0.05), median(seen), quantile(seen, 0.995)];
  if (cells) {
    const perBlock = CHEMISTRY[cells.volts > BETWEEN_CELLS ? 'lfp' : 'agm'].cellsPerBlock;
    return {
      value: Math.max(1, Math.round(cells.count / perBlock)),
      why: `${cells.count} cells were logged, at ${volts(cells.volts)} each on the median.`,
    };
  }
  const value = BLOCKS.find((one) => middle / one >= STANDS.least && middle / one <= STANDS.most) ?? null;
  return {
    value,
    why: `It stands at ${volts(low)} to ${volts(quantile(seen, 0.9))} most of the time and goes up to ${volts(high)}.`,
  };
}

function chemistryOf(
  series: Series,
  bank: Float32Array,
  seen: readonly number[],
  blocks: number | null,
  cells: LoggedCells | null,
): BankSuggestion['chemistry'] {
  if (cells) {
    const why = `A cell stands at ${volts(cells.volts)}: lead has about 2.1 V, lithium iron phosphate about 3.3 V.`;
    return cells.volts > BETWEEN_CELLS ? lithium(why) : lead(seen, blocks ?? 1, why);
  }
  if (blocks === null)
    return { value: null, isLead: null, why: 'The nominal voltage has to be known first.' };
  const block = blocks === 1 ? '' : ' a 12 V block';
  const giving = whileGiving(series, bank);
  if (giving !== null) {
    const why = `While it gives current it stands at ${volts(giving / blocks)}${block}: lead-acid is then under 12.8 V, lithium iron phosphate over 13.0 V until it is nearly empty.`;
    if (giving / blocks >= GIVING.lithium) return lithium(why);
    const top = quantile(seen, 0.995) / blocks;
    if (blocks >= 4 && giving / blocks > FEWER.giving && top < FEWER.top)
      return {
        value: null,
        isLead: null,
        why: `${why} But it is never charged above ${volts(top)} a block: fifteen lithium cells look like this too, and so does lead that is charged too low. Count the cells.`,
      };
    if (giving / blocks <= GIVING.lead) return lead(seen, blocks, why);
    return { value: null, isLead: null, why: `${why} This lies between: look at the label.` };
  }
  // Without a current: where it rests, when hardly anything charges it.
  const share = (from: number, to: number) =>
    seen.filter((one) => one >= from * blocks && one < to * blocks).length / seen.length;
  const flat = share(FLAT.from, FLAT.to);
  const low = share(0, GIVING.lead);
  if (flat >= FLAT.lithium && low < FLAT.low)
    return lithium(
      `${Math.round(100 * flat)} % of the time it stands at ${FLAT.from} to ${FLAT.to} V${block}, where lithium iron phosphate rests and lead-acid does not stay.`,
    );
  if (low >= FLAT.low && flat < Math.max(FLAT.little, low))
    return lead(
      seen,
      blocks,
      `${Math.round(100 * low)} % of the time it stands under ${GIVING.lead} V${block}, where lead-acid rests and lithium iron phosphate is nearly empty.`,
    );
  return {
    value: null,
    isLead: null,
    why: 'It is held up by a charger nearly all the time, which lead-acid and lithium iron phosphate look the same under: look at the label.',
  };
}

const lithium = (why: string) => ({ value: 'lfp' as const, isLead: false, why });

/** Which lead it is shows only where it was equalised. */
function lead(seen: readonly number[], blocks: number, why: string): BankSuggestion['chemistry'] {
  const top = quantile(seen, 0.995) / blocks;
  if (top >= EQUALISED)
    return {
      value: 'flooded',
      isLead: true,
      why: `${why} It goes up to ${top.toFixed(1)} V a block, as only flooded cells do when they are equalised.`,
    };
  return {
    value: null,
    isLead: true,
    why: `${why} So it is lead-acid, charged to ${top.toFixed(2)} V a block. Caps to open mean flooded; of the sealed ones the label says whether AGM or gel.`,
  };
}

/** V on the median while current flows out; null where no current into the battery was logged, or its sign is not clear. */
function whileGiving({ channels }: Series, bank: Float32Array): number | null {
  const amps = channels.battery_current;
  if (!amps) return null;
  const stride = Math.max(1, Math.floor(amps.length / MOST_SAMPLES));
  const pairs: [number, number][] = [];
  for (let i = 0; i < amps.length; i += stride)
    if (isNumber(amps[i]!) && bank[i]! > DEAD) pairs.push([amps[i]!, bank[i]!]);
  const sign = signOf(
    pairs.map(([one]) => one),
    pairs.map(([, one]) => one),
  );
  const out = sign === 'discharging' ? 1 : -1;
  const most = quantile(
    pairs.map(([one]) => Math.max(0, out * one)),
    0.98,
  );
  const given = pairs.filter(([one]) => out * one > 0.1 * most && most > 0).map(([, one]) => one);
  return given.length < 20 ? null : median(given);
}

/** Points of percentage that must have gone before they say a capacity, and how long it may take from one fall to the next. */
const POINTS = 8;
const NEXT_FALL = 8 * HOUR;
/** Slower than in twenty hours, parts of the capacity in A. */
const SLOW = 0.05;

/** Ah a point; null where too few points have gone. */
function perPointOf(falls: readonly { ampHours: number; points: number }[]): number | null {
  const points = falls.reduce((sum, one) => sum + one.points, 0);
  return points < POINTS ? null : Math.abs(falls.reduce((sum, one) => sum + one.ampHours, 0)) / points;
}

/** What its own percentage goes by: Ah drawn for each point that it falls. */
function capacityOf({ time, channels: { soc, battery_current: amps } }: Series): Suggestion<number> {
  if (!soc || !amps)
    return { value: null, why: 'The log has no percentage beside a current: read the label.' };
  const limit = gapLimit(medianStep(time));
  // Between one fall of the percentage and the next, with no rise and no silence between.
  const falls: { ampHours: number; points: number; hours: number }[] = [];
  let ampHoursSince = NaN;
  let fellAt = 0;
  for (let i = 1; i < time.length; i++) {
    const step = time[i]! - time[i - 1]!;
    ampHoursSince += step <= limit ? (((amps[i]! + amps[i - 1]!) / 2) * step) / HOUR : NaN;
    const points = soc[i - 1]! - soc[i]!;
    if (points < 0) ampHoursSince = NaN;
    if (!(points > 0)) continue;
    if (isNumber(ampHoursSince) && time[i]! - fellAt < NEXT_FALL)
      falls.push({ ampHours: ampHoursSince, points, hours: (time[i]! - fellAt) / HOUR });
    ampHoursSince = 0;
    fellAt = time[i]!;
  }
  const first = perPointOf(falls);
  if (first === null) return { value: null, why: 'Its percentage hardly fell: read the label.' };
  // Drawn fast, a point is gone sooner: what was drawn slowly says more.
  const slow = falls.filter((one) => Math.abs(one.ampHours) / one.hours < SLOW * 100 * first);
  const perPoint = perPointOf(slow) ?? first;
  const rounded = Number((100 * perPoint).toPrecision(2));
  return {
    value: rounded,
    why: `Its percentage falls by a point for each ${perPoint.toFixed(2)} Ah drawn, as if ${ampHours(rounded)} were set. The label goes before it.`,
  };
}
