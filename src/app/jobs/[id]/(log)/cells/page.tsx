import { CellsPage } from '@/ui/workspace/pages/CellsPage';
import { type OfJob, stepProps } from '../stepProps';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: OfJob) {
  return <CellsPage {...await stepProps(params)} />;
}
