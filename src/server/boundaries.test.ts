/** Photos that are none, files of processes that are gone, and tables that a spreadsheet might run. */

import { existsSync } from 'node:fs';
import { readdir, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import sharp from 'sharp';
import { csvCell } from '@/core/log/export/csvCell';
import { problemsCsv } from '@/core/log/export/problems';
import { isPhoto, smallPhoto } from '@/workers/photo';
import { clearPath, clearSpool, spoolPath } from './spool';

describe('a photo', () => {
  const picture = (format: 'jpeg' | 'png' | 'webp') =>
    sharp({ create: { width: 40, height: 30, channels: 3, background: '#456' } })
      .toFormat(format)
      .toBuffer();

  test.each(['jpeg', 'png', 'webp'] as const)('in %s is read', async (format) => {
    expect(await smallPhoto(await picture(format))).toMatchObject({ width: 40, height: 30 });
  });

  test('in any other format is not given to the decoder at all', async () => {
    const levels = Array.from(
      { length: 12 },
      (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(12)}</g>`,
    );
    const bomb = `<svg xmlns="http://www.w3.org/2000/svg"><rect id="g0" width="9" height="9"/>${levels.join('')}<use href="#g12"/></svg>`;
    const gif = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#456' } })
      .gif()
      .toBuffer();
    const started = performance.now();
    for (const bytes of [
      Buffer.from(bomb),
      Buffer.from(`<?xml version="1.0"?>${bomb}`),
      gif,
      Buffer.from('%PDF-1.7'),
    ]) {
      expect(isPhoto(bytes)).toBe(false);
      expect(await smallPhoto(bytes)).toBeNull();
    }
    expect(performance.now() - started).toBeLessThan(200);
  });

  test('that is an SVG behind the first bytes of a JPEG is none', async () => {
    const dressed = Buffer.concat([
      Buffer.from([0xff, 0xd8, 0xff, 0xe0]),
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'),
    ]);
    expect(await smallPhoto(dressed)).toBeNull();
  });

  test('of more pixels than any camera takes is none, and is refused at once', async () => {
    const huge = await sharp({
      create: { width: 20_000, height: 6000, channels: 3, background: '#000' },
      limitInputPixels: false,
    })
      .png({ compressionLevel: 9 })
      .toBuffer();
    const started = performance.now();
    expect(await smallPhoto(huge)).toBeNull();
    expect(performance.now() - started).toBeLessThan(1000);
  });

  test('loses where and when it was taken', async () => {
    const tagged = await sharp(await picture('jpeg'))
      .withExif({ IFD0: { Copyright: 'somebody' } })
      .toBuffer();
    expect((await sharp(tagged).metadata()).exif).toBeDefined();
    expect((await sharp(Buffer.from((await smallPhoto(tagged))!.data)).metadata()).exif).toBeUndefined();
  });
});

test('what a process that is gone has left on disk is cleared, what is in work stays', async () => {
  const mine = await spoolPath();
  await writeFile(mine, 'in work');
  const folder = dirname(mine);
  // No process has this number.
  const gone = join(folder, `4194999-${basename(mine)}`);
  await writeFile(gone, 'left');
  const strange = join(folder, 'nobody-knows');
  await writeFile(strange, 'left');
  await clearSpool();
  expect([existsSync(mine), existsSync(gone), existsSync(strange)]).toEqual([true, false, false]);
  await clearPath(mine);
  expect(await readdir(folder)).not.toContain(basename(mine));
});

describe('a cell of text', () => {
  test.each(['=1+1', '+1', '-1+2', '@SUM(A1)', '\tx', '\rx', '=HYPERLINK("http://elsewhere.example","x")'])(
    '%j is no formula when it is given out',
    (text) => {
      expect(csvCell(text).replace(/^"/, '')).toMatch(/^'/);
    },
  );

  test('of a row that had a problem is one too', () => {
    const csv = problemsCsv([{ line: 3, reason: '"=x" is not a number.', row: '=cmd|x,12' }], 1);
    expect(csv.split('\r\n')[1]).toBe('3,"""=x"" is not a number.","\'=cmd|x,12"');
  });
});
