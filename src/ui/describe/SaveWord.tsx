/** Whether what was typed is on the server. */

import type { SaveState } from './useDescription';

const WORDS: Record<SaveState, string> = {
  saved: 'Saved',
  waiting: 'Typing …',
  saving: 'Saving …',
  unreachable: 'Server not reached: kept in this browser, trying again',
  refused: 'The server did not take it: what you typed is kept in this browser. Reload the page',
  gone: 'This job was removed elsewhere: what you typed is kept in this browser',
};

export function SaveWord({ state }: { state: SaveState }) {
  const bad = state === 'unreachable' || state === 'gone' || state === 'refused';
  return (
    <p
      role="status"
      data-state={state}
      className={`text-sm ${bad ? 'text-hazard font-semibold' : 'text-ink-soft'}`}
    >
      {WORDS[state]}
    </p>
  );
}
