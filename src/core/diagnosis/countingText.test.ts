/** What counting shows, in sentences. */

import { countingText, driftText } from './countingText';
import type { CountingOut } from './result';

const counting = {
  hasReading: true,
  replayed: false,
  settings: {},
  assumed: [],
  behaves: null,
  offsetA: { value: 0, band: 0.1 },
  entangled: [],
  anchors: [],
  band: null,
  off: null,
  coverage: [],
  missed: [],
  intervals: [],
  jumps: [],
  otherHalf: null,
  tailByFloat: null,
  capacityByRefill: null,
} as unknown as CountingOut;
const lines = (part: Partial<CountingOut>) =>
  countingText({ counting: { ...counting, ...part }, syncs: [] }, (id) => id);

test('the half that the monitor does not see is named, with what both held', () => {
  const half = { part: 'upper' as const, above: 50, at: '2026-04-20T00:00:00Z', seen: 75, other: 5 };
  expect(lines({ otherHalf: half })).toContain(
    'The monitor sees the lower half. The upper half is followed by what its charger gave: it held 5 % at the end, against 75 %. The true charge is that of the emptier half.',
  );
  expect(lines({}).some((one) => one.includes('half'))).toBe(false);
});

test('a drift that the other half made says so', () => {
  const interval = { drift: 15, band: 4, parts: { otherHalf: 14.6, unexplained: 0.2 } };
  expect(driftText(interval as unknown as CountingOut['intervals'][number])).toBe(
    'The reading came out 15.0 points too high: +14.6 from the other half.',
  );
});
