/** The charge voltage is below what the battery asks for at its temperature. */

import { MINUTE } from '../quantity/span';
import { median, robustDeviation } from '../quantity/numbers';
import { celsius, share, volts } from '../quantity/text';
import { expectedVolts, isLead } from '../system/chemistry';
import { missingBasics } from '../system/known';
import type { SourceCharging, Stage } from '../charge/charges';
import { type Cause, type Evidence, type Observations, shrunk } from './cause';
import { WEIGHTS, weightOf } from './weights';

export const chargeVoltageLow: Cause = {
  code: 'charge-voltage-low',
  title: 'Charge voltage is too low for this battery',
  complaint: 'undercharging',
  chemistries: 'all',
  needs:
    'voltage and current of the charger or the battery over charges that reach a plateau; battery temperature helps',
  signature: 'the plateau lies, at its temperature, below the range that the battery asks for',
  prior: { complained: -5, otherwise: -10 },
  caps: { told: 7 },
  tests: {
    'read-charger-settings': [
      { name: 'the charge voltage set is below the range', ifHolds: 0.8, ifNot: 0.04 },
      { name: 'it is within the range', ifHolds: 0.2, ifNot: 0.96 },
    ],
    'meter-at-terminals': [
      { name: 'below the range while absorbing', ifHolds: 0.93, ifNot: 0.05 },
      { name: 'within the range', ifHolds: 0.07, ifNot: 0.95 },
    ],
  },
  weigh(seen) {
    const plateaus = seen.charging.flatMap((charging) => weighPlateau(charging, seen));
    const { bank } = seen;
    if (!bank) return { evidence: [], missing: missingBasics(seen.system) };
    const told = seen.system.sources.flatMap((source) => {
      const { absorptionV } = source.profile;
      if (absorptionV === undefined) return [];
      const { chargeVolts, cellsInSeries } = bank;
      const below = (1000 * (chargeVolts.min - absorptionV)) / cellsInSeries;
      return {
        text: `${source.name} is set to ${volts(absorptionV)} at 25 °C; the battery asks for ${volts(chargeVolts.min)} to ${volts(chargeVolts.max)}.`,
        decibans: weightOf(WEIGHTS.toldBelow, below),
        group: 'told',
        spans: [],
      };
    });
    const noLog = seen.charging.length === 0;
    return {
      evidence: [...plateaus, ...told],
      missing: noLog
        ? ['voltage and current of the charger or the battery']
        : plateaus.length === 0
          ? ['a charge that reaches a held voltage']
          : [],
    };
  },
};

/** With no temperature logged, this much of a deficit may be the weather's, mV per cell (about 8 °C of compensation). */
const WEATHER_MV = 30;

function weighPlateau({ source, charges }: SourceCharging, { bank }: Observations): Evidence[] {
  if (!bank) return [];
  const plateaus = charges
    .flatMap((charge) => charge.stages)
    .filter((stage) => stage.stage === 'absorption' && stage.heldMs >= 10 * MINUTE);
  if (plateaus.length === 0) return [];
  const deficit = (stage: Stage): number => {
    const { min } = expectedVolts(bank, 'absorption', stage.celsius);
    const unsure = stage.celsius !== stage.celsius && isLead(bank.chemistry) ? WEATHER_MV : 0;
    return (1000 * (min - heldVolts(stage))) / bank.cellsInSeries - unsure;
  };
  const deficits = plateaus.map(deficit);
  const usual = median(deficits);
  const below = plateaus.filter((_, i) => deficits[i]! > 8);
  const temperature = median(plateaus.map((one) => one.celsius));
  const range = expectedVolts(bank, 'absorption', temperature);
  const name = source?.name ?? 'The charger';
  const at = temperature === temperature ? `at ${celsius(temperature)}` : 'with the temperature not logged';
  const evidence: Evidence[] = [
    {
      text: `${name} held ${volts(median(plateaus.map(heldVolts)))} ${at}, where the battery asks for ${volts(range.min)} to ${volts(range.max)}; it was below in ${share(below.length, plateaus.length, 'plateau')}.`,
      decibans: shrunk(weightOf(WEIGHTS.plateauBelow, usual), plateaus.length),
      group: 'plateau',
      spans: usual > 8 ? below : plateaus,
    },
  ];
  if (usual > 16 && plateaus.length >= 4 && robustDeviation(deficits) < Math.max(8, 0.3 * usual))
    evidence.push({
      text: `It did so on every charge alike: the plateaus differ by no more than ${volts((2 * robustDeviation(deficits) * bank.cellsInSeries) / 1000)} once temperature is taken out.`,
      decibans: WEIGHTS.plateauRepeats,
      group: 'repeats',
      spans: [],
    });
  return evidence;
}

/** The higher of the charger's and the battery's voltage: a drop between the two is a fault of the path, not of the setting. */
function heldVolts(stage: Stage): number {
  return stage.batteryVolts === stage.batteryVolts ? Math.max(stage.volts, stage.batteryVolts) : stage.volts;
}
