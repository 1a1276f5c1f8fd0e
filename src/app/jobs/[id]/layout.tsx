import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { store } from '@/server/store';
import { findJob } from '@/store/jobs';

export const dynamic = 'force-dynamic';

interface Props {
  children: ReactNode;
  params: Promise<{ id: string }>;
}

/** Whether there is such a job is known before anything is sent: a page that is not there answers 404. */
export default async function Layout({ children, params }: Props) {
  if (!(await findJob(store(), (await params).id))) notFound();
  return children;
}
