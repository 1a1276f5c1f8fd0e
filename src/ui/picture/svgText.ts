/** A drawn picture as the text of an SVG file. */

import type { Drawn, Shape } from './picture';

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (one) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[one]!);

const FONT = 'Atkinson Hyperlegible Next, Arial, sans-serif';

export function svgText({ width, height, says, shapes }: Drawn): string {
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="${FONT}">`,
    `<title>${escaped(says)}</title>`,
    `<rect width="${width}" height="${height}" fill="#ffffff"/>`,
    ...shapes.map(elementOf),
    '</svg>',
  ].join('\n');
}

function elementOf(shape: Shape): string {
  switch (shape.kind) {
    case 'rect':
      return `<rect x="${shape.x}" y="${shape.y}" width="${shape.width}" height="${shape.height}" fill="${shape.fill}"${shape.stroke ? ` stroke="${shape.stroke}" stroke-width="0.6"` : ''}/>`;
    case 'path':
      return `<path d="${shape.d}" fill="none" stroke="${shape.stroke}" stroke-width="${shape.width}"${shape.dash ? ` stroke-dasharray="${shape.dash.join(' ')}"` : ''}/>`;
    case 'text':
      return `<text x="${shape.x}" y="${shape.y}" font-size="${shape.size}" text-anchor="${shape.anchor}" fill="#1b2824">${escaped(shape.text)}</text>`;
  }
}
