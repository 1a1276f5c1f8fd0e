import { notFound } from 'next/navigation';
import { openJob } from '@/server/openJob';
import { store } from '@/server/store';
import { isOpenStep } from '@/ui/workspace/steps';
import { Workspace } from '@/ui/workspace/Workspace';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string; step: string }> }) {
  const { id, step } = await params;
  if (!isOpenStep(step)) notFound();
  const open = await openJob(store(), id);
  if (!open) notFound();
  return <Workspace {...open} step={step} />;
}
