import fc from 'fast-check';
import { demoSystem } from '../simulate/demo';
import { mergeChanges, sameValue } from './merge';
import type { System } from './schema';

const base: System = demoSystem('vaccine-cold-room').system;
const changed = (change: (system: System) => void): System => {
  const copy = structuredClone(base);
  change(copy);
  return copy;
};

test('changes in different places are joined', () => {
  const mine = changed((s) => {
    s.bank.capacityAh = 210;
    s.sources[0]!.profile.floatV = 27;
  });
  const theirs = changed((s) => {
    s.monitor!.chargedV = 28.1;
    delete s.sources[0]!.profile.rebulkV;
    s.loads.push({ id: 'lamp', name: 'Lamp', counted: null });
  });
  const { value, conflicts } = mergeChanges(base, mine, theirs);
  expect(conflicts).toEqual([]);
  expect(value.bank.capacityAh).toBe(210);
  expect(value.sources[0]!.profile).toMatchObject({ floatV: 27 });
  expect(value.sources[0]!.profile).not.toHaveProperty('rebulkV');
  expect(value.monitor!.chargedV).toBe(28.1);
  expect(value.loads.map((one) => one.id)).toEqual(['inverter', 'lamp']);
});

test('the same place changed twice is a conflict: theirs stands, mine is told', () => {
  const mine = changed((s) => (s.sources[1]!.profile.floatV = 26.8));
  const theirs = changed((s) => (s.sources[1]!.profile.floatV = 27.1));
  const { value, conflicts } = mergeChanges(base, mine, theirs);
  expect(value.sources[1]!.profile.floatV).toBe(27.1);
  expect(conflicts).toEqual([{ path: 'sources.1.profile.floatV', mine: 26.8, theirs: 27.1 }]);
});

test('the same change made twice is no conflict', () => {
  const both = changed((s) => (s.bank.capacityAh = 190));
  expect(mergeChanges(base, both, structuredClone(both))).toEqual({ value: both, conflicts: [] });
});

test('removed here and changed there is a conflict; removed here and left alone there is removed', () => {
  const mine = changed((s) => s.sources.pop());
  expect(mergeChanges(base, mine, structuredClone(base)).value.sources).toHaveLength(1);
  const theirs = changed((s) => (s.sources[1]!.ratedA = 30));
  const { value, conflicts } = mergeChanges(base, mine, theirs);
  expect(value.sources).toHaveLength(2);
  expect(conflicts).toEqual([{ path: 'sources.1', mine: undefined, theirs: theirs.sources[1] }]);
});

test('whoever changes nothing takes the other’s; nobody’s change is lost without a word', () => {
  const leaf = fc.oneof(fc.integer({ min: 0, max: 3 }), fc.constantFrom('a', 'b'));
  const value = fc.dictionary(
    fc.constantFrom('a', 'b', 'c'),
    fc.oneof(leaf, fc.dictionary(fc.constantFrom('x', 'y'), leaf), fc.array(leaf, { maxLength: 2 })),
  );
  fc.assert(
    fc.property(value, value, value, (from, mine, theirs) => {
      expect(mergeChanges(from, from, theirs)).toEqual({ value: theirs, conflicts: [] });
      expect(sameValue(mergeChanges(from, mine, from).value, mine)).toBe(true);
      const { conflicts } = mergeChanges(from, mine, theirs);
      // Taking theirs and mine in turn at each conflict gives the merge seen from the other side.
      const other = mergeChanges(from, theirs, mine);
      expect(other.conflicts.map((one) => one.path).sort()).toEqual(conflicts.map((one) => one.path).sort());
      if (conflicts.length === 0)
        expect(sameValue(other.value, mergeChanges(from, mine, theirs).value)).toBe(true);
    }),
  );
});
