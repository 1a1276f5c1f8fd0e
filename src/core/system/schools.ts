/**
 * Where practitioners disagree: each question, its schools by the name of their reasoning, and which one fits a system when nobody
 * has chosen. All of it is common practice with no published source. The choice is kept with the system and never hidden.
 */

import { z } from 'zod';

export interface School {
  id: string;
  name: string;
  why: string;
}

interface Question<Id extends string = string> {
  title: string;
  /** What the question is about, in one sentence. */
  about: string;
  chemistry: 'lead' | 'lithium' | 'any';
  options: readonly (School & { id: Id })[];
}

const question = <const Id extends string>(one: Question<Id>): Question<Id> => one;

export const QUESTIONS = {
  sync: question({
    title: 'When the monitor may call it full',
    about: 'Where the charged voltage and the tail of the monitor are set.',
    chemistry: 'any',
    options: [
      {
        id: 'steady',
        name: 'steady source',
        why: 'A mains charger holds its float without fail, so a little under float with a small current is a safe sign of full.',
      },
      {
        id: 'varying',
        name: 'varying source',
        why: 'Clouds, wind or an engine that stops make the current collapse at float voltage; only a voltage near absorption tells a full battery from a cloud.',
      },
    ],
  }),
  lithiumSync: question({
    title: 'Charged voltage of a lithium battery',
    about: 'How high the voltage must stand before the monitor calls a lithium battery full.',
    chemistry: 'lithium',
    options: [
      {
        id: 'near-absorption',
        name: 'a little under absorption',
        why: 'The curve is flat: only near the charge voltage is a lithium battery surely full.',
      },
      {
        id: 'fixed-13.8',
        name: '13.8 V for 12 V',
        why: 'A plain rule that fits most chargers; above every rest voltage, so a resting battery cannot trip it.',
      },
      {
        id: 'fixed-13.5',
        name: '13.5 V for 12 V',
        why: 'For chargers that stop early; easier to reach, and easier to fool.',
      },
    ],
  }),
  lithiumTail: question({
    title: 'Tail current of a lithium battery',
    about:
      'At what current, in per cent of capacity, a lithium battery at its charge voltage counts as full.',
    chemistry: 'lithium',
    options: [
      {
        id: '1',
        name: '1 %',
        why: 'Only when the current has all but vanished; may wait long behind standing loads.',
      },
      { id: '2', name: '2 %', why: 'Small enough to mean full, large enough to be met every time.' },
      {
        id: '4',
        name: '4 %',
        why: 'The common preset of monitors; little capacity lies below it in lithium.',
      },
      { id: '5', name: '5 %', why: 'What cell makers call the end of charge; met early with a weak source.' },
    ],
  }),
  lithiumFloat: question({
    title: 'Float for a lithium battery',
    about: 'What the charger does once a lithium battery is full.',
    chemistry: 'lithium',
    options: [
      {
        id: 'equal',
        name: '(a) float equal to the charge voltage',
        why: 'Keeps a trickle going, which fills the battery to 90 % and more even at 3.35 to 3.40 V per cell.',
      },
      {
        id: 'gap',
        name: '(b) a gap below the charge voltage',
        why: 'Charge to 3.5 V per cell, hold it no longer than balancing asks for, and fall back to 3.35: little capacity lies between, and the source takes over the loads at the lower voltage.',
      },
      {
        id: 'none',
        name: '(c) no float',
        why: 'Lithium wants no trickle; where nothing has to be carried, the source may rest until the next charge. Where float cannot be switched off, set it no higher than the rest voltage of a full battery, about 3.33 V per cell.',
      },
    ],
  }),
  lithiumAbsorption: question({
    title: 'Absorption of a lithium battery',
    about: 'How long the charge voltage is held.',
    chemistry: 'lithium',
    options: [
      {
        id: 'none',
        name: 'end at the voltage',
        why: 'At the target the battery is as good as full; holding it adds nothing but age.',
      },
      {
        id: 'balance',
        name: 'an hour or two for balancing',
        why: 'The cells’ balancers work only near the charge voltage and at small currents; they need the time.',
      },
    ],
  }),
  leadPreset: question({
    title: 'Lithium on a charger without a lithium preset',
    about: 'Whether a lead preset may be used for lithium.',
    chemistry: 'lithium',
    options: [
      {
        id: 'own',
        name: 'a profile of your own',
        why: 'Set the voltages freely, with equalisation and compensation off.',
      },
      {
        id: 'fits',
        name: 'the lead preset that fits',
        why: 'Where nothing can be set, an AGM- or gel-like preset whose voltages lie in range does no harm once equalisation and compensation are off; never the flooded one.',
      },
      {
        id: 'fixed',
        name: 'the fixed lithium preset only',
        why: 'On some controllers the profile that can be set is meant for lead and keeps lead habits in the background.',
      },
    ],
  }),
  balanceStart: question({
    title: 'Where the balancing of lithium starts',
    about: 'At which voltage of a cell the BMS begins to bleed it.',
    chemistry: 'lithium',
    options: [
      {
        id: 'under',
        name: 'a little under the charge voltage',
        why: 'All cells that are near full take part, in every charge that comes near the top.',
      },
      {
        id: 'at',
        name: 'at the charge voltage',
        why: 'Only a cell that runs ahead of the others is bled, and none that is merely in step.',
      },
    ],
  }),
  efficiency: question({
    title: 'Charge efficiency of lead-acid',
    about: 'What share of the ampere-hours put in the monitor counts.',
    chemistry: 'lead',
    options: [
      {
        id: 'cycled',
        name: 'cycled deep: 80 to 85 %',
        why: 'Over a deep cycle most of the charge goes in at good efficiency.',
      },
      {
        id: 'near-top',
        name: 'near the top: 75 to 80 %',
        why: 'Just before full only a few per cent of the current charges anything; a battery cycled only there loses more.',
      },
    ],
  }),
  lithiumEfficiency: question({
    title: 'Charge efficiency of lithium',
    about: 'What share of the ampere-hours put in the monitor counts.',
    chemistry: 'lithium',
    options: [
      { id: '95', name: '95 %', why: 'Careful: the reading errs on the low side.' },
      { id: '98', name: '98 %', why: 'The middle of what is measured, meter errors included.' },
      { id: '99', name: '99 %', why: 'What the cells themselves do; leaves no room for the meter.' },
    ],
  }),
  lithiumPeukert: question({
    title: 'Peukert exponent of lithium',
    about: 'How much less comes out at high current.',
    chemistry: 'lithium',
    options: [
      { id: '1.05', name: '1.05', why: 'Lithium hardly minds the rate.' },
      { id: '1.1', name: '1.1', why: 'With small cells or cold nights the rate does count.' },
    ],
  }),
  alarm: question({
    title: 'When the low-voltage alarm sounds',
    about: 'How much is left in the battery when somebody is called.',
    chemistry: 'any',
    options: [
      {
        id: 'late',
        name: 'late, near the cut-off',
        why: 'It sounds only when something is about to stop: an alarm that is often for nothing is soon not listened to.',
      },
      {
        id: 'early',
        name: 'early, at the rest voltage of half',
        why: 'It sounds while there is still time to start a charger or to drive out; under a large load it may sound earlier still.',
      },
    ],
  }),
  resync: question({
    title: 'Full charge to set the reading right',
    about: 'How long a monitor may go without a full charge before its reading is doubted.',
    chemistry: 'any',
    options: [
      {
        id: 'weekly',
        name: 'every week',
        why: 'The error of a week stays within a few per cent. Sources that come and go leave many charges unfinished, and the flat curve of lithium lets no voltage correct a reading between.',
      },
      {
        id: 'fortnightly',
        name: 'every fortnight',
        why: 'Enough where currents are steady and the settings are right.',
      },
      {
        id: 'quarterly',
        name: 'every quarter',
        why: 'For batteries that rest most of the time, or where a full charge costs fuel.',
      },
    ],
  }),
  retry: question({
    title: 'When an equalisation fails',
    about: 'How long the charger keeps trying before it waits for the next date.',
    chemistry: 'lead',
    options: [
      { id: 'fear-boiling', name: 'one day of retry', why: 'A battery boiled for days is the bigger fear.' },
      {
        id: 'must-happen',
        name: 'retry up to the whole interval',
        why: 'With a weak source it may need many tries, and it must happen.',
      },
    ],
  }),
  gravity: question({
    title: 'Specific gravity to a common temperature',
    about: 'How hydrometer readings are corrected.',
    chemistry: 'lead',
    options: [
      {
        id: 'ieee',
        name: 'to 25 °C, 0.001 for each 1.67 °C',
        why: 'IEEE Std 450: stationary practice, reference 25 °C.',
      },
      {
        id: 'bci',
        name: 'to 80 °F, 0.004 for each 10 °F',
        why: 'Battery Council International: reference 80 °F (26.7 °C).',
      },
    ],
  }),
} as const;

