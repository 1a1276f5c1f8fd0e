/** What the monitor itself remembers, as evidence where nothing was logged. Limits are common practice, no source. */

import { ampHours, counted, volts } from '../quantity/text';
import { blocksInSeries, isLead } from '../system/chemistry';
import { presetVolts } from '../system/known';
import type { System } from '../system/schema';
import { daysWithoutFull } from '../system/schools';
import type { Said } from './said';
import type { Memory } from './visit';

/** V per 12 V block under which a battery has been emptied. */
const EMPTIED = { lead: 11, lithium: 10.8 };
/** V per 12 V block over the charge voltage; a cold lead battery is charged higher. */
const OVER = { lead: 0.8, lithium: 0.3 };

export function judgeMemory(system: System, memory: Memory | undefined): Said[] {
  if (!memory) return [];
  const { bank, monitor } = system;
  const { chemistry, cellsInSeries } = bank;
  const said: Said[] = [];
  const { syncs, cycles, highestV, lowestV, daysSinceFull, deepestAh } = memory;
  if (syncs === 0)
    said.push({
      weight: 'fault',
      text: `The monitor has never been set to full${cycles ? ` in ${counted(cycles, 'cycle')}` : ''}.`,
      follows:
        'Its percentage stands on nothing. Compare its charged voltage and tail with what the chargers reach.',
      fact: 'never-synced',
    });
  else if (syncs !== undefined)
    said.push({
      weight: 'fine',
      text: `It has been set to full ${counted(syncs, 'time')}.`,
      fact: 'has-synced',
    });
  if (highestV !== undefined && monitor?.chargedV !== undefined && highestV < monitor.chargedV)
    said.push({
      weight: 'fault',
      text: `The highest voltage that it remembers is ${volts(highestV)}; it calls the battery full from ${volts(monitor.chargedV)} on.`,
      follows: 'It can never be set to full: lower its charged voltage under what the chargers hold.',
      fact: 'charged-voltage-above-highest',
    });
  if (daysSinceFull !== undefined) {
    const limit = daysWithoutFull(system);
    said.push(
      daysSinceFull > limit
        ? {
            weight: 'caution',
            text: `The last full charge was ${counted(Math.round(daysSinceFull), 'day')} ago; it is due every ${limit} days.`,
            follows: 'The error had time to grow: charge fully, and see how far the reading jumps.',
            fact: 'long-since-full',
          }
        : {
            weight: 'fine',
            text: `The last full charge was ${counted(Math.round(daysSinceFull), 'day')} ago.`,
            fact: 'lately-full',
          },
    );
  }
  if (deepestAh !== undefined && bank.capacityAh !== undefined && deepestAh > 1.05 * bank.capacityAh)
    said.push({
      weight: 'fault',
      text: `The deepest discharge that it remembers is ${ampHours(deepestAh)}, more than the ${ampHours(bank.capacityAh)} of the bank.`,
      follows: 'Something charges it that the monitor does not see, or it was not set to full in between.',
      fact: 'deeper-than-capacity',
    });
  if (chemistry && cellsInSeries) {
    const kind = isLead(chemistry) ? 'lead' : 'lithium';
    const blocks = blocksInSeries({ chemistry, cellsInSeries });
    if (lowestV !== undefined && lowestV < EMPTIED[kind] * blocks)
      said.push({
        weight: 'caution',
        text: `The lowest voltage that it remembers is ${volts(lowestV)}.`,
        follows:
          kind === 'lead'
            ? 'The bank has been emptied: lead that stood empty has lost capacity. A start of a large load may also leave such a low.'
            : 'The bank has been emptied, or a start pulled it down for a moment.',
        fact: 'emptied',
      });
    const charge = (bank.chargeVolts ?? presetVolts(chemistry, cellsInSeries).charge).max;
    const equalises = bank.equalise !== undefined || chemistry === 'flooded';
    if (highestV !== undefined && highestV > charge + OVER[kind] * blocks && !equalises)
      said.push({
        weight: 'fault',
        text: `The highest voltage that it remembers is ${volts(highestV)}; the battery asks for ${volts(charge)} at most.`,
        follows:
          'A charger is set too high, is compensated wrongly, or equalises by itself. Read every profile.',
        fact: 'charged-too-high',
      });
  }
  return said;
}
