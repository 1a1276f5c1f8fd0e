'use client';
/** A word about what was just done, with a way back: removals are undone from here. */

import { Toast } from 'radix-ui';
import { createContext, type ReactNode, useCallback, useContext, useState } from 'react';

interface Notice {
  id: number;
  text: string;
  undo?: (() => void) | undefined;
}

const Context = createContext<(text: string, undo?: () => void) => void>(() => undefined);

/** Shows a notice; `undo` gives it a button. */
export const useToast = () => useContext(Context);

let count = 0;

export function Toasts({ children }: { children: ReactNode }) {
  const [notices, setNotices] = useState<Notice[]>([]);
  const tell = useCallback((text: string, undo?: () => void) => {
    setNotices((now) => [...now.slice(-2), { id: ++count, text, undo }]);
  }, []);
  const drop = (id: number) => setNotices((now) => now.filter((one) => one.id !== id));
  return (
    <Context.Provider value={tell}>
      <Toast.Provider label="Notices">
        {children}
        {notices.map(({ id, text, undo }) => (
          <Toast.Root
            key={id}
            // Long enough to see what is gone, and to think better of it.
            duration={undo ? 30_000 : 7_000}
            onOpenChange={(open) => !open && drop(id)}
            className="border-rule-strong bg-sheet flex items-center gap-3 border-l-3 border-l-(--accent) px-3 py-2 shadow-md"
          >
            <Toast.Description className="flex-1">{text}</Toast.Description>
            {undo && (
              <Toast.Action altText="Undo" asChild>
                <button
                  type="button"
                  className="text-accent px-2 py-1 font-semibold underline"
                  onClick={undo}
                >
                  Undo
                </button>
              </Toast.Action>
            )}
            <Toast.Close aria-label="Close" className="text-ink-soft px-1">
              ×
            </Toast.Close>
          </Toast.Root>
        ))}
        <Toast.Viewport className="no-print fixed right-3 bottom-3 z-50 flex w-[min(26rem,calc(100vw-1.5rem))] flex-col gap-2 outline-none" />
      </Toast.Provider>
    </Context.Provider>
  );
}
