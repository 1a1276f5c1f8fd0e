import { notFound } from 'next/navigation';
import { describeJob } from '@/server/openJob';
import { store } from '@/server/store';
import { DescribeWorkspace } from '@/ui/describe/DescribeWorkspace';
import { isDescribeStep } from '@/ui/workspace/steps';

export const dynamic = 'force-dynamic';

/** The steps that describe the job. Those that read logs have pages of their own, and so scripts of their own. */
export default async function Page({ params }: { params: Promise<{ id: string; step: string }> }) {
  const { id, step } = await params;
  if (!isDescribeStep(step)) notFound();
  const described = await describeJob(store(), id);
  if (!described) notFound();
  return <DescribeWorkspace key={step} {...described} step={step} />;
}
