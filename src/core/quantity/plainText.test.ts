import { BadJson, parseJson } from './json';
import { cleanLine, cleanText, isSeen } from './plainText';

test('what cannot be seen is taken out, what can be read stays', () => {
  expect(cleanText('a\0b\u001bc\u202Ed\u2066e\ud800f\u0085g')).toBe('abcdefg');
  expect(cleanText('first\r\nsecond\rthird\tend')).toBe('first\nsecond\nthird\tend');
  expect(cleanLine('  Porto\n\tLente ')).toBe('Porto Lente');
  for (const kept of ['Čerpadlo 24 V', 'סוללה', 'العربية', '😀', 'e\u0301', '电池'])
    expect(cleanLine(kept)).toBe(kept);
});

test('a name has to show something', () => {
  for (const unseen of ['', ' ', '\u200b', '\u00a0\u2003', '\u3164', '\u2800', '\u00ad', '\u0301'])
    expect(isSeen(unseen)).toBe(false);
  for (const seen of ['a', '7', '–', '😀', '\u200bא']) expect(isSeen(seen)).toBe(true);
});

test('JSON is bounded in depth and number before anything is made of it', () => {
  const bounds = { depth: 3, values: 10 };
  expect(parseJson('{"a":[[1,2,"[[[[,,,,,,,,,,,,,]]]]"]]}', bounds)).toEqual({
    a: [[1, 2, '[[[[,,,,,,,,,,,,,]]]]']],
  });
  expect(parseJson('["\\"[[[[", 1]', bounds)).toEqual(['"[[[[', 1]);
  expect(() => parseJson('[[[[1]]]]', bounds)).toThrow(/more than 3 deep/);
  expect(() => parseJson(`[${'1,'.repeat(20)}1]`, bounds)).toThrow(/more than 10 values/);
  expect(() => parseJson('[1,', bounds)).toThrow(BadJson);
  expect(() => parseJson('['.repeat(1e6), { depth: 64, values: 1e6 })).toThrow(BadJson);
});
