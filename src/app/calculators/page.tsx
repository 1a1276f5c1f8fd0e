import { redirect } from 'next/navigation';
import { CALCULATORS } from '@/core/plan/calculators';

export default function Page() {
  redirect(`/calculators/${CALCULATORS[0]!.id}`);
}
