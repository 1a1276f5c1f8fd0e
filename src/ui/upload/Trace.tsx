/** A small trace of a column, so that its shape can be seen before it is taken in. */

import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';

const SIZE = { width: 96, height: 22 };

export function Trace({ values }: { values: readonly number[] }) {
  const [low = 0, high = 0] = extent(values.filter((value) => value === value));
  const x = scaleLinear([0, Math.max(1, values.length - 1)], [1, SIZE.width - 1]);
  const y = scaleLinear(low === high ? [low - 1, high + 1] : [low, high], [SIZE.height - 2, 2]);
  const path = line<number>()
    .defined((value) => value === value)
    .x((_, i) => x(i))
    .y((value) => y(value))(values);
  return (
    <svg {...SIZE} aria-hidden className="bg-paper border-rule block border">
      <path d={path ?? ''} fill="none" stroke="var(--ink-volts)" strokeWidth={1} />
    </svg>
  );
}
