/** Copper conductors: resistance, drop, power lost, and the two ways to name a size. */

/**
 * Ω/km at 20 °C of stranded copper, [mm², Ω/km]. IEC 60228 class 2, from memory; 1.5 to 4 and 120 mm² from the same table, from memory.
 */
export const COPPER_OHMS_PER_KM: ReadonlyArray<readonly [number, number]> = [
  [1.5, 12.1],
  [2.5, 7.41],
  [4, 4.61],
  [6, 3.08],
  [10, 1.83],
  [16, 1.15],
  [25, 0.727],
  [35, 0.524],
  [50, 0.387],
  [70, 0.268],
  [95, 0.193],
  [120, 0.153],
];

/** Of copper, per °C, reference 20 °C. IEC 60228, from memory. */
export const COPPER_PER_C = 0.00393;

/** Ω/km at 20 °C; a size between two of the table is scaled from the nearer by its area. @param squareMm above 0 */
export function ohmsPerKm(squareMm: number): number {
  const away = (size: number) => Math.abs(Math.log(size / squareMm));
  const [size, ohms] = COPPER_OHMS_PER_KM.reduce((best, one) => (away(one[0]) < away(best[0]) ? one : best));
  return (ohms * size) / squareMm;
}

/** Ω of a pair of conductors, there and back. @param metres one way @param celsius of the copper */
export function pairOhms(metres: number, squareMm: number, celsius = 20): number {
  return ((2 * metres) / 1000) * ohmsPerKm(squareMm) * (1 + COPPER_PER_C * (celsius - 20));
}

/** mm² of an American wire gauge: 0 is 1/0, −1 is 2/0, −3 is 4/0. ASTM B258, from memory. */
export const awgToSquareMm = (gauge: number): number => 0.0126677 * 92 ** ((36 - gauge) / 19.5);

/** American wire gauge of an area, not rounded. @param squareMm above 0 */
export const squareMmToAwg = (squareMm: number): number =>
  36 - (19.5 * Math.log(squareMm / 0.0126677)) / Math.log(92);

/** "6 AWG", "2/0 AWG". */
export function awgName(gauge: number): string {
  const whole = Math.round(gauge);
  return whole <= 0 ? `${1 - whole}/0 AWG` : `${whole} AWG`;
}
