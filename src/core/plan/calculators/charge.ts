/** Charging: how long, from what, and what it gives off. */

import { freeOpeningSquareCm, requiredAirflow } from '../../system/airflow';
import { chargeTime } from '../../system/chargeTime';
import {
  type GRAVITY_SCHOOLS,
  gravityAtReference,
  percentOfGravity,
  restVoltsOfGravity,
} from '../../system/gravity';
import { type Chemistry } from '../../system/schema';
import { apparentPower } from '../../system/ratingsChain';
import { schoolsOf } from '../../system/schools';
import { type Calculator, number, out } from './calculator';
import { CAPACITY, chemistryInput } from './shared';

export const CHARGE: readonly Calculator[] = [
  {
    id: 'time-to-full',
    title: 'Time to full',
    about: 'How long a charge takes at a steady current, absorption included.',
    inputs: [
      chemistryInput,
      CAPACITY,
      number('amps', 'Current into the battery', 'A', 15, 0.1, 5000),
      number('now', 'State of charge now', '%', 50, 0, 100),
    ],
    formula:
      'bulk = (missing − late) / (I · η); absorption = τ · ln(I / I_tail) with τ = late / (η · (I − I_tail)); late = C · (0.055 + 0.6 · I / C)',
    source: 'Common practice, no source: an estimate before any log.',
    compute(v) {
      const lead = v.choice('chemistry') !== 'lfp';
      const capacity = v.number('capacity');
      const current = v.number('amps');
      const { bulkHours, absorptionHours } = chargeTime(
        capacity,
        current,
        v.number('now'),
        lead ? 0.85 : 0.98,
        lead ? 0.02 * capacity : null,
      );
      return [
        out('Together', bulkHours + absorptionHours, 'h'),
        out('Bulk', bulkHours, 'h'),
        out('Absorption', absorptionHours, 'h'),
      ];
    },
    from: (system) => ({
      chemistry: system.bank.chemistry,
      capacity: system.bank.capacityAh,
      amps: system.sources.reduce((total, one) => total + (one.ratedA ?? 0), 0) || undefined,
    }),
  },
  {
    id: 'tail',
    title: 'Tail in amperes',
    about: 'The tail current of a monitor or charger, from per cent of capacity.',
    inputs: [CAPACITY, number('percent', 'Tail', '%', 4, 0.1, 50)],
    formula: 'I = C · tail / 100',
    source: 'Definition',
    compute: (v) => [out('Tail', (v.number('capacity') * v.number('percent')) / 100, 'A', 2)],
    from: (system) => ({
      capacity: system.monitor?.capacityAh ?? system.bank.capacityAh,
      percent: system.monitor?.tailPercent,
    }),
  },
  {
    id: 'airflow',
    title: 'Fresh air against hydrogen',
    about: 'Air that a lead-acid battery needs while it is charged.',
    inputs: [
      {
        key: 'kind',
        label: 'Cells',
        start: 'flooded',
        options: [
          { id: 'flooded', name: 'vented (flooded)' },
          { id: 'agm', name: 'valve-regulated (gel, AGM)' },
        ],
      },
      number('cells', 'Cells in series', '', 24, 1, 500),
      CAPACITY,
      {
        key: 'charging',
        label: 'While it',
        start: 'boost',
        options: [
          { id: 'float', name: 'floats' },
          { id: 'boost', name: 'is boosted or equalised' },
        ],
      },
    ],
    formula:
      'Q = 0.05 · n · I_gas · C · 10⁻³ m³/h, I_gas 5 or 20 mA/Ah vented, 1 or 8 valve-regulated; A = 28 · Q cm²',
    source: 'IEC 62485-2 (from memory)',
    caution: 'Hydrogen burns in air from 4 % by volume on: no sparks, no smoking. Local codes come first.',
    compute(v) {
      const air = requiredAirflow(
        v.choice('kind') as Exclude<Chemistry, 'lfp'>,
        v.number('cells'),
        v.number('capacity'),
        v.choice('charging') as 'float' | 'boost',
      );
      return [
        out('Fresh air', air, 'm³/h', 2),
        out('or a free opening, in and out each', freeOpeningSquareCm(air), 'cm²', 0),
      ];
    },
    from: (system) => ({
      kind: system.bank.chemistry === 'flooded' ? 'flooded' : 'agm',
      cells: system.bank.cellsInSeries,
      capacity: system.bank.capacityAh,
    }),
  },
  {
    id: 'gravity',
    title: 'Specific gravity to 25 °C',
    about: 'A hydrometer reading brought to a common temperature, by both schools.',
    inputs: [
      number('reading', 'Reading', '', 1.25, 1, 1.4),
      number('celsius', 'Electrolyte at', '°C', 15, -30, 60),
      {
        key: 'school',
        label: 'School',
        start: 'ieee',
        options: [
          { id: 'ieee', name: 'IEEE Std 450, to 25 °C' },
          { id: 'bci', name: 'BCI, to 80 °F' },
        ],
      },
    ],
    formula:
      'IEEE: reading + 0.001 · (θ − 25 °C) / 1.67; BCI: reading + 0.004 · (θ − 80 °F) / 10 °F; rested cell V ≈ gravity + 0.84',
    source:
      'IEEE Std 450; Battery Council International; Linden & Reddy, Handbook of Batteries (all from memory)',
    caution: 'Acid: goggles, gloves, rinse water. Never put the rinse back into the bottle.',
    compute(v) {
      const school = v.choice('school') as keyof typeof GRAVITY_SCHOOLS;
      const other = school === 'ieee' ? 'bci' : 'ieee';
      const corrected = gravityAtReference(v.number('reading'), v.number('celsius'), school);
      return [
        out('Corrected', corrected, '', 3),
        out('State of charge', percentOfGravity(corrected), '%', 0),
        out('Rested cell', restVoltsOfGravity(corrected), 'V', 2),
        out(
          'By the other school',
          gravityAtReference(v.number('reading'), v.number('celsius'), other),
          '',
          3,
        ),
      ];
    },
    from: (system) => ({ school: schoolsOf(system).gravity }),
  },
  {
    id: 'generator',
    title: 'A charger on a small generator',
    about: 'What a charger draws from a generator, and what is left for other loads.',
    inputs: [
      number('amps', 'Charge current as set', 'A', 50, 0.1, 2000),
      number('volts', 'Voltage while charging', 'V', 28.8, 5, 1000),
      number('efficiency', 'Efficiency of the charger', '%', 88, 30, 100),
      number('factor', 'Power factor of the charger', '', 0.7, 0.3, 1),
      number('generator', 'Generator, continuous', 'VA', 3000, 100, 1_000_000),
    ],
    formula: 'S = I · U / (η · cos φ)',
    source: 'Common practice; a charger without power-factor correction has about 0.6 to 0.7',
    compute(v) {
      const apparent = apparentPower(
        v.number('amps'),
        v.number('volts'),
        v.number('efficiency') / 100,
        v.number('factor'),
      );
      const most =
        (v.number('generator') * v.number('factor') * (v.number('efficiency') / 100)) / v.number('volts');
      return [
        out('Apparent power', apparent, 'VA', 0),
        out('Share of the generator', (100 * apparent) / v.number('generator'), '%', 0),
        out('Charge current that it carries', most, 'A', 0),
      ];
    },
    caution:
      'Limit the charge current in the charger’s settings: a generator that stalls under it may hurt both.',
  },
];
