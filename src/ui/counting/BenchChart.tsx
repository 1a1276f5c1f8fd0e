/** Read, true and replayed on one strip, drawn anew with each move of a slider. */

import { useMemo } from 'react';
import type { Diagnosis } from '@/core/diagnosis/result';
import { HOUR } from '@/core/quantity/span';
import { type Curve, PercentChart } from '@/ui/primitives/PercentChart';
import { trueCurve } from '@/ui/primitives/trueCurve';
import type { Replayed } from '@/workers/counterBench';

interface Props {
  soc: NonNullable<Diagnosis['soc']>;
  replayed: Replayed | null;
  zone: string;
}

export function BenchChart({ soc, replayed, zone }: Props) {
  const from = Date.parse(soc.from);
  const step = soc.stepHours * HOUR;
  const still = useMemo((): Curve[] => {
    const reference = trueCurve(soc);
    return [
      {
        ...reference,
        name: 'Read on the monitor',
        percent: (k) => soc.reported[k] ?? NaN,
        band: undefined,
        dash: '5 3',
        ink: 'var(--ink-soft)',
        wide: 1.1,
      },
      reference,
    ];
  }, [soc]);
  const moving = useMemo(
    (): Curve[] =>
      replayed
        ? [
            {
              name: 'Replayed',
              count: replayed.at.length,
              at: (k) => replayed.at[k]!,
              percent: (k) => replayed.reading[k]!,
              dash: '1 2.5',
              ink: 'var(--ink)',
              wide: 1.8,
            },
          ]
        : [],
    [replayed],
  );
  return (
    <PercentChart
      label="Charge read, true and replayed"
      from={from}
      to={from + Math.max(1, soc.reference.length - 1) * step}
      zone={zone}
      curves={[...still, ...moving]}
    />
  );
}
