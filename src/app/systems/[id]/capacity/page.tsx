import { notFound } from 'next/navigation';
import { dischargesOf } from '@/server/dischargesOf';
import { store } from '@/server/store';
import { findSystem } from '@/store/jobs';
import { listRecords } from '@/store/records';
import { CapacityPage } from '@/ui/capacity/CapacityPage';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const found = await findSystem(store(), id);
  if (!found) notFound();
  const [records, discharges] = await Promise.all([listRecords(store(), id), dischargesOf(store(), id)]);
  return (
    <CapacityPage
      systemId={id}
      system={found.system}
      kept={records['capacity-test']}
      discharges={discharges}
    />
  );
}
