'use client';
/** Where practitioners disagree: the choice for this system, with each school's reason in view. */

import { useController } from 'react-hook-form';
import { isLead } from '@/core/system/chemistry';
import { QUESTION_IDS, QUESTIONS, type QuestionId, schoolsOf } from '@/core/system/schools';
import { useTyped } from '../fields/context';
import { Section } from './Section';

export function Schools() {
  const { system } = useTyped();
  const { chemistry } = system.bank;
  const fits = (id: QuestionId) => {
    const { chemistry: of } = QUESTIONS[id];
    return of === 'any' || !chemistry || (of === 'lead') === isLead(chemistry);
  };
  return (
    <Section
      title="Schools"
      about="All of it is common practice with no published source. What is chosen here is kept with the system; the settings sheet names it."
    >
      {QUESTION_IDS.filter(fits).map((id) => (
        <Question key={id} id={id} />
      ))}
    </Section>
  );
}

function Question({ id }: { id: QuestionId }) {
  const { system } = useTyped();
  const { field } = useController({ name: `system.schools.${id}` });
  const { title, about, options } = QUESTIONS[id];
  const chosen = field.value as string | undefined;
  const without: Partial<typeof system.schools> = { ...system.schools };
  delete without[id];
  const fitting = schoolsOf({ ...system, schools: without })[id];
  return (
    <fieldset className="border-rule border-t py-2 first-of-type:border-0">
      <legend className="float-left w-full font-semibold">{title}</legend>
      <p className="text-ink-soft clear-both text-sm">{about}</p>
      {options.map((one) => (
        <label key={one.id} className="mt-2 flex gap-2">
          <input
            type="radio"
            name={`school-${id}`}
            className="mt-0.5 size-4 shrink-0 accent-(--accent)"
            checked={(chosen ?? fitting) === one.id}
            onChange={() => field.onChange(one.id)}
          />
          <span>
            {one.name}
            {one.id === fitting && <span className="text-ink-soft text-xs"> · fits this system</span>}
            <span className="text-ink-soft block text-sm">{one.why}</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}
