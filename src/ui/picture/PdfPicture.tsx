/** A drawn picture in a PDF. */

import { Path, Rect, Svg, Text } from '@react-pdf/renderer';
import type { Drawn, Shape } from './picture';

export function PdfPicture({ drawn: { width, height, shapes } }: { drawn: Drawn }) {
  return (
    <Svg viewBox={`0 0 ${width} ${height}`} style={{ width: '100%', marginVertical: 3 }}>
      {shapes.map((shape, i) => (
        <Drawing key={i} shape={shape} />
      ))}
    </Svg>
  );
}

function Drawing({ shape }: { shape: Shape }) {
  switch (shape.kind) {
    case 'rect': {
      const { x, y, width, height, fill, stroke } = shape;
      return <Rect {...{ x, y, width, height, fill }} {...(stroke ? { stroke, strokeWidth: 0.6 } : {})} />;
    }
    case 'path':
      return (
        <Path
          d={shape.d}
          fill="none"
          stroke={shape.stroke}
          strokeWidth={shape.width}
          {...(shape.dash ? { strokeDasharray: shape.dash.join(' ') } : {})}
        />
      );
    case 'text':
      return (
        <Text
          x={shape.x}
          y={shape.y}
          style={{ fontSize: shape.size }}
          textAnchor={shape.anchor}
          fill="#1b2824"
        >
          {shape.text}
        </Text>
      );
  }
}
