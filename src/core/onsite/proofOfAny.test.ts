/**
 * The proof of coverage against wirings made up at random: each device counted or not, the sensor turned or not, any scale and zero, clamp and
 * display as far off as they may be. What was made up must be found, and nothing else.
 */

import fc from 'fast-check';
import { ON_SITE_DEMOS } from '../simulate/demo';
import { judgeProof } from './judgeProof';
import { provenCounted } from './proof';
import type { Proof } from './visit';

const { system } = ON_SITE_DEMOS[0]!;
const devices = [...system.sources, ...system.loads].map(({ id }) => id);
const isSource = (id: string) => system.sources.some((one) => one.id === id);

const wiring = fc.record({
  counted: fc.array(fc.boolean(), { minLength: devices.length, maxLength: devices.length }),
  /** True amperes of each device alone. */
  amps: fc.array(fc.double({ min: 3, max: 60, noNaN: true }), {
    minLength: devices.length,
    maxLength: devices.length,
  }),
  turned: fc.boolean(),
  /** A shunt is set wrong by a half or more, or right. */
  scale: fc.constantFrom(0.4, 0.5, 1, 2, 2.5),
  zero: fc.constantFrom(-0.7, 0, 0.7),
  /** Meters, in parts of what they may be off. */
  clamp: fc.double({ min: -1, max: 1, noNaN: true }),
});

/** What clamp meter and monitor read. @param true current of each device, into the battery + */
function readOff({ counted, amps, turned, scale, zero, clamp }: Wiring): Proof {
  return {
    offA: zero,
    isolatedA: zero,
    devices: Object.fromEntries(
      devices.map((id, k) => {
        const current = (isSource(id) ? 1 : -1) * amps[k]!;
        const shown = counted[k] ? current * scale * (turned ? -1 : 1) : 0;
        return [id, { clampA: amps[k]! * (1 + 0.02 * clamp), showsA: shown + zero }];
      }),
    ),
  };
}
type Wiring = typeof wiring extends fc.Arbitrary<infer T> ? T : never;

const factsOf = (proof: Proof) => new Set(judgeProof(system, proof).flatMap((one) => one.fact ?? []));

test('which device is counted is found, whatever sign, scale and zero', () => {
  fc.assert(
    fc.property(wiring, (made) => {
      expect(provenCounted(system, readOff(made))).toEqual(
        Object.fromEntries(devices.map((id, k) => [id, made.counted[k]])),
      );
    }),
    { numRuns: 500, seed: 26 },
  );
});

test('a zero, a turned sensor and a wrong scale are found where they are, and only there', () => {
  fc.assert(
    fc.property(wiring, (made) => {
      const facts = factsOf(readOff(made));
      const seen = made.counted.some(Boolean);
      expect(facts.has('zero-off')).toBe(made.zero !== 0);
      expect(facts.has('sensor-turned')).toBe(seen && made.turned);
      expect(facts.has('scale-off')).toBe(seen && made.scale !== 1);
    }),
    { numRuns: 500, seed: 27 },
  );
});

test('what is in order is never said to be wrong', () => {
  fc.assert(
    fc.property(wiring, (made) => {
      const right = {
        ...made,
        counted: devices.map(() => true),
        turned: false,
        scale: 1 as const,
        zero: 0 as const,
      };
      expect(judgeProof(system, readOff(right)).map((one) => one.weight)).not.toContain('fault');
    }),
    { numRuns: 500, seed: 28 },
  );
});
