/** Two logs over each other for a day: one drawn, the other dashed as it stands and solid as it would be with its clock set. */

import { extent } from 'd3-array';
import { scaleLinear, scaleTime } from 'd3-scale';
import { line } from 'd3-shape';
import { DateTime } from 'luxon';
import type { Overlay } from '@/core/log/overlay';

const SIZE = { width: 640, height: 190 };
const LEFT = 40;
const BOTTOM = 18;

interface Props {
  overlay: Overlay;
  against: string;
  own: string;
  zone: string;
}

export function OverlayChart({ overlay, against, own, zone }: Props) {
  const { first, second, shifted, from, step, unit } = overlay;
  const known = [...first, ...second, ...shifted].filter((one): one is number => one !== null);
  const [low = 0, high = 1] = extent(known);
  const x = scaleTime([from, from + step * first.length], [LEFT, SIZE.width - 4]);
  const y = scaleLinear([low, high === low ? low + 1 : high], [SIZE.height - BOTTOM - 4, 6]).nice(4);
  const path = (values: (number | null)[]) =>
    line<number | null>()
      .defined((value) => value !== null)
      .x((_, i) => x(from + i * step))
      .y((value) => y(value!))(values) ?? '';
  const traces = [
    { name: against, values: first, ink: 'var(--ink-amps)', dash: '', width: 1.2 },
    { name: `${own} as it stands`, values: second, ink: 'var(--ink-soft)', dash: '3 3', width: 1 },
    { name: `${own} set right`, values: shifted, ink: 'var(--ink-volts)', dash: '', width: 1.6 },
  ];
  return (
    <figure className="mt-2">
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        className="bg-paper border-rule block w-full border"
        role="img"
        aria-label={`${against} and ${own} laid over each other on one day, as they stand and with the clock set right`}
      >
        {y.ticks(4).map((value) => (
          <g key={value}>
            <line x1={LEFT} x2={SIZE.width} y1={y(value)} y2={y(value)} stroke="var(--rule)" />
            <text x={LEFT - 4} y={y(value) + 4} fontSize={11} textAnchor="end" fill="var(--ink-soft)">
              {value} {unit}
            </text>
          </g>
        ))}
        {x.ticks(6).map((at) => (
          <text
            key={at.getTime()}
            x={x(at)}
            y={SIZE.height - 5}
            fontSize={11}
            textAnchor="middle"
            fill="var(--ink-soft)"
          >
            {DateTime.fromJSDate(at, { zone }).toFormat('HH:mm')}
          </text>
        ))}
        {traces.map(({ name, values, ink, dash, width }) => (
          <path
            key={name}
            d={path(values)}
            fill="none"
            stroke={ink}
            strokeWidth={width}
            strokeDasharray={dash}
          />
        ))}
      </svg>
      <figcaption className="text-ink-soft mt-1 flex flex-wrap gap-x-4 text-xs">
        <span>{DateTime.fromMillis(from, { zone }).toFormat('d LLL yyyy')}</span>
        {traces.map(({ name, ink, dash, width }) => (
          <span key={name} className="flex items-center gap-1.5">
            <svg width={24} height={8} aria-hidden>
              <line x1={0} x2={24} y1={4} y2={4} stroke={ink} strokeWidth={width} strokeDasharray={dash} />
            </svg>
            {name}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}
