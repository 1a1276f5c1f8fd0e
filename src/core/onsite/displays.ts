/** Displays read at one moment: what disagrees, and what follows. Tolerances are common practice, no source. */

import { amps, counted, milliohms, percent, volts } from '../quantity/text';
import { blocksInSeries, halvesMayDiffer } from '../system/chemistry';
import { checkRest } from '../system/restCheck';
import type { System } from '../system/schema';
import type { Said } from './said';
import type { Display, Displays } from './visit';

/** Percentages this far apart disagree. */
const APART_PERCENT = 10;
/** V per 12 V block between a display and a meter at the posts. */
const APART_VOLTS = 0.1;
/** A conductor may lose 3 % of the voltage; V per 12 V block. */
const LOST_VOLTS = 0.36;
/** Under this a drop says nothing, A. */
const LEAST_AMPS = 5;

export interface DisplayRow {
  id: string;
  name: string;
  kind: 'monitor' | 'bms' | 'battery' | 'source' | 'load';
  shows: Display;
}

/** Every display that a system may have, in the order in which they are read. */
export function displayRows(system: System, displays: Displays | undefined): DisplayRow[] {
  const row = (id: string, name: string, kind: DisplayRow['kind']): DisplayRow => ({
    id,
    name,
    kind,
    shows: displays?.shown?.[id] ?? {},
  });
  const batteries = system.batteries ?? [];
  return [
    ...(system.monitor ? [row('monitor', 'Monitor', 'monitor')] : []),
    ...(system.bms && batteries.length === 0 ? [row('bms', 'BMS', 'bms')] : []),
    ...batteries.map((one) => row(one.id, one.name, 'battery')),
    ...system.sources.map((one) => row(one.id, one.name, 'source')),
    ...system.loads.filter((one) => one.kind === 'inverter').map((one) => row(one.id, one.name, 'load')),
  ];
}

export function judgeDisplays(system: System, displays: Displays | undefined): Said[] {
  if (!displays) return [];
  const rows = displayRows(system, displays);
  return [
    ...judgeLost(rows),
    ...judgePercents(rows, system, displays),
    ...judgeHalves(system, displays),
    ...judgeVolts(rows, system, displays),
    ...judgeCurrents(rows),
  ];
}

const judgeLost = (rows: readonly DisplayRow[]): Said[] =>
  rows
    .filter((one) => one.shows.noPercent)
    .map((one) => ({
      weight: 'fault',
      text: `${one.name} shows no percentage.`,
      follows:
        'It has restarted and lost its count. Look at its supply lead and the fuse in it, then set the reading right.',
      ...(one.kind === 'monitor' ? { fact: 'count-lost' as const } : {}),
    }));

function judgePercents(rows: readonly DisplayRow[], system: System, displays: Displays): Said[] {
  const said: Said[] = [];
  const shown = rows.filter((one) => one.shows.percent !== undefined);
  const of = (one: DisplayRow) => one.shows.percent!;
  if (shown.length > 1) {
    const high = shown.reduce((a, b) => (of(b) > of(a) ? b : a));
    const low = shown.reduce((a, b) => (of(b) < of(a) ? b : a));
    said.push(
      of(high) - of(low) > APART_PERCENT
        ? {
            weight: 'fault',
            text: `${high.name} shows ${percent(of(high))}, ${low.name} ${percent(of(low))}.`,
            follows: shown.some((one) => one.kind === 'bms' || one.kind === 'battery')
              ? 'They cannot both be right. The usual order of trust is the BMS, then a shunt, then an inverter’s own count.'
              : 'They cannot both be right: hold them against the rest voltage.',
          }
        : { weight: 'fine', text: `The percentages agree within ${percent(of(high) - of(low))}.` },
    );
  }
  const monitor = rows.find((one) => one.kind === 'monitor')?.shows.percent;
  if (monitor !== undefined && displays.postsV !== undefined && displays.hoursAtRest !== undefined) {
    const check = checkRest(system.bank, {
      displayedPercent: monitor,
      volts: displays.postsV,
      hoursAtRest: displays.hoursAtRest,
      ...(displays.celsius === undefined ? {} : { celsius: displays.celsius }),
    });
    if (check.verdict !== 'cannot-tell')
      said.push({
        weight: check.verdict === 'in-step' ? 'fine' : 'fault',
        text: check.sentence,
        ...(check.verdict === 'in-step' ? {} : { follows: 'Find out why before the reading is set right.' }),
      });
  }
  return said;
}

