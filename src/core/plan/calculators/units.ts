/** The same figure in another unit, or for another bank. */

import { CHEMISTRY } from '../../system/chemistry';
import { awgName, awgToSquareMm, squareMmToAwg } from '../../system/conductor';
import { type Chemistry } from '../../system/schema';
import { type Calculator, number, out } from './calculator';
import { chemistryInput } from './shared';

export const UNITS: readonly Calculator[] = [
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
];
