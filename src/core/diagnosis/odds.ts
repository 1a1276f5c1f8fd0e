/** Weights and standings as people say them. */

/** What the numbers beside the evidence mean, in one line. */
export const POINTS_LINE =
  'Points say how strongly a sentence speaks for (+) or against (−) the cause: ten points make it ten times as likely.';

/** Odds in words: "about 40 to 1", "about even", "about 1 to 10". @param points 10·log10 of the odds */
export function oddsText(points: number): string {
  const odds = 10 ** (Math.abs(points) / 10);
  if (odds < 1.2) return 'about even';
  if (odds < 1.75) return points > 0 ? 'about 3 to 2' : 'about 2 to 3';
  const many = odds > 1000 ? 'over 1000' : `about ${odds < 10 ? Math.round(odds) : roundTo(odds)}`;
  if (points > 0) return `${many} to 1`;
  return odds > 1000 ? 'under 1 to 1000' : `about 1 to ${odds < 10 ? Math.round(odds) : roundTo(odds)}`;
}

/** One leading digit: nobody bets on 39.8 to 1. */
function roundTo(value: number): number {
  const unit = 10 ** Math.floor(Math.log10(value));
  return Math.round(value / unit) * unit;
}

/** Points with their sign, a true minus. */
export const signedPoints = (points: number): string =>
  points > 0 ? `+${points}` : points < 0 ? `−${-points}` : '0';

interface Named {
  cause: string;
  title: string;
}

/** "Comes with: Resistance between charger and battery", or nothing. */
export function explainedText(explainedBy: readonly string[], findings: readonly Named[]): string | null {
  const titles = explainedBy.flatMap((code) => findings.find((one) => one.cause === code)?.title ?? []);
  return titles.length === 0
    ? null
    : `It comes with another fault: ${titles.map((one) => one.toLowerCase()).join('; ')}. Put that right first.`;
}
