'use client';
/** Deviations of all cells over the log: a row a cell, over the middle solid, under it hatched, the stronger the further. */

import type { CellsOut } from '@/core/diagnosis/result';
import { CellAxis, momentText } from './CellAxis';
import { useMoment } from './useMoment';

const ROW = 20;
/** Nearer to the middle than this is drawn as nothing, mV; and so much is drawn as strong as can be. */
const FAINT = 3;
const STRONG = 200;

/** How strong, 0 to 1: the steps near the middle are told apart too. */
const strength = (millivolts: number): number =>
  Math.min(1, Math.sqrt(Math.max(0, Math.abs(millivolts) - FAINT) / STRONG));

export function CellHeat({ cells, zone }: { cells: CellsOut; zone: string }) {
  const { heat } = cells;
  const steps = heat.spread.length;
  const { at, handlers } = useMoment(steps);
  const height = cells.cells.length * ROW;
  const furthest = Math.max(0, ...heat.spread.map((one) => one ?? 0));
  return (
    <div className="border-rule-strong bg-sheet border p-2">
      <p className="mb-1 min-h-5 text-xs" aria-live="polite">
        {at === null
          ? 'Point at the picture, or use the arrow keys, to read a moment.'
          : readOut(cells, at, zone)}
      </p>
      <div className="grid grid-cols-[3.5rem_1fr]">
        <ol className="text-xs" aria-hidden>
          {cells.cells.map(({ cell }) => (
            <li key={cell} className="truncate pr-1 text-right font-mono" style={{ height: ROW }}>
              {cell}
            </li>
          ))}
        </ol>
        <div>
          <svg
            {...handlers}
            className="block w-full touch-pan-y"
            style={{ height }}
            viewBox={`0 0 ${steps} ${height}`}
            preserveAspectRatio="none"
            role="img"
            aria-label={`Deviation of ${cells.cells.length} cells from their middle over time; up to ${Math.round(furthest)} mV between the highest and the lowest. The table says the same in figures.`}
          >
            <defs>
              <pattern id="under" width="1" height="4" patternUnits="userSpaceOnUse">
                <rect width="1" height="4" fill="var(--sheet)" />
                <rect width="1" height="2.2" fill="var(--ink-volts)" />
              </pattern>
            </defs>
            {heat.apart.map((row, k) =>
              row.map((one, step) =>
                one === null || Math.abs(one) <= FAINT ? null : (
                  <rect
                    key={step}
                    x={step}
                    y={k * ROW + 1}
                    width={1.02}
                    height={ROW - 2}
                    fill={one > 0 ? 'var(--ink-amps)' : 'url(#under)'}
                    opacity={strength(one)}
                  />
                ),
              ),
            )}
            {at !== null && (
              <rect x={at} y={0} width={1} height={height} fill="var(--accent)" opacity={0.35} />
            )}
          </svg>
          <CellAxis heat={heat} zone={zone} />
        </div>
      </div>
      <p className="text-ink-soft mt-2 flex flex-wrap gap-x-4 text-xs">
        <span>
          <Swatch fill="var(--ink-amps)" /> over the middle
        </span>
        <span>
          <Swatch fill="url(#under)" /> under it
        </span>
        <span>The stronger, the further; {STRONG} mV and more is strongest.</span>
      </p>
    </div>
  );
}

const Swatch = ({ fill }: { fill: string }) => (
  <svg width={14} height={12} className="border-rule inline-block border align-[-2px]" aria-hidden>
    <rect width={14} height={12} fill={fill} />
  </svg>
);

/** "Sun 4 Oct 12:00: 412 mV apart; highest cell 9 (+290), lowest cell 5 (−122)" */
function readOut({ cells, heat }: CellsOut, at: number, zone: string): string {
  const spread = heat.spread[at];
  if (spread === null || spread === undefined) return `${momentText(heat, at, zone)}: nothing logged`;
  const ranked = cells
    .map(({ cell }, k) => ({ cell, apart: heat.apart[k]![at] ?? 0 }))
    .sort((a, b) => b.apart - a.apart);
  const [highest, lowest] = [ranked[0]!, ranked.at(-1)!];
  return `${momentText(heat, at, zone)}: ${spread} mV apart; highest ${highest.cell} (+${Math.max(0, highest.apart)} mV), lowest ${lowest.cell} (−${Math.abs(Math.min(0, lowest.apart))} mV)`;
}
