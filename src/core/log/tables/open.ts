/** What a file is, whatever its name says, and its readings as delimited text: gzip, zip, JSON, spreadsheets and Parquet are opened. */

import { Gunzip, unzipSync } from 'fflate';
import { decodeText, plainBytes } from '../encoding';
import { NotALog } from '../sniff';
import { joined } from './delimited';
import { jsonToDelimited } from './json';

export type FileKind = 'text' | 'json' | 'gzip' | 'zip' | 'parquet' | 'old-workbook' | 'picture' | 'pdf';

/** What may come out of a packed file, bytes; and what is opened whole. */
export const MOST_UNPACKED = 4 * 2 ** 30;
export const MOST_WHOLE = 512 * 2 ** 20;
/** A large file that unpacks to more than this for each of its bytes is no log. */
const MOST_RATIO = 200;
const LARGE = 64 * 2 ** 20;
/** Files in files: a zip of a gzip of a table. */
const DEEPEST = 3;

const MAGIC: readonly [FileKind, readonly number[]][] = [
  ['gzip', [0x1f, 0x8b]],
  ['zip', [0x50, 0x4b, 0x03, 0x04]],
  ['zip', [0x50, 0x4b, 0x05, 0x06]],
  ['parquet', [0x50, 0x41, 0x52, 0x31]],
  ['old-workbook', [0xd0, 0xcf, 0x11, 0xe0]],
  ['picture', [0x89, 0x50, 0x4e, 0x47]],
  ['picture', [0xff, 0xd8, 0xff]],
  ['pdf', [0x25, 0x50, 0x44, 0x46]],
];

export function fileKindOf(head: Uint8Array): FileKind {
  for (const [kind, magic] of MAGIC) if (magic.every((byte, i) => head[i] === byte)) return kind;
  const start = decodeText(plainBytes()(head.subarray(0, 4096))).trimStart();
  // A bracket may begin a line of text; JSON goes on with what JSON holds.
  return /^(\{\s*["}]|\[\s*[[{"\d\]-])/.test(start) ? 'json' : 'text';
}

/** Whether the head of a file is enough to recognise it, or the whole file is needed. */
export const needsWhole = (head: Uint8Array): boolean => !['text', 'gzip'].includes(fileKindOf(head));

const REFUSED: Partial<Record<FileKind, string>> = {
  'old-workbook': 'This is a spreadsheet in the old XLS format. Save it as XLSX or CSV and take that in.',
  picture: 'This is a picture, not a log. Photos are taken in under Make safe.',
  pdf: 'This is a PDF: its figures cannot be read back safely. Export the log as CSV.',
};

/**
 * A whole file as delimited text.
 * @param name of the file, for messages @throws NotALog with what it is instead and what to do
 */
export async function openTable(bytes: Uint8Array, name: string, depth = 0): Promise<Uint8Array> {
  const kind = fileKindOf(bytes);
  const refused = REFUSED[kind];
  if (refused) throw new NotALog(refused);
  if (depth > DEEPEST)
    throw new NotALog('This is a packed file in a packed file in a packed file: unpack it first.');
  switch (kind) {
    case 'gzip':
      return openTable(unpackGzip(bytes), name.replace(/\.gz$/i, ''), depth + 1);
    case 'zip':
      return openZip(bytes, depth);
    case 'parquet': {
      const { parquetToDelimited } = await import('./parquet');
      return parquetToDelimited(bytes);
    }
    case 'json':
      return jsonToDelimited(decodeText(plainBytes()(bytes)));
    default:
      return bytes;
  }
}

/** Unpacks as far as is allowed. @param most bytes that may come out; more is cut off when `head` is set, else refused */
export function unpackGzip(bytes: Uint8Array, most = MOST_WHOLE, head = false): Uint8Array {
  const parts: Uint8Array[] = [];
  let total = 0;
  const gunzip = new Gunzip((part) => {
    parts.push(part);
    total += part.length;
  });
  const step = 64 * 1024;
  try {
    for (let at = 0; at < bytes.length; at += step) {
      gunzip.push(bytes.subarray(at, at + step), !head && at + step >= bytes.length);
      if (total <= most && !isBomb(total, Math.min(bytes.length, at + step))) continue;
      if (head) break;
      throw tooLarge(total, bytes.length);
    }
  } catch (error) {
    if (error instanceof NotALog) throw error;
    if (!head)
      throw new NotALog(
        'This gzip file is damaged: it may have been cut off. Copy it again from the device.',
      );
  }
  return joined(parts);
}

const isBomb = (unpacked: number, packed: number): boolean =>
  unpacked > MOST_WHOLE || (unpacked > LARGE && unpacked / Math.max(1, packed) > MOST_RATIO);

