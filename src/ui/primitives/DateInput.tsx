'use client';
/** A day, written as the technician writes days (the browser's language says how) or chosen from the browser's calendar. */

import { CalendarDays } from 'lucide-react';
import { type InputHTMLAttributes, type Ref, useId, useRef, useState, useSyncExternalStore } from 'react';
import { dayOfText, patternOf, textOfDay } from './dayText';

type Passed = Pick<
  InputHTMLAttributes<HTMLInputElement>,
  'id' | 'name' | 'required' | 'min' | 'max' | 'onBlur' | 'aria-describedby' | 'aria-invalid'
>;

interface Props extends Passed {
  /** yyyy-mm-dd, or empty. */
  value: string;
  /** On the frame about the field and its button. */
  className: string;
  ref?: Ref<HTMLInputElement>;
  /** Empty for what is no day yet; what was written stays in the field. */
  onChange(day: string): void;
}

const never = () => () => {};
/** The server does not know how a technician writes days; the page does as soon as it runs. */
export const useLocale = (): string =>
  useSyncExternalStore(
    never,
    () => navigator.language,
    () => 'en-GB',
  );

export function DateInput({ value, className, ref, name, min, max, onChange, onBlur, ...passed }: Props) {
  const locale = useLocale();
  const calendar = useRef<HTMLInputElement>(null);
  const [written, setWritten] = useState('');
  const [left, setLeft] = useState(false);
  const problemId = useId();
  // What was written stands while it means the value; else the value has come from elsewhere.
  const shown =
    (dayOfText(written, locale) ?? '') === value && written !== '' ? written : textOfDay(value, locale);
  const wrong = left && shown !== '' && value === '';
  const { hint } = patternOf(locale);
  return (
    <span className="block">
      <span className={`${className} inline-flex items-center gap-1`}>
        <input
          {...passed}
          ref={ref}
          type="text"
          inputMode="numeric"
          autoComplete="off"
          placeholder={hint}
          className="w-full min-w-24 bg-transparent outline-offset-4"
          value={shown}
          aria-invalid={wrong || passed['aria-invalid']}
          aria-describedby={
            [passed['aria-describedby'], wrong ? problemId : undefined].filter(Boolean).join(' ') || undefined
          }
          onChange={({ target }) => {
            setWritten(target.value);
            onChange(dayOfText(target.value, locale) ?? '');
          }}
          onFocus={() => setLeft(false)}
          onBlur={(event) => {
            setLeft(true);
            onBlur?.(event);
          }}
        />
        <button
          type="button"
          className="text-ink-soft shrink-0 p-1"
          aria-label="Choose from a calendar"
          onClick={() => calendar.current?.showPicker()}
        >
          <CalendarDays className="size-4" aria-hidden />
        </button>
        <input
          ref={calendar}
          type="date"
          tabIndex={-1}
          aria-hidden
          className="pointer-events-none absolute h-0 w-0 opacity-0"
          min={min}
          max={max}
          value={value}
          onChange={({ target }) => {
            setWritten('');
            onChange(target.value);
          }}
        />
        {name !== undefined && <input type="hidden" name={name} value={value} />}
      </span>
      {wrong && (
        <span id={problemId} role="alert" className="text-hazard block text-sm font-normal">
          That is no day: write it as {hint}.
        </span>
      )}
    </span>
  );
}
