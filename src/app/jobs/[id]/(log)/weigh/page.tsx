import { WeighPage } from '@/ui/workspace/pages/WeighPage';
import { type OfJob, stepProps } from '../stepProps';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: OfJob) {
  return <WeighPage {...await stepProps(params)} />;
}
