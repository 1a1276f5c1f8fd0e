/** Student's t distribution, for bands from few points. */

/** Quantile of Student's t. @param p 0.5 to 1 @param degrees of freedom, 1 or more. @returns within 1e-6 */
export function tQuantile(p: number, degrees: number): number {
  let low = 0;
  let high = 1e3;
  if (!(degrees >= 1)) return NaN;
  while (tCumulative(high, degrees) < p && high < 1e9) high *= 10;
  for (let i = 0; i < 200 && high - low > 1e-9 * (1 + high); i++) {
    const middle = (low + high) / 2;
    if (tCumulative(middle, degrees) < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** The finite sums for whole degrees of freedom (Abramowitz & Stegun, Handbook of Mathematical Functions, 26.7.3 and 26.7.4, from memory). */
export function tCumulative(t: number, degrees: number): number {
  const angle = Math.atan(t / Math.sqrt(degrees));
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  let between: number;
  if (degrees % 2 === 1) {
    let sum = 0;
    let term = cos;
    for (let k = 1; k <= (degrees - 1) / 2; k++) {
      sum += term;
      term *= ((2 * k) / (2 * k + 1)) * cos * cos;
    }
    between = (2 / Math.PI) * (angle + sin * sum);
  } else {
    let sum = 0;
    let term = 1;
    for (let k = 0; k <= (degrees - 2) / 2; k++) {
      sum += term;
      term *= ((2 * k + 1) / (2 * k + 2)) * cos * cos;
    }
    between = sin * sum;
  }
  return (1 + between) / 2;
}
