/** Unpacks gzip piece by piece, its checksums and lengths checked; several members in one file, and zeros behind the last, are read. */

import { Inflate } from 'pako';
import { NotALog } from '../sniff';
import { packedBounds } from './bounds';
import { joined } from './delimited';

/** A packed file that is not whole. What came before the damage was given out before this is thrown. */
export class Damaged extends NotALog {
  constructor(
    message: string,
    /** The file ends too early; or something in it is not as it was packed. */
    readonly how: 'cut' | 'changed',
  ) {
    super(message);
  }
}

const CUT = 'This gzip file is damaged: it ends too early. Copy it again from the device.';
const CHANGED = 'This gzip file is damaged: it is not as it was packed. Copy it again from the device.';

/** Bytes that are unpacked between two looks at the bounds. */
const STEP = 64 * 1024;

export interface Gunzip {
  /** What comes out of a piece, in order. @throws Damaged, after giving out what was whole; NotALog when it unpacks to too much */
  push(piece: Uint8Array): Generator<Uint8Array, void, undefined>;
  /** @throws Damaged */
  end(): Generator<Uint8Array, void, undefined>;
}

/** What was unpacked before the fault showed lies in the unpacker's buffer still: it is not given out by itself. */
function unflushed(inflate: Inflate): Uint8Array {
  const { output, next_out: end } = (inflate as unknown as { strm: { output: Uint8Array; next_out: number } })
    .strm;
  return output.slice(0, end);
}

/** @param most bytes that may come out */
export function gunzip(most: number): Gunzip {
  let out: Uint8Array[] = [];
  const check = packedBounds(most);
  const inflate = new Inflate({ chunkSize: STEP });
  inflate.onData = (part: Uint8Array) => out.push(part);
  let packed = 0;
  let unpacked = 0;
  function* given(): Generator<Uint8Array, void, undefined> {
    const piece = joined(out);
    out = [];
    unpacked += piece.length;
    if (piece.length > 0) yield piece;
    check(unpacked, packed);
  }
  return {
    *push(piece) {
      for (let at = 0; at < piece.length && !inflate.ended; at += STEP) {
        const part = piece.subarray(at, at + STEP);
        packed += part.length;
        inflate.push(part, false);
        if (inflate.err) out.push(unflushed(inflate));
        yield* given();
        if (inflate.err) throw new Damaged(CHANGED, 'changed');
      }
    },
    *end() {
      if (inflate.ended) return;
      inflate.push(new Uint8Array(0), true);
      yield* given();
      throw new Damaged(CUT, 'cut');
    },
  };
}
