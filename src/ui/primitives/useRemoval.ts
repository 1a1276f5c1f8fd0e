'use client';
/** Something is removed on the server, with a way back: both say what happened, also where it did not. */

import { useToast } from './Toasts';
import { ANYTHING, ask } from './ask';

interface Removal {
  /** Answers DELETE, and POST to put it back. */
  address: string;
  /** With its capital letter, "“Lamp dies”", "Photo". */
  what: string;
  onGone(): void;
  onBack(): void;
}

/** The way back is asked only where there is one. @returns whether it is gone */
export function useRemoval(): (removal: Removal) => Promise<boolean> {
  const tell = useToast();
  return async ({ address, what, onGone, onBack }) => {
    const gone = await ask(address, ANYTHING, { method: 'DELETE' });
    if (!gone.ok) {
      tell(`${what} was not removed. ${gone.problem}`);
      return false;
    }
    onGone();
    tell(`${what} was removed.`, () => {
      void ask(address, ANYTHING, { method: 'POST' }).then((back) => {
        if (back.ok) onBack();
        else tell(`${what} was not put back. ${back.problem}`);
      });
    });
    return true;
  };
}
