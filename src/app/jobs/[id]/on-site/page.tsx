import { notFound } from 'next/navigation';
import { describeJob } from '@/server/openJob';
import { store } from '@/server/store';
import { listRecords } from '@/store/records';
import { OnSiteWorkspace } from '@/ui/onsite/OnSiteWorkspace';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const described = await describeJob(store(), id);
  if (!described) notFound();
  const { job, systemId, system, recordings, digest, photos } = described;
  const { visit } = await listRecords(store(), systemId);
  return (
    <OnSiteWorkspace
      {...{ id, job, systemId, system, digest, photos }}
      recordings={recordings.length}
      kept={visit.filter((one) => one.job === id)}
    />
  );
}
