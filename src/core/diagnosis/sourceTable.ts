/** The figures of a source in words: what was found beside what was set and what the battery asks for. */

import { milliohms, percent, slopeMv, volts } from '../quantity/text';
import type { Range } from '../system/chemistry';
import type { Diagnosis, SourceFigures } from './result';

/** What is told of charging beside the charges themselves, as sentences. @param clock a moment in words */
export function chargingText(
  { charging }: Pick<Diagnosis, 'charging'>,
  nameOf: (source: string | null) => string,
  clock: (iso: string) => string,
): string[] {
  const balance = balanceText(charging.balance, clock);
  return [
    ...(balance ? [balance] : []),
    ...charging.sources.flatMap((one) =>
      sourceLines(one).map(
        ({ what, found, configured, asks }) =>
          `${nameOf(one.source)}, ${what.toLowerCase()}: ${found}${configured ? `; set: ${configured}` : ''}${asks ? `; asked for: ${asks}` : ''}.`,
      ),
    ),
  ];
}

export interface SourceLine {
  what: string;
  found: string;
  /** What it is set to; empty where that is not known or not a setting. */
  configured: string;
  /** What the battery asks for, or what is usual. */
  asks: string;
}

const PLATEAUS = { absorption: 'Absorption', float: 'Float', equalise: 'Equalisation' } as const;

const rangeOf = ({ min, max }: Range): string =>
  min === max ? volts(min) : `${min.toFixed(2)} to ${volts(max)}`;

/** Under this drop a cable is sound, parts of the voltage (common practice, no source). */
const SOUND_LOSS = 0.03;

export function sourceLines(one: SourceFigures): SourceLine[] {
  const lines: SourceLine[] = one.plateaus.map((plateau) => ({
    what: PLATEAUS[plateau.stage],
    found: `${volts(plateau.volts)} ± ${plateau.band.toFixed(2)}${plateau.at25 ? ' at 25 °C' : ' as held, its temperature not logged'}, ${plateau.hours} h on ${plateau.days} ${plateau.days === 1 ? 'day' : 'days'}${plateau.called && plateau.called !== plateau.stage ? `; it calls it ${plateau.called}` : ''}`,
    configured: plateau.configured === null ? '' : volts(plateau.configured),
    asks: plateau.asks ? rangeOf(plateau.asks) : '',
  }));
  const { compensation, path, limits, ratedA, missing, saysOtherwise } = one;
  if (saysOtherwise)
    lines.push({
      what: 'What it says of itself',
      found: `calls ${saysOtherwise.ofHours} h ${saysOtherwise.reported}, of which ${saysOtherwise.hours} h are ${saysOtherwise.found}${saysOtherwise.found === 'bulk' ? ': its voltage was not held' : ', by voltage and current'}`,
      configured: '',
      asks: '',
    });
  if (compensation)
    lines.push({
      what: 'Compensation',
      found: `${slopeMv(compensation.found)} ± ${compensation.band.toFixed(1)} mV per °C per cell, seen from ${compensation.fromC} to ${compensation.toC} °C`,
      configured: compensation.configured === null ? '' : `${slopeMv(compensation.configured)} mV`,
      asks:
        compensation.asks.min === compensation.asks.max
          ? compensation.asks.min === 0
            ? 'none'
            : `${slopeMv(compensation.asks.min)} mV`
          : `${slopeMv(compensation.asks.min)} to ${slopeMv(compensation.asks.max)} mV`,
    });
  if (path && !(path.band > 2 && path.band > Math.abs(path.milliohms) / 2))
    lines.push({
      what: 'Way to the battery',
      found: `${milliohms(path.milliohms / 1000)} ± ${path.band.toFixed(1)}: ${volts(path.lostVolts)} and ${path.lostWatts} W at ${path.amps.toFixed(0)} A${Math.abs(path.offsetVolts) >= 0.03 ? `; the two meters disagree by ${volts(Math.abs(path.offsetVolts))} at no current` : ''}`,
      configured: '',
      asks: `at most ${percent(100 * SOUND_LOSS)} of the voltage`,
    });
  if (limits.length > 0 || ratedA !== null)
    lines.push({
      what: 'Most that it gives',
      found:
        limits.length === 0
          ? 'no limit of its own seen'
          : limits.map((limit) => `${limit.toFixed(1)} A`).join(', '),
      configured: ratedA === null ? '' : `rated ${ratedA} A`,
      asks: '',
    });
  if (missing)
    lines.push({
      what: 'Absorption is short of',
      found:
        missing.minutes < 1
          ? `nothing, by ${missing.charges === 1 ? 'one charge' : `${missing.charges} charges`}`
          : `${missing.minutes} min (${missing.minutesBand.min} to ${missing.minutesBand.max}), ${missing.ampHours.toFixed(1)} Ah (${missing.ampHoursBand.min.toFixed(1)} to ${missing.ampHoursBand.max.toFixed(1)}), by ${missing.charges === 1 ? 'one charge' : `${missing.charges} charges`}`,
      configured: '',
      asks: missing.minutes < 5 ? '' : 'at least so much more time',
    });
  return lines;
}

/** What went in for what came out, in one sentence; null where that cannot be said. @param clock a moment in words */
export function balanceText(
  balance: Diagnosis['charging']['balance'],
  clock: (iso: string) => string,
): string | null {
  if (!balance) return null;
  const { from, to, between, ampHoursIn, ampHoursOut, returned, needs, startPercent, endPercent } = balance;
  const open = 0.02 + (balance.returnedBand ?? 0);
  const span =
    between === 'full charges'
      ? `Between the full charges of ${clock(from)} and ${clock(to)}`
      : `From ${clock(from)} to ${clock(to)}`;
  const ends =
    between === 'ends of the log' && startPercent !== null && endPercent !== null
      ? `, with the battery near ${startPercent} % at the beginning and ${endPercent} % at the end by its voltage`
      : '';
  const sums = `${span} ${ampHoursIn.toFixed(0)} Ah went in and ${ampHoursOut.toFixed(0)} Ah came out${ends}`;
  if (returned === null) return `${sums}.`;
  const verdict =
    returned < needs.min - open
      ? 'less than it needs: charge is missing, or a source is not counted'
      : returned > needs.max + open
        ? 'more than it needs: it gasses it away, or a load is not counted'
        : returned < needs.min
          ? 'at the lower edge of what meters can tell'
          : returned > needs.max
            ? 'at the upper edge of what meters can tell'
            : 'as it should be';
  const band = balance.returnedBand ? ` ± ${balance.returnedBand.toFixed(2)}` : '';
  return `${sums}: ${returned.toFixed(2)}${band} Ah put back for each taken out, where ${needs.min.toFixed(2)} to ${needs.max.toFixed(2)} is usual: ${verdict}.`;
}
