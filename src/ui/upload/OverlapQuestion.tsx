/** A log that overlaps an earlier one of the same device: what shall be with the two. */

import { DateTime } from 'luxon';
import { buttonClass } from '@/ui/primitives/buttons';
import type { Intake, OverlapAnswer } from '@/core/log/intake';

interface Props {
  intake: Intake;
  zone: string;
  onAnswer: (answer: OverlapAnswer | 'leave') => void;
}

export function OverlapQuestion({ intake: { fileName, question }, zone, onAnswer }: Props) {
  const text = (ms: number) => DateTime.fromMillis(ms, { zone }).toFormat('d LLL yyyy HH:mm');
  return (
    <div className="border-accent mt-3 border-l-3 pl-2 text-sm" role="alert">
      {question?.map((one) => (
        <p key={one.id}>
          {fileName} overlaps {one.fileName} of the same device, from {text(one.from)} to {text(one.to)}.
        </p>
      ))}
      <p className="text-ink-soft mt-1">
        Merged, every moment of both is kept; where both hold one, the new log counts. Replaced, the earlier
        log is taken away. Either can be undone.
      </p>
      <p className="mt-1 flex flex-wrap gap-2">
        <button type="button" className={buttonClass} onClick={() => onAnswer('merge')}>
          Merge them
        </button>
        <button type="button" className={buttonClass} onClick={() => onAnswer('replace')}>
          Replace the earlier one
        </button>
        <button type="button" className={buttonClass} onClick={() => onAnswer('leave')}>
          Leave the new one out
        </button>
      </p>
    </div>
  );
}