const tooLarge = (unpacked: number, packed: number): NotALog =>
  new NotALog(
    unpacked / Math.max(1, packed) > MOST_RATIO
      ? 'This packed file blows up to hundreds of times its size: it is no log, and it was not unpacked.'
      : `This packed file unpacks to more than ${Math.round(MOST_WHOLE / 2 ** 20)} MB. Unpack it and take in the log itself.`,
  );

async function openZip(bytes: Uint8Array, depth: number): Promise<Uint8Array> {
  const names: { name: string; size: number; packed: number }[] = [];
  try {
    unzipSync(bytes, {
      filter: ({ name, originalSize, size }) => {
        names.push({ name, size: originalSize, packed: size });
        return false;
      },
    });
  } catch {
    throw new NotALog('This zip cannot be opened: it is damaged or protected. Pack it again.');
  }
  if (names.some(({ name }) => name === 'xl/workbook.xml')) {
    const total = names.reduce((sum, one) => sum + one.size, 0);
    if (isBomb(total, bytes.length)) throw tooLarge(total, bytes.length);
    const { workbookToDelimited } = await import('./workbook');
    return workbookToDelimited(bytes);
  }
  if (names.some(({ name }) => /(^|\/)datapackage\.json$/.test(name)))
    throw new NotALog('This is a job bundle, not a log: take it in on the list of jobs.');
  const logs = names.filter(
    ({ name, size }) => size > 0 && !name.endsWith('/') && !/(^|\/)(__MACOSX|\.)/.test(name),
  );
  const only = logs[0];
  if (!only) throw new NotALog('This zip is empty. Pack the log again.');
  if (logs.length > 1)
    throw new NotALog(
      `This zip holds ${logs.length} files (${logs
        .slice(0, 5)
        .map((one) => one.name)
        .join(
          ', ',
        )}${logs.length > 5 ? ', …' : ''}). Unpack it and take the logs in one by one, each for its device.`,
    );
  if (isBomb(only.size, only.packed)) throw tooLarge(only.size, only.packed);
  const inner = unzipSync(bytes, { filter: ({ name }) => name === only.name })[only.name]!;
  return openTable(inner, only.name, depth + 1);
}

/**
 * A file as it streams in, as delimited text: plain text passes through, gzip is unpacked on the way, the rest is collected first.
 * @throws NotALog
 */
export async function* openStream(
  chunks: AsyncIterable<Uint8Array>,
  name: string,
): AsyncGenerator<Uint8Array, void, undefined> {
  const iterator = chunks[Symbol.asyncIterator]();
  const start = await iterator.next();
  if (start.done) return;
  const rest: AsyncIterable<Uint8Array> = { [Symbol.asyncIterator]: () => iterator };
  const kind = fileKindOf(start.value);
  if (kind === 'text') {
    yield start.value;
    yield* rest;
    return;
  }
  if (kind === 'gzip') {
    yield* inflate(start.value, rest, name);
    return;
  }
  const parts = [start.value];
  let total = start.value.length;
  for await (const chunk of rest) {
    total += chunk.length;
    if (total > MOST_WHOLE)
      throw new NotALog(
        `A file of this kind is opened whole and may have ${Math.round(MOST_WHOLE / 2 ** 20)} MB at most. Export the log as CSV, or in parts.`,
      );
    parts.push(chunk);
  }
  yield await openTable(joined(parts), name);
}

async function* inflate(
  first: Uint8Array,
  rest: AsyncIterable<Uint8Array>,
  name: string,
): AsyncGenerator<Uint8Array, void, undefined> {
  let out: Uint8Array[] = [];
  let packed = 0;
  let unpacked = 0;
  const gunzip = new Gunzip((part) => {
    unpacked += part.length;
    out.push(part);
  });
  let whole: Uint8Array[] | null = null;
  let looked = false;
  const step = 64 * 1024;
  function* feed(chunk: Uint8Array): Generator<Uint8Array> {
    for (let at = 0; at < chunk.length; at += step) {
      const part = chunk.subarray(at, at + step);
      packed += part.length;
      try {
        gunzip.push(part);
      } catch {
        throw new NotALog(
          'This gzip file is damaged: it may have been cut off. Copy it again from the device.',
        );
      }
      if (unpacked > MOST_UNPACKED || (unpacked > LARGE && unpacked / packed > MOST_RATIO))
        throw tooLarge(unpacked, packed);
      const got = out;
      out = [];
      for (const piece of got) {
        if (piece.length === 0) continue;
        if (!looked) {
          looked = true;
          if (fileKindOf(piece) !== 'text') whole = [];
        }
        if (whole) whole.push(piece);
        else yield piece;
      }
    }
  }
  yield* feed(first);
  for await (const chunk of rest) yield* feed(chunk);
  const inside = whole as Uint8Array[] | null;
  if (inside) yield await openTable(joined(inside), name.replace(/\.gz$/i, ''), 1);
}
