import fc from 'fast-check';
import { deriveChannels } from './deriveChannels';

const column = (...values: number[]) => Float32Array.from(values);

describe('charge and discharge in columns of their own', () => {
  test('are joined, charge positive; whatever sign the discharge was written with', () => {
    for (const sign of [1, -1]) {
      const { channels, notes } = deriveChannels({
        battery_charge_current: column(5, 0, 0),
        battery_discharge_current: column(0, 3 * sign, 0),
      });
      expect(channels).toEqual({ battery_current: column(5, -3, 0) });
      expect(notes).toEqual([]);
    }
  });

  test('the idle direction may be empty; where both are, nothing was measured', () => {
    const { channels } = deriveChannels({
      battery_charge_current: column(5, NaN, NaN),
      battery_discharge_current: column(NaN, 3, NaN),
    });
    expect(channels.battery_current).toEqual(column(5, -3, NaN));
  });

  test('one direction alone is a current that never goes the other way', () => {
    expect(deriveChannels({ battery_discharge_current: column(2, 4) }).channels).toEqual({
      battery_current: column(-2, -4),
    });
  });

  test('what charges, less what the loads draw, where that was logged', () => {
    expect(
      deriveChannels({ battery_charge_current: column(5, 0), load_current: column(2, 3) }).channels,
    ).toEqual({ battery_current: column(3, -3), load_current: column(2, 3) });
  });

  test('a current that was logged goes before them', () => {
    const { channels } = deriveChannels({
      battery_current: column(1),
      battery_charge_current: column(9),
      battery_discharge_current: column(0),
    });
    expect(channels).toEqual({ battery_current: column(1) });
  });
});

describe('the halves of a bank', () => {
  test('are the bank together, and the whole less the upper half is the middle', () => {
    expect(
      deriveChannels({ upper_half_voltage: column(13, NaN), midpoint_voltage: column(12.5, 12) }).channels,
    ).toEqual({ midpoint_voltage: column(12.5, 12), battery_voltage: column(25.5, NaN) });
    expect(
      deriveChannels({ upper_half_voltage: column(13), battery_voltage: column(25.5) }).channels,
    ).toEqual({ battery_voltage: column(25.5), midpoint_voltage: column(12.5) });
  });

  test('one that was logged goes before them; the upper half alone gives nothing, and that is said', () => {
    expect(
      deriveChannels({
        upper_half_voltage: column(13),
        midpoint_voltage: column(12),
        battery_voltage: column(26),
      }).channels,
    ).toEqual({ midpoint_voltage: column(12), battery_voltage: column(26) });
    const { channels, notes } = deriveChannels({ upper_half_voltage: column(13) });
    expect(channels).toEqual({});
    expect(notes).toEqual([expect.stringMatching(/upper half was not used/)]);
  });
});

describe('power instead of current', () => {
  test('is divided by the voltage beside it', () => {
    const { channels } = deriveChannels({
      battery_voltage: column(12.5, 25),
      battery_power: column(-125, 100),
    });
    expect(channels.battery_current).toEqual(column(-10, 4));
    expect(channels).not.toHaveProperty('battery_power');
  });

  test('takes the nearest voltage that there is', () => {
    expect(
      deriveChannels({ battery_voltage: column(25), source_power: column(500) }).channels.source_current,
    ).toEqual(column(20));
    expect(
      deriveChannels({ battery_voltage: column(25), load_voltage: column(20), load_power: column(100) })
        .channels.load_current,
    ).toEqual(column(5));
  });

  test('says nothing of the current where there is no voltage to speak of', () => {
    expect(
      deriveChannels({ battery_voltage: column(0, 12), battery_power: column(5, 12) }).channels
        .battery_current,
    ).toEqual(column(NaN, 1));
    const { channels, notes } = deriveChannels({ battery_power: column(100) });
    expect(channels).toEqual({});
    expect(notes).toEqual(['battery power was not used: without a voltage beside it no current follows.']);
  });

  test('and back again gives the power', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 60, noNaN: true }),
        fc.double({ min: -500, max: 500, noNaN: true }),
        (volts, amps) => {
          const { channels } = deriveChannels({
            battery_voltage: column(volts),
            battery_power: column(volts * amps),
          });
          expect(channels.battery_current![0]! * volts).toBeCloseTo(volts * amps, 1);
        },
      ),
    );
  });
});

test('what is a channel already is left alone', () => {
  const read = { battery_voltage: column(12, 13), cell_01_voltage: column(3.3, 3.31), soc: column(50, 51) };
  expect(deriveChannels(read)).toEqual({ channels: read, notes: [] });
});
