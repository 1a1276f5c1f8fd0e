/** Figures of a diagnosis with sensible digits. */

/** No negative nothing: it would not survive JSON. */
export const rounded = (value: number, digits: number): number => Number(value.toFixed(digits)) + 0;

/** What is not known becomes null, because JSON has no other word for it. */
export const roundedOrNull = (value: number | undefined, digits: number): number | null =>
  value === undefined || !Number.isFinite(value) ? null : rounded(value, digits);

export const roundedOrZero = (value: number, digits: number): number => roundedOrNull(value, digits) ?? 0;
