/** How long a battery lasts, and what is drawn from it. */

import { capacityPercent, END_OF_LIFE, planCapacityTest } from '../../capacity/plan';
import { capacityAtRate, dischargeHours, usableCapacity } from '../../system/peukert';
import { type Chemistry } from '../../system/schema';
import { type Calculator, number, out } from './calculator';
import { rated, CAPACITY, HOURS, EXPONENT, PEUKERT, chemistryInput, exponentOf, amps } from './shared';

export const DISCHARGE: readonly Calculator[] = [
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
];
