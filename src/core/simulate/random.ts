/** Seeded random numbers. Core has no randomness of its own: whoever simulates passes one of these in. */

export interface Random {
  /** Uniform in [0, 1). */
  next(): number;
  uniform(low: number, high: number): number;
  normal(mean?: number, deviation?: number): number;
  pick<T>(options: readonly T[]): T;
}

/** A small fast generator (32-bit state mixed with a Weyl sequence); the same seed gives the same numbers on every machine. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
  return {
    next,
    uniform: (low, high) => low + (high - low) * next(),
    normal: (mean = 0, deviation = 1) =>
      mean + deviation * Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
    pick: (options) => options[Math.floor(next() * options.length)]!,
  };
}
