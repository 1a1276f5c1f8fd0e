/** A standing: its word, and a bar whose length says how strongly the evidence speaks. Never colour alone. */

import type { Standing as StandingName } from '@/core/diagnosis/weigh';

const LENGTH: Record<StandingName, number> = {
  strong: 100,
  likely: 75,
  possible: 50,
  'cannot-tell': 0,
  unlikely: 25,
  excluded: 8,
};

export function Standing({ standing }: { standing: StandingName }) {
  const weak = standing === 'unlikely' || standing === 'excluded' || standing === 'cannot-tell';
  return (
    <span className="inline-flex items-center gap-2">
      <span className={`w-20 text-xs ${weak ? 'text-ink-soft' : 'text-ink font-semibold'}`}>
        {standing.replace('-', ' ')}
      </span>
      <span className="bg-rule inline-block h-1.5 w-14" aria-hidden>
        <span className="bg-accent block h-full" style={{ width: `${LENGTH[standing]}%` }} />
      </span>
    </span>
  );
}
