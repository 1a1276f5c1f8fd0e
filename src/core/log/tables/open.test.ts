/** Parquet is written by another package from the registry (hyparquet-writer), so that it is not our own reading that is checked. */

import { gzipSync, strToU8, zipSync } from 'fflate';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { NotALog } from '../sniff';
import { takeInLog } from '../takeIn';
import { Damaged } from './gzip';
import { fileKindOf, needsWhole, openStream, openTable, gzipHead } from './open';

const CSV =
  'time,battery voltage (V),battery current (A)\n2026-09-21T06:30:00Z,12.41,-3.5\n2026-09-21T06:31:00Z,12.4,-3.4\n';
const bytes = (text: string) => new TextEncoder().encode(text);
const START = Date.UTC(2026, 8, 21, 6, 30);

const read = async (file: Uint8Array, name: string) =>
  takeInLog(await openTable(file, name), 'monitor', { device: 'monitor' }, 'UTC').series;

async function expectTheLog(file: Uint8Array, name: string): Promise<void> {
  const { time, channels } = await read(file, name);
  expect(Array.from(time)).toEqual([START, START + 60_000]);
  expect(channels.battery_voltage![0]).toBeCloseTo(12.41, 5);
  expect(Array.from(channels.battery_current!)).toEqual([-3.5, expect.closeTo(-3.4, 5)]);
}

/** The smallest workbook that a spreadsheet would open. @param rows XML of the rows */
function workbook(rows: string): Uint8Array {
  const head = '<?xml version="1.0" encoding="UTF-8"?>';
  return zipSync({
    '[Content_Types].xml': strToU8(
      `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>`,
    ),
    'xl/workbook.xml': strToU8(
      `${head}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Log" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles" Target="styles.xml"/></Relationships>`,
    ),
    'xl/styles.xml': strToU8(
      `${head}<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="22" applyNumberFormat="1"/></cellXfs></styleSheet>`,
    ),
    'xl/worksheets/sheet1.xml': strToU8(
      `${head}<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData></worksheet>`,
    ),
  });
}
const word = (at: string, text: string) => `<c r="${at}" t="inlineStr"><is><t>${text}</t></is></c>`;

describe('files of every kind give the same log', () => {
  const objects = [
    { time: '2026-09-21T06:30:00Z', battery: { voltage: 12.41, current: -3.5 } },
    { time: '2026-09-21T06:31:00Z', battery: { voltage: 12.4, current: -3.4 } },
  ];
  const rows = [
    ['time', 'battery voltage', 'battery current'],
    ...objects.map((one) => [one.time, one.battery.voltage, one.battery.current]),
  ];
  test.each<[string, Uint8Array]>([
    ['plain text', bytes(CSV)],
    ['gzip', gzipSync(bytes(CSV))],
    ['zip', zipSync({ 'export/log.csv': bytes(CSV), '__MACOSX/._log.csv': bytes('x') })],
    ['a gzip in a zip', zipSync({ 'log.csv.gz': gzipSync(bytes(CSV)) })],
    ['a JSON array of objects', bytes(JSON.stringify(objects))],
    ['a JSON array of rows', bytes(JSON.stringify(rows))],
    ['JSON with the list inside', bytes(JSON.stringify({ device: 'monitor', readings: objects }, null, 2))],
    ['JSON two deep', bytes(JSON.stringify({ result: { data: objects } }))],
    [
      'JSON columns',
      bytes(
        JSON.stringify({
          site: 'Porto Lente',
          time: objects.map((one) => one.time),
          battery_voltage: [12.41, 12.4],
          battery_current: [-3.5, -3.4],
        }),
      ),
    ],
    ['JSON Lines', bytes(objects.map((one) => JSON.stringify(one)).join('\n') + '\n')],
    [
      'JSON Lines cut off',
      bytes(objects.map((one) => JSON.stringify(one)).join('\n') + '\n{"time": "2026-0'),
    ],
    ['gzipped JSON Lines', gzipSync(bytes(objects.map((one) => JSON.stringify(one)).join('\n')))],
    [
      'a spreadsheet with dates',
      workbook(
        `<row r="1">${word('A1', 'time')}${word('B1', 'battery voltage')}${word('C1', 'battery current')}</row>` +
          // 46286 is 21 September 2026; a quarter and half an hour of a day.
          `<row r="2"><c r="A2" s="1"><v>46286.2708333333</v></c><c r="B2"><v>12.41</v></c><c r="C2"><v>-3.5</v></c></row>` +
          `<row r="3"><c r="A3" s="1"><v>46286.2715277778</v></c><c r="B3"><v>12.4</v></c><c r="C3"><v>-3.4</v></c></row>`,
      ),
    ],
    [
      'Parquet',
      new Uint8Array(
        parquetWriteBuffer({
          columnData: [
            { name: 'time', data: [new Date(START), new Date(START + 60_000)], type: 'TIMESTAMP' },
            { name: 'battery_voltage', data: [12.41, 12.4], type: 'DOUBLE' },
            { name: 'battery_current', data: [-3.5, -3.4], type: 'DOUBLE' },
          ],
        }),
      ),
    ],
  ])('%s', (name, file) => expectTheLog(file, name));

  test('dozens of cells in a list', async () => {
    const cells = Array.from({ length: 16 }, (_, i) => 3.3 + i / 1000);
    const file = bytes(
      JSON.stringify(
        [0, 1].map((i) => ({ t: START / 1000 + 60 * i, time: new Date(START + 60_000 * i), cells })),
      ),
    );
    const { channels } = await read(file, 'bms.json');
    expect(channels.cell_01_voltage![0]).toBeCloseTo(3.3, 5);
    expect(channels.cell_16_voltage![1]).toBeCloseTo(3.315, 5);
  });
});

