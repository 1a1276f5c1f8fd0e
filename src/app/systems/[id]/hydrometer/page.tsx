import { notFound } from 'next/navigation';
import { store } from '@/server/store';
import { findSystem } from '@/store/jobs';
import { listRounds } from '@/store/rounds';
import { HydrometerPage } from '@/ui/hydrometer/HydrometerPage';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const found = await findSystem(store(), id);
  if (!found) notFound();
  return <HydrometerPage systemId={id} system={found.system} kept={await listRounds(store(), id)} />;
}
