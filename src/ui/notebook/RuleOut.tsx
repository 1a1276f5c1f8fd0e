'use client';
/** Ruling a cause out by hand, with the reason; it stays on record, and can be taken back. */

import { useRouter } from 'next/navigation';
import { dayText } from '@/core/quantity/text';
import { useState } from 'react';
import type { Finding } from '@/core/diagnosis/result';
import type { Job, RuledOut } from '@/core/system/schema';
import { AskDialog, DialogEnd, LinesField } from '@/ui/primitives/AskDialog';
import { useToast } from '@/ui/primitives/Toasts';
import { today } from '@/ui/primitives/today';
import { changeJob } from './changeJob';

interface Props {
  jobId: string;
  job: Job;
  jobVersion: number;
  finding: Finding;
}

export function RuleOut({ jobId, job, jobVersion, finding }: Props) {
  const router = useRouter();
  const tell = useToast();
  async function change(to: (was: RuledOut[]) => RuledOut[]): Promise<string | null> {
    const problem = await changeJob(jobId, { version: jobVersion, job }, (was) => ({
      ...was,
      ruledOut: to(was.ruledOut ?? []),
    }));
    if (!problem) router.refresh();
    return problem;
  }
  const without = (was: RuledOut[]) => was.filter((one) => one.cause !== finding.cause);
  if (finding.ruledOut)
    return (
      <div className="border-rule-strong my-1 border-l-3 pl-2 text-sm">
        <p>
          Ruled out by hand on {dayText(finding.ruledOut.on)}: {finding.ruledOut.why}
        </p>
        <button
          type="button"
          className="text-accent underline"
          onClick={() => void change(without).then((problem) => problem && tell(problem))}
        >
          Weigh it again<span className="sr-only">: {finding.title}</span>
        </button>
      </div>
    );
  return (
    <AskDialog trigger="Rule it out" title={`Rule out: ${finding.title.toLowerCase()}`}>
      {(close) => (
        <Reason
          onSave={(why) => change((was) => [...without(was), { cause: finding.cause, on: today(), why }])}
          onDone={close}
        />
      )}
    </AskDialog>
  );
}

function Reason({ onSave, onDone }: { onSave(why: string): Promise<string | null>; onDone(): void }) {
  const [why, setWhy] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  async function save(): Promise<void> {
    if (why.trim() === '') {
      setProblem('Say why: whoever comes next will want to know.');
      return;
    }
    setBusy(true);
    const wrong = await onSave(why.trim());
    setBusy(false);
    setProblem(wrong);
    if (wrong === null) onDone();
  }
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <p className="text-ink-soft text-sm">
        It goes to the end of the list and out of the next tests. Its evidence stays to be read.
      </p>
      <LinesField label="Why" rows={3} value={why} onChange={setWhy} />
      <DialogEnd problem={problem} disabled={busy}>
        Rule it out
      </DialogEnd>
    </form>
  );
}
