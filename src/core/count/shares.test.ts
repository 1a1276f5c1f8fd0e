/** How much the monitor shows of a charger that has a log of its own: drawn logs with loads that come and go. */

import type { Series } from '../log/channels';
import { judgingGrid, toGrid } from '../log/grid';
import { timelineOf } from '../log/timeline';
import { demoSite } from '../simulate/demo';
import { MINUTE } from '../quantity/span';
import type { Source } from '../system/schema';
import { sharesOf } from './shares';

const { system } = demoSite('tide-gauge');
const { capacityAh } = system.bank;
const [charger] = system.sources;
const DAYS = 4;

/** Loads of a hundredth or a twentieth of the capacity, in turns of different length. */
const load = (minute: number) => ((minute * 7) % 97 < 40 ? 0.05 : 0.01) * capacityAh;
/** Four hours a day: two fifths of the capacity for an hour in bulk, then what the loads draw. */
const given = (minute: number) => {
  const into = minute % 1440;
  if (into < 480 || into >= 720) return 0;
  return into < 540 ? 0.4 * capacityAh + load(minute) : load(minute);
};

/**
 * @param shown what the monitor shows, by what the charger gives and the loads draw
 * @param heldFrom minute of the day from which it was seen to hold its voltage, where it answers the loads
 */
const sharesBy = (shown: (given: number, drawn: number) => number, heldFrom = 540) =>
  sharesOfDrawn([given], (minute) => shown(given(minute), load(minute)), heldFrom);

function sharesOfDrawn(
  owns: readonly ((minute: number) => number)[],
  shown: (minute: number) => number,
  heldFrom: number,
  every = 1,
  voltsAt: (minute: number) => number = (minute) =>
    minute % 1440 >= 480 && minute % 1440 < 720 ? 14.3 : 12.5,
  unlogged: readonly Source[] = [],
) {
  const time = Float64Array.from({ length: DAYS * 1440 }, (_, i) => i * MINUTE);
  const column = (of: (minute: number) => number) => Float32Array.from(time, (_, i) => of(i));
  const volts = column(voltsAt);
  const amps = column(shown);
  const seldom = <T extends Float32Array | Float64Array>(of: T) => of.filter((_, i) => i % every === 0) as T;
  const monitor: Series = {
    device: 'monitor',
    time: seldom(time),
    channels: { battery_current: seldom(amps), battery_voltage: seldom(volts) },
  };
  const sources = owns.map((_, k) => ({ ...charger!, id: `${charger!.id}-${k}` }));
  const logs = owns.map((own, k): Series => ({
    device: sources[k]!.id,
    time,
    channels: { source_current: column(own) },
  }));
  const grid = judgingGrid({ from: 0, to: time.at(-1)! }, every * MINUTE, time);
  return sharesOf(
    { ...system, sources: [...sources, ...unlogged], loads: [] },
    timelineOf([monitor, ...logs]),
    {
      device: 'monitor',
      time: monitor.time,
      amps: seldom(amps),
      ampsAreItsOwn: true,
      volts: seldom(volts),
      reading: null,
    },
    grid,
    {
      amps: toGrid(monitor.time, seldom(amps), grid),
      volts: toGrid(monitor.time, seldom(volts), grid),
    },
    Uint8Array.from({ length: grid.count }, (_, i) => {
      const minute = (i * every) % 1440;
      return minute >= heldFrom && minute < 720 ? 1 : 0;
    }),
  );
}

test('all of it where the monitor sees the battery’s current', () => {
  const [one] = sharesBy((into, out) => into - out);
  expect(one!.share).toBeGreaterThan(0.8);
});

test('all of it where its clock is two rows late, nothing of it where the monitor does not see it', () => {
  const clouds = (minute: number) => {
    const into = minute % 1440;
    return into < 480 || into >= 720 ? 0 : ((minute * 37) % 101 < 45 ? 0.2 : 0.06) * capacityAh;
  };
  const shares = [1, 0].map(
    (part) =>
      sharesOfDrawn([(m) => clouds(m - 2)], (m) => part * clouds(m) - 0.01 * capacityAh, Infinity)[0]!.share,
  );
  expect(shares[0]).toBeGreaterThan(0.95);
  expect(Math.abs(shares[1]!)).toBeLessThan(0.1);
});

test('the wrong way round where it goes straight to a held voltage: as it begins it gives what it gives', () => {
  // Held from its first minute on, at 14.3 V.
  const [one] = sharesBy((into, out) => out - into, 480);
  expect(one!.share).toBeLessThan(-0.8);
});

