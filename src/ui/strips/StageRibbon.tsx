/** The stage ribbon of one source. */

import { ENDED_WORDS } from '@/core/diagnosis/chargeTable';
import type { DiagnosisCharge } from '@/core/diagnosis/result';
import { duration } from '@/core/quantity/text';
import type { Span } from '@/core/quantity/span';
import { fillOf, LETTER } from './stageTextures';

interface Props {
  charges: DiagnosisCharge[];
  view: Span;
  x: (ms: number) => number;
  height: number;
}

export function StageRibbon({ charges, view, x, height }: Props) {
  const stages = charges
    .flatMap((charge) => charge.stages)
    .map((stage) => ({ ...stage, start: Date.parse(stage.from), end: Date.parse(stage.to) }))
    .filter((stage) => stage.stage !== 'off' && stage.end > view.from && stage.start < view.to);
  return (
    <g>
      {stages.map((stage) => {
        const left = Math.max(x(view.from), x(stage.start));
        const width = Math.max(1, Math.min(x(view.to), x(stage.end)) - left);
        const ended = stage.endedBy === 'unknown' ? '' : `, ended by: ${ENDED_WORDS[stage.endedBy]}`;
        return (
          <g key={`${stage.from}${stage.stage}`}>
            <rect
              x={left}
              y={2}
              width={width}
              height={height - 4}
              fill={fillOf(stage.stage)}
              stroke="var(--accent)"
              strokeWidth={0.6}
            >
              <title>{`${stage.stage}, ${duration(stage.end - stage.start)}${stage.volts === null ? '' : `, ${stage.volts.toFixed(2)} V`}${ended}`}</title>
            </rect>
            {width > 18 && (
              <text
                x={left + width / 2}
                y={height / 2 + 4}
                textAnchor="middle"
                fontSize={11}
                fontWeight={700}
                pointerEvents="none"
                fill={stage.stage === 'absorption' ? 'var(--on-accent)' : 'var(--ink)'}
                stroke={stage.stage === 'absorption' ? 'none' : 'var(--sheet)'}
                strokeWidth={3}
                paintOrder="stroke"
              >
                {LETTER[stage.stage]}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
