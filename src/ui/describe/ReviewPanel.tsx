'use client';
/** What the description alone already says: hazards, faults, cautions, and what to find out first. */

import Link from 'next/link';
import { useMemo } from 'react';
import { missingBasics } from '@/core/system/known';
import { reviewSettings } from '@/core/system/review/review';
import type { DescribeStep } from '@/ui/workspace/steps';
import { useTyped } from './fields/context';
import { NoteList } from './NoteList';

export function ReviewPanel({ jobId, step }: { jobId: string; step: DescribeStep }) {
  const { system, job } = useTyped();
  const review = useMemo(() => reviewSettings(system, job), [system, job]);
  const notes = review.notes.filter((one) => one.weight !== 'remark');
  return (
    <div className="p-3">
      {/* The settings step shows the notes at length. */}
      <h2 className="font-semibold">What the description says</h2>
      <p className="text-ink-soft mb-2 text-xs">
        {review.made} checks made, {review.waiting} wait for something.
      </p>
      {step === 'settings' ? null : notes.length === 0 ? (
        <p className="mb-3 text-sm">
          {missingBasics(system).length > 0
            ? 'Too little is known yet to check much.'
            : 'Nothing speaks against these settings so far.'}
        </p>
      ) : (
        <NoteList notes={notes} brief />
      )}
      {step !== 'settings' && notes.length > 0 && (
        <p className="mb-3 text-sm">
          <Link href={`/jobs/${jobId}/settings`} className="text-accent underline">
            Reasons and what to set
          </Link>
        </p>
      )}
      {review.findOut.length > 0 && (
        <>
          <h2 className="mt-3 font-semibold">Find out first</h2>
          <ul className="mt-1 text-sm">
            {review.findOut.slice(0, 8).map((one) => (
              <li key={one.path} className="border-rule border-t py-1">
                {one.ofName ? `${one.ofName}: ` : ''}
                {one.label.toLowerCase()}
                <span className="text-ink-soft block text-xs">{one.where}</span>
              </li>
            ))}
          </ul>
          {review.findOut.length > 8 && (
            <p className="text-ink-soft text-xs">and {review.findOut.length - 8} more</p>
          )}
        </>
      )}
    </div>
  );
}
