/** What surrounds a field: its name above, where to find it below, and what is wrong with it. */

import type { ReactNode } from 'react';

export const inputClass =
  'border-rule-strong bg-paper h-7 border px-1.5 placeholder:italic placeholder:text-ink-soft aria-invalid:border-hazard aria-invalid:border-2';

interface Props {
  id: string;
  label: string;
  where?: string;
  problem?: string | undefined;
  warning?: string | null;
  children: ReactNode;
}

export function FieldFrame({ id, label, where, problem, warning, children }: Props) {
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="block text-sm font-semibold">
        {label}
      </label>
      <div className="flex min-h-6 items-center gap-1.5">{children}</div>
      {/* What is wrong, unusual, and where it is found: all of it describes the field. */}
      <div id={`${id}-where`}>
        {problem ? (
          <p role="alert" className="text-hazard text-xs">
            {problem}
          </p>
        ) : warning ? (
          <p role="status" className="text-ink border-l-3 border-(--accent) pl-1.5 text-xs">
            {warning}
          </p>
        ) : null}
        {where && <p className="text-ink-soft text-xs">{where}</p>}
      </div>
    </div>
  );
}
