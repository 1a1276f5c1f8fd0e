/** A charger stops because another source holds the voltage up. */

import { amps, counted, duration, percent, share, volts } from '../quantity/text';
import { median } from '../quantity/numbers';
import { blocksInSeries, expectedVolts, fullTailAmps, isLead } from '../system/chemistry';
import type { Source, System } from '../system/schema';
import { HOUR } from '../quantity/span';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import type { KnownBank } from '../system/known';
import { type Cause, type Evidence, shrunk, weightOf } from './cause';
import { tailText } from './remedy';

const WEIGHTS = {
  /** Hours a day in which it stood back while the battery still took a charging current. */
  hoursADay: [
    [2, 14],
    [1, 12],
    [0.5, 7],
    [0.2, 0],
    [0, -10],
  ],
  /** Share of the absorptions that it ended itself in which others gave much of what the battery still took. */
  leftToOthers: [
    [0.7, 15],
    [0.5, 13],
    [0.3, 9],
    [0.15, 2],
    [0, -6],
  ],
  /** The source that goes on holding the voltage ends absorption early itself. */
  leaderStops: -10,
  /** Or goes on to the tail. */
  leaderFinishes: -8,
  /** Another is set to a higher voltage, or holds it. */
  othersHigher: 4,
  /** Share of charges in which the battery got truly full all the same. */
  fullAnyway: [
    [0.6, -14],
    [0.45, -6],
    [0.3, -3],
    [0.2, -1],
    [0.05, 1],
    [0, 4],
  ],
} as const;

export const prematureFloat: Cause = {
  code: 'premature-float',
  title: 'A charger stops early because another holds the voltage up',
  complaint: 'undercharging',
  chemistries: 'all',
  families: ['charging', 'several-sources'],
  needs: 'the log of the charger beside that of the battery, with more than one source on it',
  signature: 'its float or off begins while the battery still takes a charging current from another source',
  prior: { complained: -5, otherwise: -10 },
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  remedy: ({ bank }) => ({
    text: `Let one source lead: set the chargers to the same voltages, and end absorption by the battery’s own current (${tailText(bank)}) or by a time, not by a charger’s. Where they can be linked, link them, with one leader only.`,
    caution: null,
  }),
  tests: {
    'run-alone': [
      { name: 'alone it goes on to the tail', ifHolds: 0.85, ifNot: 0.15 },
      { name: 'alone it stops as early', ifHolds: 0.15, ifNot: 0.85 },
    ],
  },
  weigh: ({ charging, system }) => {
    const full = fullDays(charging);
    const each = charging.map((one) => [...ofSource(one, full), ...higherThan(one, charging, system)]);
    const led = leaderStops(charging, full.of);
    // One that stands back is enough: that the others lead does not speak against it.
    const standing = each.filter((all) =>
      all.some(({ group, decibans }) => group === 'back' && decibans > 0),
    );
    return [...(standing.length > 0 ? standing : each).flat(), ...(standing.length > 0 ? led : [])];
  },
};

/**
 * What the source that leads does: one that itself ends absorption early leaves the battery short, not that another was pushed off before;
 * and one that goes on to the battery's tail leaves nothing short on the days on which it does.
 * @param days on which some source reached absorption
 */
function leaderStops(charging: readonly SourceCharging[], days: number): Evidence[] {
  return charging.flatMap(({ source, charges, bank, leftEarly }): Evidence[] => {
    if (!source || (leftEarly && leftEarly.stages.length > 0.3 * leftEarly.ended)) return [];
    const absorbed = charges
      .flatMap((one) => one.stages)
      .filter((one) => one.stage === 'absorption' && !one.cutOff && one.endAmpsAreBattery);
    const tail = fullTailAmps(bank);
    const early = absorbed.filter(
      (one) => (one.endedBy === 'timer' || one.endedBy === 'tail') && one.endAmps > STILL_CHARGING * tail,
    );
    const fills = bank.chargeVolts.min - NEAR * blocksInSeries(bank);
    const done = absorbed.filter(
      (one) => one.volts >= fills && one.settledAmps <= tail && one.endAmps <= tail,
    );
    const mostly = (some: Stage[]) => some.length >= 3 && some.length >= 0.5 * absorbed.length;
    if (mostly(early))
      return [
        {
          text: `${source.name}, which held the voltage, itself ended absorption ${counted(early.length, 'time')} with the battery still taking ${amps(median(early.map((one) => one.endAmps)))}: that leaves it short.`,
          decibans: WEIGHTS.leaderStops,
          group: 'leader',
          spans: early,
        },
      ];
    if (mostly(done))
      return [
        {
          text: `${source.name} went on until the battery took ${amps(median(done.map((one) => one.endAmps)))}, ${counted(done.length, 'time')}: nothing was left short.`,
          decibans: Math.round((WEIGHTS.leaderFinishes * done.length) / Math.max(done.length, days)),
          group: 'leader',
          spans: done,
        },
      ];
    return [];
  });
}

/** Days on which some source reached absorption, and those of them on which the battery got full, or nearly, by whichever. */
function fullDays(charging: readonly SourceCharging[]): { full: number; of: number } {
  const charges = charging.flatMap((one) => one.charges.map((charge) => ({ charge, bank: one.bank })));
  const absorbed = charges.filter(({ charge }) => charge.stages.some(({ stage }) => stage === 'absorption'));
  const daysOf = (some: typeof charges) =>
    new Set(some.map(({ charge }) => Math.floor(charge.to / (24 * HOUR)))).size;
  return {
    full: daysOf(absorbed.filter(({ charge, bank }) => isNearlyFull(charge, bank))),
    of: daysOf(absorbed),
  };
}

