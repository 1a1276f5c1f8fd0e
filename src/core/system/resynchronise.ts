/** How to set this system's monitor right: one full charge, watched. */

import { HOUR } from '../quantity/span';
import { amps, duration, percent, small, volts } from '../quantity/text';
import { CHEMISTRY, fullTailAmps, isLead } from './chemistry';
import { chargeTime } from './chargeTime';
import { knownSystem } from './known';
import { reviewSettings } from './review/review';
import type { Source, System } from './schema';
import { QUESTIONS, schoolsOf } from './schools';

/** A that a source gives, as it is set or rated; 0 where nobody knows. */
const givenAmps = ({ setA, ratedA }: Source): number => setA ?? ratedA ?? 0;

/** The source that gives most among those that the monitor sees and that charge the whole bank; null without one. */
export const fastestSource = ({ sources }: System): Source | null =>
  sources
    .filter((one) => one.counted !== false && (one.across ?? 'bank') === 'bank')
    .reduce<Source | null>(
      (best, one) => (best === null || givenAmps(one) > givenAmps(best) ? one : best),
      null,
    );

export interface Procedure {
  title: string;
  steps: string[];
  cautions: string[];
}

/** @param fromPercent where the battery stands, as well as is known; 50 otherwise */
export function resynchronise(system: System, fromPercent = 50): Procedure {
  const known = knownSystem(system);
  const { monitor } = system;
  const lead = system.bank.chemistry === undefined || isLead(system.bank.chemistry);
  const steps: string[] = [];
  const counter = monitor ? 'the monitor' : 'a monitor';

  const changes = reviewSettings(system).sheet.filter(
    (row) => row.of === 'monitor' && row.verdict === 'change',
  );
  if (changes.length > 0)
    steps.push(
      `First set in the monitor: ${changes.map((row) => `${row.label.toLowerCase()} ${row.advised}${row.unit ? ` ${row.unit}` : ''} (now ${row.now})`).join(', ')}.`,
    );
  const unseen = [...system.sources, ...system.loads].filter((one) => one.counted === false);
  if (unseen.length > 0)
    steps.push(
      `Switch off what the monitor does not count, or move its negative first: ${unseen.map((one) => one.name).join(', ')}.`,
    );
  const fastest = fastestSource(system);
  const charger = fastest?.name ?? 'the charger';
  const target = fastest?.profile.absorptionV;
  const gives = fastest ? givenAmps(fastest) : 0;
  const takes =
    known && gives > 0
      ? chargeTime(
          known.bank.capacityAh,
          gives,
          fromPercent,
          lead ? 0.85 : 0.98,
          lead ? 0.02 * known.bank.capacityAh : null,
        )
      : null;
  steps.push(
    `Charge with ${charger}${system.sources.length > 1 && fastest ? ', the fastest source that the monitor sees' : ''}${target === undefined ? '' : ` to ${volts(target)}`}${takes ? `; from ${percent(fromPercent)} that takes about ${duration((takes.bulkHours + takes.absorptionHours) * HOUR)}` : ''}. Keep the loads small.`,
  );
  if (fastest?.profile.floatV !== undefined)
    steps.push(
      `Wait until ${charger} itself says float.${fastest.profile.tailA === undefined && fastest.profile.absorptionMinutes ? ' It ends absorption by a timer, so that its float is a claim and no proof: go by the current.' : ''}`,
    );
  if (known) {
    const { fullTailPercent } = CHEMISTRY[known.bank.chemistry];
    steps.push(
      `Wait until the current into the battery has fallen to ${amps(fullTailAmps(known.bank))} (${percent(fullTailPercent)} of capacity) while the voltage is held.`,
    );
  } else
    steps.push('Wait until the current into the battery has fallen to its tail while the voltage is held.');
  if (monitor?.method === 'voltage')
    steps.push('This monitor reads voltage only: there is nothing to synchronise. Fit one that counts.');
  else {
    const { chargedV, tailPercent, detectionMinutes, capacityAh } = monitor ?? {};
    steps.push(
      chargedV !== undefined && tailPercent !== undefined && detectionMinutes !== undefined
        ? `The reading should jump to 100 % once the voltage has been above ${volts(chargedV)} and the current below ${capacityAh ? amps((tailPercent / 100) * capacityAh) : percent(tailPercent)} for ${detectionMinutes} min. Write down what it showed just before: the jump is the error that had built up; a few per cent is fine.`
        : `Read off when ${counter} calls the battery full (charged voltage, tail current, detection time), and watch the reading jump to 100 %. Write down what it showed just before.`,
      'If it does not jump, set it to 100 % by hand while the current is at its tail, and look at the charged voltage and the tail again.',
    );
  }
  if (
    system.sources.some((one) => one.across === 'lower' || one.across === 'upper') ||
    (monitor?.sees ?? 'bank') !== 'bank'
  )
    steps.push(
      'Charge both halves fully, compare their voltages (within about 0.1 V), and only then synchronise by hand.',
    );
  const school = QUESTIONS.resync.options.find((one) => one.id === schoolsOf(system).resync)!;
  steps.push(`Do it again ${school.name}: ${small(school.why)}`);

  return {
    title: 'Set the reading right with a full charge',
    steps,
    cautions: lead
      ? ['Charging gives off explosive gas: ventilate, no sparks, no smoking.']
      : [
          'Never charge lithium below freezing.',
          'Do not raise a charge limit to get there: if the BMS opens first, find out why.',
        ],
  };
}
