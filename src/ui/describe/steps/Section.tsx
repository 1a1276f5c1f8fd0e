/** A part of a form, with its name and, where there is one, a button beside it. */

import type { ReactNode } from 'react';

interface Props {
  title: string;
  about?: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
}

export function Section({ title, about, aside, children }: Props) {
  return (
    <section aria-label={title} className="border-rule-strong bg-sheet mb-3 border p-3">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <h2 className="font-semibold">{title}</h2>
        {aside}
      </div>
      {about && <p className="text-ink-soft mb-2 text-sm">{about}</p>}
      {children}
    </section>
  );
}

/** Fields side by side, as many as fit. */
export const Fields = ({ children }: { children: ReactNode }) => (
  <div className="grid [grid-template-columns:repeat(auto-fill,minmax(min(100%,15rem),1fr))] gap-x-4 gap-y-3">
    {children}
  </div>
);
