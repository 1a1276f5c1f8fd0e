import { notFound } from 'next/navigation';
import { extentsIn } from '@/server/extentsIn';
import { openJob } from '@/server/openJob';
import { store } from '@/server/store';
import { ReportPage } from '@/ui/report/ReportPage';
import { picturesOf } from '@/ui/report/pictured';
import { reportOf } from '@/ui/report/sections';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const open = await openJob(store(), id);
  if (!open) notFound();
  const pictures = await picturesOf(open, extentsIn(store()));
  const report = reportOf(open.job, open.system, open.diagnosis, { ...open, pictures });
  return <ReportPage jobId={id} report={report} />;
}
