/** JSON from outside: its depth and the number of its values are bounded before anything is made of it. */

export interface JsonBounds {
  /** Lists and groups within each other. */
  depth: number;
  values: number;
}

/** What is wrong with a JSON text, as the end of a sentence: "is not valid JSON: …". */
export class BadJson extends Error {}

const QUOTE = 34;
const BACKSLASH = 92;

/** @throws BadJson */
export function parseJson(text: string, { depth: deepest, values: most }: JsonBounds): unknown {
  let depth = 0;
  let values = 1;
  for (let i = 0; i < text.length; i++) {
    switch (text.charCodeAt(i)) {
      case QUOTE:
        for (i++; i < text.length && text.charCodeAt(i) !== QUOTE; i++)
          if (text.charCodeAt(i) === BACKSLASH) i++;
        break;
      case 91: // [
      case 123: // {
        values++;
        if (++depth > deepest)
          throw new BadJson(`it has lists within lists more than ${deepest} deep, which no description has`);
        break;
      case 93: // ]
      case 125: // }
        depth--;
        break;
      case 44: // ,
        if (++values > most)
          throw new BadJson(`it has more than ${most.toLocaleString('en')} values, which is too many`);
    }
  }
  try {
    return JSON.parse(text) as unknown;
  } catch (error) {
    const at = /position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1];
    throw new BadJson(
      `it is not valid JSON${at === undefined ? ', and ends too early' : `, at character ${Number(at) + 1}`}`,
    );
  }
}
