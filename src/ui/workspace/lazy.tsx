'use client';
/** The two kinds of steps, each with scripts of its own: whoever describes a system loads no strips, and the other way round. */

import dynamic from 'next/dynamic';

export const LazyDescribe = dynamic(() =>
  import('@/ui/describe/DescribeWorkspace').then((one) => one.DescribeWorkspace),
);
export const LazyWorkspace = dynamic(() => import('./Workspace').then((one) => one.Workspace));
