/** Which held voltages are settings, and what they are called. Drawn, so that the answer is known. */

import { drawnView, type Drawing } from '../../../tests/support/drawnView';
import { agm, lithium, source } from '../../../tests/support/drawnCharges';
import { demoSite } from '../simulate/demo';
import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import type { KnownBank } from '../system/known';
import { findSetpoints } from './setpoints';
import { chargeViews } from './view';

const DAY = 1440;
const bare = { ...source, profile: {} };
const find = (drawing: Drawing, held: (minute: number) => number, bank: object) => {
  const view = drawnView(drawing);
  return findSetpoints(
    view,
    Float32Array.from(view.volts, (_, i) => held(i)),
    bank as KnownBank,
    bare,
  );
};

describe('lithium at a voltage of its flat part', () => {
  // Half the day at 13.30 V while 8 A go in, the other half it rests lower.
  const flat: Drawing = {
    minutes: 6 * DAY,
    volts: (m) => (m % DAY < 720 ? 13.3 : 13.2),
    amps: (m) => (m % DAY < 720 ? 8 : 0),
  };
  test('that looks held now and then only passes through', () => {
    expect(find(flat, (m) => (m % 720 < 120 ? 2 : -1), lithium).all).toEqual([]);
  });
  test('that looks held all the time is set so', () => {
    expect(find(flat, () => 2, lithium).all[0]!.volts).toBeCloseTo(13.3, 2);
  });
  test('a lead battery has no such part', () => {
    expect(find(flat, (m) => (m % 720 < 120 ? 2 : -1), agm).all).toHaveLength(1);
  });
});

describe('a single held voltage', () => {
  const day = (top: number): Drawing => ({
    minutes: 8 * DAY,
    volts: (m) => {
      const into = m % DAY;
      if (into < 300) return 12.6 + ((top - 12.6) * into) / 300;
      return into < 700 ? 13.7 : 12.6;
    },
    amps: (m) => (m % DAY < 300 ? 15 : m % DAY < 700 ? 1.5 : 0),
  });
  const floats = (m: number) => (m % DAY >= 300 ? 2 : -2);
  test('that is come down to is a float, however short what was above it', () => {
    const { absorption, float } = find(day(14.4), floats, agm);
    expect(float!.volts).toBeCloseTo(13.7, 2);
    expect(absorption === null || absorption.volts > 14).toBe(true);
  });
  test('that is climbed into is absorption, however low', () => {
    const { absorption, float } = find(day(13.7), floats, agm);
    expect(absorption!.volts).toBeCloseTo(13.7, 2);
    expect(float).toBeNull();
  });
});

test('an absorption far above the range, rarer than the float below it, is no equalisation', () => {
  // Mains goes away every fourth day; then six hours at 14.95 V, and float for days.
  const drawing: Drawing = {
    minutes: 16 * DAY,
    volts: (m) => {
      const into = m % (4 * DAY);
      return into < 60 ? 12.6 + into / 30 : into < 420 ? 14.95 : into < 3.9 * DAY ? 13.65 : 12.6;
    },
    amps: (m) => {
      const into = m % (4 * DAY);
      return into < 60 ? 15 : into < 420 ? 1 + 12 * Math.exp(-(into - 60) / 60) : into < 3.9 * DAY ? 0.6 : 0;
    },
  };
  const { absorption, float } = find(drawing, (m) => (m % (4 * DAY) >= 60 ? 2 : -2), agm);
  expect(absorption!.volts).toBeCloseTo(14.95, 1);
  expect(float!.volts).toBeCloseTo(13.65, 1);
});

test('a temperature is carried over an hour of silence, and not over a day', () => {
  const { system } = demoSite('tide-gauge');
  const count = 3 * DAY;
  const time = Float64Array.from({ length: count }, (_, i) => Date.UTC(2026, 5, 1) + i * MINUTE);
  const log = (silent: (minute: number) => boolean): Series[] => {
    const awake = [...time.keys()].filter((i) => !silent(i));
    return [
      {
        device: system.sources[0]!.id,
        time,
        channels: {
          source_voltage: new Float32Array(count).fill(13.7),
          source_current: new Float32Array(count).fill(2),
        },
      },
      {
        device: 'monitor',
        time: Float64Array.from(awake, (i) => time[i]!),
        channels: { battery_temperature: new Float32Array(awake.length).fill(11) },
      },
    ];
  };
  const celsius = (silent: (minute: number) => boolean) =>
    chargeViews(system, timelineOf(log(silent)))[0]!.celsius!;
  expect(celsius((m) => m > 2000 && m < 2060).every((one) => one === 11)).toBe(true);
  expect(
    celsius((m) => m > 1000 && m < 1000 + 1.5 * DAY).filter((one) => one !== one).length,
  ).toBeGreaterThan(10 * 60);
});