describe('what is no log is said by its name', () => {
  test.each<[string, Uint8Array, RegExp]>([
    ['a picture', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 13, 10]), /a picture, not a log/],
    ['a PDF', bytes('%PDF-1.7'), /This is a PDF/],
    ['an old spreadsheet', new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 0xa1]), /old XLS format/],
    ['a bundle', zipSync({ 'datapackage.json': bytes('{}') }), /job bundle, not a log/],
    [
      'a zip of two',
      zipSync({ 'a.csv': bytes(CSV), 'b.csv': bytes(CSV) }),
      /holds 2 files \(a\.csv, b\.csv\)/,
    ],
    ['an empty zip', zipSync({}), /zip is empty/],
    ['a damaged zip', zipSync({ 'a.csv': bytes(CSV) }).subarray(0, 60), /cannot be unpacked/],
    [
      'a damaged gzip',
      new Uint8Array([0x1f, 0x8b, 8, 0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14]),
      /damaged/,
    ],
    ['broken JSON', bytes('[{"time": 1, '), /JSON cannot be read/],
    ['a broken line', bytes('{"a":1}\n{"a":\n{"a":2}\n{"a":3}\n'), /Line 2 is not valid JSON/],
    ['JSON without readings', bytes('{"status": "ok"}'), /holds no readings/],
    ['damaged Parquet', bytes('PAR1 nothing of the kind PAR1'), /Parquet file cannot be read/],
    ['a sheet of one row', workbook(`<row r="1">${word('A1', 'time')}</row>`), /no table of readings/],
  ])('%s', async (name, file, sentence) => {
    await expect(openTable(file, name)).rejects.toThrow(sentence);
  });

  test('a zip bomb and a gzip bomb are not unpacked', async () => {
    const zeros = new Uint8Array(100 * 2 ** 20);
    await expect(openTable(zipSync({ 'log.csv': zeros }), 'bomb.zip')).rejects.toThrow(/blows up/);
    await expect(openTable(gzipSync(zeros), 'bomb.gz')).rejects.toThrow(/blows up/);
    await expect(drain(openStream(pieces(gzipSync(zeros)), 'bomb.gz'))).rejects.toThrow(/blows up/);
  });
});

async function* pieces(file: Uint8Array, size = 7): AsyncGenerator<Uint8Array> {
  const step = Math.max(size, Math.ceil(file.length / 500));
  for (let at = 0; at < file.length; at += step) yield file.subarray(at, at + step);
}
async function drain(stream: AsyncIterable<Uint8Array>): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  for await (const part of stream) parts.push(part);
  return Buffer.concat(parts);
}

test('a stream of any pieces gives what the whole file gives', async () => {
  for (const file of [
    bytes(CSV),
    gzipSync(bytes(CSV)),
    zipSync({ 'log.csv': bytes(CSV) }),
    gzipSync(bytes(JSON.stringify([{ time: START, v: 1 }]))),
  ])
    expect(new Uint8Array(await drain(openStream(pieces(file, 16), 'log')))).toEqual(
      new Uint8Array(await openTable(file, 'log')),
    );
});

