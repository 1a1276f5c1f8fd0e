'use client';
/** A day that a list is narrowed by, sent with its form. */

import { useState } from 'react';
import { DateInput } from '@/ui/primitives/DateInput';
import { inputClass } from '@/ui/describe/fields/FieldFrame';

export function DayFilter({ name, asked = '' }: { name: string; asked?: string | undefined }) {
  const [day, setDay] = useState(asked);
  return <DateInput name={name} className={`${inputClass} h-8 w-36 text-sm`} value={day} onChange={setDay} />;
}