/** What others held at a voltage that fills it until it took no charging current any more left it as good as full. */
const isNearlyFull = (charge: Charge, bank: KnownBank): boolean =>
  charge.full ||
  charge.stages.some(
    (one) =>
      (one.stage === 'hold' || one.stage === 'absorption') &&
      !one.blocked &&
      one.heldMs > HOUR &&
      one.endAmpsAreBattery &&
      one.endAmps > 0 &&
      one.endAmps < STILL_CHARGING * fullTailAmps(bank) &&
      one.volts >= expectedVolts(bank, 'absorption', one.celsius).min - NEAR * blocksInSeries(bank),
  );

function ofSource(
  { source, yielded, leftEarly, bank, logged }: SourceCharging,
  { full, of }: ReturnType<typeof fullDays>,
): Evidence[] {
  // In the flat part lithium stands at what a charger floats it at, whoever charges it: standing back shows nothing there.
  if (!yielded || !source || !isLead(bank.chemistry)) return [];
  const days = Math.max(1, (logged.span.to - logged.span.from) / (24 * HOUR));
  const perDay = yielded.hours / days;
  const back: Evidence = {
    text:
      yielded.hours === 0
        ? `${source.name} never stood back while the battery was still charging.`
        : `${source.name} stood back for ${duration(yielded.hours * HOUR)} on ${counted(yielded.days, 'day')} while the battery still took ${amps(yielded.batteryAmps)}, ${percent((100 * yielded.batteryAmps) / bank.capacityAh)} of its capacity, from another source.`,
    decibans: shrunk(weightOf(WEIGHTS.hoursADay, perDay), 1 + yielded.days),
    group: 'back',
    spans: [],
  };
  const left: Evidence[] =
    leftEarly && leftEarly.ended >= 3
      ? [
          {
            text:
              leftEarly.stages.length === 0
                ? `${source.name} never left absorption to another source while the battery still took a charging current.`
                : `${source.name} left absorption in ${share(leftEarly.stages.length, leftEarly.ended, 'charge')} while the battery still took ${amps(leftEarly.batteryAmps)}: its own current was down to ${amps(leftEarly.ownAmps)}, because others gave ${amps(leftEarly.othersAmps)}.`,
            decibans: shrunk(
              weightOf(WEIGHTS.leftToOthers, leftEarly.stages.length / leftEarly.ended),
              leftEarly.ended,
            ),
            group: 'back',
            spans: leftEarly.stages,
          },
        ]
      : [];
  // One way of stopping early is enough: that the other was not seen does not speak against it.
  const speaks = left.some((one) => one.decibans > 0);
  if (yielded.days === 0 && !speaks) return [back, ...left];
  return [
    ...(speaks && back.decibans < 0 ? [] : [back]),
    ...(back.decibans > 0 && !speaks ? [] : left),
    {
      text: `The battery got full, or nearly, on ${share(full, of, 'day')} with absorption, by whichever source.`,
      decibans: shrunk(weightOf(WEIGHTS.fullAnyway, full / Math.max(1, of)), of),
      group: 'full',
      spans: [],
    },
  ];
}

/** V a 12 V block under the battery's range at which a current that has fallen still shows a battery that is filling. */
const NEAR = 0.1;
/** So many tails the battery takes when it is still charging. */
const STILL_CHARGING = 1.5;
/** V a 12 V block by which chargers on one bus must differ for the higher to hold the lower back. */
const HIGHER = 0.12;

/** Another charger that is set, or holds, plainly higher than one that stops early. */
function higherThan(
  one: SourceCharging,
  charging: readonly SourceCharging[],
  { sources }: System,
): Evidence[] {
  const left = one.leftEarly?.stages.length ?? 0;
  if (left === 0 || !one.source) return [];
  const { id: ownId } = one.source;
  const set = ({ profile }: Source): number => profile.absorptionV ?? NaN;
  const held = ({ id }: Source): number =>
    charging.find(({ source }) => source?.id === id)?.setpoints.absorption?.volts ?? NaN;
  // Settings are held against settings, and what was held against what was held: the two may differ by the temperature.
  const pairs = sources
    .filter(({ id }) => id !== ownId)
    .flatMap((other) =>
      [
        [set, set],
        [held, held],
        // What was held with its temperature known is at 25 °C, as settings are.
        ...(one.setpoints.celsius ? [[set, held] as const] : []),
      ].map(([of, ours]) => ({ other, volts: of!(other), own: ours!(one.source!) })),
    )
    .filter((pair) => pair.volts - pair.own >= HIGHER * blocksInSeries(one.bank));
  const [highest] = pairs.sort((a, b) => b.volts - b.own - (a.volts - a.own));
  if (!highest) return [];
  return [
    {
      text: `${highest.other.name} goes up to ${volts(highest.volts)}, ${one.source.name} to ${volts(highest.own)}: the higher holds the bus.`,
      decibans: WEIGHTS.othersHigher,
      group: 'higher',
      spans: [],
    },
  ];
}
