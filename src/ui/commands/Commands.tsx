'use client';
/** The command box: Ctrl-K reaches every step of the job, and whatever the view in the middle offers. */

import { Dialog } from 'radix-ui';
import {
  createContext,
  type KeyboardEvent,
  type ReactNode,
  useContext,
  useEffect,
  useId,
  useMemo,
  useState,
} from 'react';

export interface Command {
  /** What is typed for, "Caliper". */
  name: string;
  /** Under which heading, "Strips". */
  group: string;
  /** The key that does it too. */
  keys?: string;
  run(): void;
}

type Offer = (commands: readonly Command[]) => () => void;
const Offering = createContext<Offer>(() => () => undefined);

/** Offers commands while the calling view is open. @param commands kept the same from drawing to drawing */
export function useCommands(commands: readonly Command[]): void {
  const offer = useContext(Offering);
  useEffect(() => offer(commands), [offer, commands]);
}

/** Words in any order, each the beginning of some word of the name or its group. */
export function fitting(commands: readonly Command[], typed: string): Command[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const has = (text: string, word: string) =>
    text
      .toLowerCase()
      .split(/[^\p{L}\p{N}]+/u)
      .some((one) => one.startsWith(word));
  return commands.filter(({ name, group }) => words.every((word) => has(`${name} ${group}`, word)));
}

export function CommandBox({ own, children }: { own: readonly Command[]; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const [offered, setOffered] = useState<readonly (readonly Command[])[]>([]);
  const offer = useMemo<Offer>(
    () => (commands) => {
      setOffered((was) => [...was, commands]);
      return () => setOffered((was) => was.filter((one) => one !== commands));
    },
    [],
  );
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey) || event.altKey) return;
      event.preventDefault();
      setOpen((was) => !was);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  return (
    <Offering.Provider value={offer}>
      {children}
      <Dialog.Root open={open} onOpenChange={setOpen}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 bg-black/40" />
          <Dialog.Content
            aria-describedby={undefined}
            className="border-rule-strong bg-sheet fixed top-[15dvh] left-1/2 w-[min(32rem,calc(100vw-2rem))] -translate-x-1/2 border p-3"
          >
            <Dialog.Title className="sr-only">Commands</Dialog.Title>
            {open && <Choose commands={[...offered.flat(), ...own]} onDone={() => setOpen(false)} />}
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </Offering.Provider>
  );
}

const SHOWN = 40;

function Choose({ commands, onDone }: { commands: readonly Command[]; onDone(): void }) {
  const id = useId();
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const found = fitting(commands, typed).slice(0, SHOWN);
  const chosen = Math.min(at, found.length - 1);
  const run = (command: Command | undefined) => {
    if (!command) return;
    onDone();
    // The dialog gives the focus back first.
    setTimeout(() => command.run());
  };
  function onKeyDown(event: KeyboardEvent) {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by !== 0) {
      event.preventDefault();
      setAt((chosen + by + found.length) % Math.max(1, found.length));
    } else if (event.key === 'Enter') {
      event.preventDefault();
      run(found[chosen]);
    }
  }
  return (
    <>
      <input
        autoFocus
        role="combobox"
        aria-label="What to do"
        aria-expanded
        aria-controls={`${id}-list`}
        aria-activedescendant={found[chosen] ? `${id}-${chosen}` : undefined}
        className="border-rule-strong bg-paper w-full border px-2 py-1.5"
        placeholder="A step, a tool, a channel"
        value={typed}
        onChange={({ target }) => {
          setTyped(target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
      />
      <ul
        id={`${id}-list`}
        role="listbox"
        aria-label="Commands"
        className="mt-2 max-h-[50dvh] overflow-y-auto"
      >
        {found.map((one, nth) => (
          <li
            key={`${one.group}${one.name}`}
            id={`${id}-${nth}`}
            role="option"
            aria-selected={nth === chosen}
            className={`flex cursor-pointer justify-between gap-3 px-2 py-1 text-sm ${nth === chosen ? 'bg-accent-soft' : ''}`}
            onPointerEnter={() => setAt(nth)}
            onClick={() => run(one)}
          >
            <span>
              {one.name} <span className="text-ink-soft text-xs">{one.group}</span>
            </span>
            {one.keys && <span className="text-ink-soft font-mono text-xs">{one.keys}</span>}
          </li>
        ))}
      </ul>
      {found.length === 0 && <p className="text-ink-soft px-2 py-1 text-sm">Nothing is called that.</p>}
    </>
  );
}
