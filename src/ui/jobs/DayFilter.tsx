'use client';
/** A day that a list is narrowed by, sent with its form. */

import { useState } from 'react';
import { DateInput } from '@/ui/primitives/DateInput';
import { filterClass } from './SearchBar';

export function DayFilter({ name, asked = '' }: { name: string; asked?: string | undefined }) {
  const [day, setDay] = useState(asked);
  return <DateInput name={name} className={filterClass} value={day} onChange={setDay} />;
}
