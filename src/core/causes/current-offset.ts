/** The monitor shows a current where none flows, or a small standing load is not counted. */

import { HOUR } from '../quantity/span';
import { ampHours, amps, points } from '../quantity/text';
import type { Counting } from '../count/types';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { type Bands, type Cause, type Evidence, shrunk, weightOf } from './cause';
import { COMES_AND_GOES, FLOAT_CURRENT, NO_ZERO, zeroAtFloat } from './coverage';
import { countOf, driftBy, DRIFT_PRIOR, isFirm, isTooCoarse, missingMonitor, over } from './drifting';

const WEIGHTS = {
  /** Against the BMS's meter: the constant between the two, in thousandths of the capacity. */
  againstBms: [
    [2, 15],
    [1.3, 10],
    [0.8, 3],
    [0.5, -2],
    [0, -10],
  ],
  /** A full battery that is only kept so takes a little; what is beyond that, in thousandths of the capacity. */
  atFloat: [
    [2.5, 15],
    [1.5, 12],
    [0.9, 8],
    [0.5, 3],
    [0.2, 0],
    [0, -4],
  ],
  /** How much likelier full charges and rests are with a zero error than without, natural logarithm. */
  ledger: [
    [8, 14],
    [5, 12],
    [3.5, 8],
    [2, 4],
    [0.5, 0],
    [-99, -5],
  ],
  /** More came out of the battery than went in, or of lithium the other way, than it holds: by so many times its capacity. */
  balance: [
    [2.5, 14],
    [1.8, 11],
    [1.3, 5],
    [0, 0],
  ],
  /** The most that it says where nothing may be left over just as well. */
  openLedger: 3,
  /** A device that may bypass the sensor would look the same; one that draws comes and goes beside the BMS's meter. */
  otherCause: -4,
  /** Nothing bypasses it, by what was told: then it is the zero. */
  allCounted: 4,
  comesAndGoes: -7,
  /** Thousandths of the capacity that are missing, as an uncounted load would have it; what is too little proves no load. */
  tooMuch: [
    [15, -8],
    [10, -5],
    [6, -3],
    [0, 0],
  ],
  /** The part of it that counts where all pass the sensor. */
  countedPart: 0.5,
  /** The reading walks so far a day, points. */
  drift: [
    [5, 5],
    [2.5, 3],
    [1, 0],
    [0, -3],
  ],
} as const satisfies Record<string, Bands | number>;

/**
 * What the monitor may show of a full battery on float, thousandths of its capacity in A. Lithium above its float gives to
 * the loads for days until it has come down: that proves no zero error, unless it stays the same for a day and more.
 */
const ON_FLOAT = {
  lead: { min: 0, max: FLOAT_CURRENT.lead },
  lithium: { min: -Infinity, max: FLOAT_CURRENT.lithium },
  steady: { min: -0.4, max: 0.4 },
};
/** So surely, in dB, float shows a current out of the battery. */
const FLOWS_OUT = 12;
/** A zero error smaller than this is any meter's, thousandths of the capacity. */
const LEAST = 1.2;

