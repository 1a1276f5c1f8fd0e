/** What a file is, whatever its name says, and its readings as delimited text: gzip, zip, JSON, spreadsheets and Parquet are opened. */

import { decodeText, plainBytes } from '../encoding';
import { NotALog } from '../sniff';
import { MOST_JSON, MOST_UNPACKED, MOST_WHOLE, tooLargeWhole } from './bounds';
import { joined } from './delimited';
import { Damaged, gunzip } from './gzip';
import { jsonToDelimited } from './json';

export { MOST_WHOLE } from './bounds';

export type FileKind = 'text' | 'json' | 'gzip' | 'zip' | 'parquet' | 'old-workbook' | 'picture' | 'pdf';

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
      if (bytes.length > MOST_JSON) throw tooLargeWhole(MOST_JSON);
      return jsonToDelimited(decodeText(plainBytes()(bytes)));
    default:
      return bytes;
  }
}

/** @throws Damaged when it is not whole */
export function unpackGzip(bytes: Uint8Array): Uint8Array {
  const unpack = gunzip(MOST_WHOLE);
  return joined([...unpack.push(bytes), ...unpack.end()]);
}

/** The first bytes of what a gzip holds, however the rest may be. */
export function gzipHead(bytes: Uint8Array, most: number): Uint8Array {
  const parts: Uint8Array[] = [];
  let total = 0;
  try {
    for (const part of gunzip(MOST_WHOLE).push(bytes)) {
      parts.push(part);
      if ((total += part.length) >= most) break;
    }
  } catch (error) {
    if (!(error instanceof Damaged) || total === 0) throw error;
  }
  return joined(parts).subarray(0, most);
}

async function openZip(bytes: Uint8Array, depth: number): Promise<Uint8Array> {
  const { zipEntries } = await import('./zip');
  const entries = await zipEntries(bytes, { entries: 5000, total: MOST_WHOLE });
  if (entries.some(({ name }) => name === 'xl/workbook.xml')) {
    // Unpacked once to see that it is whole, and no larger than it says.
    for (const entry of entries) await entry.unpack(() => undefined);
    const { workbookToDelimited } = await import('./workbook');
    return workbookToDelimited(bytes);
  }
  if (entries.some(({ name }) => /(^|\/)datapackage\.json$/.test(name)))
    throw new NotALog('This is a job bundle, not a log: take it in on the list of jobs.');
  const logs = entries.filter(({ name, size }) => size > 0 && !/(^|\/)\./.test(name));
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
  return openTable(await only.bytes(), only.name, depth + 1);
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
    if (total > MOST_WHOLE) throw tooLargeWhole(MOST_WHOLE);
    parts.push(chunk);
  }
  yield await openTable(joined(parts), name);
}

/** @throws Damaged after what was whole was given out */
async function* inflate(
  first: Uint8Array,
  rest: AsyncIterable<Uint8Array>,
  name: string,
): AsyncGenerator<Uint8Array, void, undefined> {
  const unpack = gunzip(MOST_UNPACKED);
  let looked = false;
  let whole: Uint8Array[] | null = null;
  let total = 0;
  function* passed(pieces: Iterable<Uint8Array>): Generator<Uint8Array> {
    for (const piece of pieces) {
      if (piece.length === 0) continue;
      if (!looked && fileKindOf(piece) !== 'text') whole = [];
      looked = true;
      if (!whole) yield piece;
      else if ((total += piece.length) > MOST_WHOLE) throw tooLargeWhole(MOST_WHOLE);
      else whole.push(piece);
    }
  }
  yield* passed(unpack.push(first));
  for await (const chunk of rest) yield* passed(unpack.push(chunk));
  yield* passed(unpack.end());
  const inside = whole as Uint8Array[] | null;
  if (inside) yield await openTable(joined(inside), name.replace(/\.gz$/i, ''), 1);
}
