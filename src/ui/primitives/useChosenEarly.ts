'use client';
/** What is chosen in a select before the page's scripts are there. */

import { useEffect, useRef } from 'react';

/**
 * The server draws the page, so a select can be used before it is heard. React leaves on the screen what was chosen until then,
 * and calls nobody: the select would show one thing and the page another. This calls once, as soon as the select is heard.
 * A value that is none of the options is left alone: the browser shows the first of them then, and nobody chose it.
 * @returns the select's `ref`
 */
export function useChosenEarly(value: string, onValue: (value: string) => void) {
  const ref = useRef<HTMLSelectElement>(null);
  const asDrawn = useRef({ value, onValue });
  useEffect(() => {
    const select = ref.current!;
    const { value, onValue } = asDrawn.current;
    if (select.value !== value && [...select.options].some((one) => one.value === value))
      onValue(select.value);
  }, []);
  return ref;
}
