import { notFound } from 'next/navigation';
import { store } from '@/server/store';
import { findSystem, latestChecks } from '@/store/jobs';
import { listRecords } from '@/store/records';
import { HydrometerPage } from '@/ui/hydrometer/HydrometerPage';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const found = await findSystem(store(), id);
  if (!found) notFound();
  const [records, checks] = await Promise.all([listRecords(store(), id), latestChecks(store(), id)]);
  return (
    <HydrometerPage systemId={id} system={found.system} checks={checks} kept={records['hydrometer-round']} />
  );
}
