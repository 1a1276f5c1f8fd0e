'use client';
/** Whether what was kept is on the server, and whether this page opens without it. */

import { counted } from '@/core/quantity/text';
import type { RecordKind, RecordOf } from '@/core/records/records';
import type { OfflineState } from './useRecords';
import type { WaitingRecord } from './waiting';

interface Props<K extends RecordKind> {
  waiting: readonly WaitingRecord<K>[];
  isOnline: boolean;
  offline: OfflineState;
  /** What is kept here, "round". */
  noun: string;
  nameOf(record: RecordOf<K>): string;
}

export function NetworkNote<K extends RecordKind>({ waiting, isOnline, offline, noun, nameOf }: Props<K>) {
  return (
    <>
      <p className="border-rule-strong mb-3 border-l-3 pl-2 text-sm" role="status">
        {!isOnline ? 'The network is away. ' : ''}
        {waiting.length > 0
          ? `${counted(waiting.length, noun)} kept on this device, waiting to be sent.`
          : 'Everything that was kept is on the server.'}{' '}
        {offline === 'kept'
          ? 'This page opens without the network too.'
          : offline === 'not'
            ? 'This browser cannot open the page without the network; leave it open.'
            : ''}
      </p>
      {waiting
        .filter((one) => one.refused)
        .map(({ record, refused }) => (
          <p key={record.id} role="alert" className="text-hazard mb-2 text-sm">
            Not taken: {nameOf(record)}. {refused} It stays on this device.
          </p>
        ))}
    </>
  );
}
