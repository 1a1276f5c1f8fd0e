/** Times when a load or the BMS nearly cut off: near a limit, and back without having gone off. */

import { anyLogWith, type Timeline } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { cellChannels } from '../log/channels';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { LoadCurrent } from './loadCurrents';
import type { CutOff, NearMiss } from './types';

/** How near, V a 12 V block, and V of a cell (common practice, no source). */
const NEAR = { block: 0.2, cell: 0.1 };
/** Misses within this are one; and one within this of a cut-off is part of it. */
const APART = 60 * MINUTE;

export function nearMisses(
  system: KnownSystem,
  timeline: Timeline,
  loads: readonly LoadCurrent[],
  cutOffs: readonly CutOff[],
): NearMiss[] {
  const blocks = blocksInSeries(system.bank);
  const battery = anyLogWith(timeline, 'battery_voltage');
  const found: NearMiss[] = [];
  for (const { id, cutoffV } of system.loads) {
    if (cutoffV === undefined) continue;
    const own = loads.find((one) => one.id === id && one.volts);
    const time = own?.time ?? battery?.time;
    const volts = own?.volts ?? battery?.channels.battery_voltage;
    if (time && volts) found.push(...spellsNear(id, time, volts, cutoffV, NEAR.block * blocks));
  }
  const cells = anyLogWith(timeline, 'cell_01_voltage');
  if (cells && system.bms?.cellLowV !== undefined) {
    const columns = cellChannels(cells).map((one) => cells.channels[one]!);
    const lowest = columns[0]!.map((one, i) =>
      columns.reduce((least, column) => Math.min(least, column[i]!), one),
    );
    found.push(...spellsNear('bms', cells.time, lowest, system.bms.cellLowV, NEAR.cell));
  }
  return found
    .filter((one) => !cutOffs.some((cut) => one.at > cut.at - APART && one.at < cut.last + APART))
    .sort((a, b) => a.at - b.at);
}

/** The lowest moment of each spell within `near` above a limit. What is below it was cut off, or is no limit. */
function spellsNear(
  by: string,
  time: Float64Array,
  volts: Float32Array,
  limit: number,
  near: number,
): NearMiss[] {
  const found: NearMiss[] = [];
  for (let i = 0; i < time.length; i++) {
    const over = volts[i]! - limit;
    if (!(over >= 0 && over < near)) continue;
    const last = found.at(-1);
    if (last && time[i]! - last.last < APART) {
      last.last = time[i]!;
      if (volts[i]! < last.volts) Object.assign(last, { at: time[i]!, volts: volts[i]! });
    } else found.push({ by, at: time[i]!, last: time[i]!, volts: volts[i]!, limit });
  }
  return found;
}
