/**
 * Ratings chain of a system: what runs and the largest start on top, against every link that the current passes, on the way out and on
 * the way in; and what chargers draw from a small generator. Margins are common practice, no source; ratings are what is marked.
 */

import { amps, percent } from '../quantity/text';
import { presetVolts } from '../system/known';
import { apparentPower, type Link, weakestLink } from '../system/ratingsChain';
import type { Load, System } from '../system/schema';
import type { Said } from './said';
import type { Visit } from './visit';
import { expectedOf } from './proof';

export interface ChainLink {
  name: string;
  /** Null while nobody knows: it is asked. */
  amps: number | null;
  /** Where it is written. */
  where: string;
}

export interface Chain {
  way: 'out' | 'in';
  /** What flows for good, A, and the largest start on top of the rest; NaN where nothing is known. */
  running: number;
  starting: number;
  links: ChainLink[];
  weakest: Link | null;
  /** Parts of the weakest link that are left while all runs. */
  margin: number | null;
}

/** Of a link’s rating this much is kept free. */
const FREE = 0.2;
/** A charger without correction draws more volt-amperes than watts; its own losses on top. */
const CHARGER = { efficiency: 0.88, powerFactor: 0.7 };

type Typed = Pick<
  Visit,
  'mainPath' | 'bmsMaxDischargeA' | 'bmsMaxChargeA' | 'shuntA' | 'setA' | 'proof' | 'displays'
>;

/** A that a load usually draws: as surveyed on the visit, else as described. */
const runningOf = (load: Load, system: System, { proof, displays }: Typed): number =>
  expectedOf(load, proof?.devices?.[load.id] ?? {}, system, displays?.postsV)?.amps ?? NaN;

const sumOf = (values: readonly number[]): number =>
  values.filter((one) => one === one).reduce((sum, one) => sum + one, 0);

export function chainsOf(system: System, typed: Typed = {}): { out: Chain; in: Chain } {
  const { bms, bank, monitor, loads, sources } = system;
  const path = { ...system.mainPath, ...typed.mainPath };
  const count = Math.max(1, system.batteries?.length ?? 0);
  const each = count > 1 ? ` (${count} batteries, while all share)` : '';
  const isLithium = bank.chemistry === 'lfp' || bms !== undefined;
  const limit = (one: number | undefined) => (one === undefined ? null : count * one);
  const shared: ChainLink[] = [
    { name: 'main fuse', amps: path.fuseA ?? null, where: 'Printed on it.' },
    { name: 'main cable', amps: path.cableA ?? null, where: 'By its size, from the local code’s table.' },
    ...(monitor && ['shunt', 'hall'].includes(monitor.method ?? 'shunt')
      ? [
          {
            name: monitor.method === 'hall' ? 'sensor' : 'shunt',
            amps: typed.shuntA ?? monitor.ratedA ?? null,
            where: 'Stamped on it.',
          },
        ]
      : []),
    { name: 'busbars', amps: path.busbarA ?? null, where: 'Stamped on them.' },
    { name: 'jumpers', amps: path.jumperA ?? null, where: 'As a cable of their size.' },
  ];
  const running = loads.map((one) => runningOf(one, system, typed));
  const total = sumOf(running);
  const starts = loads.map((one, k) => {
    const start = typed.proof?.devices?.[one.id]?.startA ?? one.startA;
    return start === undefined ? NaN : total - (running[k]! > 0 ? running[k]! : 0) + start;
  });
  const charging = sumOf(sources.map((one) => typed.setA?.[one.id] ?? one.setA ?? one.ratedA ?? NaN));
  const out = [
    ...(isLithium
      ? [
          {
            name: 'BMS',
            amps: limit(typed.bmsMaxDischargeA ?? bms?.maxDischargeA),
            where: `Discharge limit, in its settings or its maker’s sheet${each}.`,
          },
        ]
      : []),
    ...shared,
  ];
  const into = [
    isLithium
      ? {
          name: 'BMS',
          amps: limit(typed.bmsMaxChargeA ?? bms?.maxChargeA) ?? bank.maxChargeA ?? null,
          where: `Charge limit, in its settings or its maker’s sheet${each}.`,
        }
      : {
          name: 'battery',
          amps: bank.maxChargeA ?? null,
          where: 'Greatest charge current, in its maker’s sheet.',
        },
    ...shared,
  ];
  return {
    out: chain('out', total, Math.max(total, ...starts.filter((one) => one === one)), out),
    in: chain('in', charging, charging, into),
  };
}

function chain(way: Chain['way'], running: number, starting: number, links: ChainLink[]): Chain {
  const known = links.flatMap(({ name, amps: rating }) => (rating === null ? [] : [{ name, amps: rating }]));
  const weakest = weakestLink(known, running);
  return { way, running, starting, links, weakest: weakest?.link ?? null, margin: weakest?.margin ?? null };
}

