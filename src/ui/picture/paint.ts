/** A drawn picture on a canvas, and as the bytes of a PNG. */

import type { Drawn } from './picture';

/** Twice as fine as the screen: it is looked at on paper too. */
const FINE = 2;

export function paint(context: CanvasRenderingContext2D, { width, height, shapes }: Drawn): void {
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
  for (const shape of shapes) {
    if (shape.kind === 'rect') {
      context.setLineDash([]);
      context.lineWidth = 0.6;
      if (shape.fill !== 'none') {
        context.fillStyle = shape.fill;
        context.fillRect(shape.x, shape.y, shape.width, shape.height);
      }
      if (shape.stroke) {
        context.strokeStyle = shape.stroke;
        context.strokeRect(shape.x, shape.y, shape.width, shape.height);
      }
    } else if (shape.kind === 'path') {
      context.setLineDash([...(shape.dash ?? [])]);
      context.lineWidth = shape.width;
      context.strokeStyle = shape.stroke;
      context.stroke(new Path2D(shape.d));
    } else {
      context.font = `${shape.size}px "Atkinson Hyperlegible Next", Arial, sans-serif`;
      context.textAlign = shape.anchor === 'middle' ? 'center' : shape.anchor;
      context.fillStyle = '#1b2824';
      context.fillText(shape.text, shape.x, shape.y);
    }
  }
}

export async function pngOf(drawn: Drawn): Promise<Blob> {
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(FINE * drawn.width);
  canvas.height = Math.round(FINE * drawn.height);
  const context = canvas.getContext('2d')!;
  context.scale(FINE, FINE);
  paint(context, drawn);
  return new Promise((resolve, reject) =>
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error('This browser cannot make a picture of it.'))),
      'image/png',
    ),
  );
}
