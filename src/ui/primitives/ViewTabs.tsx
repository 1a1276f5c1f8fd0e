'use client';
/** A step's views as tabs; which of them is open stands in the address. */

import { useRouter, useSearchParams } from 'next/navigation';
import { Tabs } from 'radix-ui';
import type { ReactNode } from 'react';

export interface View {
  id: string;
  name: string;
}

/** The view that the address asks for, else the first, and a way to another. @param path of the step */
export function useView(path: string, views: readonly View[]): [string, (to: string) => void] {
  const router = useRouter();
  const asked = useSearchParams().get('view');
  const view = views.find((one) => one.id === asked) ?? views[0]!;
  return [view.id, (to) => router.replace(`${path}?view=${to}`, { scroll: false })];
}

interface Props {
  label: string;
  views: readonly View[];
  view: string;
  onView: (to: string) => void;
  /** A `Tabs.Content` for each view. */
  children: ReactNode;
}

export function ViewTabs({ label, views, view, onView, children }: Props) {
  return (
    <Tabs.Root value={view} onValueChange={onView}>
      <Tabs.List aria-label={label} className="border-rule-strong mb-3 flex flex-wrap gap-1 border-b">
        {views.map((one) => (
          <Tabs.Trigger
            key={one.id}
            value={one.id}
            className="data-[state=active]:border-accent data-[state=active]:bg-sheet border-b-3 border-transparent px-3 py-1.5 data-[state=active]:font-semibold"
          >
            {one.name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {children}
    </Tabs.Root>
  );
}
