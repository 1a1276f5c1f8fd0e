'use client';
/** The wiring as it was laid out: battery, sensor, busbars, each device on the side on which it was found. */

import type { Schematic as Layout, WiringNode } from '@/core/system/wiring';

const COLUMN = 128;
const ROW = 92;
const BOX = { width: 112, height: 44 };

const centre = ({ column, row }: WiringNode) => ({
  x: column * COLUMN + COLUMN / 2,
  y: row * ROW + ROW / 2,
});

/** Two lines at most, cut with an ellipsis. */
function lines(name: string): string[] {
  const words = name.split(' ');
  const out = [''];
  for (const word of words) {
    const line = out.at(-1)!;
    if (line === '' || line.length + word.length < 16)
      out[out.length - 1] = line === '' ? word : `${line} ${word}`;
    else out.push(word);
  }
  return out.length > 2
    ? [out[0]!, `${out[1]!.slice(0, 13)}…`]
    : out.map((one) => (one.length > 17 ? `${one.slice(0, 16)}…` : one));
}

interface Props {
  layout: Layout;
  /** Node that the walk is at. */
  at: string | null;
  onGo(id: string): void;
}

export function Schematic({ layout, at, onGo }: Props) {
  const place = new Map(layout.nodes.map((one) => [one.id, centre(one)]));
  const width = layout.columns * COLUMN;
  const height = layout.rows * ROW;
  const said = layout.wires
    .filter((one) => one.device)
    .map(
      (one) =>
        `${layout.nodes.find((node) => node.id === one.device)!.name}: ${one.counted === null ? 'not known where' : one.counted ? 'counted' : 'not counted'}`,
    )
    .join('; ');
  return (
    <div
      className="ruled border-rule-strong overflow-x-auto border"
      tabIndex={0}
      aria-label="Schematic"
      role="group"
    >
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width={width}
        height={height}
        className="mx-auto block max-w-none"
        role="img"
        aria-label={`Wiring. ${said || 'No source or load is described.'}`}
      >
        {layout.wires.map((wire, i) => {
          const from = place.get(wire.from)!;
          const to = place.get(wire.to)!;
          // Devices that share a bar meet it at a common height.
          const bend = wire.device && from.x !== to.x ? (from.y + to.y) / 2 + (from.y < to.y ? 8 : -8) : null;
          const path =
            bend === null
              ? `M${from.x} ${from.y}L${to.x} ${to.y}`
              : `M${from.x} ${from.y}V${bend}H${to.x}V${to.y}`;
          return (
            <path
              key={i}
              d={path}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={wire.device ? 1.5 : 3}
              strokeDasharray={
                wire.device === null || wire.counted ? undefined : wire.counted === false ? '8 4' : '2 4'
              }
            />
          );
        })}
        {layout.nodes.map((node) => {
          const { x, y } = place.get(node.id)!;
          const wire = layout.wires.find((one) => one.device === node.id);
          const text = lines(node.name);
          const chosen = node.id === at;
          return (
            <g key={node.id} onClick={() => onGo(node.id)} className="cursor-pointer">
              <rect
                x={x - BOX.width / 2}
                y={y - BOX.height / 2}
                {...BOX}
                fill={chosen ? 'var(--accent-soft)' : 'var(--sheet)'}
                stroke={chosen ? 'var(--accent)' : 'var(--rule-strong)'}
                strokeWidth={chosen ? 2.5 : node.kind === 'battery' || node.kind === 'half' ? 2 : 1}
              />
              {text.map((line, i) => (
                <text
                  key={i}
                  x={x}
                  y={y + 4 + (i - (text.length - 1) / 2) * 14 - (wire ? 6 : 0)}
                  textAnchor="middle"
                  fontSize={12}
                  fill="var(--ink)"
                >
                  {line}
                </text>
              ))}
              {wire && (
                <text x={x} y={y + 18} textAnchor="middle" fontSize={11} fill="var(--ink-soft)">
                  {wire.counted === null ? 'where?' : wire.counted ? 'counted' : 'not counted'}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </div>
  );
}
