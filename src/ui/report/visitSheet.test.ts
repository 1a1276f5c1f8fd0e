/** The sheet of a visit: what was looked at, what was not, what was changed, photos, and who signed. */

import { photoItem, photoThings, readPhotoItem } from '@/core/onsite/photoItem';
import { demoSystem, ON_SITE_DEMOS } from '@/core/simulate/demo';
import type { Visit } from '@/core/onsite/visit';
import { sheetOf } from './visitSheet';

const [{ system, job, records }] = ON_SITE_DEMOS as [(typeof ON_SITE_DEMOS)[number]];
const visit = records.visit![0]!;
const titles = (one: Visit) => sheetOf(job, system, one, []).sections.map(({ title }) => title);

test('each stop that was begun has its figures and what follows; the others are not on it', () => {
  expect(titles(visit)).toEqual([
    'Displays',
    'The monitor’s memory',
    'Proof of coverage',
    'Ratings chain',
    'What a percentage drives',
  ]);
  expect(titles({ id: visit.id, job: visit.job, on: visit.on })).toEqual([]);
  const proof = sheetOf(job, system, visit, []).sections.find((one) => one.title === 'Proof of coverage')!;
  expect(proof.read).toContainEqual(['Solar controller', '0.1 A, about 17.0 A expected']);
  expect(proof.read).toContainEqual(['Cistern pump', '−14.0 A, about −14.2 A expected']);
  expect(proof.lines.join(' ')).toContain('It is not counted: move its negative');
});

test('what was passed over, and what acceptance has not seen, is said', () => {
  const sheet = (some: Partial<Visit>) => sheetOf(job, system, { ...visit, ...some }, []);
  expect(sheet({}).notLookedAt).toEqual([]);
  expect(sheet({ passedOver: ['shunt', 'photos'] }).notLookedAt).toEqual(['Fit or move the shunt', 'Photos']);
  expect(sheet({ acceptance: { chargeA: 60 } }).notLookedAt).toContain('acceptance: the rest voltage');
  expect(sheet({ acceptance: { chargeA: 60 } }).notLookedAt).not.toContain(
    'acceptance: the charging current',
  );
});

test('an empty line until it is signed; then role and day, the next dates and the changes', () => {
  expect(sheetOf(job, system, visit, []).signature).toBeNull();
  const signed = sheetOf(
    job,
    system,
    {
      ...visit,
      signedBy: 'duty technician',
      signedOn: '2026-11-04',
      nextFullOn: '2026-11-11',
      changed: [{ what: 'Negative of the solar controller', after: 'on the busbar', why: 'Not counted.' }],
    },
    [],
  );
  expect(signed.signature).toBe('duty technician, 4 Nov 2026');
  expect(signed.facts).toContainEqual(['Next full charge', '11 Nov 2026']);
  expect(signed.changed).toEqual([
    { what: 'Negative of the solar controller', before: '', after: 'on the busbar', why: 'Not counted.' },
  ]);
});

test('photos of the visit are named by what they show; those of the checklists are not on it', () => {
  const photos = [
    { id: 'a', item: photoItem('posts', 'before') },
    { id: 'b', item: photoItem('solar', 'after') },
    { id: 'c', item: 'joints' },
  ];
  expect(sheetOf(job, system, visit, photos).photos).toEqual([
    { id: 'a', of: 'Battery posts and joints, before' },
    { id: 'b', of: 'Solar controller: its settings screens, after' },
  ]);
});

test('an item says what it shows and when, and nothing else is one', () => {
  for (const { id } of photoThings(system)) {
    const item = photoItem(id, 'before');
    expect(item).toMatch(/^[a-z0-9][a-z0-9-]{0,79}$/);
    expect(readPhotoItem(item)).toEqual({ thing: id, moment: 'before' });
  }
  // A device may be called so that its id ends like a moment.
  expect(readPhotoItem(photoItem('mains-before', 'after'))).toEqual({
    thing: 'mains-before',
    moment: 'after',
  });
  for (const item of ['joints', 'shows-', 'shows-posts', 'shows-posts-later', 'shows-Posts-before'])
    expect(readPhotoItem(item)).toBeNull();
});

test('the harbour office: signed, in order, with what was passed over', () => {
  const { system: office, job: check, records: kept } = demoSystem('harbour-office');
  const sheet = sheetOf(check, office, kept!.visit![0]!, []);
  expect(sheet.signature).toBe('duty technician, 19 Oct 2026');
  expect(sheet.notLookedAt).toEqual(['The monitor’s memory', 'Fit or move the shunt']);
  expect(sheet.sections.map((one) => one.title)).toContain('Accept the change');
});
