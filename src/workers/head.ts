/** Web worker: recognises a log from its first bytes. */

import { type DeviceKind, recognise } from '@/core/log/recognise';
import { NotALog } from '@/core/log/sniff';

self.onmessage = ({ data }: MessageEvent<{ bytes: ArrayBuffer; kind: DeviceKind }>) => {
  try {
    self.postMessage({ reading: recognise(new Uint8Array(data.bytes), data.kind) });
  } catch (error) {
    self.postMessage({
      problem:
        error instanceof NotALog
          ? error.message
          : 'This file could not be read as a log. Export it again as CSV.',
    });
  }
};
