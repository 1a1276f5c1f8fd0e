/**
 * A monitor's reading checked against a rested battery: rest voltage → percentage with its band → in step, out of step, or cannot tell.
 * The band is widened for the meter, the temperature, what charge or discharge has left on the plates, and the kind of battery. The
 * tables' sources stand in `restVoltage.ts`; the widths are common practice with no source.
 */

import { clamp } from '../quantity/numbers';
import { celsius as asCelsius, percent as asPercent, volts as asVolts } from '../quantity/text';
import { blocksInSeries, isLead } from './chemistry';
import { restPercent } from './restVoltage';
import type { Chemistry, Reading } from './schema';

export type RestVerdict = 'in-step' | 'out-of-step' | 'cannot-tell';

export interface RestCheck {
  verdict: RestVerdict;
  /** State of charge that the voltage stands for, and its band, %; null when the voltage is none of a rested battery, or not known. */
  percent: number | null;
  low: number | null;
  high: number | null;
  /** What widens the band, or keeps it from saying anything. */
  reasons: string[];
  /** What to tell the owner. */
  sentence: string;
}

/** V per 12 V block that an ordinary meter may be off. */
const METER = 0.02;
/** Of the open-circuit voltage, V per °C per 12 V block, lead-acid. */
const LEAD_PER_C = 0.0012;
/** A band wider than this says nothing about a reading inside it, %. */
const TOO_WIDE = 45;
/** V per 12 V lithium block between a rest after charge and one after discharge, and between makers. */
const HYSTERESIS = 0.05;
/** The tables are no better than this, %. */
const TABLE = { lead: 5, lithium: 8 };
/** A reading this far outside the band is out of step, %. */
const MARGIN = 3;

/** V per 12 V block that charging has left on top after some hours, and that discharging still holds down. */
function leftOver(lead: boolean, hours: number, after: Reading['after']): { above: number; below: number } {
  const above = (lead ? 0.35 : 0.15) * Math.exp(-hours / (lead ? 3 : 1)) + (lead ? 0 : HYSTERESIS);
  const below = (lead ? 0.15 : 0.08) * Math.exp(-hours / 1.5) + (lead ? 0 : HYSTERESIS);
  return {
    above: after === 'discharge' ? (lead ? 0 : HYSTERESIS) : above,
    below: after === 'charge' ? (lead ? 0 : HYSTERESIS) : below,
  };
}

/** @param bank chemistry and cells as far as they are known @param reading what was read; holes are allowed */
export function checkRest(
  bank: { chemistry?: Chemistry | undefined; cellsInSeries?: number | undefined },
  reading: Reading,
): RestCheck {
  const nothing = (reason: string): RestCheck => ({
    verdict: 'cannot-tell',
    percent: null,
    low: null,
    high: null,
    reasons: [reason],
    sentence: `Not enough to tell: ${reason}`,
  });
  const { chemistry, cellsInSeries } = bank;
  if (!chemistry) return nothing('the chemistry of the battery is not known.');
  if (!cellsInSeries) return nothing('the number of cells in series is not known.');
  if (reading.volts === undefined) return nothing('the rest voltage was not measured.');

  const lead = isLead(chemistry);
  const perBlock = reading.volts / blocksInSeries({ chemistry, cellsInSeries });
  const hours = reading.hoursAtRest;
  if (perBlock > (lead ? 13.4 : 13.9))
    return nothing(`${asVolts(reading.volts)} is a charging voltage: switch every source off and wait.`);
  if (perBlock < (lead ? 9 : 8))
    return nothing(
      `${asVolts(reading.volts)} is too low for ${cellsInSeries} cells: a cell may have failed, or the count of cells is wrong.`,
    );

  const reasons: string[] = [];
  const left = leftOver(lead, hours ?? 0, reading.after);
  if (hours === undefined) reasons.push('How long the battery has rested is not known.');
  else if (hours < (lead ? 4 : 1))
    reasons.push(
      `After ${hours} h of rest ${reading.after === 'discharge' ? 'it still recovers' : 'surface charge may still lift the voltage'}: ${lead ? 'wait four hours or more, better a night' : 'wait an hour or more'}.`,
    );
  let up = METER + left.below;
  let down = METER + left.above;
  if (lead) {
    const away = reading.celsius === undefined ? 10 : Math.abs(reading.celsius - 25);
    up += LEAD_PER_C * away;
    down += LEAD_PER_C * away;
    if (reading.celsius !== undefined && away > 15)
      reasons.push(`At ${asCelsius(reading.celsius)} the table for 25 °C is a little off.`);
    if (chemistry !== 'flooded') {
      // Sealed batteries rest 0.1 V and more above flooded ones at the same charge.
      down += 0.12;
      reasons.push('Gel and AGM batteries rest a little higher than the table, by maker.');
    }
  }
  const table = lead ? TABLE.lead : TABLE.lithium;
  const percent = restPercent(chemistry, perBlock);
  const low = clamp(restPercent(chemistry, perBlock - down) - table, 0, 100);
  const high = clamp(restPercent(chemistry, perBlock + up) + table, 0, 100);
  if (!lead && high - low > 30)
    reasons.push('The curve of lithium is flat here: voltage decides only near full and near empty.');

  const band = `${asPercent(low)} to ${asPercent(high)}`;
  const rest = `${asVolts(reading.volts)} at rest stands for about ${asPercent(percent)} (${band})`;
  const shown = reading.displayedPercent;
  const tell = (verdict: RestVerdict, sentence: string): RestCheck => ({
    verdict,
    percent,
    low,
    high,
    reasons,
    sentence,
  });
  if (shown === undefined) return tell('cannot-tell', `${rest}; the monitor’s reading was not noted.`);
  if (shown > high + MARGIN || shown < low - MARGIN)
    return tell(
      'out-of-step',
      shown > high
        ? `The monitor shows ${asPercent(shown)}, but ${rest}. The reading is too high: do not rely on it until the battery has been fully charged and the monitor has set itself right.`
        : `The monitor shows ${asPercent(shown)}, but ${rest}. The battery is better than the reading: it has lost its count, and nothing needs to be switched off because of it.`,
    );
  if (high - low > TOO_WIDE)
    return tell(
      'cannot-tell',
      `The monitor shows ${asPercent(shown)}; ${rest}. The voltage neither confirms nor denies it: a full charge will.`,
    );
  return tell('in-step', `The monitor shows ${asPercent(shown)}, and ${rest}: the two agree.`);
}
