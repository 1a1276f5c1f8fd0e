/** The section on charging of a diagnosis: charges, setpoints, figures of every source, days, balance. */

import type { DayBalance } from '../causes/cause';
import type { Balance } from '../charge/balance';
import type { Setpoint } from '../charge/setpoint';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import { isoSpan, isoTime } from '../quantity/span';
import { compensationOf, expectedVolts, isLead } from '../system/chemistry';
import { rounded, roundedOrNull } from './rounded';
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
      absorptionV: roundedOrNull(setpoints.absorption?.volts, 2),
      floatV: roundedOrNull(setpoints.float?.volts, 2),
      compensationMvPerCellPerC:
        setpoints.celsius && setpoints.celsius.max - setpoints.celsius.min >= LEAST_SPREAD
          ? roundedOrNull((1000 * setpoints.voltsPerC) / bank.cellsInSeries, 1)
          : null,
    })),
    charging: {
      lastFull: Number.isFinite(lastFull) ? isoTime(lastFull) : null,
      sources: charging.map(sourceOut),
      days: days.map(({ date, ampHoursIn, ampHoursOut, hours, reached }) => ({
        date,
        ampHoursIn: roundedOrNull(ampHoursIn, 1),
        ampHoursOut: roundedOrNull(ampHoursOut, 1),
        hours: roundedOrNull(hours, 1) ?? 0,
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
            volts: rounded(found.volts, 2),
            at25: setpoints.celsius !== null || !isLead(bank.chemistry),
            band: rounded(found.width, 2),
            hours: rounded(found.hours, 1),
            days: found.days,
            called: found.called,
            configured: configured ?? null,
            asks: asks && { min: rounded(asks.min, 2), max: rounded(asks.max, 2) },
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
            found: rounded(slope.mvPerCell, 1),
            band: rounded(slope.error, 1),
            fromC: rounded(slope.from, 0),
            toC: rounded(slope.to, 0),
            configured: profile.compensationMvPerCellPerC ?? null,
            asks: compensationOf(bank),
          }
        : null,
    path: path && {
      milliohms: rounded(1000 * path.ohms, 1),
      band: rounded(1000 * path.error, 1),
      offsetVolts: rounded(path.offsetVolts, 2),
      amps: rounded(path.amps, 1),
      lostVolts: rounded(path.lostVolts, 2),
      lostWatts: rounded(path.lostWatts, 0),
    },
    saysOtherwise: one.saysOtherwise && {
      ...one.saysOtherwise,
      hours: rounded(one.saysOtherwise.hours, 1),
      ofHours: rounded(one.saysOtherwise.ofHours, 1),
    },
    // Seen through the battery's current, its own is not known.
    limits: one.knowsOwnAmps ? limits.map((limit) => rounded(limit.amps, 1)) : [],
    ratedA: one.knowsOwnAmps ? (source?.ratedA ?? null) : null,
    missing: missing && {
      charges: missing.charges,
      minutes: rounded(missing.minutes, 0),
      minutesBand: { min: rounded(missing.minutesBand.min, 0), max: rounded(missing.minutesBand.max, 0) },
      ampHours: rounded(missing.ampHours, 1),
      ampHoursBand: { min: rounded(missing.ampHoursBand.min, 1), max: rounded(missing.ampHoursBand.max, 1) },
    },
  };
}

function balanceOut(one: Balance): NonNullable<Diagnosis['charging']['balance']> {
  const [from, until] = isoSpan(one);
  return {
    from,
    to: until,
    between: one.between,
    ampHoursIn: rounded(one.ampHoursIn, 1),
    ampHoursOut: rounded(one.ampHoursOut, 1),
    startPercent: roundedOrNull(one.startPercent, 0),
    endPercent: roundedOrNull(one.endPercent, 0),
    returned: roundedOrNull(one.returned, 2),
    returnedBand: roundedOrNull(one.returnedBand, 2),
    needs: one.needs,
  };
}

function chargeOut(charge: Charge): DiagnosisCharge {
  return {
    from: isoTime(charge.from),
    to: isoTime(charge.to),
    source: charge.source,
    stages: charge.stages.map(stageOut),
    ampHours: roundedOrNull(charge.ampHours, 1),
    full: charge.full,
  };
}

function stageOut(stage: Stage): DiagnosisStage {
  return {
    stage: stage.stage,
    from: isoTime(stage.from),
    to: isoTime(stage.to),
    volts: roundedOrNull(stage.volts, 3),
    endAmps: roundedOrNull(stage.endAmps, 2),
    ampHours: roundedOrNull(stage.ampHours, 2),
    endedBy: stage.endedBy,
    heldMinutes: roundedOrNull(stage.heldMs / 60_000, 1) ?? 0,
    dips: stage.dips,
    celsius: roundedOrNull(stage.celsius, 1),
  };
}
