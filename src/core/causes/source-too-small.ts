/** The charger or the sun gives too few hours or amperes for what is drawn. */

import { sum } from '../quantity/numbers';
import { ampHours, amps, percent, share } from '../quantity/text';
import { missingBasics } from '../system/known';
import type { Cause, DayBalance, Evidence, Observations } from './cause';
import { shrunk } from './cause';
import { WEIGHTS, weightOf } from './weights';

export const sourceTooSmall: Cause = {
  code: 'source-too-small',
  title: 'The source is too small for what is drawn',
  complaint: 'undercharging',
  chemistries: 'all',
  needs:
    'voltage and current of the charger or the battery over several whole days; the battery’s own current gives the balance',
  signature: 'bulk never ends on most days, and what goes in does not make up for what comes out',
  prior: { complained: -5, otherwise: -10 },
  tests: {
    'balance-over-a-week': [
      { name: 'less goes in than comes out', ifHolds: 0.85, ifNot: 0.1 },
      { name: 'more goes in than comes out', ifHolds: 0.15, ifNot: 0.9 },
    ],
    'mains-top-up': [
      { name: 'full once, then sinking again day by day', ifHolds: 0.85, ifNot: 0.2 },
      { name: 'stays full', ifHolds: 0.15, ifNot: 0.8 },
    ],
  },
  weigh(seen) {
    const whole = seen.days.filter((day) => day.hours >= 20);
    if (!seen.bank) return { evidence: [], missing: missingBasics(seen.system) };
    if (seen.charging.length === 0)
      return { evidence: [], missing: ['voltage and current of the charger or the battery'] };
    if (whole.length === 0) return { evidence: [], missing: ['a log of at least one whole day'] };
    return { evidence: weighDays(whole, seen), missing: [] };
  },
};

function weighDays(days: DayBalance[], { charging, bank }: Observations): Evidence[] {
  const inBulk = days.filter((day) => day.reached === 'bulk' || day.reached === 'nothing');
  const stuck = inBulk.length / days.length;
  const evidence: Evidence[] = [
    {
      text:
        inBulk.length === 0
          ? `Charging got past bulk on ${share(days.length, days.length, 'day')}.`
          : `Charging did not get past bulk on ${share(inBulk.length, days.length, 'day')}.`,
      decibans: shrunk(weightOf(WEIGHTS.daysInBulk, stuck), days.length),
      group: 'days',
      spans: inBulk,
    },
  ];

  const balanced = days.filter(
    (day) => day.ampHoursOut === day.ampHoursOut && day.ampHoursOut + day.ampHoursIn > 0,
  );
  const into = sum(balanced.map((day) => day.ampHoursIn));
  const out = sum(balanced.map((day) => day.ampHoursOut));
  if (balanced.length >= 3 && bank && out > 0.1 * bank.capacityAh) {
    const returned = into / out;
    const decibans = weightOf(WEIGHTS.returned, returned);
    // A balance near even says little by itself: a battery that is kept full shows the same.
    if (decibans < 0 || stuck >= 0.4)
      evidence.push({
        text: `Over ${share(balanced.length, days.length, 'day')} ${ampHours(into)} went in and ${ampHours(out)} came out: ${percent(100 * returned)} was put back, where losses alone ask for more than 100 %.`,
        decibans: shrunk(decibans, balanced.length),
        group: 'balance',
        spans: [],
      });
  }

  if (stuck >= 0.4)
    for (const { source, bulkAmps } of charging) {
      if (!source?.ratedA || !(bulkAmps > 0)) continue;
      const part = bulkAmps / source.ratedA;
      if (source.kind === 'mains' && part < 0.6)
        evidence.push({
          text: `${source.name} gave at most ${amps(bulkAmps)} of its ${amps(source.ratedA)} in bulk: it is not its size that falls short.`,
          decibans: WEIGHTS.farBelowRating,
          group: 'rating',
          spans: [],
        });
      else if (part >= 0.85)
        evidence.push({
          text: `${source.name} gave its rating (${amps(bulkAmps)} of ${amps(source.ratedA)}) and still did not finish.`,
          decibans: WEIGHTS.atRating,
          group: 'rating',
          spans: [],
        });
    }
  return evidence;
}
