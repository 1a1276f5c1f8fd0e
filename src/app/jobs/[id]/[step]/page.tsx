import { digestOf } from '@/core/diagnosis/summary';
import { notFound } from 'next/navigation';
import { describeJob, openJob } from '@/server/openJob';
import { store } from '@/server/store';
import { isDescribeStep, isLogStep } from '@/ui/workspace/steps';
import { LazyDescribe, LazyWorkspace } from '@/ui/workspace/lazy';
import { stepStates } from '@/ui/workspace/states';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string; step: string }> }) {
  const { id, step } = await params;
  if (isDescribeStep(step)) {
    const described = await describeJob(store(), id);
    if (!described) notFound();
    return <LazyDescribe key={step} {...described} step={step} />;
  }
  if (!isLogStep(step)) notFound();
  const open = await openJob(store(), id);
  if (!open) notFound();
  return (
    <LazyWorkspace
      id={id}
      job={open.job}
      jobVersion={open.jobVersion}
      systemId={open.systemId}
      system={open.system}
      systemVersion={open.systemVersion}
      changes={open.changes.map(({ on, label }) => ({ on, label }))}
      recordings={open.recordings}
      intakes={open.intakes}
      diagnosis={open.diagnosis}
      notWeighed={open.notWeighed}
      step={step}
      states={stepStates(open.job, open.system, open.recordings.length, digestOf(open.diagnosis))}
    />
  );
}
