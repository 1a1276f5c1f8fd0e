/**
 * The little calculators of the work, one row each: what goes in, what comes out, by which formula and from which source. All of them
 * are the core's own functions; the review and the diagnosis use the same ones.
 */

import { freeOpeningSquareCm, requiredAirflow } from '../system/airflow';
import { chargeTime } from '../system/chargeTime';
import { CHEMISTRY } from '../system/chemistry';
import { awgName, awgToSquareMm, ohmsPerKm, pairOhms, squareMmToAwg } from '../system/conductor';
import type { GRAVITY_SCHOOLS } from '../system/gravity';
import { gravityAtReference, percentOfGravity, restVoltsOfGravity } from '../system/gravity';
import { capacityAtRate, dischargeHours, usableCapacity, usualExponent } from '../system/peukert';
import { CHEMISTRIES, type Chemistry, type System } from '../system/schema';
import { schoolsOf } from '../system/schools';
import { capacityPercent, END_OF_LIFE, planCapacityTest } from '../capacity/plan';
import { weakestLink } from './ratingsChain';

interface NumberInput {
  key: string;
  label: string;
  unit: string;
  /** What it starts with. */
  start: number;
  min: number;
  max: number;
}

interface ChoiceInput {
  key: string;
  label: string;
  start: string;
  options: readonly { id: string; name: string }[];
}

export type CalculatorInput = NumberInput | ChoiceInput;

export interface Output {
  label: string;
  value: number | string;
  unit: string;
  digits: number;
}

export interface Values {
  number(key: string): number;
  choice(key: string): string;
}

export interface Calculator {
  id: string;
  title: string;
  about: string;
  inputs: readonly CalculatorInput[];
  formula: string;
  source: string;
  caution?: string;
  compute(values: Values): Output[];
  /** Values that a system's description gives. */
  from?(system: System): Record<string, number | string | undefined>;
}

const number = (
  key: string,
  label: string,
  unit: string,
  start: number,
  min: number,
  max: number,
): NumberInput => ({ key, label, unit, start, min, max });
const out = (label: string, value: number | string, unit: string, digits = 1): Output => ({
  label,
  value,
  unit,
  digits,
});
const rated = (v: Values) => ({ capacityAh: v.number('capacity'), hours: v.number('hours') });
const CAPACITY = number('capacity', 'Capacity', 'Ah', 100, 1, 10_000);
const HOURS = number('hours', 'at the hour rate', 'h', 20, 0.5, 200);
const EXPONENT = number('exponent', 'Peukert exponent', '', 1.25, 1, 2);
const PEUKERT = 'W. Peukert, Elektrotechnische Zeitschrift 20, 1897';
const chemistryInput: ChoiceInput = {
  key: 'chemistry',
  label: 'Chemistry',
  start: 'agm',
  options: CHEMISTRIES.map((id) => ({ id, name: CHEMISTRY[id].name })),
};
const exponentOf = ({ bank, monitor }: System) =>
  monitor?.peukert ?? usualExponent(bank.chemistry ?? 'flooded');
const amps = (system: System) =>
  system.loads.reduce((total, one) => total + (one.usualA ?? 0), 0) || undefined;

