/** The charger ends absorption on the clock while the battery still takes current. */

import { HOUR, MINUTE } from '../quantity/span';
import { median } from '../quantity/numbers';
import { amps, duration, percent, share, volts } from '../quantity/text';
import { CHEMISTRY } from '../system/chemistry';
import type { Charge, SourceCharging, Stage } from '../charge/charges';
import { forecastTail } from '../charge/tail';
import { missingBasics } from '../system/known';
import { type Cause, type Evidence, type Observations, shrunk } from './cause';
import { WEIGHTS, weightOf } from './weights';

export const absorptionTooShort: Cause = {
  code: 'absorption-too-short',
  title: 'Absorption ends too early, on the clock',
  complaint: 'undercharging',
  chemistries: ['flooded', 'agm', 'gel'],
  needs: 'voltage and current of the charger or the battery over a few charges that reach absorption',
  signature: 'the plateau ends after the same time again and again, with the current well above the tail',
  prior: { complained: -5, otherwise: -10 },
  caps: { clock: 10 },
  tests: {
    'lengthen-absorption': [
      { name: 'the current goes on falling to the tail', ifHolds: 0.88, ifNot: 0.08 },
      { name: 'it ends as before', ifHolds: 0.12, ifNot: 0.92 },
    ],
    'read-charger-settings': [
      { name: 'the time set is the one seen', ifHolds: 0.85, ifNot: 0.15 },
      { name: 'another time is set', ifHolds: 0.15, ifNot: 0.85 },
    ],
  },
  weigh(seen) {
    const evidence = seen.charging.flatMap((charging) => weighSource(charging, seen));
    return {
      evidence,
      missing: !seen.bank
        ? missingBasics(seen.system)
        : seen.charging.length === 0
          ? ['voltage and current of the charger or the battery']
          : evidence.length === 0
            ? ['a charge that reaches absorption']
            : [],
    };
  },
};

interface Ended {
  charge: Charge;
  stage: Stage;
  /** Absorption held in this charge, ms, clouds left out. */
  heldMs: number;
  /** Current at the end that went into the battery, A. */
  endAmps: number;
}

