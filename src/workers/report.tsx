/** Draws a report, or the sheet of a visit, as a PDF. */

import { join } from 'node:path';
import { Font, renderToBuffer } from '@react-pdf/renderer';
import { ReportPdf } from '@/ui/report/ReportPdf';
import type { Report } from '@/ui/report/sections';
import { VisitPdf } from '@/ui/report/VisitPdf';
import type { VisitSheet } from '@/ui/report/visitSheet';

const fontFile = (family: string, weight: number) =>
  join(
    process.cwd(),
    'node_modules',
    '@fontsource',
    family,
    'files',
    `${family}-latin-${weight}-normal.woff`,
  );

Font.register({
  family: 'Atkinson',
  fonts: [400, 700].map((weight) => ({
    src: fontFile('atkinson-hyperlegible-next', weight),
    fontWeight: weight,
  })),
});
Font.register({
  family: 'AtkinsonMono',
  fonts: [{ src: fontFile('atkinson-hyperlegible-mono', 400), fontWeight: 400 }],
});
Font.registerHyphenationCallback((word) => [word]);

/** @param photos JPEGs by their ids */
export async function drawReport(
  report: Report,
  photos: ReadonlyMap<string, Uint8Array>,
): Promise<Uint8Array> {
  return renderToBuffer(<ReportPdf report={report} photos={buffersOf(photos)} />);
}

const buffersOf = (photos: ReadonlyMap<string, Uint8Array>) =>
  new Map([...photos].map(([id, bytes]) => [id, Buffer.from(bytes)]));

/** @param photos JPEGs by their ids */
export const drawSheet = (sheet: VisitSheet, photos: ReadonlyMap<string, Uint8Array>): Promise<Uint8Array> =>
  renderToBuffer(<VisitPdf sheet={sheet} photos={buffersOf(photos)} />);
