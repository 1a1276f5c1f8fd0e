'use client';
/** A button that opens a dialog with a form; what is typed in it is gone when it closes. */

import { Dialog } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { buttonClass, mainButtonClass } from './buttons';
import { DateInput } from './DateInput';

interface Props {
  /** On the button. */
  trigger: string;
  title: string;
  disabled?: boolean;
  children(close: () => void): ReactNode;
}

export function AskDialog({ trigger, title, disabled = false, children }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className={buttonClass} disabled={disabled}>
        {trigger}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-rule-strong bg-sheet fixed top-1/2 left-1/2 max-h-[90dvh] w-[min(32rem,calc(100vw-2rem))] -translate-1/2 overflow-y-auto border p-4"
        >
          <Dialog.Title className="font-semibold">{title}</Dialog.Title>
          {open && children(() => setOpen(false))}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What went wrong, and the two ways out of a dialog's form. */
export function DialogEnd({
  problem,
  disabled,
  children,
}: {
  problem: string | null;
  disabled: boolean;
  /** On the button that does it. */
  children: string;
}) {
  return (
    <>
      {problem && (
        <p role="alert" className="text-hazard mt-2 text-sm">
          {problem}
        </p>
      )}
      <div className="mt-3 flex justify-end gap-2">
        <Dialog.Close className={buttonClass}>Leave it</Dialog.Close>
        <button type="submit" className={mainButtonClass} disabled={disabled}>
          {children}
        </button>
      </div>
    </>
  );
}

const fieldClass = 'border-rule-strong bg-paper mt-0.5 block border px-1.5 py-1 font-normal';

export function DayField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange(day: string): void;
}) {
  return (
    <label className="mt-2 block text-sm font-semibold">
      {label}
      <DateInput className={fieldClass} value={value} required onChange={onChange} />
    </label>
  );
}

export function LinesField({
  label,
  rows,
  value,
  onChange,
}: {
  label: string;
  rows: number;
  value: string;
  onChange(text: string): void;
}) {
  return (
    <label className="mt-2 block text-sm font-semibold">
      {label}
      <textarea
        rows={rows}
        className={`${fieldClass} w-full`}
        value={value}
        onChange={({ target }) => onChange(target.value)}
      />
    </label>
  );
}
