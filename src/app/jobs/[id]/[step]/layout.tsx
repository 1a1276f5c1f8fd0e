import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { isDescribeStep } from '@/ui/workspace/steps';

interface Props {
  children: ReactNode;
  params: Promise<{ id: string; step: string }>;
}

export default async function Layout({ children, params }: Props) {
  const { step } = await params;
  if (!isDescribeStep(step)) notFound();
  return children;
}
