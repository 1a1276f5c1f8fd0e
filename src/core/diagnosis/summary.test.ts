/** What is said where nothing was found hangs on whether the logs can be believed and on what was looked at. */

import { nothingFound } from './summary';

const note = (code: string) => ({ code, devices: [], text: '', spans: [] });

test('believed logs: nothing wrong, as far as they are looked at', () => {
  expect(nothingFound({ trust: [], unexamined: [] })).toMatch(
    /Nothing wrong was found in the logs, as far as they are looked at\.$/,
  );
  expect(nothingFound({ trust: [note('gaps'), note('clock-offset')], unexamined: ['cells'] })).toMatch(
    /Nothing wrong was found .* not looked at yet: how cells part over weeks\.$/,
  );
});

test.each(['sign-disagrees', 'scale-disagrees', 'stuck-value', 'voltage-disagrees', 'sampled-too-coarsely'])(
  '%s: no all-clear is given',
  (code) => {
    const text = nothingFound({ trust: [note(code)], unexamined: [] });
    expect(text).toContain('cannot be believed');
    expect(text).not.toContain('Nothing wrong');
  },
);