test('all of it where its float gives nothing but what the loads draw now and then', () => {
  // Full: in float it stands at nothing until a load comes, and the battery's current does not move.
  const pump = (minute: number) => ((minute * 7) % 97 < 40 ? 0.05 * capacityAh : 0);
  const own = (minute: number) => {
    const into = minute % 1440;
    return into < 480 || into >= 720 ? 0 : into < 500 ? 0.4 * capacityAh : pump(minute);
  };
  const [one] = sharesOfDrawn(
    [own],
    (minute) =>
      own(minute) > 0 || (minute % 1440 >= 480 && minute % 1440 < 720)
        ? own(minute) - pump(minute)
        : -pump(minute),
    500,
  );
  expect(one!.share).toBeGreaterThan(0.8);
});

test('no more than all of it where another moves with it that only answers loads by much', () => {
  // Two suns rise together; the second also carries, at the held voltage, a load that comes and goes.
  const pump = (minute: number) => ((minute * 7) % 97 < 40 ? 0.4 * capacityAh : 0);
  const sun = (minute: number) => {
    const into = minute % 1440;
    return into < 480 || into >= 540 ? 0 : 0.06 * capacityAh * Math.sin((Math.PI * (into - 480)) / 60) ** 2;
  };
  const later = (minute: number) => sun(minute - 4);
  const runs = (minute: number) => minute % 1440 >= 545 && minute % 1440 < 700;
  const shares = sharesOfDrawn(
    [sun, (minute) => later(minute) + (runs(minute) ? pump(minute) : 0)],
    (minute) => sun(minute) + later(minute) - 0.01 * capacityAh,
    540,
  );
  expect(shares.map(({ share }) => share.toFixed(1))).toEqual(['1.0']);
});

test('not told where a load always comes two minutes after the charger', () => {
  const tapers = (minute: number) => {
    const into = minute % 1440;
    return into < 480 || into >= 720 ? 0 : 0.05 * capacityAh * Math.exp((480 - into) / 40);
  };
  const follows = (minute: number) => (minute % 1440 >= 482 && minute % 1440 < 1000 ? 0.015 * capacityAh : 0);
  const [one] = sharesOfDrawn([tapers], (minute) => tapers(minute) - follows(minute), 2000);
  expect(one!.share).toBeLessThan(0.85);
  expect(one!.share + one!.error).toBeGreaterThan(0.95);
});

test('none told where two move as one: a monitor that misses the second may as well show half of both', () => {
  // Two controllers on one roof, told apart by the noise of their meters alone.
  const sun = (minute: number) => Math.max(0, given(minute) - load(minute));
  const noise = (minute: number, by: number) => (((minute * by) % 31) / 31 - 0.5) * 0.002 * capacityAh;
  const shares = sharesOfDrawn(
    [(minute) => sun(minute) + noise(minute, 13), (minute) => 1.2 * sun(minute) + noise(minute, 17)],
    sun,
    540,
  );
  expect(shares.map(({ error }) => error)).toEqual([1, 1]);
});

test('all of it where a monitor that writes seldom writes the moment, while the charger’s current falls fast', () => {
  // From half the capacity down to a tenth of that within five minutes; the charger writes each minute, the monitor each fifth.
  const falls = (minute: number) => {
    const into = minute % 240;
    return into < 120 ? 0.5 * capacityAh * Math.max(0.1, 1 - 0.18 * into) : 0;
  };
  const [one] = sharesOfDrawn([falls], (minute) => falls(minute) - 1, 2000, 5);
  expect(one!.share).toBeGreaterThan(0.95);
  expect(one!.share).toBeLessThan(1.05);
  expect(one!.error).toBeLessThan(0.05);
});

test('twice of it where a monitor of a wrong scale writes the moment, and clouds come in the morning alone', () => {
  // Clouds of two minutes until ten, each over a row of the monitor’s; then a clear sky. Means of five minutes hide most of them.
  const sun = (minute: number) => {
    const into = minute % 1440;
    if (into < 480 || into >= 960) return 0;
    const clear = Math.sin(((into - 480) / 480) * Math.PI) ** 0.5;
    return 0.12 * capacityAh * clear * (into < 600 && minute % 15 < 2 ? 0.2 : 1);
  };
  const [one] = sharesOfDrawn([sun], (minute) => 2 * (sun(minute) - 0.01 * capacityAh), Infinity, 5);
  expect(one!.share).toBeCloseTo(2, 1);
  expect(one!.error).toBeLessThan(0.15);
});

