/** Batteries in parallel, each with its own BMS, read at one moment: what part of the current each carries, and who does not share. */

import { median } from '../quantity/numbers';
import { amps, percent, volts } from '../quantity/text';
import type { System } from '../system/schema';
import type { Said } from './said';
import type { Displays } from './visit';

export interface BatteryShare {
  id: string;
  name: string;
  percent: number | null;
  volts: number | null;
  amps: number | null;
  /** Part of the current that it carries, and the part that is its own by the label; null where currents are missing. */
  carries: number | null;
  part: number;
}

/** Parts of its own part within which a battery shares (common practice, no source). */
const SHARES = { least: 0.6, most: 1.5, out: 0.1 };
/** Less than this part of the capacity says nothing about sharing, A. */
const WORKS = 0.03;

export function batteryShares(system: System, displays: Displays | undefined): BatteryShare[] {
  const batteries = system.batteries ?? [];
  const labels = batteries.map((one) => one.capacityAh ?? NaN);
  const total = labels.reduce((sum, one) => sum + one, 0);
  const shown = batteries.map((one) => displays?.shown?.[one.id] ?? {});
  const currents = shown.map((one) => one.amps ?? NaN);
  const sum = currents.reduce((all, one) => all + one, 0);
  const capacity = system.bank.capacityAh ?? total;
  const works = Math.abs(sum) >= Math.max(2, WORKS * (capacity > 0 ? capacity : 0));
  return batteries.map(({ id, name }, k) => ({
    id,
    name,
    percent: shown[k]!.percent ?? null,
    volts: shown[k]!.volts ?? null,
    amps: shown[k]!.amps ?? null,
    carries: works ? currents[k]! / sum : null,
    part: total > 0 ? labels[k]! / total : 1 / batteries.length,
  }));
}

export function judgeShares(system: System, displays: Displays | undefined): Said[] {
  const shares = batteryShares(system, displays);
  if (shares.length < 2 || !displays) return [];
  const said: Said[] = [];
  const judged = shares.filter((one) => one.carries !== null);
  if (judged.length === 0 && shares.every((one) => one.amps !== null))
    said.push({
      weight: 'open',
      text: 'Too little flows to see who shares.',
      follows: 'Switch on a large load, or a charger, and read all batteries again at one moment.',
    });
  for (const one of judged) {
    const own = one.carries! / one.part;
    if (own >= SHARES.least && own <= SHARES.most) continue;
    said.push({
      weight: own < SHARES.out ? 'fault' : 'caution',
      text: `${one.name} carries ${percent(100 * one.carries!)} of the current; by its label it should be ${percent(100 * one.part)}.`,
      follows: whyNot(one, shares, own),
    });
  }
  if (judged.length > 0 && said.length === 0)
    said.push({ weight: 'fine', text: 'Each battery carries its part of the current.' });
  const percents = shares.flatMap((one) => (one.percent === null ? [] : [one.percent]));
  if (percents.length > 1 && Math.max(...percents) - Math.min(...percents) > 10)
    said.push({
      weight: 'caution',
      text: `Their percentages stand ${percent(Math.max(...percents) - Math.min(...percents))} apart.`,
      follows:
        'Charge them together until each BMS shows full. Apart again within days: they do not share; apart at once: one has lost its count.',
    });
  return said;
}

/** Why one does not share: an open BMS, a bad joint, or another age. */
function whyNot(one: BatteryShare, all: readonly BatteryShare[], own: number): string {
  const others = all.filter((each) => each.id !== one.id);
  const middle = median(others.flatMap((each) => (each.volts === null ? [] : [each.volts])));
  const away = one.volts !== null && middle === middle ? one.volts - middle : null;
  if (own < SHARES.out)
    return `Its BMS is open, or its switch is. Look at its own display for what it complains of (a cell at its limit, cold, an overcurrent)${one.amps !== null ? `; it carries ${amps(Math.abs(one.amps))}` : ''}.`;
  if (own > SHARES.most)
    return 'It carries what the others do not: look at the joints of the others, and at the lengths of their cables.';
  if (away !== null && Math.abs(away) > 0.05)
    return `Its own terminals stand ${volts(Math.abs(away))} ${away > 0 ? 'over' : 'under'} the others: a joint or a cable on its way loses the rest.`;
  return 'Its joints, the length of its cables, or its age: measure the drop from its posts to the busbars under load.';
}
