'use client';
/** The spine: the steps of the job in working order, each with its state. On a phone it folds into a menu. */

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type StepId, STEPS } from './steps';

interface Props {
  jobId: string;
  current: StepId;
  /** A few words on a step's state. */
  states: Partial<Record<StepId, string>>;
}

export function Spine({ jobId, current, states }: Props) {
  return (
    <nav
      aria-label="Steps of the job"
      className="border-rule-strong bg-sheet hidden w-42 shrink-0 border-r py-2 md:block"
    >
      <ol>
        {STEPS.map((step) => (
          <li key={step.id}>
            {step.open ? (
              <Link
                href={`/jobs/${jobId}/${step.id}`}
                aria-current={step.id === current ? 'step' : undefined}
                className={`hover:bg-accent-soft block border-l-3 px-3 py-1.5 ${step.id === current ? 'border-accent bg-accent-soft font-semibold' : 'border-transparent'}`}
              >
                {step.name}
                <span className="text-ink-soft block text-xs font-normal">{states[step.id] ?? ''}</span>
              </Link>
            ) : (
              <span
                className="text-ink-soft block border-l-3 border-transparent px-3 py-1.5"
                title="This version has no view for it"
              >
                {step.name} <span className="text-xs">· on paper</span>
              </span>
            )}
          </li>
        ))}
      </ol>
    </nav>
  );
}

export function StepMenu({ jobId, current }: Pick<Props, 'jobId' | 'current'>) {
  const router = useRouter();
  return (
    <label className="flex items-center gap-2 text-sm md:hidden">
      Step
      <select
        className="border-rule-strong bg-sheet border px-2 py-1"
        value={current}
        onChange={(event) => router.push(`/jobs/${jobId}/${event.target.value}`)}
      >
        {STEPS.filter((step) => step.open).map((step) => (
          <option key={step.id} value={step.id}>
            {step.name}
          </option>
        ))}
      </select>
    </label>
  );
}
