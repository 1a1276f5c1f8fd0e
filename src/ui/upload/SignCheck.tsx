/** Which way a current counts, by what the voltage does: said as a sentence, turned round with one click, asked where it is odd. */

import type { ColumnReading } from '@/core/log/recognise';
import { buttonClass } from '@/ui/primitives/buttons';
import type { Sign } from '@/core/log/sign';

interface Props {
  column: ColumnReading;
  /** What a positive value means as it is read now. */
  sign: Sign;
  answered: boolean;
  onAnswer: (index: number, invert: boolean) => void;
}

export function SignCheck({ column: { index, heading, invert }, sign, answered, onAnswer }: Props) {
  const flip = (
    <button type="button" className={buttonClass} onClick={() => onAnswer(index, !invert)}>
      Turn it round
    </button>
  );
  if (sign === 'unclear')
    return (
      <p className="flex flex-wrap items-center gap-2 text-sm">
        The first rows do not show which way “{heading}” counts; it is read as positive while{' '}
        {invert ? 'discharging' : 'charging'}. {flip}
      </p>
    );
  if (sign === 'charging')
    return (
      <p className="flex flex-wrap items-center gap-2 text-sm">
        {invert
          ? `When “${heading}” falls, the voltage rises: negative is charging.`
          : `When “${heading}” rises, so does the voltage: positive is charging.`}{' '}
        {flip}
      </p>
    );
  return (
    <fieldset className="border-rule-strong border-l-3 pl-2 text-sm">
      <legend className="sr-only">Which way “{heading}” counts</legend>
      <p>
        When “{heading}” rises, the voltage falls: as it stands, positive is discharging.
        {answered && ' The sign stays as it is, and the log is marked as doubtful.'}
      </p>
      <p className="mt-1 flex flex-wrap gap-2">
        <button type="button" className={buttonClass} onClick={() => onAnswer(index, !invert)}>
          This log counts so: turn it round
        </button>
        {!answered && (
          <button type="button" className={buttonClass} onClick={() => onAnswer(index, invert)}>
            The sensor may be the wrong way round: leave it
          </button>
        )}
      </p>
    </fieldset>
  );
}