export const CALCULATORS: readonly Calculator[] = [
  {
    id: 'time-to-floor',
    title: 'Time down to the floor',
    about: 'How long a load runs from here to the discharge floor.',
    inputs: [
      CAPACITY,
      HOURS,
      EXPONENT,
      number('amps', 'Load', 'A', 10, 0.01, 5000),
      number('now', 'State of charge now', '%', 100, 0, 100),
      number('floor', 'Floor', '%', 50, 0, 100),
    ],
    formula: 't = H · (C / (I · H))^k · (now − floor) / 100',
    source: PEUKERT,
    compute(v) {
      const share = Math.max(0, v.number('now') - v.number('floor')) / 100;
      const hours = dischargeHours(rated(v), v.number('amps'), v.number('exponent')) * share;
      return [out('Time', hours, 'h', 2), out('Charge drawn', hours * v.number('amps'), 'Ah')];
    },
    from: (system) => ({
      capacity: system.bank.capacityAh,
      hours: system.bank.capacityHours,
      exponent: exponentOf(system),
      amps: amps(system),
      floor: system.monitor?.floorPercent,
    }),
  },
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
    id: 'peukert',
    title: 'Peukert',
    about: 'What comes out at another current, and the capacity at another hour rate.',
    inputs: [CAPACITY, HOURS, EXPONENT, number('amps', 'Discharge current', 'A', 10, 0.01, 5000)],
    formula: 't = H · (C / (I · H))^k; what comes out = I · t',
    source: PEUKERT,
    compute: (v) => [
      out('Comes out', usableCapacity(rated(v), v.number('amps'), v.number('exponent')), 'Ah', 2),
      out('Lasts', dischargeHours(rated(v), v.number('amps'), v.number('exponent')), 'h', 2),
      out('Capacity at 20 h', capacityAtRate(rated(v), 20, v.number('exponent')), 'Ah'),
    ],
    from: (system) => ({
      capacity: system.bank.capacityAh,
      hours: system.bank.capacityHours,
      exponent: exponentOf(system),
      amps: amps(system),
    }),
  },
  {
    id: 'capacity-test',
    title: 'Capacity test',
    about:
      'How the test is run at a steady load, and what its time comes to. Charge until full and let it rest first; write down volts, amperes, the lowest cell and the temperature every quarter of an hour, every minute near the end; stop at the end voltage of the bank or of the lowest cell, whichever comes first, and charge it up at once.',
    inputs: [
      chemistryInput,
      number('cells', 'Cells in series', '', 6, 1, 600),
      CAPACITY,
      HOURS,
      EXPONENT,
      number('amps', 'Steady load', 'A', 10, 0.01, 5000),
      number('celsius', 'Temperature of the electrolyte or the case', '°C', 20, -3, 40),
      number('ran', 'It ran until the end voltage for', 'h', 8, 0, 500),
    ],
    formula: 'capacity at 25 °C = 100 · t / (t_rated · K_T), t_rated = H · (C / (I · H))^k',
    source: `IEEE Std 450, time-adjusted method, K_T from the table of IEEE Std 485 (both from memory); ${PEUKERT}. Lithium by common practice. The simple school: set the monitor to the nameplate capacity and to 0 % when empty, charge until full, and take what was counted, which holds the counter’s own efficiency in it.`,
    caution:
      'Only on a battery that is full and sound: no cell below its end voltage, gas while charging, and nothing that is needed may hang on it meanwhile.',
    compute(v) {
      const plan = planCapacityTest({
        chemistry: v.choice('chemistry') as Chemistry,
        cells: v.number('cells'),
        capacityAh: v.number('capacity'),
        hours: v.number('hours'),
        amps: v.number('amps'),
        celsius: v.number('celsius'),
        exponent: v.number('exponent'),
      });
      const percent = capacityPercent(plan, v.number('ran'));
      return [
        out('Capacity', percent, '%'),
        out(
          'Verdict',
          percent < END_OF_LIFE
            ? `under ${END_OF_LIFE} %: at its end, replace it`
            : `${END_OF_LIFE} % or more: it serves`,
          '',
        ),
        out('Expected time', plan.expectedHours, 'h', 2),
        out('Stop at', plan.endVolts, 'V', 2),
        out('or when one cell is at', plan.lowestCellVolts, 'V', 2),
        out('It gave', v.number('ran') * v.number('amps'), 'Ah'),
      ];
    },
    from: (system) => ({
      chemistry: system.bank.chemistry,
      cells: system.bank.cellsInSeries,
      capacity: system.bank.capacityAh,
      hours: system.bank.capacityHours,
      exponent: exponentOf(system),
      amps: amps(system),
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
    id: 'conductor',
    title: 'Drop over a conductor',
    about: 'Voltage and power lost in a pair of copper conductors, there and back.',
    inputs: [
      number('metres', 'Length, one way', 'm', 3, 0.01, 1000),
      number('area', 'Cross-section', 'mm²', 16, 0.5, 500),
      number('amps', 'Current', 'A', 40, 0.01, 5000),
      number('celsius', 'Copper at', '°C', 30, -40, 120),
      number('nominal', 'Nominal voltage', 'V', 12, 1, 1000),
    ],
    formula: 'U = I · 2 · L · R′ · (1 + 0.00393 · (θ − 20 °C))',
    source: 'IEC 60228 class 2 (from memory); AWG by ASTM B258 (from memory)',
    caution: 'The drop says nothing of what a cable may carry: size and fuse it by the local code.',
    compute(v) {
      const ohms = pairOhms(v.number('metres'), v.number('area'), v.number('celsius'));
      const drop = ohms * v.number('amps');
      return [
        out('Drop', drop, 'V', 3),
        out('of the nominal voltage', (100 * drop) / v.number('nominal'), '%'),
        out('Power lost', drop * v.number('amps'), 'W'),
        out('Resistance, there and back', ohms * 1000, 'mΩ', 2),
        out('Of this size at 20 °C', ohmsPerKm(v.number('area')), 'Ω/km', 3),
        out('Nearest gauge', awgName(squareMmToAwg(v.number('area'))), ''),
      ];
    },
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
    id: 'scaling',
    title: 'Voltages scaled',
    about: 'A voltage of one bank in another: per cell, 12, 24 and 48 V.',
    inputs: [
      chemistryInput,
      number('volts', 'Voltage', 'V', 14.4, 0.1, 2000),
      number('cells', 'of a bank of cells in series', '', 6, 1, 500),
    ],
    formula: 'V · n₂ / n₁; 6 lead cells or 4 lithium cells make 12 V',
    source: 'Definition',
    compute(v) {
      const perCell = v.number('volts') / v.number('cells');
      const block = CHEMISTRY[v.choice('chemistry') as Chemistry].cellsPerBlock;
      return [
        out('Per cell', perCell, 'V', 3),
        ...[1, 2, 4].map((blocks) => out(`At ${12 * blocks} V`, perCell * block * blocks, 'V', 2)),
      ];
    },
    from: (system) => ({
      chemistry: system.bank.chemistry,
      cells: system.bank.cellsInSeries,
      volts: system.sources[0]?.profile.absorptionV,
    }),
  },
  {
    id: 'units',
    title: 'Units',
    about: 'Celsius and Fahrenheit, mm² and American wire gauge.',
    inputs: [
      number('celsius', 'Temperature', '°C', 25, -100, 200),
      number('area', 'Cross-section', 'mm²', 16, 0.1, 500),
      number('gauge', 'Gauge (0 is 1/0, −1 is 2/0)', 'AWG', 6, -3, 40),
    ],
    formula: '°F = 1.8 · °C + 32; area = 0.01267 · 92^((36 − n) / 19.5) mm²',
    source: 'ASTM B258 (from memory)',
    compute: (v) => [
      out('Temperature', 1.8 * v.number('celsius') + 32, '°F'),
      out('Cross-section', awgName(squareMmToAwg(v.number('area'))), ''),
      out('Gauge', awgToSquareMm(v.number('gauge')), 'mm²', 2),
    ],
  },
  {
    id: 'inverter',
    title: 'Watts through an inverter',
    about: 'What a load behind an inverter draws from the battery.',
    inputs: [
      number('watts', 'Load', 'W', 800, 0.1, 100_000),
      number('volts', 'Battery voltage under load', 'V', 24, 5, 1000),
      number('efficiency', 'Efficiency of the inverter', '%', 90, 20, 100),
      number('idle', 'What it draws with nothing on', 'W', 15, 0, 2000),
    ],
    formula: 'I = (P / η + P₀) / U',
    source: 'Common practice; efficiency by the inverter’s sheet, lower at small loads',
    compute(v) {
      const watts = v.number('watts') / (v.number('efficiency') / 100) + v.number('idle');
      const current = watts / v.number('volts');
      return [
        out('From the battery', current, 'A'),
        out('In an hour', current, 'Ah'),
        out('Lost in the inverter', watts - v.number('watts'), 'W', 0),
      ];
    },
  },
  {
    id: 'drawn',
    title: 'Per cent and ampere-hours drawn',
    about: 'Why the percentage has fallen further than the ampere-hours say: the exponent is at work.',
    inputs: [
      CAPACITY,
      HOURS,
      EXPONENT,
      number('amps', 'Load', 'A', 25, 0.01, 5000),
      number('ran', 'It ran for', 'h', 2, 0.01, 1000),
    ],
    formula: 'ΔSoC = (I / I_H)^(k − 1) · I · t / C, with I_H = C / H; at small currents nothing is taken off',
    source: PEUKERT,
    compute(v) {
      const { capacityAh, hours } = rated(v);
      const drawn = v.number('amps') * v.number('ran');
      const factor = Math.max(1, (v.number('amps') * hours) / capacityAh) ** (v.number('exponent') - 1);
      const plain = (100 * drawn) / capacityAh;
      return [
        out('Ampere-hours drawn', drawn, 'Ah'),
        out('By ampere-hours alone', Math.max(0, 100 - plain), '%'),
        out('As a monitor with this exponent shows', Math.max(0, 100 - plain * factor), '%'),
        out('They part by', plain * (factor - 1), 'points'),
      ];
    },
    from: (system) => ({
      capacity: system.bank.capacityAh,
      hours: system.bank.capacityHours,
      exponent: exponentOf(system),
      amps: amps(system),
    }),
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
      const watts = (v.number('amps') * v.number('volts')) / (v.number('efficiency') / 100);
      const apparent = watts / v.number('factor');
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
  {
    id: 'shunt',
    title: 'Shunt: drop and scale',
    about: 'The current behind a drop over the shunt, and what a monitor shows that is set for another one.',
    inputs: [
      number('rated', 'Shunt fitted, current', 'A', 500, 1, 10_000),
      number('drop', 'and its drop', 'mV', 50, 1, 500),
      number('setRated', 'Shunt set in the monitor, current', 'A', 500, 1, 10_000),
      number('setDrop', 'and its drop, as set', 'mV', 50, 1, 500),
      number('millivolts', 'Drop measured', 'mV', 4, -500, 500),
    ],
    formula: 'I = U · I_N / U_N; shown over true = (I_set / U_set) / (I_N / U_N)',
    source: 'Ohm’s law',
    compute(v) {
      const fitted = v.number('rated') / v.number('drop');
      const set = v.number('setRated') / v.number('setDrop');
      return [
        out('True current', v.number('millivolts') * fitted, 'A', 2),
        out('The monitor shows', v.number('millivolts') * set, 'A', 2),
        out('Shown over true', set / fitted, '', 2),
        out('Resistance of the shunt', v.number('drop') / v.number('rated'), 'mΩ', 3),
      ];
    },
  },
  {
    id: 'ratings',
    title: 'Ratings chain',
    about:
      'What runs at once and the largest start, against every link that it passes. A jumper is a link like any other.',
    inputs: [
      number('running', 'What runs at once', 'A', 60, 0, 10_000),
      number('start', 'The largest start on top', 'A', 90, 0, 10_000),
      number('bms', 'BMS limit', 'A', 200, 1, 10_000),
      number('fuse', 'Main fuse', 'A', 200, 1, 10_000),
      number('cable', 'Main cable', 'A', 180, 1, 10_000),
      number('shunt', 'Shunt', 'A', 500, 1, 10_000),
      number('busbar', 'Busbar', 'A', 250, 1, 10_000),
      number('jumper', 'Jumpers', 'A', 180, 1, 10_000),
    ],
    formula: 'margin = 1 − I / the least rating',
    source: 'Common practice; a cable’s rating by the local code, a fuse no larger than the cable',
    compute(v) {
      const links = [
        ['bms', 'the BMS'],
        ['fuse', 'the main fuse'],
        ['cable', 'the main cable'],
        ['shunt', 'the shunt'],
        ['busbar', 'the busbar'],
        ['jumper', 'the jumpers'],
      ].map(([key, name]) => ({ name: name!, amps: v.number(key!) }));
      const running = weakestLink(links, v.number('running'))!;
      // A start of some seconds passes cables and fuses; a BMS opens at once.
      const starting = 1 - (v.number('running') + v.number('start')) / v.number('bms');
      return [
        out('Weakest link', running.link.name, ''),
        out('Its margin while all runs', 100 * running.margin, '%', 0),
        out('Margin of the BMS at the start', 100 * starting, '%', 0),
        out(
          'Fuse against cable',
          v.number('fuse') <= v.number('cable') ? 'protects it' : 'too large for it',
          '',
        ),
      ];
    },
    caution:
      'A fuse protects the cable behind it: it must not be larger than the cable carries. Local codes come first.',
    from: (system) => ({
      running: amps(system),
      start: Math.max(0, ...system.loads.map((one) => one.surgeA ?? 0)) || undefined,
      bms: system.bms?.maxDischargeA,
    }),
  },
];

export const isNumber = (input: CalculatorInput): input is NumberInput => 'unit' in input;

export type Computed = { ok: true; outputs: Output[] } | { ok: false; problems: Record<string, string> };

/** Reads what was typed and computes; each input that cannot be used is told with what to do. */
export function compute(calculator: Calculator, typed: Record<string, string>): Computed {
  const problems: Record<string, string> = {};
  const numbers: Record<string, number> = {};
  for (const input of calculator.inputs) {
    const text = (typed[input.key] ?? String(input.start)).trim();
    if (!isNumber(input)) {
      if (!input.options.some((one) => one.id === text)) problems[input.key] = 'Choose one of the list.';
      continue;
    }
    const value = Number(text.replace(',', '.'));
    if (text === '' || !Number.isFinite(value))
      problems[input.key] = `“${text}” is not a number: write it like 14.4.`;
    else if (value < input.min || value > input.max)
      problems[input.key] =
        `This lies between ${input.min} and ${input.max}${input.unit ? ` ${input.unit}` : ''}.`;
    numbers[input.key] = value;
  }
  if (Object.keys(problems).length > 0) return { ok: false, problems };
  const start = (key: string) => calculator.inputs.find((one) => one.key === key)!.start;
  return {
    ok: true,
    outputs: calculator.compute({
      number: (key) => numbers[key]!,
      choice: (key) => typed[key] ?? String(start(key)),
    }),
  };
}
