/** The section on charging of a diagnosis: charges, setpoints, figures of every source, days, balance. */

import type { DayBalance } from '../causes/cause';
import type { Balance } from '../charge/balance';
import type { Setpoint } from '../charge/setpoint';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import { isoSpan, isoTime } from '../quantity/span';
import { compensationOf, expectedVolts, isLead } from '../system/chemistry';
import type { Diagnosis, DiagnosisCharge, DiagnosisStage, SourceFigures } from './result';

/** Temperatures that must lie so far apart, °C, before a compensation is told. */
const LEAST_SPREAD = 3;

interface Seen {
  charging: readonly SourceCharging[];
  days: readonly DayBalance[];
  balance: Balance | null;
}

export function chargingOut({
  charging,
  days,
  balance,
}: Seen): Pick<Diagnosis, 'charges' | 'setpoints' | 'charging'> {
  const charges = charging.flatMap((one) => one.charges).sort((a, b) => a.from - b.from || a.to - b.to);
  const lastFull = charges.reduce((last, one) => (one.full ? Math.max(last, one.to) : last), -Infinity);
  return {
    charges: charges.map(chargeOut),
    setpoints: charging.map(({ source, setpoints, bank }) => ({
      source: source?.id ?? null,
      absorptionV: rounded(setpoints.absorption?.volts, 2),
      floatV: rounded(setpoints.float?.volts, 2),
      compensationMvPerCellPerC:
        setpoints.celsius && setpoints.celsius.max - setpoints.celsius.min >= LEAST_SPREAD
          ? rounded((1000 * setpoints.voltsPerC) / bank.cellsInSeries, 1)
          : null,
    })),
    charging: {
      lastFull: Number.isFinite(lastFull) ? isoTime(lastFull) : null,
      sources: charging.map(sourceOut),
      days: days.map(({ date, ampHoursIn, ampHoursOut, hours, reached }) => ({
        date,
        ampHoursIn: rounded(ampHoursIn, 1),
        ampHoursOut: rounded(ampHoursOut, 1),
        hours: rounded(hours, 1) ?? 0,
        reached,
      })),
      balance: balance && balanceOut(balance),
    },
  };
}

function sourceOut(one: SourceCharging): SourceFigures {
  const { source, bank, setpoints, path, slope, limits, missing } = one;
  const profile = source?.profile ?? {};
  const plateau = (
    stage: 'absorption' | 'float' | 'equalise',
    found: Setpoint | null,
    configured: number | undefined,
    asks: { min: number; max: number } | null,
  ) =>
    found
      ? [
          {
            stage,
            volts: to(found.volts, 2),
            at25: setpoints.celsius !== null || !isLead(bank.chemistry),
            band: to(found.width, 2),
            hours: to(found.hours, 1),
            days: found.days,
            called: found.called,
            configured: configured ?? null,
            asks: asks && { min: to(asks.min, 2), max: to(asks.max, 2) },
          },
        ]
      : [];
  return {
    source: source?.id ?? null,
    plateaus: [
      ...plateau(
        'equalise',
        setpoints.equalise,
        profile.equalise?.volts,
        bank.equalise ? { min: bank.equalise.volts, max: bank.equalise.volts } : null,
      ),
      ...plateau(
        'absorption',
        setpoints.absorption,
        profile.absorptionV,
        expectedVolts(bank, 'absorption', 25),
      ),
      ...plateau('float', setpoints.float, profile.floatV, expectedVolts(bank, 'float', 25)),
    ],
    compensation:
      slope && slope.to - slope.from >= LEAST_SPREAD
        ? {
            found: to(slope.mvPerCell, 1),
            band: to(slope.error, 1),
            fromC: to(slope.from, 0),
            toC: to(slope.to, 0),
            configured: profile.compensationMvPerCellPerC ?? null,
            asks: compensationOf(bank),
          }
        : null,
    path: path && {
      milliohms: to(1000 * path.ohms, 1),
      band: to(1000 * path.error, 1),
      offsetVolts: to(path.offsetVolts, 2),
      amps: to(path.amps, 1),
      lostVolts: to(path.lostVolts, 2),
      lostWatts: to(path.lostWatts, 0),
    },
    saysOtherwise: one.saysOtherwise && {
      ...one.saysOtherwise,
      hours: to(one.saysOtherwise.hours, 1),
      ofHours: to(one.saysOtherwise.ofHours, 1),
    },
    // Seen through the battery's current, its own is not known.
    limits: one.knowsOwnAmps ? limits.map((limit) => to(limit.amps, 1)) : [],
    ratedA: one.knowsOwnAmps ? (source?.ratedA ?? null) : null,
    missing: missing && {
      charges: missing.charges,
      minutes: to(missing.minutes, 0),
      minutesBand: { min: to(missing.minutesBand.min, 0), max: to(missing.minutesBand.max, 0) },
      ampHours: to(missing.ampHours, 1),
      ampHoursBand: { min: to(missing.ampHoursBand.min, 1), max: to(missing.ampHoursBand.max, 1) },
    },
  };
}

function balanceOut(one: Balance): NonNullable<Diagnosis['charging']['balance']> {
  const [from, until] = isoSpan(one);
  return {
    from,
    to: until,
    between: one.between,
    ampHoursIn: to(one.ampHoursIn, 1),
    ampHoursOut: to(one.ampHoursOut, 1),
    startPercent: rounded(one.startPercent, 0),
    endPercent: rounded(one.endPercent, 0),
    returned: rounded(one.returned, 2),
    returnedBand: rounded(one.returnedBand, 2),
    needs: one.needs,
  };
}

function chargeOut(charge: Charge): DiagnosisCharge {
  return {
    from: isoTime(charge.from),
    to: isoTime(charge.to),
    source: charge.source,
    stages: charge.stages.map(stageOut),
    ampHours: rounded(charge.ampHours, 1),
    full: charge.full,
  };
}

function stageOut(stage: Stage): DiagnosisStage {
  return {
    stage: stage.stage,
    from: isoTime(stage.from),
    to: isoTime(stage.to),
    volts: rounded(stage.volts, 3),
    endAmps: rounded(stage.endAmps, 2),
    ampHours: rounded(stage.ampHours, 2),
    endedBy: stage.endedBy,
    heldMinutes: rounded(stage.heldMs / 60_000, 1) ?? 0,
    dips: stage.dips,
    celsius: rounded(stage.celsius, 1),
  };
}

/** Without a negative zero, which no file should carry. */
const to = (value: number, digits: number): number => Number(value.toFixed(digits)) + 0;

/** Rounded for output; NaN and undefined become null, because JSON has neither. */
const rounded = (value: number | undefined, digits: number): number | null =>
  value === undefined || !Number.isFinite(value) ? null : to(value, digits);
