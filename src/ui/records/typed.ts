/** What is typed into the fields of a record, read. */

export type YesNo = 'yes' | 'no' | '';
export const YES_NO = [
  ['', 'not known'],
  ['yes', 'yes'],
  ['no', 'no'],
] as const satisfies readonly (readonly [YesNo, string])[];

/** A typed figure with a comma or a point; undefined when nothing is typed, NaN when it is no figure. */
export const typedNumber = (text: string): number | undefined =>
  text.trim() === '' ? undefined : Number(text.trim().replace(',', '.'));
export const typedYesNo = (text: YesNo): boolean | undefined => (text === '' ? undefined : text === 'yes');
