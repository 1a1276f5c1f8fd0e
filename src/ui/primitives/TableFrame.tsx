/** A frame in which a table that is too wide runs sideways, by keyboard too. */

import type { ReactNode } from 'react';

export function TableFrame({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div
      className="border-rule-strong bg-sheet overflow-x-auto border"
      tabIndex={0}
      role="region"
      aria-label={label}
    >
      {children}
    </div>
  );
}
