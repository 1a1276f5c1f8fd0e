/** What is said where nothing was found hangs on whether the logs can be believed and on what was looked at. */

import { nothingFound } from './summary';

const note = (code: string) => ({ code, devices: [], text: '', spans: [] });

test('believed logs: nothing wrong, as far as they are looked at', () => {
  expect(nothingFound({ trust: [], unexamined: [] })).toMatch(
    /^No likely cause found\. Everything that the logs can show was checked\.$/,
  );
  expect(
    nothingFound({ trust: [note('gaps'), note('clock-offset'), note('wild-values')], unexamined: ['cells'] }),
  ).toMatch(/^No likely cause found\. Not yet checked: how cells part over weeks\.$/);
});

test.each(['sign-disagrees', 'scale-disagrees', 'stuck-value', 'voltage-disagrees', 'sampled-too-coarsely'])(
  '%s: no all-clear is given',
  (code) => {
    const text = nothingFound({ trust: [note(code)], unexamined: [] });
    expect(text).toContain('cannot be trusted');
    expect(text).not.toContain('Nothing wrong');
  },
);
