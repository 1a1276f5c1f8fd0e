/** The stage ribbon: textures and letters tell the stages apart, not colour. */

import type { DiagnosisCharge } from '@/core/diagnosis/result';
import type { StageName } from '@/core/charge/types';
import { duration } from '@/core/quantity/text';
import type { Span } from '@/core/quantity/span';

const LETTER: Record<StageName, string> = {
  bulk: 'B',
  absorption: 'A',
  float: 'F',
  equalise: 'E',
  hold: 'H',
  off: '',
};

export function StagePatterns() {
  const line = { stroke: 'var(--accent)', strokeWidth: 1.2 };
  return (
    <defs>
      <pattern id="stage-bulk" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M-1 7 L7 -1 M-4 4 L4 -4 M2 10 L10 2" {...line} />
      </pattern>
      <pattern id="stage-float" width="6" height="6" patternUnits="userSpaceOnUse">
        <circle cx="3" cy="3" r="1.1" fill="var(--accent)" />
      </pattern>
      <pattern id="stage-equalise" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M-1 7 L7 -1 M-1 -1 L7 7" {...line} />
      </pattern>
      <pattern id="stage-hold" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M-1 -1 L7 7 M-4 2 L4 10 M2 -4 L10 4" {...line} />
      </pattern>
      {/* Where a log cannot be believed: wide, thin hatching over the lane. */}
      <pattern id="doubted" width="14" height="14" patternUnits="userSpaceOnUse">
        <path d="M-2 16 L16 -2" stroke="var(--ink-soft)" strokeWidth={0.7} opacity={0.6} />
      </pattern>
    </defs>
  );
}

const fillOf = (stage: StageName): string =>
  stage === 'absorption' ? 'var(--accent)' : stage === 'off' ? 'transparent' : `url(#stage-${stage})`;

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
        const ended = stage.endedBy === 'unknown' ? '' : `, ended by ${stage.endedBy.replace('-', ' ')}`;
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
