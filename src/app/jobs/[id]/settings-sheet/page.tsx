import { notFound } from 'next/navigation';
import { describeJob } from '@/server/openJob';
import { store } from '@/server/store';
import { SheetPage } from '@/ui/report/SheetPage';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const described = await describeJob(store(), (await params).id);
  if (!described) notFound();
  const { id, job, system, changes } = described;
  return <SheetPage jobId={id} job={job} system={system} changes={changes} />;
}
