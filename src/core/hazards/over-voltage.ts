/** A bank that stood far above what its battery may be charged with. */

import { anyLogWith } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { volts } from '../quantity/text';
import { blocksInSeries, expectedVolts, isLead } from '../system/chemistry';
import type { HazardRule } from './hazard';
import { lookUp } from './lookUp';
import { greatestIn, howOften, spells } from './spells';

/** V a 12 V block above the range: meters and a charger's overshoot stay within it (common practice, no source). */
const ABOVE = 0.3;
/** Part of the voltage that a sound cable may lose at full current. */
const CABLE_LOSS = 0.03;
/** Where no temperature was logged, the battery may have been as cold as this, °C, and its charger right to go higher. */
const COLDEST = -5;

export const overVoltage: HazardRule = ({ system: { bank }, timeline }) => {
  const battery = anyLogWith(timeline, 'battery_voltage');
  const log = battery ?? anyLogWith(timeline, 'source_voltage');
  if (!log) return [];
  const blocks = blocksInSeries(bank);
  const { time } = log;
  const at = (log.channels.battery_voltage ?? log.channels.source_voltage)!;
  // A charger stands higher than its battery by what the cable loses.
  const cable = battery ? 0 : CABLE_LOSS * bank.chargeVolts.max;
  const heat = anyLogWith(timeline, 'battery_temperature');
  const read = heat && isLead(bank.chemistry) ? lookUp(heat.time, heat.channels.battery_temperature!) : null;
  // A lead battery's limit moves with its temperature: worked out once a degree.
  const limits = new Map<number, number>();
  const limitAt = (degrees: number): number => {
    const key = Math.round(degrees === degrees ? degrees : isLead(bank.chemistry) ? COLDEST : 25);
    let limit = limits.get(key);
    if (limit === undefined) {
      const { max } = expectedVolts(bank, 'absorption', key);
      const equalise = bank.chemistry === 'flooded' || bank.equalise ? equaliseVolts(max, blocks) : max;
      limit = Math.max(max, equalise, bank.equalise?.volts ?? 0) + ABOVE * blocks + cable;
      limits.set(key, limit);
    }
    return limit;
  };
  const found = spells(time, (i) => at[i]! > limitAt(read ? read(time[i]!) : NaN), 2 * MINUTE);
  if (found.length === 0) return [];
  const most = greatestIn(time, found, (i) => at[i]!);
  return [
    {
      code: 'over-voltage',
      text: `The battery stood far above the ${volts(bank.chargeVolts.max)} of its charge range ${howOften(found)}, at up to ${volts(most)}. ${
        isLead(bank.chemistry)
          ? 'It gasses hard, dries out and grows hot: air the room, keep sparks away, and do not lean over it.'
          : 'Cells may be past their limit while the BMS is all that protects them.'
      } Stop the charge and check the charger’s settings and its voltage with a meter at the posts.`,
      spans: found,
    },
  ];
};

/** A flooded battery is equalised some 1.2 V a block above its charge range (common practice, no source). */
const equaliseVolts = (max: number, blocks: number): number => max + 1.2 * blocks;
