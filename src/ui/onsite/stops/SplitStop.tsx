'use client';
/** The three ways to monitor a split bank, with what each cannot see. */

import { SPLIT_REMEDIES, splitWays } from '@/core/onsite/splitBank';
import { useRound } from '../useRound';

export function SplitStop() {
  const { system } = useRound();
  return (
    <>
      <div className="grid gap-3 lg:grid-cols-3">
        {splitWays(system).map((one) => (
          <section
            key={one.id}
            className={`bg-sheet border p-3 text-sm ${one.isHere ? 'border-accent border-2' : 'border-rule-strong'}`}
          >
            <h3 className="font-semibold">{one.title}</h3>
            {one.isHere && <p className="text-accent font-semibold">So it is here.</p>}
            <dl className="mt-1">
              <dt className="text-ink-soft">Needs</dt>
              <dd className="mb-1">{one.needs}</dd>
              <dt className="text-ink-soft">Sees</dt>
              <dd className="mb-1">{one.sees}</dd>
              <dt className="text-ink-soft">Cannot see</dt>
              <dd>{one.blind}</dd>
            </dl>
          </section>
        ))}
      </div>
      <h3 className="mt-3 text-sm font-semibold">What can be done instead</h3>
      <ul className="list-disc pl-5 text-sm">
        {SPLIT_REMEDIES.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </>
  );
}
