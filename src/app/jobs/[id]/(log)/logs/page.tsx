import { LogsPage } from '@/ui/workspace/pages/LogsPage';
import { type OfJob, stepProps } from '../stepProps';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: OfJob) {
  return <LogsPage {...await stepProps(params)} />;
}
