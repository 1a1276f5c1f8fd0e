/** What the walk along the wiring found: one small rule for each finding. */

import { amps, volts } from '../../../quantity/text';
import { halvesMayDiffer } from '../../chemistry';
import type { Note, Rule } from '../rule';
import type { Subject } from '../subject';

/** Power lost in a joint from which on it is a hazard, W (common practice, no source). */
const HOT_JOINT_WATTS = 10;

export const batteryPost: Rule = {
  code: 'battery-post',
  says: 'anything else on the battery posts',
  on: 'bank',
  review: (s) =>
    (s.job?.walk?.others ?? []).map(({ what, amps: current }): Note => ({
      weight: 'fault',
      text: `On the battery post: ${what}${current === undefined ? '' : `, carrying ${amps(Math.abs(current))}`}.`,
      why: 'Exactly one conductor may run from the battery negative, to the battery side of the shunt: whatever else is there is never counted, and may not be fused.',
      fix: 'Trace it, fuse it, and move it to the other side of the shunt.',
      hazard: 'uncounted-conductor-on-battery-post',
    })),
};

export const sensorDirection: Rule = {
  code: 'sensor-direction',
  says: 'the sign of the current while a charger runs',
  on: 'monitor',
  review: (s) =>
    s.job?.walk?.chargingReads === 'negative'
      ? {
          weight: 'fault',
          text: 'While a charger runs the monitor shows a negative current.',
          why: 'Charge is counted as discharge: the reading goes down when it should go up.',
          fix:
            s.system.monitor?.method === 'hall'
              ? 'Turn the clip-on sensor round: its arrow follows the charging current.'
              : 'Change the two sides of the shunt.',
        }
      : null,
};

export const senseLead: Rule = {
  code: 'sense-lead',
  says: 'where the voltage-sense lead goes',
  on: 'monitor',
  review(s) {
    const goes = s.job?.walk?.senseLead;
    if (goes === 'fuse-box')
      return {
        weight: 'fault',
        text: 'The voltage-sense lead is fed from a fuse box that can be switched off.',
        why: 'With the switch the monitor loses its supply and its count; and it sees the drop of all loads on that box.',
        fix: 'Take it straight to the battery positive, through its own fuse.',
      };
    return goes === 'elsewhere'
      ? {
          weight: 'caution',
          text: 'The voltage-sense lead does not go straight to the battery positive.',
          why: 'The monitor sees the drop of cables and joints as a change of the battery.',
          fix: 'Take it straight to the battery positive, through its own fuse.',
        }
      : null;
  },
};

export const hotJoint: Rule = {
  code: 'hot-joint',
  says: 'power lost in a joint',
  on: 'bank',
  review: (s) =>
    (s.job?.walk?.joints ?? []).flatMap(({ what, millivolts, amps: current }): Note[] => {
      const watts = (millivolts / 1000) * current;
      const milliohms = millivolts / current;
      if (watts <= HOT_JOINT_WATTS && milliohms <= 1) return [];
      const hot = watts > HOT_JOINT_WATTS;
      return [
        {
          weight: hot ? 'fault' : 'caution',
          text: `${what}: ${millivolts} mV at ${amps(current)} is ${milliohms.toFixed(2)} mΩ, ${watts.toFixed(1)} W.`,
          why: hot
            ? 'A joint that loses more than 10 W gets hot and grows worse by itself.'
            : 'A good joint is well under 1 mΩ.',
          fix: 'Isolate, clean, tighten to the maker’s torque, measure again.',
          ...(hot ? { hazard: 'hot-joint' as const } : {}),
        },
      ];
    }),
};

/** Hours after which the halves of a bank say something of their charge. */
const RESTED = 2;
/** % of charge that 0.1 V stands for at rest on a 12 V lead block, between half and full (Battery Council International, from memory). */
const PERCENT_PER_TENTH = 12;

/** Whether a difference between the halves matters at this load and in this state. */
function matters(s: Subject, apart: number, hours: number | undefined): string {
  const agree = 'Halves that agree lie within about 0.1 V: a reading of one stands for both only then.';
  if (hours === undefined) return agree;
  if (hours < RESTED)
    return `${agree} They were measured ${hours === 0 ? 'while current flowed' : 'before they had rested'}: a warmer or newer half sags less, and near the end of a charge one may be ahead for an hour.`;
  if (!s.lead())
    return `${agree} At rest in the flat part of lithium so much is a great part of its charge; near full or empty it is little.`;
  const behind = Math.round(((apart / Math.max(1, s.blocks() / 2)) * 10 * PERCENT_PER_TENTH) / 5) * 5;
  return `${agree} At rest so much stands for about ${behind} % of charge.`;
}

export const halvesApart: Rule = {
  code: 'halves-apart',
  says: 'the voltages of the two halves',
  on: 'bank',
  review(s) {
    const { lowerV, upperV } = s.job?.walk?.halves ?? {};
    if (lowerV === undefined || upperV === undefined) return null;
    const apart = Math.abs(upperV - lowerV);
    const hours = s.job?.reading?.hoursAtRest;
    const rested = hours === undefined || hours >= RESTED;
    // Per pair of 12 V blocks; half a bank of more blocks may differ by as much more.
    if (apart <= halvesMayDiffer(s.blocks())) return null;
    return {
      weight: apart > 0.3 ? 'fault' : 'caution',
      text: `The halves stand at ${volts(lowerV)} and ${volts(upperV)}, ${volts(apart)} apart.`,
      why: matters(s, apart, hours),
      fix: rested
        ? 'Charge each half fully by itself, rest, and measure again.'
        : 'Measure again after two hours with everything off: only then does it say which half is behind.',
    };
  },
};
