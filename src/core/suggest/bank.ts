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
  /** Cells in series, known once the chemistry is; blocks of 12 V before. */
  blocks: Suggestion<number>;
  chemistry: Suggestion<Chemistry>;
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
/** V a cell: lead about 2, lithium iron phosphate about 3.3. */
const BETWEEN_CELLS = 2.6;
/** Held so high a block it is an equalisation, which only flooded cells get; below this a charge is one for gel. */
const EQUALISED = 14.95;
const GEL = 14.25;

export function suggestBank(series: Series): BankSuggestion {
  const measured =
    series.channels.battery_voltage ?? series.channels.source_voltage ?? series.channels.load_voltage;
  const cells = cellsLogged(series);
  const bank = measured ?? cells?.bank;
  if (!bank) {
    const nothing = { value: null, why: 'The log has no voltage: read the label.' };
    return { blocks: nothing, chemistry: nothing, cells: null, capacityAh: capacityOf(series) };
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
): Suggestion<Chemistry> {
  if (cells) {
    const isLithium = cells.volts > BETWEEN_CELLS;
    const why = `A cell stands at ${volts(cells.volts)}: lead has about 2.1 V, lithium iron phosphate about 3.3 V.`;
    return isLithium ? { value: 'lfp', why } : leadType(seen, blocks ?? 1, why);
  }
  if (blocks === null) return { value: null, why: 'The nominal voltage has to be known first.' };
  const giving = whileGiving(series, bank);
  // Without a current: what it stands at in the lower half of the time, when hardly anything charges it.
  const stands = giving ?? quantile(seen, 0.25);
  const perBlock = stands / blocks;
  const how =
    giving === null
      ? `A quarter of the time it stands under ${volts(stands)}`
      : `While it gives current it stands at ${volts(stands)}`;
  const of = blocks === 1 ? '' : ` (${perBlock.toFixed(2)} V a 12 V block)`;
  const rule = 'lead-acid is then under 12.8 V, lithium iron phosphate over 13.0 V until it is nearly empty';
  const why = `${how}${of}: ${blocks === 1 ? rule : rule.replaceAll(' V', ' V a block')}.`;
  if (perBlock >= GIVING.lithium) return { value: 'lfp', why };
  if (perBlock <= GIVING.lead) return leadType(seen, blocks, why);
  return { value: null, why: `${why} This lies between: look at the label.` };
}

/** Which lead it is shows only where it was equalised, or charged so low that it can only be gel. */
function leadType(seen: readonly number[], blocks: number, why: string): Suggestion<Chemistry> {
  const top = quantile(seen, 0.995) / blocks;
  if (top >= EQUALISED)
    return {
      value: 'flooded',
      why: `${why} It was held at ${top.toFixed(1)} V a block, as only flooded cells are when they are equalised.`,
    };
  if (top < GEL)
    return {
      value: 'gel',
      why: `${why} It is charged to ${top.toFixed(2)} V a block, as gel is; look at the label.`,
    };
  return {
    value: 'agm',
    why: `${why} It is charged to ${top.toFixed(2)} V a block, as AGM and flooded cells both are: caps to open mean flooded.`,
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

/** Points of percentage that must have gone before they say a capacity. */
const POINTS = 8;

/** What its own percentage goes by: Ah drawn for each point that it falls. */
function capacityOf({ time, channels: { soc, battery_current: amps } }: Series): Suggestion<number> {
  const label = 'the label goes before it';
  if (!soc || !amps)
    return { value: null, why: 'The log has no percentage beside a current: read the label.' };
  const limit = gapLimit(medianStep(time));
  let drawn = 0;
  let fallen = 0;
  // Runs in which the percentage only falls: a sync or a charge ends one.
  let ampHoursInRun = 0;
  let from = soc[0]!;
  const end = (at: number) => {
    if (from - at >= 2 && ampHoursInRun > 0) {
      drawn += ampHoursInRun;
      fallen += from - at;
    }
    ampHoursInRun = 0;
    from = at;
  };
  for (let i = 1; i < time.length; i++) {
    const step = time[i]! - time[i - 1]!;
    const flows = (amps[i]! + amps[i - 1]!) / 2;
    if (!(step <= limit) || !isNumber(flows) || !(soc[i]! <= soc[i - 1]!) || flows === 0) {
      end(soc[i - 1]!);
      from = soc[i]!;
      continue;
    }
    ampHoursInRun += (Math.abs(flows) * step) / HOUR;
  }
  end(soc[soc.length - 1]!);
  if (!(fallen >= POINTS)) return { value: null, why: 'Its percentage hardly moved: read the label.' };
  const capacity = (100 * drawn) / fallen;
  const rounded = Number(capacity.toPrecision(2));
  return {
    value: rounded,
    why: `Its percentage falls by a point for each ${(drawn / fallen).toFixed(2)} Ah drawn, as if ${ampHours(rounded)} were set; ${label}.`,
  };
}
