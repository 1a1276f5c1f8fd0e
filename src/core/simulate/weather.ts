/** Sun, clouds and air temperature at a site, minute by minute. */

import { DAY, HOUR } from '../quantity/span';
import { clamp } from '../quantity/numbers';
import type { Random } from './random';

export interface Climate {
  latitude: number;
  /** Degrees east, for the solar noon. */
  longitude: number;
  meanC: number;
  /** Half the difference between afternoon and dawn. */
  dailyC: number;
  /** Share of days that are clear, mixed, overcast; they sum to 1. */
  clear: number;
  mixed: number;
}

export interface Weather {
  /** Sun on the panels, 0 to about 1 (1: full rating). */
  sun(ms: number): number;
  airC(ms: number): number;
}

/** Weather that depends on the seed alone. Call `sun` with rising times: clouds drift from one call to the next. */
export function weather(climate: Climate, random: Random): Weather {
  const kinds = new Map<number, { kind: 'clear' | 'mixed' | 'overcast'; depth: number; warmth: number }>();
  let cloud = 0;
  let covered = false;
  let last = NaN;

  function dayOf(ms: number) {
    const day = Math.floor(ms / DAY);
    let found = kinds.get(day);
    if (!found) {
      const dice = random.next();
      const kind =
        dice < climate.clear ? 'clear' : dice < climate.clear + climate.mixed ? 'mixed' : 'overcast';
      found = { kind, depth: random.uniform(0.15, 0.4), warmth: random.normal(0, 1.5) };
      kinds.set(day, found);
    }
    return found;
  }

  return {
    sun(ms) {
      const day = dayOf(ms);
      const minutes = last === last ? clamp((ms - last) / 60_000, 0, 60) : 1;
      last = ms;
      if (random.next() < minutes * (covered ? 1 / 12 : 1 / 25)) covered = !covered;
      cloud += (random.normal() - cloud) * Math.min(1, minutes / 20);
      const elevation = sunElevation(climate, ms);
      if (elevation <= 0) return 0;
      const clear = Math.sin(elevation) ** 1.15;
      if (day.kind === 'clear') return clear * (1 - 0.02 * Math.abs(cloud));
      if (day.kind === 'overcast') return clear * clamp(day.depth + 0.06 * cloud, 0.03, 1);
      return clear * (covered ? clamp(day.depth + 0.08 * cloud, 0.05, 1) : 1 - 0.02 * Math.abs(cloud));
    },
    airC(ms) {
      const hour = (ms / HOUR + climate.longitude / 15) % 24;
      const between = (ms % DAY) / DAY;
      const warmth = dayOf(ms).warmth * (1 - between) + dayOf(ms + DAY).warmth * between;
      return climate.meanC + warmth + climate.dailyC * Math.cos(((hour - 15) / 24) * 2 * Math.PI);
    },
  };
}

/** Elevation of the sun in radians (declination by Cooper's formula; good to about a degree). */
export function sunElevation(
  { latitude, longitude }: { latitude: number; longitude: number },
  ms: number,
): number {
  const date = new Date(ms);
  const dayOfYear = Math.floor((ms - Date.UTC(date.getUTCFullYear(), 0, 1)) / DAY) + 1;
  const declination = (23.45 * Math.PI * Math.sin((2 * Math.PI * (284 + dayOfYear)) / 365)) / 180;
  const solarHour = ((ms % DAY) / HOUR + longitude / 15) % 24;
  const hourAngle = ((solarHour - 12) * Math.PI) / 12;
  const phi = (latitude * Math.PI) / 180;
  return Math.asin(
    Math.sin(phi) * Math.sin(declination) + Math.cos(phi) * Math.cos(declination) * Math.cos(hourAngle),
  );
}
