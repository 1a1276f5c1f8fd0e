/** A picture of the strips: everything lies within it, in the right place, and what is written in it cannot break out of the file. */

import { HOUR } from '@/core/quantity/span';
import { drawPicture, type Picture, type Shape } from './picture';
import { svgText } from './svgText';

const FROM = Date.UTC(2026, 8, 21, 6);
const PARTS = 100;
const ramp = (from: number, to: number) =>
  Float32Array.from({ length: PARTS }, (_, k) => from + ((to - from) * k) / (PARTS - 1));

const picture: Picture = {
  span: { from: FROM, to: FROM + 12 * HOUR },
  zone: 'Europe/Rome',
  ribbons: [
    {
      name: null,
      stages: [
        { stage: 'bulk', from: FROM - HOUR, to: FROM + 4 * HOUR },
        { stage: 'absorption', from: FROM + 4 * HOUR, to: FROM + 6 * HOUR },
        { stage: 'off', from: FROM + 6 * HOUR, to: FROM + 12 * HOUR },
        { stage: 'float', from: FROM + 20 * HOUR, to: FROM + 22 * HOUR },
      ],
    },
  ],
  lanes: [
    {
      title: 'Voltage',
      unit: 'V',
      height: 80,
      traces: [
        { label: 'Battery <b>', dash: [], min: ramp(12, 14.4), max: ramp(12.1, 14.5) },
        { label: 'Charger', dash: [7, 3], min: ramp(12.2, 14.5), max: ramp(12.2, 14.5) },
      ],
    },
    {
      title: 'Current',
      unit: 'A',
      height: 60,
      traces: [
        {
          label: 'Battery',
          dash: [],
          min: ramp(-5, 20).map((one, k) => (k > 30 && k < 60 ? NaN : one)),
          max: ramp(-5, 20),
        },
      ],
    },
  ],
  lit: [{ from: FROM + 5 * HOUR, to: FROM + 5 * HOUR }],
};
const drawn = drawPicture(picture, 600);
const of = <K extends Shape['kind']>(kind: K) =>
  drawn.shapes.filter((one): one is Extract<Shape, { kind: K }> => one.kind === kind);
const words = of('text').map((one) => one.text);

describe('a picture of the strips', () => {
  test('stages in view by their letters; what is out of view or off is not drawn', () => {
    const letters = of('text').filter((one) => one.anchor === 'middle' && /^[A-Z]$/.test(one.text));
    expect(letters.map((one) => one.text)).toEqual(['B', 'A']);
    const [bulk, absorption] = of('rect').filter((one) => one.height === 12);
    expect(bulk!.x + bulk!.width).toBeCloseTo(absorption!.x);
    expect(bulk!.width).toBeCloseTo(2 * absorption!.width);
  });
  test('everything lies within it', () => {
    for (const one of of('rect')) {
      expect(one.x + one.width).toBeLessThanOrEqual(600.01);
      expect(one.y + one.height).toBeLessThanOrEqual(drawn.height);
    }
    for (const one of of('text')) expect(one.y).toBeLessThanOrEqual(drawn.height);
  });
  test('a higher value stands higher; a silence breaks the line; a moment that it is about can be seen', () => {
    const traces = of('path').filter((one) => one.d.length > 200);
    expect(traces).toHaveLength(3);
    const ys = [...traces[1]!.d.matchAll(/[ML][\d.]+ ([\d.]+)/g)].map((one) => Number(one[1]));
    expect(ys[0]).toBeGreaterThan(ys.at(-1)!);
    expect(traces[2]!.d.match(/M/g)).toHaveLength(2);
    expect(of('rect').some((one) => one.fill === '#f2e6bd' && one.width >= 1.5)).toBe(true);
  });
  test('hours are those of the site, traces of one lane are named, and it says in words what it is', () => {
    // 06:00 UTC is 08:00 in Rome in September.
    const clock = of('text').filter((one) => one.text === '11:00' || one.text === '14:00');
    expect(clock.map((one) => Math.round(one.x))).toEqual([
      46 + Math.round((548 * 3) / 12),
      46 + (548 * 6) / 12,
    ]);
    expect(words).toEqual(expect.arrayContaining(['Battery <b>', 'Charger']));
    expect(drawn.says).toBe('voltage, current from 21 Sep 2026 08:00 to 21 Sep 2026 20:00');
  });
  test('as a file it is well formed, and names stay names', () => {
    const text = svgText(drawn);
    expect(text).toContain('Battery &lt;b&gt;');
    expect(text).not.toContain('<b>');
    expect(text.match(/<path /g)!).toHaveLength(of('path').length);
    expect(text.startsWith('<svg xmlns="http://www.w3.org/2000/svg" width="600"')).toBe(true);
    expect(text).not.toMatch(/NaN|undefined/);
  });
  test('a lane without a single value is drawn empty', () => {
    const nothing = new Float32Array(PARTS).fill(NaN);
    const empty = drawPicture(
      {
        ...picture,
        lanes: [
          {
            title: 'Charge',
            unit: '%',
            height: 40,
            traces: [{ label: 'x', dash: [], min: nothing, max: nothing }],
          },
        ],
      },
      400,
    );
    expect(svgText(empty)).not.toMatch(/NaN|Infinity/);
  });
});
