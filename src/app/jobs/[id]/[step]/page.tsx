import { notFound } from 'next/navigation';
import { describeJob, openJob } from '@/server/openJob';
import { store } from '@/server/store';
import { DescribeWorkspace } from '@/ui/describe/DescribeWorkspace';
import { isDescribeStep, isLogStep } from '@/ui/workspace/steps';
import { Workspace } from '@/ui/workspace/Workspace';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string; step: string }> }) {
  const { id, step } = await params;
  if (isDescribeStep(step)) {
    const described = await describeJob(store(), id);
    if (!described) notFound();
    return <DescribeWorkspace key={step} {...described} step={step} />;
  }
  if (!isLogStep(step)) notFound();
  const open = await openJob(store(), id);
  if (!open) notFound();
  return (
    <Workspace
      id={id}
      job={open.job}
      jobVersion={open.jobVersion}
      systemId={open.systemId}
      system={open.system}
      systemVersion={open.systemVersion}
      recordings={open.recordings}
      intakes={open.intakes}
      diagnosis={open.diagnosis}
      notWeighed={open.notWeighed}
      step={step}
    />
  );
}
