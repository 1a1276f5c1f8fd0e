import { CountingPage } from '@/ui/workspace/pages/CountingPage';
import { type OfJob, stepProps } from '../stepProps';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: OfJob) {
  return <CountingPage {...await stepProps(params)} />;
}
