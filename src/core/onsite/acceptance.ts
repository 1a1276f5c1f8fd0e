/** Acceptance of a change: what has to be seen before the sheet is signed. Tolerances are common practice, no source. */

import { amps, percent } from '../quantity/text';
import { checkRest } from '../system/restCheck';
import type { System } from '../system/schema';
import type { Said } from './said';
import type { Acceptance, Visit } from './visit';

/** Into or out of the battery on float, parts of the capacity in A. */
const NEAR_ZERO = 0.01;
/** Charge current against what is set. */
const CHARGES = 0.15;
/** Percentages may stand so far apart. */
const AGREE = 5;

export function judgeAcceptance(system: System, seen: Acceptance | undefined, setA?: Visit['setA']): Said[] {
  if (!seen) return [];
  const { floatBatteryA, floatLoadsA, chargeA, monitorPercent, bmsPercent, restV, restHours } = seen;
  const said: Said[] = [];
  const capacity = system.bank.capacityAh;
  if (floatBatteryA !== undefined && capacity) {
    const limit = Math.max(0.5, NEAR_ZERO * capacity);
    const loads = floatLoadsA === undefined ? '' : `, while the loads draw ${amps(floatLoadsA)}`;
    said.push(
      Math.abs(floatBatteryA) <= limit
        ? {
            weight: floatLoadsA ? 'fine' : 'open',
            text: `On float ${amps(floatBatteryA)} go through the battery${loads}.`,
            ...(floatLoadsA ? {} : { follows: 'Switch the loads on: the source has to carry them.' }),
          }
        : {
            weight: 'fault',
            text: `On float ${amps(Math.abs(floatBatteryA))} go ${floatBatteryA > 0 ? 'into' : 'out of'} the battery${loads}.`,
            follows:
              floatBatteryA > 0
                ? 'It is not full yet: float came too early. Charge on.'
                : 'The source does not carry the loads: too weak, or its float lies under the battery’s voltage.',
          },
    );
  }
  if (chargeA !== undefined) {
    const intended = system.sources.reduce(
      (sum, one) => sum + (setA?.[one.id] ?? one.setA ?? one.ratedA ?? NaN),
      0,
    );
    if (intended === intended && intended > 0)
      said.push(
        Math.abs(chargeA / intended - 1) <= CHARGES
          ? { weight: 'fine', text: `The chargers give ${amps(chargeA)}, as intended.` }
          : {
              weight: 'caution',
              text: `The chargers give ${amps(chargeA)}; ${amps(intended)} are set.`,
              follows:
                chargeA < intended
                  ? 'Warm, weak sun, near full already, or loads take the rest. Look again in bulk.'
                  : 'More than is set: read the settings again.',
            },
      );
  }
  if (monitorPercent !== undefined && bmsPercent !== undefined)
    said.push(
      Math.abs(monitorPercent - bmsPercent) <= AGREE
        ? {
            weight: 'fine',
            text: `Monitor and BMS agree: ${percent(monitorPercent)} and ${percent(bmsPercent)}.`,
          }
        : {
            weight: 'fault',
            text: `The monitor shows ${percent(monitorPercent)}, the BMS ${percent(bmsPercent)}.`,
            follows: 'Set the reading right before the sheet is signed.',
          },
    );
  if (monitorPercent !== undefined && restV !== undefined && restHours !== undefined) {
    const check = checkRest(system.bank, {
      displayedPercent: monitorPercent,
      volts: restV,
      hoursAtRest: restHours,
    });
    if (check.verdict !== 'cannot-tell')
      said.push({
        weight: check.verdict === 'in-step' ? 'fine' : 'fault',
        text: check.sentence,
        ...(check.verdict === 'in-step'
          ? {}
          : { follows: 'Set the reading right before the sheet is signed.' }),
      });
  }
  return said;
}

/** What has to be seen and is not yet; empty when the sheet can be signed without reserve. */
export function stillToSee(seen: Acceptance | undefined, system: System): string[] {
  return [
    ...(seen?.floatBatteryA === undefined || seen.floatLoadsA === undefined
      ? ['the source carrying the loads on float, with the battery near zero']
      : []),
    ...(seen?.chargeA === undefined && system.sources.length > 0 ? ['the charging current'] : []),
    ...(seen?.monitorPercent === undefined && system.monitor ? ['the reading'] : []),
    ...(seen?.bmsPercent === undefined && system.bms ? ['the percentage of the BMS'] : []),
    ...(seen?.restV === undefined ? ['the rest voltage'] : []),
  ];
}
