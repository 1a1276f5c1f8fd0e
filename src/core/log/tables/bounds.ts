/** How much may come out of a packed file. */

import { NotALog } from '../sniff';

/** What may come out of a packed file that streams, bytes; what is opened whole; and what is opened whole as JSON. */
export const MOST_UNPACKED = 4 * 2 ** 30;
export const MOST_WHOLE = 256 * 2 ** 20;
export const MOST_JSON = 64 * 2 ** 20;
/** A large file that unpacks to more than this for each of its bytes is no log. */
const MOST_RATIO = 200;
const LARGE = 64 * 2 ** 20;

const megabytes = (bytes: number): number => Math.round(bytes / 2 ** 20);

export const tooLargeWhole = (most: number): NotALog =>
  new NotALog(
    `A file of this kind is opened whole and may have ${megabytes(most)} MB at most. Export the log as CSV, or in parts.`,
  );

/** @param most bytes that may come out. @returns a check that throws NotALog when a file unpacks to too much */
export const packedBounds =
  (most: number) =>
  (unpacked: number, packed: number): void => {
    if (unpacked > LARGE && unpacked / Math.max(1, packed) > MOST_RATIO)
      throw new NotALog(
        'This packed file blows up to hundreds of times its size: it is no log, and it was not unpacked.',
      );
    if (unpacked > most)
      throw new NotALog(
        `This packed file unpacks to more than ${megabytes(most)} MB. Unpack it and take in the log itself.`,
      );
  };