export const currentOffset: Cause = {
  code: 'current-offset',
  title: 'The monitor’s zero is off, or a small standing load is not counted',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs: 'the monitor’s current over days, with full charges, or the BMS’s current beside it',
  signature: 'the reading drifts by the hour, day and night alike',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  caps: { 'at-float': 15, drift: 5 },
  onSite: { 'zero-off': 14, 'zero-right': -8 },
  tests: {
    'read-the-zero': [
      { name: 'a current with everything isolated', ifHolds: 0.85, ifNot: 0.04 },
      { name: 'nothing', ifHolds: 0.15, ifNot: 0.96 },
    ],
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const { bank } = seen;
    const thousandths = (value: number) => (1000 * value) / bank.capacityAh;
    const { meters, offsetA, wrong } = count;
    const evidence: Evidence[] = [];
    if (meters.bms && Math.abs(meters.bms.slope) > 0.3)
      evidence.push({
        text: `Beside the BMS’s meter the monitor shows ${amps(Math.abs(meters.bms.offsetA))} ${meters.bms.offsetA > 0 ? 'too much into' : 'too much out of'} the battery, at any current.`,
        decibans: weightOf(WEIGHTS.againstBms, Math.abs(thousandths(meters.bms.offsetA))),
        group: 'against-bms',
        spans: [count.logged],
      });
    if (meters.bms && meters.bms.comesAndGoes > COMES_AND_GOES)
      evidence.push({
        text: 'It comes and goes beside the BMS’s meter, as no zero error does.',
        decibans: WEIGHTS.comesAndGoes,
        group: 'comes-and-goes',
        spans: [count.logged],
      });
    const devices = [...seen.system.loads, ...seen.system.sources];
    const unknown = devices.filter((one) => one.counted !== true);
    if (unknown.length > 0)
      evidence.push({
        text: `${unknown.map((one) => one.name).join(' and ')} may bypass the sensor: that would look the same.`,
        decibans: WEIGHTS.otherCause,
        group: 'other-cause',
        spans: [],
      });
    // What bypasses the sensor or is scaled shows as a zero error too.
    if (wrong.gain !== 1 || wrong.unseen.length > 0) return evidence;
    const float = meters.atFloat;
    // Beside another meter of the same current float says nothing new.
    if (float && float.hours >= 4 && !meters.bms) {
      const { min, max } = isLead(bank.chemistry)
        ? ON_FLOAT.lead
        : float.steady
          ? ON_FLOAT.steady
          : ON_FLOAT.lithium;
      const shown = thousandths(float.amps);
      const beyond = Math.max(min - shown, shown - max) - thousandths(float.error);
      if (beyond > 0.2 || (shown < max && shown >= 0))
        evidence.push({
          text: `While float only keeps the full battery, the monitor shows ${amps(Math.abs(float.amps))} ${float.amps < 0 ? 'out of' : 'into'} it, hour after hour${beyond > 0.2 ? '' : ', as it should'}.`,
          decibans: weightOf(WEIGHTS.atFloat, Math.max(0, beyond)),
          group: 'at-float',
          spans: float.spans,
        });
    }
    const size = Math.abs(thousandths(offsetA.value));
    // Float shows its current and the zero together: no zero is further off than what it shows.
    const beyondFloat =
      float !== null &&
      float.hours >= 4 &&
      isLead(bank.chemistry) &&
      offsetA.value - 2 * offsetA.deviation > float.amps + float.error;
    const favour = beyondFloat ? Math.min(0, count.favours.offset) : count.favours.offset;
    const allCounted = devices.length > 0 && unknown.length === 0;
    // Nothing flows out of lead that float holds: what the monitor shows then is its zero, where nothing bypasses it.
    const flowsOut =
      allCounted &&
      isLead(bank.chemistry) &&
      evidence.some(({ group, decibans }) => group === 'at-float' && decibans >= FLOWS_OUT) &&
      float!.amps < 0;
    const ledger = weightOf(WEIGHTS.ledger, favour);
    const isShownByFloat = ledger < 0 && (flowsOut || zeroAtFloat(seen) < 0);
    // By the BMS's current the truth says nothing of the monitor's, nor does it where what float shows is the zero.
    if (isFirm(count) && !count.byBms && !isTooCoarse(count) && !isShownByFloat)
      evidence.push({
        text: `From one known state of charge to the next ${amps(Math.abs(offsetA.value))} ${offsetA.value > 0 ? 'too much into' : 'too much out of'} the battery is left over (give or take ${amps(2 * offsetA.deviation)}).`,
        decibans: Math.min(
          ledger,
          size < LEAST ? -2 : 15,
          size < thousandths(2 * offsetA.deviation) ? WEIGHTS.openLedger : 15,
        ),
        group: 'ledger',
        spans: [count.logged],
      });
    const balance = isFirm(count) || count.byBms ? null : impossible(count, bank);
    if (balance) evidence.push(balance);
    if (size > 1000 * NO_ZERO && favour > 3 && offsetA.value > 0)
      evidence.push({
        text: 'That is more than a zero is usually off by.',
        decibans: (allCounted ? WEIGHTS.countedPart : 1) * weightOf(WEIGHTS.tooMuch, size),
        group: 'too-much',
        spans: [],
      });
    if (allCounted && size >= LEAST && (balance || (favour > 3 && isFirm(count) && !count.byBms)))
      evidence.push({
        text: 'Each charger and each load is wired so that the monitor counts it: what is left is its zero.',
        decibans: WEIGHTS.allCounted,
        group: 'other-cause',
        spans: [],
      });
    const drift = driftBy(count, 'offset');
    if (drift && drift.explains > 0.3 && size >= LEAST) {
      const days = drift.intervals.reduce((sum, one) => sum + (one.to - one.from) / (24 * HOUR), 0);
      const daily = drift.intervals.reduce((sum, one) => sum + one.parts.offset, 0) / days;
      evidence.push({
        text: `That makes the reading ${points(daily)} ${over(daily)} each day, day and night alike.`,
        decibans: shrunk(weightOf(WEIGHTS.drift, Math.abs(daily)), drift.intervals.length),
        group: 'drift',
        spans: drift.spans,
      });
    }
    return evidence;
  },
  remedy: () => ({
    text: 'Isolate the battery from everything and read the current: where it is not nothing, set the monitor’s zero anew; where it is, look for a small load between battery and sensor (an alarm, a display, a heater) and move it to the other side.',
    caution: null,
  }),
  missing: missingMonitor,
};

/** Without a full charge to count from: a balance that no battery of this size can have. */
function impossible({ through, logged }: Counting, bank: KnownBank): Evidence | null {
  const missing = through.out - through.in;
  // A lead battery that is kept full turns into gas what goes in.
  if (missing < 0 && isLead(bank.chemistry)) return null;
  const decibans = weightOf(WEIGHTS.balance, Math.abs(missing) / bank.capacityAh);
  if (decibans === 0) return null;
  return {
    text: `By the monitor ${ampHours(through.in)} went into a battery of ${ampHours(bank.capacityAh)} and ${ampHours(through.out)} came out: ${amps(Math.abs(missing) / through.hours)} too much ${missing > 0 ? 'out' : 'in'}, hour after hour.`,
    decibans,
    group: 'ledger',
    spans: [logged],
  };
}