test('the head of a gzip is enough to recognise it; a zip is needed whole', () => {
  const packed = gzipSync(bytes(CSV.repeat(2000)));
  const head = gzipHead(packed.subarray(0, packed.length / 2), 1 << 20);
  expect(new TextDecoder().decode(head).startsWith('time,battery voltage')).toBe(true);
  expect([needsWhole(packed), needsWhole(bytes(CSV)), needsWhole(zipSync({ a: bytes(CSV) }))]).toEqual([
    false,
    false,
    true,
  ]);
  expect(fileKindOf(bytes('[Site] Porto Lente\ntime,V\n'))).toBe('text');
});

describe('damaged packing', () => {
  const rows = CSV.repeat(3000);
  const packed = gzipSync(bytes(rows));
  const got = async (file: Uint8Array) => {
    const parts: Uint8Array[] = [];
    let damage: Damaged | null = null;
    try {
      for await (const part of openStream(pieces(file, 4000), 'log.csv.gz')) parts.push(part);
    } catch (error) {
      if (!(error instanceof Damaged)) throw error;
      damage = error;
    }
    return { text: Buffer.concat(parts).toString(), how: damage?.how ?? null };
  };

  test('a cut gzip gives what was whole, and says so', async () => {
    const { text, how } = await got(packed.subarray(0, Math.round(packed.length / 2)));
    expect(how).toBe('cut');
    expect(text.length).toBeGreaterThan(rows.length / 3);
    expect(rows.startsWith(text)).toBe(true);
    expect(await got(packed.subarray(0, packed.length - 3))).toEqual({ text: rows, how: 'cut' });
  });

  test.each([
    ['checksum', packed.length - 6],
    ['length', packed.length - 2],
    ['contents', Math.round(packed.length / 2)],
  ])('a gzip whose %s was changed is told', async (_, at) => {
    const changed = packed.slice();
    changed[at]! ^= 0x41;
    expect((await got(changed)).how).toBe('changed');
    await expect(openTable(changed, 'log.csv.gz')).rejects.toThrow(/damaged: it is not as it was packed/);
  });

  test('zeros behind the end, and several members, are read', async () => {
    expect(await got(Buffer.concat([packed, Buffer.alloc(70_000)]))).toEqual({ text: rows, how: null });
    expect(await got(Buffer.concat([packed, packed]))).toEqual({ text: rows + rows, how: null });
  });

  test('a zip whose contents were changed is told by the name of the file', async () => {
    const zip = zipSync({ 'log.csv': bytes(CSV) }, { level: 0 });
    zip[zip.length >> 1]! ^= 0x41;
    const at = Buffer.from(zip).indexOf('Z,');
    zip[at - 1]! ^= 1;
    await expect(openTable(zip, 'log.zip')).rejects.toThrow(/“log\.csv” in the zip is damaged/);
  });

  test.each([
    ['leads out of it', '../log.csv'],
    ['leads out of it', '/etc/log.csv'],
    ['leads out of it', 'C:\\log.csv'],
    ['leads out of it', 'lo\0g.csv'],
  ])('a zip with a name that %s is refused: %s', async (_, name) => {
    await expect(openTable(zipSync({ [name]: bytes(CSV) }), 'log.zip')).rejects.toThrow(/leads out of it/);
  });

  test('a zip of too many files, or of one twice, is refused', async () => {
    const many = Object.fromEntries(Array.from({ length: 5001 }, (_, i) => [`${i}.csv`, new Uint8Array(1)]));
    await expect(openTable(zipSync(many), 'log.zip')).rejects.toThrow(/more than 5000 files/);
    const twice = zipSync({ 'a.csv': bytes(CSV), 'b.csv': bytes(CSV) }, { level: 0 });
    for (let at; (at = Buffer.from(twice).indexOf('b.csv')) >= 0;) twice[at] = 97;
    await expect(openTable(twice, 'log.zip')).rejects.toThrow(/“a\.csv” twice/);
  });
});

test('JSON that is nested deeper than any log is refused', async () => {
  const deep = '['.repeat(200_000) + ']'.repeat(200_000);
  await expect(openTable(bytes(deep), 'deep.json')).rejects.toThrow(/more than 32 deep/);
  await expect(openTable(bytes(`[${deep}]`), 'deep.json')).rejects.toThrow(NotALog);
});
