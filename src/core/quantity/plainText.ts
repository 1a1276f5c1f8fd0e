/** Text from outside as it may be kept: without what cannot be seen, or would turn the text beside it round. */

/**
 * Controls, lone halves of surrogate pairs, and the marks that begin or end an order of writing of their own (embeddings, overrides,
 * isolates). Tab, line feed and carriage return are left to the caller.
 */
const UNSEEN =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\ufff9-\ufffb\p{Cs}]/gu;

/** Letters, digits, signs; fillers that count as letters but show nothing are no letters here. */
const SEEN = /[\p{L}\p{N}\p{P}\p{S}]/u;
const FILLERS = /[\u115f\u1160\u2800\u3164\uffa0]/gu;

/** Text of several lines. */
export const cleanText = (text: string): string =>
  text.replace(/\r\n?|[\u2028\u2029]/g, '\n').replace(UNSEEN, '');

/** Text of one line, without space around it. */
export const cleanLine = (text: string): string =>
  cleanText(text)
    .replace(/[\n\t]+/g, ' ')
    .trim();

/** Whether a text shows anything to a reader. */
export const isSeen = (text: string): boolean => SEEN.test(text.replace(FILLERS, ''));
