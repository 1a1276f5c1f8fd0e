/** A log file of any kind, as its bytes come, to a Series: opened, recognised, planned and read. The one way for all who take in files. */

import { LogAsks } from './answers';
import { PART, partsOf, settleDateOrder } from './dateOrder';
import { csvReader, type CsvReader, type ReadPlan } from './readCsv';
import { type DeviceKind, HEAD_BYTES, recognise } from './recognise';
import { NotALog } from './sniff';
import { joined } from './tables/delimited';
import { Damaged } from './tables/gzip';
import { openStream } from './tables/open';
import { clockOf, givenOf, type LogDescription, planReading, type ReadLog, tooFewRows } from './takeIn';

export interface LogFile {
  /** The file as it lies, in pieces. */
  chunks: AsyncIterable<Uint8Array>;
  /** As the user knows it, for messages. */
  name: string;
  /** Parts over its whole length, for what its head does not show; of a packed file they say nothing. */
  parts(): Promise<Uint8Array[]>;
}

/**
 * The times stay as they were read.
 * @throws NotALog with a sentence for the user; LogAsks when only a person can say how it is to be read
 */
export async function readLogFile(
  file: LogFile,
  kind: DeviceKind,
  description: LogDescription,
  timeZone: string,
): Promise<ReadLog> {
  const head: Uint8Array[] = [];
  let headBytes = 0;
  let reader: CsvReader | null = null;
  let plan: ReadPlan | null = null;
  const begin = async (): Promise<CsvReader> => {
    const start = joined(head);
    const reading = recognise(start, kind, givenOf(description));
    const asks = reading.time?.ask === 'order' && !description.dateOrder;
    plan = planReading(asks ? settleDateOrder(reading, await file.parts()) : reading, description, timeZone);
    const begun = csvReader(plan);
    begun.push(start);
    return begun;
  };
  let damage: Damaged | null = null;
  try {
    for await (const chunk of openStream(file.chunks, file.name)) {
      if (reader) {
        reader.push(chunk);
        continue;
      }
      head.push(chunk);
      headBytes += chunk.length;
      if (headBytes >= HEAD_BYTES) reader = await begin();
    }
  } catch (error) {
    if (!(error instanceof Damaged)) throw error;
    damage = error;
    if (headBytes === 0) throw error;
  }
  reader ??= await begin();
  const rows = reader.rows();
  if (damage && description.damaged !== 'keep-whole-rows') throw damageAsked(damage, rows);
  const result = reader.end(damage !== null);
  if (result.series.time.length < 2) throw new NotALog(tooFewRows(result));
  if (damage) {
    result.problemCount++;
    result.problems.push({
      line: 0,
      reason: `The packed file is damaged after row ${rows}: what came before was kept.`,
    });
  }
  return { ...result, plan: plan!, clock: clockOf(description, plan!) };
}

function damageAsked(damage: Damaged, rows: number): LogAsks {
  const where =
    damage.how === 'cut' ? `after row ${rows}` : `in or after the ${rows} rows that could be unpacked`;
  return new LogAsks(
    { kind: 'damaged', rows, where },
    `This packed file is damaged ${where}. Copy it again from the device; or say that what was whole is kept (damaged: "keep-whole-rows").`,
  );
}

/** A file that is in memory. */
export const fileInMemory = (bytes: Uint8Array, name: string): LogFile => ({
  name,
  chunks: (async function* () {
    for (let at = 0; at < Math.max(1, bytes.length); at += PIECE) yield bytes.subarray(at, at + PIECE);
  })(),
  parts: async () => partsOf(bytes.length).map((at) => bytes.subarray(at, at + PART)),
});

const PIECE = 1 << 20;
