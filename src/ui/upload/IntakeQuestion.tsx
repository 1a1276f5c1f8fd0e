/** What only a person can say of a log on its way in: it overlaps an earlier one, runs astray, or is damaged. */

import { DateTime } from 'luxon';
import { Fragment } from 'react';
import type { Span } from '@/core/quantity/span';
import { buttonClass } from '@/ui/primitives/buttons';
import type { Intake, IntakeAnswer, IntakeQuestion as Question } from '@/core/log/intake';

interface Props {
  intake: Intake;
  zone: string;
  onAnswer: (answer: IntakeAnswer | 'leave') => void;
}

interface Asked {
  text: string[];
  /** What follows from the answers. */
  about: string;
  answers: [IntakeAnswer | 'leave', string][];
}

export function IntakeQuestion({ intake: { fileName, question }, zone, onAnswer }: Props) {
  if (!question) return null;
  const { text, about, answers } = asked(question, zone);
  return (
    <div className="border-accent mt-3 border-l-3 pl-2 text-sm" role="alert">
      {text.map((one) => (
        <Fragment key={one}>
          <p>
            <bdi>{fileName}</bdi> {one}
          </p>
        </Fragment>
      ))}
      <p className="text-ink-soft mt-1">{about}</p>
      <p className="mt-1 flex flex-wrap gap-2">
        {answers.map(([answer, label]) => (
          <button key={answer} type="button" className={buttonClass} onClick={() => onAnswer(answer)}>
            {label}
          </button>
        ))}
      </p>
    </div>
  );
}

function asked(question: Question, zone: string): Asked {
  const text = (ms: number, format: string) => DateTime.fromMillis(ms, { zone }).toFormat(format);
  const minute = (ms: number) => text(ms, 'd LLL yyyy HH:mm');
  const day = (ms: number) => text(ms, 'd LLL yyyy');
  const days = ({ from, to }: Span) => (day(from) === day(to) ? day(from) : `${day(from)} to ${day(to)}`);
  switch (question.kind) {
    case 'overlap':
      return {
        text: question.with.map(
          (one) =>
            `overlaps ${one.fileName} of the same device, from ${minute(one.from)} to ${minute(one.to)}.`,
        ),
        about:
          'If they are merged, every moment of both is kept, and where both have one the new log counts. If it is replaced, the earlier log is taken away. Both can be undone.',
        answers: [
          ['merge', 'Merge them'],
          ['replace', 'Replace the earlier one'],
          ['leave', 'Leave the new one out'],
        ],
      };
    case 'stray-rows':
      return {
        text: [
          `has ${question.rows} of its ${question.of} rows far from the others: they are of ${days(question.stray)}, the rest is of ${days(question.rest)}.`,
        ],
        about:
          'The clock may have lost its battery and begun anew; nobody can tell when those rows were written. If they are left out, they are listed with their lines.',
        answers: [
          ['leave-out', 'Leave these rows out'],
          ['keep', 'Keep them with their times'],
          ['leave', 'Do not take the log in'],
        ],
      };
    case 'damaged':
      return {
        text: [`is damaged: its packing is not whole ${question.where}.`],
        about:
          'Copy it again from the device if you can. What came before the damage can be kept; readings near it may be wrong.',
        answers: [
          ['keep-whole-rows', 'Keep what was whole'],
          ['leave', 'Do not take it in'],
        ],
      };
  }
}
