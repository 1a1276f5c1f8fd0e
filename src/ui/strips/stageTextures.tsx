/** How stages look: textures and letters tell them apart, not colour. The patterns are drawn once on a page. */

import type { StageName } from '@/core/charge/types';

export const LETTER: Record<StageName, string> = {
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

export const fillOf = (stage: StageName): string =>
  stage === 'absorption' ? 'var(--accent)' : stage === 'off' ? 'transparent' : `url(#stage-${stage})`;
