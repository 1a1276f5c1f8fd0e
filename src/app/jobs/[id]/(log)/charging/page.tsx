import { ChargingPage } from '@/ui/workspace/pages/ChargingPage';
import { type OfJob, stepProps } from '../stepProps';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: OfJob) {
  return <ChargingPage {...await stepProps(params)} />;
}