export type QuestionId = keyof typeof QUESTIONS;
export type ChoiceOf<Q extends QuestionId> = (typeof QUESTIONS)[Q]['options'][number]['id'];
export type Schools = { [Q in QuestionId]: ChoiceOf<Q> };
export const QUESTION_IDS = Object.keys(QUESTIONS) as QuestionId[];

/** The choices made for a system; a question that is left out follows the system. */
export const schoolChoicesSchema = z.object(
  Object.fromEntries(
    QUESTION_IDS.map((id) => [id, z.enum(QUESTIONS[id].options.map((one) => one.id)).optional()]),
  ) as unknown as { [Q in QuestionId]: z.ZodOptional<z.ZodType<ChoiceOf<Q>>> },
);

interface Fitting {
  bank?: { chemistry?: string | undefined; capacityAh?: number | undefined };
  sources: readonly { kind?: string | undefined; hoursPerDay?: number | undefined }[];
  loads: readonly { usualA?: number | undefined; hoursPerDay?: number | undefined }[];
  schools?: Partial<Schools> | undefined;
}

/** A battery cycled by less than this part of its capacity a day stays near the top. */
const NEAR_TOP = 0.15;

/** Part of the capacity that is drawn a day while no source carries the loads; null where too little is described. */
export function dailyDepth({ bank, sources, loads }: Fitting): number | null {
  const draws = loads.map((one) => (one.usualA ?? NaN) * (one.hoursPerDay ?? NaN));
  const daily = draws.reduce((sum, one) => sum + one, 0);
  const hours = Math.max(0, ...sources.map((one) => one.hoursPerDay ?? NaN));
  const depth = (daily * (1 - hours / 24)) / (bank?.capacityAh ?? NaN);
  return loads.length > 0 && depth === depth ? depth : null;
}

