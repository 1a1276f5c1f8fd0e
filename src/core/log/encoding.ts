/** Bytes of a text file to plain UTF-8 bytes, and those to text. */

/**
 * Makes a converter that is fed a file chunk by chunk: it drops a byte-order mark and turns UTF-16 into UTF-8. Bytes without a
 * mark pass through untouched, so that the common case costs nothing.
 */
export function plainBytes(): (chunk: Uint8Array) => Uint8Array {
  let order: 'start' | 'as-is' | 'little' | 'big' = 'start';
  let odd: number | null = null;
  return (chunk) => {
    let from = 0;
    if (order === 'start') {
      order = 'as-is';
      if (chunk[0] === 0xef && chunk[1] === 0xbb && chunk[2] === 0xbf) return chunk.subarray(3);
      if (chunk[0] === 0xff && chunk[1] === 0xfe) order = 'little';
      if (chunk[0] === 0xfe && chunk[1] === 0xff) order = 'big';
      if (order !== 'as-is') from = 2;
    }
    if (order === 'as-is') return chunk;
    const out = new Uint8Array((chunk.length + 1) * 2);
    let at = 0;
    for (let i = from; i < chunk.length; i++) {
      if (odd === null) {
        odd = chunk[i]!;
        continue;
      }
      const code: number = order === 'little' ? odd | (chunk[i]! << 8) : (odd << 8) | chunk[i]!;
      odd = null;
      if (code < 0x80) out[at++] = code;
      else if (code < 0x800) {
        out[at++] = 0xc0 | (code >> 6);
        out[at++] = 0x80 | (code & 0x3f);
      } else {
        out[at++] = 0xe0 | (code >> 12);
        out[at++] = 0x80 | ((code >> 6) & 0x3f);
        out[at++] = 0x80 | (code & 0x3f);
      }
    }
    return out.subarray(0, at);
  };
}

/** Makes a converter that turns carriage returns that stand alone into line feeds; pairs become one line feed. */
export function lineFeeds(): (chunk: Uint8Array) => Uint8Array {
  let afterCr = false;
  return (chunk) => {
    const out = new Uint8Array(chunk.length);
    let at = 0;
    for (const byte of chunk) {
      if (byte !== 10 || !afterCr) out[at++] = byte === 13 ? 10 : byte;
      afterCr = byte === 13;
    }
    return out.subarray(0, at);
  };
}

/** As many arguments as any engine takes at once. */
const LONGEST_RUN = 4096;

/** Decodes bytes as UTF-8; a byte that is not valid UTF-8 is read as Latin-1, which is what old loggers write for "°". */
export function decodeText(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]!;
    if (byte < 0x80) {
      // Nearly all of a log is plain letters: they are taken in long runs.
      let end = i + 1;
      while (end < bytes.length && bytes[end]! < 0x80 && end - i < LONGEST_RUN) end++;
      text += String.fromCharCode.apply(null, bytes.subarray(i, end) as unknown as number[]);
      i = end - 1;
      continue;
    }
    const next = bytes[i + 1]! & 0x3f;
    const follows = (offset: number) => (bytes[i + offset]! & 0xc0) === 0x80;
    if (byte >= 0xc2 && byte < 0xe0 && follows(1)) {
      text += String.fromCharCode(((byte & 0x1f) << 6) | next);
      i += 1;
    } else if (byte >= 0xe0 && byte < 0xf0 && follows(1) && follows(2)) {
      text += String.fromCharCode(((byte & 0x0f) << 12) | (next << 6) | (bytes[i + 2]! & 0x3f));
      i += 2;
    } else text += String.fromCharCode(byte);
  }
  return text;
}
