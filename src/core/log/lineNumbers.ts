/** Lines in the file of the rows that were kept: only where they do not follow each other is anything written down. */

export interface LineNumbers {
  /** Row after row, each with its line. */
  kept(row: number, line: number): void;
  of(row: number): number;
}

export function lineNumbers(): LineNumbers {
  /** Row and line, by turns. */
  const marks: number[] = [];
  let last = -1;
  return {
    kept(row, line) {
      if (line !== last + 1) marks.push(row, line);
      last = line;
    },
    of(row) {
      let low = 0;
      let high = marks.length / 2;
      while (high - low > 1) {
        const middle = (low + high) >> 1;
        if (marks[2 * middle]! <= row) low = middle;
        else high = middle;
      }
      return marks[2 * low + 1]! + row - marks[2 * low]!;
    },
  };
}