/** Days that each school of a full charge allows. */
export const RESYNC_DAYS = { weekly: 7, fortnightly: 14, quarterly: 91 } as const;

/**
 * Days without a full charge that nobody blames: by the school that was chosen; where none was, as long as a careful school allows, and a
 * fortnight where sources come and go.
 */
export function daysWithoutFull(system: Fitting): number {
  const chosen = system.schools?.resync;
  return chosen ? RESYNC_DAYS[chosen] : isVarying(system) ? RESYNC_DAYS.fortnightly : RESYNC_DAYS.weekly;
}

const isVarying = ({ sources }: Fitting): boolean =>
  sources.some((one) => one.kind === 'solar' || one.kind === 'generator' || one.kind === 'alternator');

/** The schools that a system is reviewed by: those chosen, else those that fit it. */
export function schoolsOf(system: Fitting): Schools {
  const varying = isVarying(system);
  const float = system.schools?.lithiumFloat ?? (system.loads.length > 0 ? 'gap' : 'none');
  const depth = dailyDepth(system);
  const fitting: Schools = {
    sync: varying ? 'varying' : 'steady',
    lithiumSync: 'near-absorption',
    lithiumTail: '4',
    lithiumFloat: float,
    lithiumAbsorption: float === 'gap' ? 'none' : 'balance',
    leadPreset: 'own',
    balanceStart: 'under',
    efficiency: depth !== null && depth < NEAR_TOP ? 'near-top' : 'cycled',
    lithiumEfficiency: '98',
    lithiumPeukert: '1.05',
    resync: varying || system.bank?.chemistry === 'lfp' ? 'weekly' : 'fortnightly',
    alarm: 'late',
    retry: 'fear-boiling',
    gravity: 'ieee',
  };
  const chosen = Object.entries(system.schools ?? {}).filter(([, choice]) => choice !== undefined);
  return { ...fitting, ...Object.fromEntries(chosen) };
}

/** How often the monitor wants a full charge, in a sentence, and why. */
export function resyncSentence(system: Fitting): string {
  const { name, why } = schoolOf(schoolsOf(system), 'resync');
  return `Full charge to set the reading right: ${name}. ${why}`;
}

/** The school chosen on a question, with its name and reason. */
export function schoolOf<Q extends QuestionId>(schools: Schools, id: Q): School {
  return QUESTIONS[id].options.find((one) => one.id === schools[id])!;
}
