/** What follows from what was read: a word for its weight, a sentence, and what to do. */

import type { Said } from '@/core/onsite/said';

const WORDS: Record<Said['weight'], string> = {
  fault: 'Fault',
  caution: 'Check',
  open: 'Open',
  fine: 'In order',
};

export function SaidList({ said, label }: { said: readonly Said[]; label: string }) {
  if (said.length === 0) return null;
  return (
    <ul aria-label={label} className="flex flex-col gap-1.5 text-sm" aria-live="polite">
      {said.map((one) => (
        <li
          key={one.text}
          className={`border-l-3 pl-2 ${one.weight === 'fault' ? 'border-ink' : one.weight === 'caution' ? 'border-accent' : 'border-rule-strong'}`}
        >
          <span className="font-semibold">{WORDS[one.weight]}.</span> {one.text}
          {one.follows && <span className="text-ink-soft block">{one.follows}</span>}
        </li>
      ))}
    </ul>
  );
}
