/** What each trace of the strips is. */

import type { Lane } from './lanes';

export function Legend({ lanes }: { lanes: readonly Lane[] }) {
  return (
    <ul className="text-ink-soft mt-2 flex flex-wrap gap-x-4 gap-y-1 text-xs">
      {lanes.flatMap((lane) =>
        (lane.id === 'cells' ? lane.traces.slice(0, 1) : lane.traces).map((trace) => (
          <li key={lane.id + trace.recording.id + trace.channel} className="flex items-center gap-1.5">
            <svg width={26} height={8} aria-hidden>
              <line
                x1={0}
                x2={26}
                y1={4}
                y2={4}
                stroke={`var(${trace.ink})`}
                strokeWidth={1.6}
                strokeDasharray={trace.dash.join(' ')}
              />
            </svg>
            {lane.id === 'cells' ? `${lane.traces.length} cells` : trace.label}
          </li>
        )),
      )}
      <li className="flex items-center gap-1.5">
        <span
          className="inline-block h-2 w-6"
          style={{ background: 'var(--band)', outline: '1px solid var(--accent)' }}
          aria-hidden
        />
        Voltage that the battery asks for
      </li>
    </ul>
  );
}
