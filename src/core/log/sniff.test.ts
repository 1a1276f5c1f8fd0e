import { decodeText, plainBytes } from './encoding';
import { NotALog, sniffDialect, splitLine } from './sniff';

describe('a line is split (RFC 4180)', () => {
  test.each<[string, string, string[]]>([
    ['a,b,c', ',', ['a', 'b', 'c']],
    [' a ; b ;', ';', ['a', 'b', '']],
    ['"a,b",c', ',', ['a,b', 'c']],
    ['"say ""so""",1', ',', ['say "so"', '1']],
    ['1\t\t2', '\t', ['1', '', '2']],
    ['', ',', ['']],
  ])('%j at %j', (line, delimiter, cells) => {
    expect(splitLine(line, delimiter)).toEqual(cells);
  });
});

describe('how a file is written', () => {
  const rows = (delimiter: string, decimal: string) =>
    Array.from({ length: 5 }, (_, i) =>
      [`2026-09-21 06:3${i}`, `12${decimal}4${i}`, `-1${decimal}5`].join(delimiter),
    ).join('\n');
  test.each([
    [',', '.'],
    [';', ','],
    [';', '.'],
    ['\t', ','],
    ['|', '.'],
  ] as const)('delimiter %j, decimal %j', (delimiter, decimalChar) => {
    const head = `time${delimiter}V${delimiter}A\n${rows(delimiter, decimalChar)}\n`;
    expect(sniffDialect(head)).toEqual({
      delimiter,
      decimalChar,
      headingLine: 0,
      unitLine: null,
      firstDataLine: 1,
    });
  });

  test('quoted decimal commas between commas', () => {
    const head =
      'time,V\n' + Array.from({ length: 5 }, (_, i) => `2026-09-21 06:3${i},"12,4${i}"`).join('\n');
    expect(sniffDialect(head)).toMatchObject({ delimiter: ',', decimalChar: ',' });
  });

  test('preamble, blank lines and a line of units', () => {
    const head = `Logger 12\nSite;Molo Nord\n\ntime;Voltage;Current\n;[V];[A]\n${rows(';', ',')}\n`;
    expect(sniffDialect(head)).toMatchObject({ headingLine: 3, unitLine: 4, firstDataLine: 5 });
  });

  test('no headings', () => {
    expect(sniffDialect(rows(',', '.'))).toMatchObject({ headingLine: null, firstDataLine: 0 });
  });

  test('without headings, decimal commas between semicolons are not taken for delimiters', () => {
    expect(sniffDialect(rows(';', ','))).toMatchObject({
      delimiter: ';',
      decimalChar: ',',
      firstDataLine: 0,
    });
  });

  test('what is told goes before what is seen', () => {
    const head = Array.from({ length: 5 }, (_, i) => `2026-09-21 06:3${i};12,4`).join('\n');
    expect(sniffDialect(head)).toMatchObject({ delimiter: ';', decimalChar: ',' });
    const told = Array.from({ length: 5 }, (_, i) => `2026-09-21 06:3${i},12,4;x`).join('\n');
    expect(sniffDialect(told, { delimiter: ',' })).toMatchObject({ delimiter: ',', decimalChar: '.' });
  });

  test.each([
    ['', /empty/],
    ['\n \n', /empty/],
    ['<!DOCTYPE html><p>1;2', /web page/],
    ['<?xml version="1.0"?><a/>', /web page/],
    ['a\0b\0c', /binary/],
    ['Only words here\nand here\n', /No rows of readings/],
  ])('%j is no log', (head, sentence) => {
    expect(() => sniffDialect(head)).toThrow(NotALog);
    expect(() => sniffDialect(head)).toThrow(sentence);
  });
});

describe('bytes to text', () => {
  test('UTF-8, and Latin-1 where it is not valid UTF-8', () => {
    expect(decodeText(new TextEncoder().encode('18 °C – 3 Ω'))).toBe('18 °C – 3 Ω');
    expect(decodeText(Uint8Array.from([0x31, 0x38, 0xb0, 0x43]))).toBe('18°C');
  });

  test('UTF-16 of either order, cut anywhere, and a UTF-8 mark', () => {
    const text = 'time;°C\n1;2\n';
    for (const little of [true, false]) {
      const bytes = new Uint8Array(2 + 2 * text.length);
      const view = new DataView(bytes.buffer);
      view.setUint16(0, 0xfeff, little);
      for (let i = 0; i < text.length; i++) view.setUint16(2 + 2 * i, text.charCodeAt(i), little);
      for (const size of [2, 3, 7, 100]) {
        const convert = plainBytes();
        let out = '';
        const parts: number[] = [];
        for (let at = 0; at < bytes.length; at += size) parts.push(...convert(bytes.slice(at, at + size)));
        out = decodeText(Uint8Array.from(parts));
        expect(out).toBe(text);
      }
    }
    expect(decodeText(plainBytes()(Uint8Array.from([0xef, 0xbb, 0xbf, 0x41])))).toBe('A');
  });
});
