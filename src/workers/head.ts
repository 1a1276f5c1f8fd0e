/**
 * Web worker: recognises a log from its first bytes, or from the whole file where the head says nothing, reads the head as told, and says what
 * the log suggests of the bank behind it.
 */

import { expose } from 'comlink';
import { PART, partsOf, settleDateOrder } from '@/core/log/dateOrder';
import { type HeadTimes, previewOf, type Preview, readStart, timesOfHead } from '@/core/log/preview';
import {
  type DeviceKind,
  HEAD_BYTES,
  headTable,
  type HeadTable,
  type LogReading,
  recogniseTable,
} from '@/core/log/recognise';
import { NotALog } from '@/core/log/sniff';
import { fileKindOf, MOST_WHOLE, needsWhole, openTable, gzipHead } from '@/core/log/tables/open';
import type { LogDescription } from '@/core/log/takeIn';
import { type BankSuggestion, suggestBank } from '@/core/suggest/bank';

/** So much of a log is enough to see what it hangs on: a month by the minute. */
const ENOUGH = 8 * 2 ** 20;

let head: Uint8Array | null = null;
/** More of the file looked at last, as delimited text. */
let more: (() => Promise<Uint8Array>) | null = null;
let reading: LogReading | null = null;

/** The file's head as delimited text, and parts of its whole length where it is plain text. */
async function open(
  file: File,
): Promise<{ head: Uint8Array; parts: () => Promise<Uint8Array[]>; more: () => Promise<Uint8Array> }> {
  const piece = async (from: number, length: number) =>
    new Uint8Array(await file.slice(from, from + length).arrayBuffer());
  const none = async () => [];
  const start = await piece(0, HEAD_BYTES);
  if (fileKindOf(start) === 'gzip') {
    const inside = gzipHead(start, HEAD_BYTES);
    if (!needsWhole(inside))
      return {
        head: inside,
        parts: none,
        more: async () => gzipHead(await piece(0, ENOUGH), ENOUGH),
      };
  } else if (!needsWhole(start))
    return {
      head: start,
      parts: () => Promise.all(partsOf(file.size).map((at) => piece(at, PART))),
      more: () => piece(0, ENOUGH),
    };
  if (file.size > MOST_WHOLE)
    throw new NotALog(
      `A file of this kind may have ${MOST_WHOLE / 2 ** 20} MB at most. Export the log as CSV, or in parts.`,
    );
  const whole = await openTable(await piece(0, file.size), file.name);
  return {
    head: whole,
    parts: async () => partsOf(whole.length).map((at) => whole.subarray(at, at + PART)),
    more: async () => whole.subarray(0, ENOUGH),
  };
}

/** What cannot be done, as a sentence for the user. */
const sentence = (error: unknown): Error =>
  new Error(
    error instanceof NotALog
      ? error.message
      : 'This file could not be read as a log. Export it again as CSV.',
  );

async function inWords<T>(work: () => T | Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw sentence(error);
  }
}

function looked(): { head: Uint8Array; reading: LogReading; more: () => Promise<Uint8Array> } {
  if (!head || !reading || !more) throw new NotALog('No file has been looked at.');
  return { head, reading, more };
}

/** Each rejects with a sentence for the user. What follows `look` is of the file looked at last. */
const headReader = {
  look: (
    file: File,
    device: DeviceKind,
    timeHeading?: string,
  ): Promise<{ reading: LogReading; preview: Preview }> =>
    inWords(async () => {
      const opened = await open(file);
      const table: HeadTable = headTable(opened.head, timeHeading === undefined ? {} : { timeHeading });
      reading = recogniseTable(table, device, timeHeading);
      if (reading.time?.ask === 'order') reading = settleDateOrder(reading, await opened.parts());
      head = opened.head.subarray(0, HEAD_BYTES);
      more = opened.more;
      return { reading, preview: previewOf(table, reading) };
    }),
  /** When its first rows were written, read so. */
  times: (description: LogDescription, timeZone: string): Promise<HeadTimes> =>
    inWords(() => {
      const now = looked();
      return timesOfHead(now.head, now.reading, description, timeZone);
    }),
  /** What bank it suggests, read so. */
  suggest: (description: LogDescription, timeZone: string): Promise<BankSuggestion> =>
    inWords(async () => {
      const now = looked();
      return suggestBank(readStart(await now.more(), now.reading, description, timeZone));
    }),
};

export type HeadReader = typeof headReader;

expose(headReader);
