/** A load bypasses the monitor. */

import { amps } from '../quantity/text';
import { isLead } from '../system/chemistry';
import { type Bands, type Cause, type Evidence, type Judged, weightOf } from './cause';
import {
  COMES_AND_GOES,
  COVERAGE_ANSWERS,
  COVERAGE_WEIGHTS,
  FLOAT_CURRENT,
  mayBypass,
  missingCoverage,
  NO_ZERO,
  weighCoverage,
  weighShares,
} from './coverage';
import { isFirm, isTooCoarse } from './drifting';
import { LIVE } from './remedy';

const WEIGHTS = {
  ...COVERAGE_WEIGHTS,
  /** Nobody knows whether a load is counted, and something is missing from the count. */
  notKnown: 4,
  /** What flows into the battery by the monitor and is not found in it, thousandths of the capacity in A. */
  missingCharge: [
    [6, 11],
    [4.5, 10],
    [3.5, 8],
    [2, 5],
    [1.2, 2],
    [0, -6],
  ],
  /** Beside the BMS's meter it comes and goes, as no zero error does. */
  comesAndGoes: 6,
  /** More than a zero is usually off by. */
  tooMuch: 4,
  /** A load draws as much by a log of its own; or by its usual current and hours. */
  sameAmps: 9,
  sameByHours: 5,
} as const satisfies Record<string, Bands | number>;

export const loadNotCounted: Cause = {
  code: 'load-not-counted',
  title: 'A load bypasses the monitor',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: [],
  needs: 'the wiring walk: which conductors pass the sensor; or the load’s log beside the monitor’s',
  signature: 'the voltage falls faster than the count; the reading stays high',
  prior: { complained: -4, otherwise: -10 },
  onlyWhenSpokenOf: true,
  weights: WEIGHTS,
  answers: COVERAGE_ANSWERS,
  onSite: { 'load-unseen': 15, 'loads-shown': -10 },
  tests: {
    'clamp-each-conductor': [
      { name: 'a load’s current that the monitor does not show', ifHolds: 0.95, ifNot: 0.03 },
      { name: 'the monitor shows each load', ifHolds: 0.05, ifNot: 0.97 },
    ],
  },
  described: (seen) => weighCoverage(seen, seen.system.loads, 'load'),
  weigh: (seen) => [...weighShares(seen, 'load'), ...weighMissing(seen)],
  remedy: ({ system }) => {
    const names = system.loads.filter((one) => one.counted === false).map((one) => one.name);
    return {
      text: `Move the negative of ${names.length > 0 ? names.join(' and ') : 'that load'} to the far side of the sensor, so that one conductor alone is left on the battery’s own side; then synchronise.`,
      caution: LIVE,
    };
  },
  missing: (seen) => missingCoverage(seen, seen.system.loads),
};

/** Charge that the monitor shows going in and that never arrives: something draws it before. */
function weighMissing({ counting, system, bank }: Judged): Evidence[] {
  if (!counting || system.monitor?.method === 'voltage' || counting.wrong.gain !== 1) return [];
  // Beside the BMS's meter the current is compared row by row, and nothing counted.
  if (isTooCoarse(counting) && !counting.meters.bms) return [];
  // Where a log of its own shows it, nothing more is needed.
  if (counting.wrong.unseen.length > 0) return [];
  const { meters, offsetA } = counting;
  const thousandths = (value: number) => (1000 * value) / bank.capacityAh;
  const float = meters.atFloat && meters.atFloat.hours >= 4 && !meters.bms ? meters.atFloat.amps : NaN;
  const floatCurrent = isLead(bank.chemistry) ? FLOAT_CURRENT.lead : FLOAT_CURRENT.lithium;
  const found = [
    meters.bms && meters.bms.slope > 0.5 ? thousandths(meters.bms.offsetA) : NaN,
    thousandths(float) - floatCurrent,
    counting.favours.offset > 3 && isFirm(counting) ? thousandths(offsetA.value) : NaN,
  ].filter((one) => one > 0);
  if (found.length === 0) return [];
  const most = Math.max(...found);
  const evidence: Evidence[] = [
    {
      text: `About ${amps((most * bank.capacityAh) / 1000)} of what the monitor shows into the battery never gets there.`,
      decibans: weightOf(WEIGHTS.missingCharge, most),
      group: 'missing',
      spans: [counting.logged],
    },
  ];
  if (most > 1000 * NO_ZERO)
    evidence.push({
      text: 'That is more than a zero is usually off by.',
      decibans: WEIGHTS.tooMuch,
      group: 'too-much',
      spans: [],
    });
  const unknown = system.loads.filter((one) => one.counted === null);
  if (unknown.length > 0 && most >= 1.2)
    evidence.push({
      text: `Whether ${unknown.map((one) => one.name).join(' and ')} ${unknown.length === 1 ? 'passes' : 'pass'} the sensor is not known.`,
      decibans: WEIGHTS.notKnown,
      group: 'not-known',
      spans: [],
    });
  const shown = new Set(meters.shares.map((one) => one.id));
  const alike = mayBypass(system, counting).filter(
    (one) => one.amps > 0 && Math.abs((most * bank.capacityAh) / 1000 / one.amps - 1) < 0.3,
  );
  if (alike.length > 0 && most >= 1.2)
    evidence.push({
      text: `${system.loads.find(({ id }) => id === alike[0]!.id)?.name ?? 'A load'} draws ${amps(alike[0]!.amps)} on average: just that.`,
      decibans: WEIGHTS.sameAmps,
      group: 'same-amps',
      spans: [],
    });
  else if (most >= 1.2) {
    const byHours = system.loads.filter(
      ({ id, usualA, hoursPerDay }) =>
        !shown.has(id) &&
        usualA !== undefined &&
        hoursPerDay !== undefined &&
        Math.abs((most * bank.capacityAh) / 1000 / ((usualA * hoursPerDay) / 24) - 1) < 0.3,
    );
    if (byHours.length === 1)
      evidence.push({
        text: `By its usual current and hours ${byHours[0]!.name} draws ${amps((byHours[0]!.usualA! * byHours[0]!.hoursPerDay!) / 24)} on average: about that.`,
        decibans: WEIGHTS.sameByHours,
        group: 'same-amps',
        spans: [],
      });
  }
  if (meters.bms && meters.bms.comesAndGoes > COMES_AND_GOES)
    evidence.push({
      text: `Beside the BMS’s meter it comes and goes, as a load does${meters.bms.hours ? `, mostly between ${meters.bms.hours.from} and ${meters.bms.hours.to} o’clock` : ''}.`,
      decibans: WEIGHTS.comesAndGoes,
      group: 'comes-and-goes',
      spans: [counting.logged],
    });
  return evidence;
}
