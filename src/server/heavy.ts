/** What holds whole recordings in memory takes turns: two at a time, the others wait. */

import pLimit from 'p-limit';

const kept = globalThis as typeof globalThis & { pazienzaHeavy?: pLimit.Limit };

export const heavy = <T>(work: () => Promise<T>): Promise<T> => (kept.pazienzaHeavy ??= pLimit(2))(work);
