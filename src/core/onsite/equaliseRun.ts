/** Equalisation as a run sheet: gates, start by hand, climb, hold, stop. Common practice; the maker's sheet goes first. */

import { celsius, counted, duration, small, volts } from '../quantity/text';
import { DAY, MINUTE } from '../quantity/span';
import type { System } from '../system/schema';
import type { Job } from '../system/schema';
import type { Said } from './said';
import { type Equalised, type Gate, GATES } from './visit';

export const GATE_WORDS: Record<Gate, string> = {
  'maker-allows': 'The maker’s sheet allows it, at this voltage and for this time',
  electrolyte: 'Electrolyte covers the plates in every cell',
  joints: 'Joints are tight and clean',
  air: 'Air moves; no sparks, no flame, no smoking',
  protection: 'Goggles and gloves on, rinse water at hand',
  'loads-off': 'Loads that mind the voltage are off',
};

/** Stop at this, or when a cell boils over. */
const TOO_HOT = 50;

/** Whether this bank may be equalised at all; null where it may, else why not. */
export function notEligible({ bank }: System): string | null {
  if (bank.chemistry === undefined) return 'The chemistry is not known: find it out first.';
  if (bank.chemistry !== 'flooded' && !bank.equalise)
    return `Never equalise ${bank.chemistry === 'lfp' ? 'lithium' : bank.chemistry === 'gel' ? 'gel' : 'AGM'} unless its maker says so.`;
  if (!bank.equalise) return 'Its maker’s voltage and time are not known: read the sheet first.';
  return null;
}

export interface RunStep {
  text: string;
  /** What to watch meanwhile. */
  watch?: string;
}

export function equaliseSteps({ bank, sources }: System): RunStep[] {
  const { volts: at, minutes, everyDays } = bank.equalise ?? {};
  const charger = sources.find((one) => one.profile.equalise)?.name ?? sources[0]?.name ?? 'the charger';
  return [
    { text: `Charge fully first: ${charger} on float, current at its tail.` },
    {
      text: `Start it by hand on ${charger}. Note the time.`,
      watch: 'A schedule of the charger may be left off: by hand only is a schedule too.',
    },
    {
      text: `It climbs with everything it has until ${at ? volts(at) : 'the equalisation voltage'}. That time does not count.`,
      watch: 'If it never gets there the source is too weak, or loads are on: it was no equalisation.',
    },
    {
      text: `It holds ${at ? volts(at) : 'the voltage'} for ${minutes ? duration(minutes * MINUTE) : 'the maker’s time'}. Only this counts.`,
      watch: `Temperature and level every quarter of an hour. Stop at ${celsius(TOO_HOT)}, or when a cell boils over.`,
    },
    {
      text: `Stop, top up, write it down. The next one is due in ${everyDays ? counted(everyDays, 'day') : 'the maker’s interval'}.`,
      watch: 'Hydrometer round on the day after.',
    },
  ];
}

const minutesOf = (time: string): number => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
/** Minutes from one time of day to the next, over midnight too. */
export const minutesBetween = (from: string, to: string): number =>
  (minutesOf(to) - minutesOf(from) + 1440) % 1440;

/** Gates that the checklists have shut: what was found there bars it, whatever is ticked here. */
export const shutByChecks = (checks: Job['checks']): Gate[] =>
  (
    [
      ['electrolyte', 'electrolyte'],
      ['joints', 'joints'],
      ['ventilation', 'air'],
      ['maker-sheet', 'maker-allows'],
    ] as const
  ).flatMap(([check, gate]) => (checks?.[check]?.answer === 'found' ? [gate] : []));

/** @param on day of the visit, yyyy-mm-dd */
export function judgeEqualise(
  system: System,
  run: Equalised | undefined,
  on: string | undefined,
  checks?: Job['checks'],
): Said[] {
  if (!run) return [];
  const started = run.startedAt !== undefined;
  const barred = notEligible(system);
  if (barred && started)
    return [{ weight: 'fault', text: barred, follows: 'Stop, and read the maker’s sheet.' }];
  const said: Said[] = [];
  const shut = new Set(shutByChecks(checks));
  const open = GATES.filter((one) => !run.gates?.includes(one) || shut.has(one));
  if (open.length > 0)
    said.push({
      weight: started ? 'fault' : 'open',
      text: `Not yet: ${open.map((one) => small(GATE_WORDS[one])).join('; ')}.`,
      follows: 'These come before it is started.',
    });
  const { minutes: needed, everyDays, lastOn } = system.bank.equalise ?? {};
  const last = run.lastOn ?? lastOn?.slice(0, 10);
  if (last !== undefined && on !== undefined && everyDays !== undefined && run.ended !== 'held') {
    const days = Math.round((Date.parse(on) - Date.parse(last)) / DAY);
    const tries = run.triesSince ? `, with ${counted(run.triesSince, 'try', 'tries')} since` : '';
    said.push({
      weight: days > everyDays ? 'caution' : 'fine',
      text: `The last that held was ${counted(days, 'day')} ago${tries}; it is asked for every ${counted(everyDays, 'day')}.`,
    });
  }
  if (run.ended === 'not-reached' || (run.ended !== undefined && run.reachedAt === undefined))
    said.push({
      weight: 'caution',
      text: 'It never reached its voltage: that was no equalisation.',
      follows: `Try again with loads off and a stronger source${run.triesSince ? `; ${counted(run.triesSince, 'try', 'tries')} since the last that held` : ''}.`,
    });
  else if (run.reachedAt !== undefined && run.stoppedAt !== undefined) {
    const held = minutesBetween(run.reachedAt, run.stoppedAt);
    said.push(
      needed !== undefined && held < 0.9 * needed
        ? {
            weight: 'caution',
            text: `It held for ${duration(held * MINUTE)} of ${duration(needed * MINUTE)}.`,
            follows: 'Only time held counts: it stays due.',
          }
        : { weight: 'fine', text: `It held for ${duration(held * MINUTE)}: done.` },
    );
  }
  if (run.hottestC !== undefined && run.hottestC >= TOO_HOT)
    said.push({
      weight: 'fault',
      text: `The battery reached ${celsius(run.hottestC)}.`,
      follows: 'Let it cool, top up, and ask why before the next.',
    });
  if (run.reprogrammed)
    said.push({
      weight: 'caution',
      text: 'The charger was programmed anew: its count of days began again.',
      follows: 'Keep the date of the last one here; the charger has forgotten it.',
    });
  return said;
}
