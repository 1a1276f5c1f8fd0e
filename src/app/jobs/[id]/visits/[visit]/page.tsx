import { notFound } from 'next/navigation';
import { store } from '@/server/store';
import { visitSheet } from '@/server/visitSheet';
import { VisitSheetPage } from '@/ui/report/VisitSheetPage';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string; visit: string }> }) {
  const { id, visit } = await params;
  const sheet = await visitSheet(store(), id, visit);
  if (!sheet) notFound();
  return <VisitSheetPage jobId={id} visitId={visit} sheet={sheet} />;
}
