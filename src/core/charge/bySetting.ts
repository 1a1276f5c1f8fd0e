/** The temperature that a charger goes by, told by what it is set to at 25 °C and what it holds. */

import { median } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import { isLead, type Range } from '../system/chemistry';
import { celsiusAt } from '../system/climate';
import type { System } from '../system/schema';
import { settingsOf } from './setAlike';
import type { SourceCharging, Stage } from './types';

/** A shorter plateau may be the top of a climb. */
export const LEAST_HELD = 10 * MINUTE;
/** A slope under this, mV per °C and cell, tells no temperature. */
export const LEAST_SLOPE = -2;

type Held = Pick<SourceCharging, 'source' | 'charges' | 'bank'> & Partial<Pick<SourceCharging, 'setAlike'>>;

/** Temperature by which a charger goes that is set to a voltage and holds another. @param slope mV per °C and cell */
export const celsiusAtVolts = (held: number, told: number, slope: number, cells: number): number =>
  25 + (1000 * (held - told)) / (slope * cells);

/** Temperatures of batteries that can be, °C. */
const POSSIBLE = { min: -10, max: 45 };

/**
 * The temperature that a charger goes by, from what it is set to at 25 °C and what it held over three plateaus or more. Null where the
 * setting or its slope is not known, or where no battery can be so cold or warm.
 * @returns °C
 */
export function celsiusBySetting(one: Held, name: 'absorption' | 'float'): number | null {
  const { charges, bank } = one;
  const { absorptionV, floatV, compensationMvPerCellPerC: slope } = settingsOf(one);
  const told = name === 'float' ? floatV : absorptionV;
  if (told === undefined || slope === undefined || slope > LEAST_SLOPE) return null;
  const held = charges
    .flatMap((one) => one.stages)
    .filter((one) => one.stage === name && one.heldMs >= LEAST_HELD && one.volts === one.volts);
  if (held.length < 3) return null;
  const by = celsiusAtVolts(median(held.map((one) => one.volts)), told, slope, bank.cellsInSeries);
  return by > POSSIBLE.min && by < POSSIBLE.max ? by : null;
}

/** A setting this far under the range is below it, mV per cell. */
const BELOW_MV = 10;
/** °C that a battery has where neither its temperature nor the place's is known (common practice, no source). */
const USUAL_C: Range = { min: 0, max: 35 };

/**
 * A charge voltage that is set below the battery's range, with a compensation, and is held as it is set at a temperature that the season
 * can have: with no temperature logged, that is the battery's. It would take a warm battery and another setting to excuse it. Null
 * otherwise. @returns °C
 */
export function celsiusOfLowSetting(one: Held, place: Pick<System, 'site' | 'timeZone'>): number | null {
  const { charges, bank } = one;
  const setV = settingsOf(one).absorptionV;
  const stages = charges.flatMap((charge) => charge.stages);
  if (!isLead(bank.chemistry) || stages.length === 0 || stages.some(({ celsius }) => celsius === celsius))
    return null;
  if (setV === undefined || !(setV < bank.chargeVolts.min - (BELOW_MV * bank.cellsInSeries) / 1000))
    return null;
  const by = celsiusBySetting(one, 'absorption');
  const { min, max } = { ...USUAL_C, ...celsiusAt(place, stages[0]!.from) };
  return by !== null && by >= min && by <= max ? by : null;
}

/** What a stage was at, °C: as logged, else as the setting of its charger tells; NaN where neither does. */
export const heatOf = ({ celsius, impliedC }: Pick<Stage, 'celsius' | 'impliedC'>): number =>
  celsius === celsius ? celsius : (impliedC ?? NaN);
