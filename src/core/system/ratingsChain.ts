/** What a current passes on its way, link by link, and which of them carries least. */

export interface Link {
  name: string;
  /** What it carries for good, A. */
  amps: number;
}

export interface Weakest {
  link: Link;
  /** What is left of it at a current, parts of its rating; under 0 it is overloaded. */
  margin: number;
}

/** VA that a charger draws from a generator: S = I · U / (η · cos φ). */
export const apparentPower = (amps: number, volts: number, efficiency: number, powerFactor: number): number =>
  (amps * volts) / efficiency / powerFactor;

/** Null without a link. @param amps through all of them */
export function weakestLink(links: readonly Link[], amps: number): Weakest | null {
  const link = links.reduce<Link | null>(
    (least, one) => (least === null || one.amps < least.amps ? one : least),
    null,
  );
  return link && { link, margin: 1 - amps / link.amps };
}
