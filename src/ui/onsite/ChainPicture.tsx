/** A chain of links as bars of what each carries, with a line at what flows and one at the largest start. */

import type { Chain } from '@/core/onsite/ratings';
import { amps } from '@/core/quantity/text';

const ROW = 24;
const LEFT = 92;
const WIDTH = 420;

export function ChainPicture({ chain, title }: { chain: Chain; title: string }) {
  const { links, running, starting, weakest } = chain;
  const most = Math.max(1, running, starting, ...links.map((one) => one.amps ?? 0));
  const x = (value: number) => LEFT + (value / most) * (WIDTH - LEFT - 64);
  const height = links.length * ROW + 34;
  const says = `${title}: ${amps(running)} run${starting > running ? `, ${amps(starting)} with the largest start` : ''}. ${links
    .map((one) => `${one.name} ${one.amps === null ? 'not known' : amps(one.amps)}`)
    .join(', ')}.`;
  return (
    <figure className="border-rule-strong bg-sheet border p-2">
      <figcaption className="text-sm font-semibold">{title}</figcaption>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} className="w-full" role="img" aria-label={says}>
        {links.map((one, k) => {
          const y = 4 + k * ROW;
          const isWeakest = weakest?.name === one.name;
          return (
            <g key={one.name}>
              <text
                x={LEFT - 6}
                y={y + 14}
                textAnchor="end"
                fontSize={12}
                fontWeight={isWeakest ? 700 : 400}
                fill="var(--ink)"
              >
                {one.name}
              </text>
              {one.amps === null ? (
                <>
                  <line
                    x1={LEFT}
                    x2={WIDTH - 64}
                    y1={y + 9}
                    y2={y + 9}
                    stroke="var(--rule-strong)"
                    strokeDasharray="3 4"
                  />
                  <text x={WIDTH - 58} y={y + 14} fontSize={12} fontStyle="italic" fill="var(--ink-soft)">
                    not known
                  </text>
                </>
              ) : (
                <>
                  <rect
                    x={LEFT}
                    y={y + 2}
                    width={Math.max(1, x(one.amps) - LEFT)}
                    height={ROW - 10}
                    fill={isWeakest ? 'var(--accent)' : 'var(--band)'}
                    stroke="var(--accent)"
                  />
                  <text
                    x={WIDTH - 58}
                    y={y + 14}
                    fontSize={12}
                    fill="var(--ink)"
                    fontFamily="var(--font-mono)"
                  >
                    {amps(one.amps)}
                  </text>
                </>
              )}
            </g>
          );
        })}
        {running > 0 && <Mark at={x(running)} bottom={height - 30} label={`runs ${amps(running)}`} />}
        {starting > running * 1.02 && (
          <Mark at={x(starting)} bottom={height - 30} label={`start ${amps(starting)}`} dashed lower />
        )}
      </svg>
      {weakest && <p className="text-ink-soft text-xs">Weakest link: the {weakest.name}.</p>}
    </figure>
  );
}

function Mark({
  at,
  bottom,
  label,
  dashed = false,
  lower = false,
}: {
  at: number;
  bottom: number;
  label: string;
  dashed?: boolean;
  lower?: boolean;
}) {
  return (
    <g>
      <line
        x1={at}
        x2={at}
        y1={0}
        y2={bottom + 2}
        stroke="var(--ink)"
        strokeWidth={1.6}
        strokeDasharray={dashed ? '5 3' : undefined}
      />
      <text
        x={Math.max(40, Math.min(WIDTH - 40, at))}
        y={bottom + (lower ? 26 : 13)}
        textAnchor="middle"
        fontSize={11}
        fill="var(--ink)"
      >
        {label}
      </text>
    </g>
  );
}
