/** What a zip holds, its directory checked before anything is unpacked, and each entry's checksum when it is. */

import { configure, type Entry, Reader, Uint8ArrayReader, Writer, ZipReader } from '@zip.js/zip.js';
import { NotALog } from '../sniff';
import { packedBounds } from './bounds';

configure({ useWebWorkers: false });

/** Bytes that can be read from anywhere: a file on disk, or bytes in memory. */
export interface ZipSource {
  size: number;
  read(at: number, length: number): Promise<Uint8Array>;
}

export interface ZipEntry {
  name: string;
  /** Bytes, as the directory says; more than that never comes out. */
  size: number;
  packed: number;
  /** Unpacks it piece by piece. @throws NotALog when it is damaged */
  unpack(onPiece: (piece: Uint8Array) => void | Promise<void>): Promise<void>;
  /** The whole entry. @throws NotALog when it is damaged */
  bytes(): Promise<Uint8Array>;
}

export interface ZipBounds {
  entries: number;
  /** Unpacked, all entries together, bytes. */
  total: number;
}

class SourceReader extends Reader<ZipSource> {
  constructor(private readonly source: ZipSource) {
    super(source);
    this.size = source.size;
  }
  override readUint8Array(at: number, length: number): Promise<Uint8Array> {
    return this.source.read(at, length);
  }
}

class PieceWriter extends Writer<void> {
  private written = 0;
  constructor(
    private readonly most: number,
    private readonly onPiece: (piece: Uint8Array) => void | Promise<void>,
  ) {
    super();
  }
  override async writeUint8Array(piece: Uint8Array): Promise<void> {
    this.written += piece.length;
    if (this.written > this.most) throw new Error('It unpacks to more than its directory says.');
    await this.onPiece(piece);
  }
  override async getData(): Promise<void> {}
}

/** Names that lead out of the folder that they are unpacked to, or that no file system keeps. */
const BAD_NAME = /(^|[\\/])\.\.([\\/]|$)|^[\\/]|^[a-zA-Z]:|\p{Cc}/u;

/**
 * Files of a zip in its order, folders and what other systems leave beside them left out.
 * @throws NotALog that names what is wrong
 */
export async function zipEntries(zip: Uint8Array | ZipSource, bounds: ZipBounds): Promise<ZipEntry[]> {
  const reader = new ZipReader(
    zip instanceof Uint8Array ? new Uint8ArrayReader(zip) : new SourceReader(zip),
    {
      checkSignature: true,
      // Names are looked at here, so that a refusal can say which one it was.
      filenameValidation: 'tolerant',
    },
  );
  const size = zip instanceof Uint8Array ? zip.length : zip.size;
  const check = packedBounds(bounds.total);
  const entries: ZipEntry[] = [];
  const names = new Set<string>();
  let total = 0;
  try {
    for await (const entry of reader.getEntriesGenerator()) {
      const name = entry.filename;
      const shown = `“${name.replace(/\p{Cc}/gu, '?').slice(0, 80)}”`;
      if (BAD_NAME.test(name))
        throw new NotALog(`The zip names a file ${shown}, which leads out of it. It was not unpacked.`);
      if (names.has(name)) throw new NotALog(`The zip holds ${shown} twice. Pack the folder again.`);
      names.add(name);
      if (names.size > bounds.entries)
        throw new NotALog(
          `The zip holds more than ${bounds.entries} files. Pack only what belongs to the job.`,
        );
      total += entry.uncompressedSize;
      check(total, size);
      if (entry.directory || name.startsWith('__MACOSX/')) continue;
      if (entry.encrypted)
        throw new NotALog(`${shown} in the zip is protected. Pack it again without a password.`);
      entries.push(entryOf(entry));
    }
  } catch (error) {
    if (error instanceof NotALog) throw error;
    throw new NotALog('The zip cannot be unpacked: it is damaged or no zip. Pack it again.');
  }
  return entries;
}

function entryOf(entry: Entry): ZipEntry {
  const { filename: name, uncompressedSize: size, compressedSize: packed } = entry;
  const unpack: ZipEntry['unpack'] = async (onPiece) => {
    try {
      await (entry as Extract<Entry, { directory: false }>).getData(new PieceWriter(size, onPiece));
    } catch {
      throw new NotALog(`“${name}” in the zip is damaged: it is not as it was packed. Pack it again.`);
    }
  };
  return {
    name,
    size,
    packed,
    unpack,
    async bytes() {
      const whole = new Uint8Array(size);
      let at = 0;
      await unpack((piece) => {
        whole.set(piece, at);
        at += piece.length;
      });
      return whole.subarray(0, at);
    },
  };
}