/** VA that the chargers on mains draw from a generator, by their current as set. */
export function generatorDraw(system: System, typed: Typed = {}): number {
  const { bank, sources } = system;
  if (!bank.chemistry || !bank.cellsInSeries) return NaN;
  const volts = (bank.chargeVolts ?? presetVolts(bank.chemistry, bank.cellsInSeries).charge).max;
  const current = sumOf(
    sources
      .filter((one) => one.kind === 'mains' || one.kind === 'generator')
      .map((one) => typed.setA?.[one.id] ?? one.setA ?? one.ratedA ?? NaN),
  );
  return apparentPower(current, volts, CHARGER.efficiency, CHARGER.powerFactor);
}

export function judgeRatings(system: System, typed: Typed = {}): Said[] {
  const chains = chainsOf(system, typed);
  const path = { ...system.mainPath, ...typed.mainPath };
  const said: Said[] = [];
  for (const one of [chains.out, chains.in]) {
    const what = one.way === 'out' ? 'What runs at once' : 'What the chargers give together';
    if (one.weakest && one.running > 0)
      said.push(
        one.margin! < 0
          ? {
              weight: 'fault',
              text: `${what}, ${amps(one.running)}, is more than the ${one.weakest.name} carries: ${amps(one.weakest.amps)}.`,
              follows:
                one.way === 'out'
                  ? 'Take loads off, or strengthen that link. Never a larger fuse than its cable carries.'
                  : 'Set the charge current lower, or strengthen that link.',
            }
          : {
              weight: one.margin! < FREE ? 'caution' : 'fine',
              text: `${what}, ${amps(one.running)}, leaves ${percent(100 * one.margin!)} of the weakest link, the ${one.weakest.name} with ${amps(one.weakest.amps)}.`,
              ...(one.margin! < FREE ? { follows: 'Keep a fifth free for what runs for long.' } : {}),
            },
      );
    for (const link of one.links.filter((each) => each.amps === null))
      if (one.way === 'out' || !chains.out.links.some((each) => each.name === link.name))
        said.push({
          weight: 'open',
          text: `The rating of the ${link.name} is not known.`,
          follows: link.where,
        });
  }
  const bms = chains.out.links.find((one) => one.name === 'BMS')?.amps ?? null;
  if (bms !== null && chains.out.starting > chains.out.running)
    said.push(
      chains.out.starting > bms
        ? {
            weight: 'fault',
            text: `The largest start makes it ${amps(chains.out.starting)}; the BMS lets ${amps(bms)} through.`,
            follows:
              'It switches the battery off at the start, and everything on it. Start that load first and alone, or fit a soft start.',
          }
        : {
            weight: 'fine',
            text: `The largest start makes it ${amps(chains.out.starting)}, within the ${amps(bms)} of the BMS.`,
          },
    );
  if (path.fuseA !== undefined && path.cableA !== undefined && path.fuseA > path.cableA)
    said.push({
      weight: 'fault',
      text: `The main fuse of ${amps(path.fuseA)} is larger than its cable carries, ${amps(path.cableA)}.`,
      follows: 'It does not protect the cable: fit a smaller fuse, or a thicker cable.',
    });
  const shunt = chains.out.links.find((one) => one.name === 'shunt')?.amps ?? null;
  if (path.jumperA !== undefined)
    for (const [other, rating] of [
      ['cable that it joins', path.cableA ?? null],
      ['shunt', shunt],
    ] as const)
      if (
        rating !== null &&
        path.jumperA < rating &&
        (other !== 'shunt' || path.jumperA < chains.out.starting)
      )
        said.push({
          weight: 'caution',
          text: `The jumpers carry ${amps(path.jumperA)}, the ${other} ${amps(rating)}.`,
          follows: 'A jumper is at least as thick as the cable that it joins, and as strong as the shunt.',
        });
  if (path.generatorVa !== undefined) {
    const draw = generatorDraw(system, typed);
    if (draw > 0)
      said.push(
        draw > 0.8 * path.generatorVa
          ? {
              weight: draw > path.generatorVa ? 'fault' : 'caution',
              text: `The chargers draw about ${Math.round(draw)} VA of a generator of ${Math.round(path.generatorVa)} VA.`,
              follows:
                'Set the charge current lower for the generator: it stalls, or runs hot, and both may be hurt.',
            }
          : {
              weight: 'fine',
              text: `The chargers draw about ${Math.round(draw)} VA of the generator’s ${Math.round(path.generatorVa)} VA.`,
            },
      );
  }
  return said;
}