describe('two close voltages', () => {
  // Half a tenth of a volt a cell apart: four hours at the upper, then the lower; or the two by turns, as a load on a long cable makes them.
  const day = (m: number) => m % DAY;
  const drawing = (turns: boolean): Drawing => ({
    minutes: 8 * DAY,
    volts: (m) => {
      const into = day(m);
      if (into < 200) return 12.4 + (1.5 * into) / 200;
      if (into >= 1000) return 12.6;
      const upper = turns ? Math.floor(into / 20) % 2 === 0 : into < 440;
      return upper ? 13.9 : 13.8;
    },
    amps: (m) => (day(m) < 200 ? 20 : day(m) < 1000 ? 3 : 0),
    battery: (m) => (day(m) < 200 ? 20 : day(m) < 1000 ? 3 : -1),
  });
  const held = (m: number) => (day(m) >= 200 && day(m) < 1000 ? 2 : -2);
  test('are absorption and float where every charge goes down from one to the other', () => {
    const found = find(drawing(false), held, agm);
    expect(found.absorption!.volts).toBeCloseTo(13.9, 2);
    expect(found.float!.volts).toBeCloseTo(13.8, 2);
  });
  test('are one where it goes to and fro', () => {
    expect(find(drawing(true), held, agm).float).toBeNull();
  });
});

test('what is held round the clock is a float, and what stood above it once absorption', () => {
  const found = find(
    {
      minutes: 8 * DAY,
      volts: (m) => (m < 200 ? 12.4 + (2 * m) / 200 : m < 440 ? 14.4 : 14.0),
      amps: (m) => (m < 200 ? 20 : 2),
      battery: (m) => (m < 200 ? 20 : 1),
    },
    (m) => (m < 200 ? -2 : 2),
    agm,
  );
  expect(found.absorption!.volts).toBeCloseTo(14.4, 2);
  expect(found.float!.volts).toBeCloseTo(14.0, 2);
});

test('what a charger rests at while it calls itself off is none of its voltages', () => {
  // Lithium: eight hours at 13.55 V, then it stands at 13.27 V, and the meter of the charger trembles about nothing.
  const found = (reported: (minute: number) => 'float' | 'off') =>
    find(
      {
        minutes: 8 * DAY,
        volts: (m) => (m % DAY < 480 ? 13.55 : 13.27),
        amps: (m) => (m % DAY < 480 ? 5 : 0.6),
        reported,
      },
      () => 2,
      lithium,
    );
  const told = found((m) => (m % DAY < 480 ? 'float' : 'off'));
  expect(told.all.map(({ called }) => called)).toEqual(['float']);
  expect(told.float!.volts).toBeCloseTo(13.55, 2);
  // A charger that never says anything else has no word of its own.
  expect(found(() => 'off').all.length).toBeGreaterThan(1);
});

test('where a charger lets go within minutes is no float, though it calls itself so by then', () => {
  // Others hold the bus: it climbs to 14.4 V, has its tail at once, and gives a little at 13.7 V later on.
  const found = find(
    {
      minutes: 8 * DAY,
      volts: (m) => {
        const into = m % DAY;
        if (into < 300) return 12.6 + (1.8 * into) / 300;
        return into < 304 ? 14.4 : into < 700 ? 13.7 : 12.6;
      },
      amps: (m) => (m % DAY < 300 ? 10 : m % DAY < 700 ? 1 : 0),
      reported: (m) => (m % DAY < 300 ? 'bulk' : m % DAY < 700 ? 'float' : 'off'),
    },
    (m) => (m % DAY >= 300 && m % DAY < 700 ? 2 : -2),
    agm,
  );
  expect(found.absorption!.volts).toBeCloseTo(14.4, 1);
  expect(found.float!.volts).toBeCloseTo(13.7, 1);
});

test('two floats, by day and by night, are come to from the absorption that the charger itself calls so, were it but once', () => {
  const found = (reported?: (minute: number) => 'absorption' | 'float') =>
    find(
      {
        minutes: 8 * DAY,
        volts: (m) => (m < 200 ? 14.3 : m % DAY < 720 ? 14.0 : 13.8),
        amps: () => 1,
        battery: (m) => (m < 200 ? 3 : 0.3),
        reported,
      },
      () => 2,
      agm,
    );
  const told = found((m) => (m < 200 ? 'absorption' : 'float'));
  expect(told.absorption!.volts).toBeCloseTo(14.3, 2);
  expect(told.float!.called).toBe('float');
  expect(found((m) => (m < 0 ? 'absorption' : 'float')).absorption).toBeNull();
});

test('an absorption a tenth of a volt a block above its float is another voltage, though clouds come between on some mornings', () => {
  // A bank of 48 V whose meter shows tenths: 55.6 V for three hours, then 55.14 V on the edge of two steps; a cloud now and then before noon.
  const drawing: Drawing = {
    minutes: 12 * DAY,
    blocks: 4,
    quantum: 0.1,
    noise: 0.01,
    volts: (m) => {
      const into = m % DAY;
      if (into < 120) return 50 + (5.6 * into) / 120;
      const isCloudy = into < 200 && Math.floor(m / DAY) % 2 === 0 && into % 20 < 6;
      if (into < 300) return isCloudy ? 55.38 : 55.6;
      return into < 620 ? 55.14 : 50;
    },
    amps: (m) => {
      const into = m % DAY;
      return into < 120 ? 30 : into < 300 ? 25 * Math.exp((120 - into) / 150) : into < 620 ? 4 : 0;
    },
  };
  const { absorption, float } = find(drawing, (m) => (m % DAY >= 120 ? 2 : -2), {
    ...agm,
    cellsInSeries: 24,
  });
  expect(absorption!.volts).toBeCloseTo(55.6, 1);
  expect(absorption!.hours).toBeGreaterThan(20);
  expect(float!.volts).toBeGreaterThan(55.05);
  expect(float!.volts).toBeLessThan(55.25);
});