test('all of it where it writes half as often as the charger, and what was given is over within two of its samples', () => {
  // Three minutes at half the capacity, and next to nothing in the fourth.
  const given = (minute: number) =>
    minute % 240 < 3 ? 0.5 * capacityAh : minute % 240 < 4 ? 0.03 * capacityAh : 0;
  const [one] = sharesOfDrawn([given], (minute) => given(minute) - 1, 2000, 2);
  expect(one!.share).toBeGreaterThan(0.9);
  expect(one!.share).toBeLessThan(1.1);
});

test('open where a load always begins as it ends: its rises tell one share, its falls another', () => {
  const given = (minute: number) => (minute % 1440 >= 480 && minute % 1440 < 720 ? 0.1 * capacityAh : 0);
  const drawn = (from: number) => (minute: number) =>
    minute % 1440 >= from && minute % 1440 < from + 120 ? 0.07 * capacityAh : 0.01 * capacityAh;
  const of = (from: number) =>
    sharesOfDrawn([given], (minute) => given(minute) - drawn(from)(minute), Infinity)[0]!;
  expect(of(720).error).toBeGreaterThan(0.3);
  expect(of(900).error).toBeLessThan(0.1);
  expect(of(900).share).toBeCloseTo(1, 2);
});

test('open where a small sun rises as the house wakes: a load comes with it each day', () => {
  // A sun that is up within the hour and sinks from noon on, or clouds all day; of what it gives two thirds are drawn while the house is awake.
  const sun = (minute: number, clouds: boolean) => {
    const into = minute % 1440;
    if (into < 450 || into >= 960) return 0;
    const risen = Math.min(1, (into - 450) / 40) * Math.min(1, (960 - into) / (clouds ? 60 : 400));
    return 0.06 * capacityAh * risen * (clouds && Math.floor(into / 12) % 3 === 1 ? 0.3 : 1);
  };
  const wakes = (minute: number) => {
    const into = minute % 1440;
    return into >= 460 && into < 1200 ? 0.04 * capacityAh : 0;
  };
  const of = (clouds: boolean) => {
    const own = (minute: number) => sun(minute, clouds);
    return sharesOfDrawn([own], (minute) => own(minute) - wakes(minute), Infinity, 10)[0]!;
  };
  const clear = of(false);
  expect(clear.share).toBeLessThan(0.8);
  expect(clear.error).toBeGreaterThan(0.2);
  // Clouds all day long tell its share whatever the house does.
  expect(of(true).error).toBeLessThan(0.15);
  expect(of(true).share).toBeGreaterThan(0.85);
});

test('open where mains come by the clock, and a load of each even hour with them: by what the battery takes at most, they are seen wholly', () => {
  const mains = (minute: number) => (minute % 1440 < 480 && minute % 1440 >= 120 ? 0.2 * capacityAh : 0);
  const beat = (minute: number) => (minute % 120 < 35 ? 0.045 : 0.005) * capacityAh;
  const shareOf = (gain: number, draws: (minute: number) => number) =>
    sharesOfDrawn([mains], (minute) => gain * (mains(minute) - draws(minute)), 481)[0]!;
  const hidden = shareOf(1, beat);
  expect(hidden.share).toBeLessThan(0.85);
  expect(hidden.error).toBeGreaterThan(0.15);
  // A meter that shows too little shows it at all times.
  const scaled = shareOf(0.7, () => 0.01 * capacityAh);
  expect(scaled.share).toBeCloseTo(0.7, 1);
  expect(scaled.error).toBeLessThan(0.06);
});

test('told by rows of five minutes, though the monitor writes each start a row before the charger does', () => {
  const mains = (minute: number) => (minute % 1440 >= 5 && minute % 1440 < 65 ? 0.3 * capacityAh : 0);
  // It begins between their rows: the monitor's comes after it, the charger's before.
  const shown = (minute: number) => 1.5 * (mains(minute + 5) - 0.05 * capacityAh);
  const [told] = sharesOfDrawn([mains], shown, 1440, 5);
  expect(told!.share).toBeCloseTo(1.5, 1);
  expect(told!.error).toBeLessThan(0.12);
});

test('told where it comes out as just what a turned sensor shows: no load of the morning hits that by chance', () => {
  const sun = (minute: number) => {
    const into = minute % 1440;
    return into < 450 || into >= 960
      ? 0
      : 0.06 * capacityAh * Math.min(1, (into - 450) / 40) * Math.min(1, (960 - into) / 400);
  };
  // The house comes and goes by the clock in the evening, far from the sun.
  const drawn = (minute: number) =>
    (minute % 1440 >= 1140 && minute % 1440 < 1380 ? 0.04 : 0.01) * capacityAh;
  const [one] = sharesOfDrawn([sun], (minute) => drawn(minute) - sun(minute), Infinity, 10);
  expect(one!.share).toBeCloseTo(-1, 1);
  expect(one!.error).toBeLessThan(0.1);
});

