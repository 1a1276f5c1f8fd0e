'use client';
/** The test that would settle most for its minutes, those after it, what was tested already, and what cannot be tested here. */

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { FIELD_TESTS } from '@/core/causes/tests';
import type { Diagnosis, FieldTestOut } from '@/core/diagnosis/result';
import { counted } from '@/core/quantity/text';
import type { Job } from '@/core/system/schema';
import { buttonClass } from '@/ui/primitives/buttons';
import { useToast } from '@/ui/primitives/Toasts';
import { changeJob } from './changeJob';
import { TestResult } from './TestResult';

interface Props {
  jobId: string;
  job: Job;
  jobVersion: number;
  diagnosis: Diagnosis;
}

const canBeMade = (job: Job, test: string): Job => ({
  ...job,
  testsLeftOut: (job.testsLeftOut ?? []).filter((one) => one !== test),
});
const leftOut = (job: Job, test: string): Job => ({
  ...canBeMade(job, test),
  testsLeftOut: [...(job.testsLeftOut ?? []).filter((one) => one !== test), test],
});

const titleOf = (test: string): string => FIELD_TESTS[test as keyof typeof FIELD_TESTS]?.title ?? test;

export function Tests({ jobId, job, jobVersion, diagnosis }: Props) {
  const router = useRouter();
  const tell = useToast();
  const [problem, setProblem] = useState<string | null>(null);
  const { nextTest, furtherTests, testsMade } = diagnosis;
  const struck = job.testsLeftOut ?? [];
  if (!nextTest && testsMade.length === 0 && struck.length === 0) return null;

  async function change(to: (job: Job) => Job): Promise<string | null> {
    const wrong = await changeJob(jobId, { version: jobVersion, job }, to);
    if (wrong === null) router.refresh();
    return wrong;
  }
  /** With a word and a way back. */
  async function changeAndTell(to: (job: Job) => Job, word: string, back: (job: Job) => Job): Promise<void> {
    const wrong = await change(to);
    setProblem(wrong);
    if (wrong === null) tell(word, () => void change(back));
  }
  const strike = ({ test, title }: FieldTestOut) =>
    changeAndTell(
      (now) => leftOut(now, test),
      `“${title}” is left out.`,
      (now) => canBeMade(now, test),
    );
  const takeBack = (at: number) => {
    const result = job.tests?.[at];
    if (!result) return;
    void changeAndTell(
      (now) => ({ ...now, tests: (now.tests ?? []).filter((_, k) => k !== at) }),
      `The result of “${titleOf(result.test)}” is taken back.`,
      (now) => ({
        ...now,
        tests: [...(now.tests ?? []).slice(0, at), result, ...(now.tests ?? []).slice(at)],
      }),
    );
  };
  const actions = (test: FieldTestOut) => (
    <div className="mt-1 flex flex-wrap gap-2">
      <TestResult
        test={test}
        onSave={(result) => change((now) => ({ ...now, tests: [...(now.tests ?? []), result] }))}
      />
      <button type="button" className={buttonClass} onClick={() => void strike(test)}>
        Cannot be made here
      </button>
    </div>
  );

  return (
    <section aria-label="Tests" className="border-rule-strong mb-3 border-b pb-3">
      {nextTest && (
        <>
          <h3 className="font-semibold">
            Next test: {nextTest.title}{' '}
            <span className="text-ink-soft font-mono font-normal whitespace-nowrap">
              {nextTest.minutes} min
            </span>
          </h3>
          <p className="text-ink-soft text-sm">{nextTest.why}</p>
          <details className="text-sm">
            <summary className="text-accent cursor-pointer">How</summary>
            {nextTest.how}
          </details>
          {nextTest.caution && (
            <p className="border-hazard mt-1 border-l-3 pl-2 text-sm">{nextTest.caution}</p>
          )}
          {actions(nextTest)}
        </>
      )}
      {problem && (
        <p role="alert" className="text-hazard mt-2 text-sm">
          {problem}
        </p>
      )}
      {furtherTests.length > 0 && (
        <details className="mt-2 text-sm">
          <summary className="text-accent cursor-pointer py-1">
            {counted(furtherTests.length, 'other test')}
          </summary>
          <ul>
            {furtherTests.map((test) => (
              <li key={test.test} className="border-rule border-t py-2">
                <p className="font-semibold">
                  {test.title} <span className="text-ink-soft font-mono font-normal">{test.minutes} min</span>
                </p>
                <p>{test.how}</p>
                <p className="text-ink-soft">{test.why}</p>
                {actions(test)}
              </li>
            ))}
          </ul>
        </details>
      )}
      {testsMade.length > 0 && (
        <>
          <h3 className="mt-2 text-sm font-semibold">Tested</h3>
          <ul className="text-sm">
            {testsMade.map(({ test, title, on, found, note }, k) => (
              <li key={`${test}${on}${k}`} className="border-rule flex items-start gap-2 border-t py-1">
                <span className="flex-1">
                  {on}, {title.toLowerCase()}: {found.join('; ')}.{note && ` ${note}`}
                </span>
                <button
                  type="button"
                  className="text-accent underline"
                  aria-label={`Take back the result of ${title}`}
                  onClick={() => takeBack(k)}
                >
                  Take back
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {struck.length > 0 && (
        <ul className="text-ink-soft mt-2 text-sm">
          {struck.map((test) => (
            <li key={test} className="flex items-start gap-2">
              <span className="flex-1">Cannot be made here: {titleOf(test).toLowerCase()}.</span>
              <button
                type="button"
                className="text-accent underline"
                aria-label={`${titleOf(test)} can be made after all`}
                onClick={() =>
                  void changeAndTell(
                    (now) => canBeMade(now, test),
                    `“${titleOf(test)}” can be made.`,
                    (now) => leftOut(now, test),
                  )
                }
              >
                It can
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
