/** How a sync is marked by its verdict: by shape as well as by ink. */

import type { SyncOut } from '@/core/diagnosis/result';

export const VERDICT_WORDS: Record<SyncOut['judged'], string> = {
  true: 'Sync on a full battery',
  unsure: 'Sync, not sure',
  false: 'Sync too soon',
};

interface Props {
  verdict: SyncOut['judged'];
  x: number;
  y: number;
}

export function VerdictMark({ verdict, x, y }: Props) {
  const stroke = { stroke: 'var(--ink)', strokeWidth: 1.5 };
  if (verdict === 'true') return <circle cx={x} cy={y} r={4} fill="var(--accent)" {...stroke} />;
  if (verdict === 'unsure')
    return (
      <path
        d={`M${x - 5},${y} L${x},${y - 5} L${x + 5},${y} L${x},${y + 5} Z`}
        fill="var(--sheet)"
        {...stroke}
      />
    );
  return (
    <path
      d={`M${x - 5},${y - 5} L${x + 5},${y + 5} M${x - 5},${y + 5} L${x + 5},${y - 5}`}
      fill="none"
      stroke="var(--ink)"
      strokeWidth={2.4}
    />
  );
}
