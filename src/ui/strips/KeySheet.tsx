/** The sheet that lists the keys of the strips. */

import { Dialog } from 'radix-ui';

const KEYS = [
  ['← →', 'move'],
  ['Page up, Page down', 'move by a view'],
  ['+ −', 'zoom'],
  ['d', 'a day'],
  ['0', 'the whole log'],
  ['Home, End', 'start, end'],
  ['w', 'a week'],
  ['g, s', 'the charge, the stage'],
  ['< >', 'the view before, after'],
  ['n, p', 'next, previous event'],
  ['c', 'caliper'],
  ['Shift ← →', 'its second mark'],
  ['Alt ← →', 'its first mark'],
  ['f', 'find'],
  ['o', 'lay another span over it'],
  ['l', 'lanes'],
  ['m', 'pins'],
  ['Ctrl K', 'every step and tool'],
  ['?', 'this sheet'],
];

export function KeySheet({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-rule-strong bg-sheet fixed top-1/2 left-1/2 w-80 -translate-x-1/2 -translate-y-1/2 border p-4"
        >
          <Dialog.Title className="mb-2 font-semibold">Keys of the strips</Dialog.Title>
          <dl className="grid grid-cols-[9rem_1fr] gap-y-1 text-sm">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="font-mono">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="border-rule-strong mt-3 border px-3 py-1">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
