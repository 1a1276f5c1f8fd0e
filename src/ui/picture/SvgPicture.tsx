/** A drawn picture on a page: on screen and on paper. */

import type { Drawn, Shape } from './picture';

export function SvgPicture({ drawn: { width, height, says, shapes } }: { drawn: Drawn }) {
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="my-1 block w-full bg-white"
      style={{ maxWidth: width }}
      role="img"
      aria-label={`Strips: ${says}`}
    >
      {shapes.map((shape, i) => (
        <Drawing key={i} shape={shape} />
      ))}
    </svg>
  );
}

function Drawing({ shape }: { shape: Shape }) {
  switch (shape.kind) {
    case 'rect': {
      const { x, y, width, height, fill, stroke } = shape;
      return <rect {...{ x, y, width, height, fill, stroke }} strokeWidth={0.6} />;
    }
    case 'path':
      return (
        <path
          d={shape.d}
          fill="none"
          stroke={shape.stroke}
          strokeWidth={shape.width}
          strokeDasharray={shape.dash?.join(' ')}
        />
      );
    case 'text':
      return (
        <text x={shape.x} y={shape.y} fontSize={shape.size} textAnchor={shape.anchor} fill="#1b2824">
          {shape.text}
        </text>
      );
  }
}
