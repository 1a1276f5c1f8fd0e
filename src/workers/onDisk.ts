/** Files on disk as the core reads them. */

import { createReadStream, statSync } from 'node:fs';
import { open, readFile } from 'node:fs/promises';
import type { BundleFile } from '@/core/bundle/read';
import { PART, partsOf } from '@/core/log/dateOrder';
import type { LogFile } from '@/core/log/readFile';
import type { ZipSource } from '@/core/log/tables/zip';

/** @param name for messages */
export const logOnDisk = (path: string, name: string): LogFile => ({
  name,
  // Opened when the first piece is asked for.
  chunks: {
    [Symbol.asyncIterator]: () =>
      (createReadStream(path, { highWaterMark: 1 << 20 }) as AsyncIterable<Uint8Array>)[
        Symbol.asyncIterator
      ](),
  },
  async parts() {
    const file = await open(path);
    try {
      const { size } = await file.stat();
      const parts: Uint8Array[] = [];
      for (const at of partsOf(size)) {
        const { buffer, bytesRead } = await file.read(Buffer.alloc(PART), 0, PART, at);
        parts.push(buffer.subarray(0, bytesRead));
      }
      return parts;
    } finally {
      await file.close();
    }
  },
});

export const onDisk = (path: string): BundleFile => ({
  size: statSync(path).size,
  bytes: () => readFile(path),
  log: (name) => logOnDisk(path, name),
});

/** A zip that is read from disk where it is needed. Close it when done. */
export async function zipOnDisk(path: string): Promise<{ zip: ZipSource; close(): Promise<void> }> {
  const file = await open(path);
  const { size } = await file.stat();
  return {
    zip: {
      size,
      async read(at, length) {
        const wanted = Math.max(0, Math.min(length, size - at));
        const { buffer, bytesRead } = await file.read(Buffer.alloc(wanted), 0, wanted, at);
        return buffer.subarray(0, bytesRead);
      },
    },
    close: () => file.close(),
  };
}