test('none of it where most of its steps say so, though a load begins as it is once cut off', () => {
  // It tapers off over four hours; on the last day it is cut off halfway.
  const isCut = (minute: number) => minute >= 3 * 1440 + 600;
  const given = (minute: number) => {
    const into = minute % 1440;
    return into >= 480 && into < 720 && !isCut(minute) ? (0.3 * capacityAh * (720 - into)) / 240 : 0;
  };
  const [one] = sharesOfDrawn([given], (minute) => -capacityAh * (isCut(minute) ? 0.2 : 0.01), Infinity);
  expect(Math.abs(one!.share)).toBeLessThan(0.1);
  expect(one!.error).toBeLessThan(0.15);
});

test('the wrong way round where its sensor is turned', () => {
  const [one] = sharesBy((into, out) => out - into);
  expect(one!.share).toBeLessThan(-0.5);
});

test('none of it where the monitor shows the loads alone, though the charger steps with them', () => {
  const [one] = sharesBy((_, out) => -out, Infinity);
  expect(Math.abs(one!.share)).toBeLessThan(0.1);
});

test('on a bus that the BMS has let go the charger feeds the loads alone: that says nothing of the meter', () => {
  // A sun that climbs each hour from the eighth on; until the thirteenth the bus is dead.
  const sun = (minute: number) => {
    const into = minute % 1440;
    return into < 480 || into >= 900 ? 0 : (0.3 * capacityAh * ((into - 480) % 60)) / 60;
  };
  const isDead = (minute: number) => minute % 1440 < 780;
  const shown = (minute: number) => (isDead(minute) ? 0 : sun(minute) - 0.01 * capacityAh);
  const [share] = sharesOfDrawn([sun], shown, 1440, 1, (minute) => (isDead(minute) ? 0 : 12.6));
  expect(share!.share).toBeCloseTo(1, 2);
});

test('a charger that begins as a far larger load does tells nothing of its share by that: the voltage sinks as it begins', () => {
  // Twice a day two fifths of the capacity; the second time it answers a load of seven tenths that begins with it.
  const answers = (minute: number) => minute % 1440 >= 900 && minute % 1440 < 960;
  const charges = (minute: number) => minute % 1440 >= 480 && minute % 1440 < 560;
  const own = (minute: number) => (answers(minute) || charges(minute) ? 0.4 * capacityAh : 0);
  const drawn = (minute: number) => (answers(minute) ? 0.7 * capacityAh : 0.01 * capacityAh);
  const [one] = sharesOfDrawn(
    [own],
    (minute) => own(minute) - drawn(minute),
    1440,
    1,
    (minute) => (answers(minute) ? 12.1 : charges(minute) ? 13 : 12.6),
  );
  expect(one!.share).toBeCloseTo(1, 1);
  expect(one!.error).toBeLessThan(0.1);
});

test('nothing told of a charger whose meter trembles about a current that never moves: the tremble is in no other meter', () => {
  // Two meters that tremble apart, by half a hundredth of the capacity.
  const tremble = (minute: number, by: number) =>
    0.005 * capacityAh * (((Math.sin(minute * by) * 43758.5453) % 1) - 0.5);
  const steady = (minute: number) => 0.03 * capacityAh + tremble(minute, 12.9898);
  const shown = (minute: number) => 0.02 * capacityAh + tremble(minute, 78.233);
  expect(sharesOfDrawn([steady], shown, 1440)).toEqual([]);
  // One that moves by far more than it trembles is seen.
  const moving = (minute: number) => (minute % 240 < 120 ? 0.1 * capacityAh : 0) + tremble(minute, 12.9898);
  const [all] = sharesOfDrawn([moving], (minute) => moving(minute) + tremble(minute, 78.233), 1440);
  expect(all!.share).toBeCloseTo(1, 1);
});

test('open where a charger without a log answers some of its steps, so that a part of them is shown', () => {
  const mains: Source = { ...charger!, id: 'mains', name: 'Mains', kind: 'mains' };
  const by = (part: number, unlogged: Source[]) =>
    sharesOfDrawn([given], (minute) => part * given(minute) - load(minute), 540, 1, undefined, unlogged)[0]!;
  expect(by(0.5, []).error).toBeLessThan(0.15);
  expect(by(0.5, [mains]).error).toBeGreaterThan(0.2);
  // All of it, or none, no other source makes.
  expect(by(1, [mains]).error).toBeLessThan(0.1);
  expect(by(0, [mains]).error).toBeLessThan(0.1);
});
