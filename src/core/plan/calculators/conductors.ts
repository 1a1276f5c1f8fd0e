/** Cables, shunts, and every link that a current passes. */

import { awgName, ohmsPerKm, pairOhms, squareMmToAwg } from '../../system/conductor';
import { weakestLink } from '../../system/ratingsChain';
import { type Calculator, number, out } from './calculator';
import { amps } from './shared';

export const CONDUCTORS: readonly Calculator[] = [
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
      start: Math.max(0, ...system.loads.map((one) => one.startA ?? 0)) || undefined,
      bms: system.bms?.maxDischargeA,
    }),
  },
];