function judgeHalves(system: System, { lowerV, upperV, postsV }: Displays): Said[] {
  if (lowerV === undefined || upperV === undefined) return [];
  const said: Said[] = [];
  const sum = lowerV + upperV;
  const blocks = blocksOf(system);
  if (postsV !== undefined && Math.abs(sum - postsV) > APART_VOLTS * blocks)
    said.push({
      weight: 'caution',
      text: `The halves add up to ${volts(sum)}, the pack reads ${volts(postsV)}.`,
      follows: 'A meter is off, a lead was not on the post, or the jumper between the halves loses the rest.',
    });
  const apart = Math.abs(upperV - lowerV);
  said.push(
    apart > halvesMayDiffer(blocks)
      ? {
          weight: apart > 0.3 ? 'fault' : 'caution',
          text: `The halves stand at ${volts(lowerV)} and ${volts(upperV)}, ${volts(apart)} apart.`,
          follows:
            'At rest and near full 0.1 V is a lot; under a load, or while one charger is ahead, it may be gone in an hour. Charge each half fully, rest, and measure again.',
          fact: 'halves-apart',
        }
      : { weight: 'fine', text: `The halves agree within ${volts(apart)}.` },
  );
  return said;
}

const blocksOf = ({ bank }: System): number =>
  bank.chemistry && bank.cellsInSeries
    ? blocksInSeries({ chemistry: bank.chemistry, cellsInSeries: bank.cellsInSeries })
    : 1;

function judgeVolts(rows: readonly DisplayRow[], system: System, { postsV }: Displays): Said[] {
  if (postsV === undefined) return [];
  const blocks = blocksOf(system);
  return rows.flatMap(({ id, name, kind, shows }): Said[] => {
    const half = system.sources.find((one) => one.id === id)?.across;
    if (shows.volts === undefined || half === 'lower' || half === 'upper') return [];
    const away = shows.volts - postsV;
    const current = Math.abs(shows.amps ?? 0);
    if (kind === 'source' || kind === 'load') {
      if (current < LEAST_AMPS) return [];
      const lost = kind === 'source' ? away : -away;
      const path = kind === 'source' ? 'charge' : 'load';
      return [
        lost > LOST_VOLTS * blocks
          ? {
              weight: 'fault',
              text: `Between ${name} and the posts ${volts(lost)} are lost at ${amps(current)}: ${milliohms(lost / current)}.`,
              follows: `Measure the drop over each joint and fuse on its way.${kind === 'source' ? ' The charger sees its target early.' : ' The load sees an empty battery early.'}`,
              fact: `${path}-path-loses`,
            }
          : {
              weight: 'fine',
              text: `Between ${name} and the posts ${volts(Math.max(0, lost))} are lost at ${amps(current)}.`,
              fact: `${path}-path-sound`,
            },
      ];
    }
    return Math.abs(away) > APART_VOLTS * blocks
      ? [
          {
            weight: 'caution',
            text: `${name} shows ${volts(shows.volts)}, the meter at the posts ${volts(postsV)}.`,
            follows:
              kind === 'monitor'
                ? 'Its sense lead does not sit on the battery posts, or loses something on the way.'
                : 'Its own leads, or the joint of that battery, lose the difference.',
          },
        ]
      : [];
  });
}

/** Sources less loads must be the battery’s current. */
function judgeCurrents(rows: readonly DisplayRow[]): Said[] {
  const at = (kind: DisplayRow['kind']) => rows.filter((one) => one.kind === kind);
  const monitor = at('monitor')[0]?.shows.amps;
  const cells = [...at('bms'), ...at('battery')].map((one) => one.shows.amps);
  const said: Said[] = [];
  if (monitor !== undefined && cells.length > 0 && cells.every((one) => one !== undefined)) {
    const sum = cells.reduce((total, one) => total + one, 0);
    const tolerance = 0.5 + 0.06 * Math.max(Math.abs(sum), Math.abs(monitor));
    said.push(
      Math.abs(sum - monitor) > tolerance
        ? {
            weight: 'fault',
            text: `The monitor shows ${amps(monitor)}, ${cells.length > 1 ? `the ${counted(cells.length, 'battery', 'batteries')} together` : 'the BMS'} ${amps(sum)}.`,
            follows: 'What passes the cells and not the monitor is not counted by it: prove the coverage.',
          }
        : {
            weight: 'fine',
            text: `Monitor and ${cells.length > 1 ? 'batteries' : 'BMS'} show the same current.`,
          },
    );
  }
  return said;
}