function weighSource({ source, charges }: SourceCharging, { bank }: Observations): Evidence[] {
  if (!bank) return [];
  const { fullTailPercent } = CHEMISTRY[bank.chemistry];
  const absorbing = charges.filter((charge) => charge.stages.some((stage) => stage.stage === 'absorption'));
  const ended = absorbing.flatMap(endedByCharger);
  const name = source?.name ?? 'The charger';
  const evidence: Evidence[] = [];

  const lost = absorbing.filter(brokeOff);
  if (absorbing.length >= 3 && lost.length > 0) {
    const decibans = weightOf(WEIGHTS.lostBeforeEnd, lost.length / absorbing.length);
    if (decibans !== 0)
      evidence.push({
        text: `${name}: charging broke off at the absorption voltage, with no float after it, in ${share(lost.length, absorbing.length, 'charge')}: no clock is seen to end it there.`,
        decibans: shrunk(decibans, lost.length),
        group: 'end',
        spans: lost,
      });
  }
  if (ended.length === 0) return evidence;

  const endPercent = (100 * median(ended.map((one) => one.endAmps))) / bank.capacityAh;
  const tails = endPercent / fullTailPercent;
  const above = ended.filter((one) => (100 * one.endAmps) / bank.capacityAh > 1.5 * fullTailPercent);
  const spans = ended.map((one) => one.stage);
  const held = median(ended.map((one) => one.heldMs));
  const known = ended.filter((one) => one.stage.endAmpsAreBattery).length >= ended.length / 2;
  evidence.push({
    text: `Absorption held ${volts(median(spans.map((one) => one.volts)))} for ${duration(held)} and ended at ${percent(endPercent)} of capacity (${amps((endPercent * bank.capacityAh) / 100)})${known ? '' : ', loads taken off as they show on float'}; it was above ${percent(1.5 * fullTailPercent)} in ${share(above.length, ended.length, 'charge')}. A full battery takes ${percent(fullTailPercent)} or less.`,
    decibans: shrunk(weightOf(WEIGHTS.endCurrentInTails, tails) * (known ? 1 : 0.7), ended.length),
    group: 'current',
    spans,
  });

  const early = tails > 1.5;
  const by = (what: 'timer' | 'tail') => ended.filter((one) => one.stage.endedBy === what);
  if (early && by('timer').length >= 0.6 * ended.length && ended.length >= 3) {
    evidence.push({
      text: `It lasted ${duration(held)} again and again (${share(by('timer').length, ended.length, 'charge')}), whatever the battery still took: a clock ended it.`,
      decibans: shrunk(WEIGHTS.timerRepeats, ended.length),
      group: 'clock',
      spans: by('timer').map((one) => one.stage),
    });
  }
  if (by('tail').length >= 0.6 * ended.length)
    evidence.push({
      text: `It ended at about the same current of the charger, ${amps(median(by('tail').map((one) => one.stage.endSourceAmps)))}, in ${share(by('tail').length, ended.length, 'charge')} and after differing times: the current ended it, not a clock.`,
      decibans: shrunk(WEIGHTS.tailRepeats, by('tail').length),
      group: 'clock',
      spans: by('tail').map((one) => one.stage),
    });
  const told = source?.profile.absorptionMinutes;
  if (early && told !== undefined && Math.abs(held / MINUTE - told) < 0.05 * told + 2)
    evidence.push({
      text: `${name} is set to ${told} min of absorption, which is what the log shows.`,
      decibans: WEIGHTS.timerAsTold,
      group: 'clock',
      spans: [],
    });

  const tailAmps = (fullTailPercent / 100) * bank.capacityAh;
  const forecasts = ended.flatMap((one) =>
    one.stage.tail && one.stage.endAmpsAreBattery
      ? [forecastTail(one.stage.tail, one.endAmps, tailAmps)]
      : [],
  );
  const minutes = median(forecasts.map((one) => one.minutes ?? NaN));
  if (early && minutes === minutes) {
    const decibans = weightOf(WEIGHTS.minutesMissing, minutes);
    if (decibans > 0)
      evidence.push({
        text: `Going by how the current fell, it would have needed at least ${duration(minutes * MINUTE)} more to come down to ${amps(tailAmps)}.`,
        decibans: shrunk(decibans, forecasts.length),
        group: 'current',
        spans: [],
      });
  }
  const full = charges.filter((charge) => charge.full);
  if (absorbing.length >= 3)
    evidence.push({
      text: `The battery got truly full in ${share(full.length, absorbing.length, 'charge')} that reached absorption.`,
      decibans:
        early || full.length > 0
          ? shrunk(weightOf(WEIGHTS.fullAnyway, full.length / absorbing.length), absorbing.length)
          : 0,
      group: 'full',
      spans: full,
    });
  return evidence;
}

/** The source went, or a load took all that it has, during absorption; neither the edge of the log nor a BMS cut it off. */
function brokeOff({ stages }: Charge): boolean {
  const absorbed = stages.filter((one) => one.stage === 'absorption');
  const last = absorbed.at(-1);
  return (
    (last?.endedBy === 'source-lost' || last?.endedBy === 'load') &&
    !stages.slice(stages.indexOf(last)).some((one) => one.stage === 'float') &&
    !absorbed.some((one) => one.cutOff || one.blocked)
  );
}

/** The absorption of a charge that the charger itself ended by going to float; none when charging broke off first. */
function endedByCharger(charge: Charge): Ended[] {
  const at = charge.stages.findIndex(
    (stage, i) => stage.stage === 'absorption' && charge.stages[i + 1]?.stage === 'float',
  );
  if (at < 0) return [];
  const stage = charge.stages[at]!;
  const absorbed = charge.stages.slice(0, at + 1).filter((one) => one.stage === 'absorption');
  if (absorbed.some((one) => one.cutOff)) return [];
  const heldMs = absorbed.reduce((sum, one) => sum + one.heldMs, 0);
  if (stage.endAmpsAreBattery) return [{ charge, stage, heldMs, endAmps: stage.endAmps }];
  // Loads are inside the charger's current: what it settles to on float is mostly them.
  const float = charge.stages[at + 1]!;
  if (float.heldMs < HOUR) return [];
  return [{ charge, stage, heldMs, endAmps: Math.max(0, stage.endSourceAmps - float.usualSourceAmps) }];
}
