/** Web worker: recognises a log from its first bytes, or from the whole file where the head says nothing. */

import { type DeviceKind, recognise } from '@/core/log/recognise';
import { NotALog } from '@/core/log/sniff';
import { fileKindOf, MOST_WHOLE, needsWhole, openTable, unpackGzip } from '@/core/log/tables/open';

/** Bytes of the head that are read. */
const HEAD = 262_144;

async function headOf(file: File): Promise<Uint8Array> {
  const head = new Uint8Array(await file.slice(0, HEAD).arrayBuffer());
  if (fileKindOf(head) === 'gzip') {
    const inside = unpackGzip(head, HEAD, true);
    if (!needsWhole(inside)) return inside;
  } else if (!needsWhole(head)) return head;
  if (file.size > MOST_WHOLE)
    throw new NotALog(
      `A file of this kind may have ${MOST_WHOLE / 2 ** 20} MB at most. Export the log as CSV, or in parts.`,
    );
  return openTable(new Uint8Array(await file.arrayBuffer()), file.name);
}

self.onmessage = ({ data: { file, kind } }: MessageEvent<{ file: File; kind: DeviceKind }>) => {
  headOf(file).then(
    (head) => self.postMessage(read(head, kind)),
    (error: unknown) => self.postMessage({ problem: sentence(error) }),
  );
};

function read(head: Uint8Array, kind: DeviceKind) {
  try {
    return { reading: recognise(head, kind) };
  } catch (error) {
    return { problem: sentence(error) };
  }
}

const sentence = (error: unknown): string =>
  error instanceof NotALog ? error.message : 'This file could not be read as a log. Export it again as CSV.';
