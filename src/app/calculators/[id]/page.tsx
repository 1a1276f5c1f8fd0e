import { notFound } from 'next/navigation';
import { CALCULATORS } from '@/core/plan/calculators';
import { CalculatorPage } from '@/ui/calculators/CalculatorPage';

interface Props {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function Page({ params, searchParams }: Props) {
  const { id } = await params;
  if (!CALCULATORS.some((one) => one.id === id)) notFound();
  const typed = Object.entries(await searchParams).flatMap(([key, value]) =>
    typeof value === 'string' ? [[key, value] as const] : [],
  );
  return <CalculatorPage key={id} id={id} start={Object.fromEntries(typed)} />;
}
