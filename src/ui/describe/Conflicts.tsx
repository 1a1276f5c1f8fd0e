'use client';
/** Fields that were changed here and elsewhere: both figures, and the choice. */

import { FIELDS } from '@/core/system/fields';
import type { DocConflict } from './draft';
import type { DescriptionForm } from './useDescription';

const shown = (value: unknown): string =>
  value === undefined || value === null
    ? 'not known'
    : typeof value === 'object'
      ? 'name' in value && typeof value.name === 'string'
        ? value.name
        : JSON.stringify(value)
      : String(value);

function label({ doc, path }: DocConflict): string {
  const field = doc === 'system' ? FIELDS[path.replace(/\.\d+(?=\.|$)/g, '.*')] : undefined;
  return (
    field?.label ??
    path
      .split('.')
      .at(-1)!
      .replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)
  );
}

export function Conflicts({ description: { conflicts, settle } }: { description: DescriptionForm }) {
  if (conflicts.length === 0) return null;
  return (
    <section
      role="alert"
      aria-label="Changed elsewhere"
      className="border-rule-strong bg-sheet mb-3 border border-l-3 border-l-(--accent) p-2"
    >
      <p className="font-semibold">
        Somebody else changed the same field while you typed. Nothing is lost: choose.
      </p>
      <ul>
        {conflicts.map((conflict, i) => (
          <li key={i} className="mt-1 flex flex-wrap items-center gap-2 text-sm">
            <span className="mr-1">{label(conflict)}:</span>
            <button
              type="button"
              className="border-rule-strong border px-2 py-0.5"
              onClick={() => settle(conflict, false)}
            >
              Leave {shown(conflict.theirs)}
            </button>
            <button
              type="button"
              className="border-rule-strong border px-2 py-0.5"
              onClick={() => settle(conflict, true)}
            >
              Use mine: {shown(conflict.mine)}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
