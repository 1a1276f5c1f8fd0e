'use client';
/** The frame of every step: spine on the left, the step in the middle, a notebook on the right; on a phone a menu and a sheet. */

import { Dialog } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { type ReactNode, useMemo } from 'react';
import { type Command, CommandBox } from '@/ui/commands/Commands';
import { Spine, StepMenu } from './Spine';
import { type StepId, STEPS } from './steps';

interface Props {
  jobId: string;
  step: StepId;
  states: Partial<Record<StepId, string>>;
  title: string;
  system: string;
  /** What stands beside the title, such as whether all is saved. */
  status?: ReactNode;
  /** Null where the step itself is the notebook. */
  notebook: ReactNode;
  notebookName?: string;
  children: ReactNode;
}

export function WorkspaceFrame({
  jobId,
  step,
  states,
  title,
  system,
  status,
  notebook,
  notebookName = 'Notebook',
  children,
}: Props) {
  const router = useRouter();
  const steps = useMemo<Command[]>(
    () => [
      ...STEPS.filter((one) => one.open).map(({ id, name }) => ({
        name,
        group: 'Step',
        run: () => router.push(`/jobs/${jobId}/${id}`),
      })),
      { name: 'Jobs', group: 'Page', run: () => router.push('/') },
      { name: 'Systems', group: 'Page', run: () => router.push('/systems') },
      { name: 'Plan of visits', group: 'Page', run: () => router.push('/plan') },
      { name: 'Calculators', group: 'Page', run: () => router.push('/calculators') },
    ],
    [router, jobId],
  );
  return (
    <CommandBox own={steps}>
      <div className="flex min-h-0 flex-1 flex-col md:h-[calc(100dvh-2.5rem)] md:flex-row">
        <Spine jobId={jobId} current={step} states={states} />
        <main className="relative flex min-w-0 flex-1 flex-col overflow-y-auto p-3">
          <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
            <div>
              <h1 className="text-lg leading-tight font-semibold">
                <bdi>{title}</bdi>
              </h1>
              <p className="text-ink-soft text-sm">
                <bdi>{system}</bdi>
              </p>
            </div>
            <div className="flex items-center gap-2">
              {status}
              <StepMenu jobId={jobId} current={step} />
              {notebook && <NotebookSheet name={notebookName}>{notebook}</NotebookSheet>}
            </div>
          </div>
          {children}
        </main>
        {notebook && (
          <aside
            aria-label={notebookName}
            className="border-rule-strong bg-sheet hidden w-84 shrink-0 overflow-y-auto border-l md:block"
          >
            {notebook}
          </aside>
        )}
      </div>
    </CommandBox>
  );
}

/** On a phone the notebook is a sheet. */
function NotebookSheet({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger className="border-rule-strong bg-sheet border px-2 py-1 text-sm md:hidden">
        {name}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-rule-strong bg-sheet fixed inset-x-0 bottom-0 max-h-[85dvh] overflow-y-auto border-t"
        >
          <div className="flex justify-between px-3 pt-2">
            <Dialog.Title className="font-semibold">{name}</Dialog.Title>
            <Dialog.Close className="text-accent px-2">Close</Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
