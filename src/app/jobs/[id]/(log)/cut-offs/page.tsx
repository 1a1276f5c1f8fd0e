import { CutOffsPage } from '@/ui/workspace/pages/CutOffsPage';
import { type OfJob, stepProps } from '../stepProps';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: OfJob) {
  return <CutOffsPage {...await stepProps(params)} />;
}
