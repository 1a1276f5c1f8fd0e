/** The true charge with its band, as a curve. */

import type { Diagnosis } from '@/core/diagnosis/result';
import { HOUR } from '@/core/quantity/span';
import type { Curve } from './PercentChart';

export function trueCurve(soc: NonNullable<Diagnosis['soc']>): Curve {
  const from = Date.parse(soc.from);
  return {
    name: 'True',
    count: soc.reference.length,
    at: (k) => from + k * soc.stepHours * HOUR,
    percent: (k) => soc.reference[k] ?? NaN,
    band: (k) => soc.band[k] ?? NaN,
    dash: '',
    ink: 'var(--accent)',
    wide: 1.4,
  };
}
