'use client';
/** What is chosen in a select before the page's scripts are there. */

import { useEffect, useRef } from 'react';

/**
 * What a field shows, where a user may have changed it from the value that it was drawn with. A value that is none of a
 * select's options stays: the browser shows the first of them then, and nobody chose it.
 */
export const onScreen = (field: HTMLInputElement | HTMLSelectElement, value: string) =>
  field instanceof HTMLSelectElement && ![...field.options].some((one) => one.value === value)
    ? value
    : field.value;

/**
 * The server draws the page, so a select can be used before it is heard. React leaves on the screen what was chosen until then,
 * and calls nobody: the select would show one thing and the page another. This calls once, as soon as the select is heard.
 * @returns the select's `ref`
 */
export function useChosenEarly(value: string, onValue: (value: string) => void) {
  const ref = useRef<HTMLSelectElement>(null);
  const asDrawn = useRef({ value, onValue });
  useEffect(() => {
    const { value, onValue } = asDrawn.current;
    const shown = onScreen(ref.current!, value);
    if (shown !== value) onValue(shown);
  }, []);
  return ref;
}
