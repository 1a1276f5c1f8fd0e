/** Lithium that was charged below freezing. */

import { anyLogWith, batteryCurrent } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { amps, celsius } from '../quantity/text';
import { isLead } from '../system/chemistry';
import type { HazardRule } from './hazard';
import { lookUp } from './lookUp';
import { greatestIn, howOften, spells } from './spells';

/** Half a degree of a sensor is forgiven, and a current of a meter's zero, part of the capacity. */
const SENSOR_C = 0.5;
const LEAST_AMPS = 0.01;

export const lithiumChargedBelowFreezing: HazardRule = ({ system: { bank }, timeline }) => {
  if (isLead(bank.chemistry)) return [];
  const heat = anyLogWith(timeline, 'battery_temperature');
  const current = batteryCurrent(timeline);
  if (!heat || !current) return [];
  const limit = Math.min(0, bank.chargeAboveC ?? 0);
  const { time, amps: into } = current;
  const at = lookUp(heat.time, heat.channels.battery_temperature!);
  const cold = new Float32Array(time.length);
  for (let i = 0; i < time.length; i++) cold[i] = at(time[i]!);
  const found = spells(
    time,
    (i) => cold[i]! < limit - SENSOR_C && into[i]! > LEAST_AMPS * bank.capacityAh,
    5 * MINUTE,
  );
  if (found.length === 0) return [];
  const coldest = -greatestIn(time, found, (i) => -cold[i]!);
  const most = greatestIn(time, found, (i) => into[i]!);
  return [
    {
      code: 'lithium-charged-below-freezing',
      text: `The lithium battery was charged below ${celsius(limit)} ${howOften(found)}: with up to ${amps(most)}, at down to ${celsius(coldest)}. This plates metal inside the cells, harms them for good and may make them dangerous later. Stop charging in the cold: set the limit in the charger or the BMS, and warm the battery first.`,
      spans: found,
    },
  ];
};
