/** A battery that grew hot. */

import { anyLogWith } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import { celsius } from '../quantity/text';
import { isLead } from '../system/chemistry';
import type { HazardRule } from './hazard';
import { greatestIn, howOften, spells } from './spells';

/** °C above which charging has to stop (common practice, no source; the maker's sheet goes before it). */
const HOT = { lead: 50, lithium: 55 };

export const overTemperature: HazardRule = ({ system: { bank }, timeline }) => {
  const log = anyLogWith(timeline, 'battery_temperature');
  if (!log) return [];
  const limit = isLead(bank.chemistry) ? HOT.lead : HOT.lithium;
  const degrees = log.channels.battery_temperature!;
  const found = spells(log.time, (i) => degrees[i]! > limit, 5 * MINUTE);
  if (found.length === 0) return [];
  const most = greatestIn(log.time, found, (i) => degrees[i]!);
  return [
    {
      code: 'over-temperature',
      text: `The battery was hotter than ${celsius(limit)} ${howOften(found)}, at up to ${celsius(most)}. ${
        isLead(bank.chemistry)
          ? 'A hot lead battery takes ever more current and may run away.'
          : 'Heat ages lithium fast, and a cell may fail.'
      } Stop the charge, let it cool, and find the cause before it is charged again: a cell, a joint, the air about it, the charge voltage.`,
      spans: found,
    },
  ];
};
