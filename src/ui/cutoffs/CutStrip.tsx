/** Ten minutes before and after a cut-off: volts at battery and load, amperes, the lowest cell. */

import { scaleLinear } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import { DateTime } from 'luxon';
import type { CutOffOut } from '@/core/diagnosis/result';
import { counted, duration } from '@/core/quantity/text';
import { HOUR } from '@/core/quantity/span';

type Strip = NonNullable<CutOffOut['strip']>;
type Values = Strip['volts'];

const WIDTH = 640;
const HEIGHT = 74;
const GUTTER = 44;
/** A lane that spans fewer steps of its digits than this shows one digit more. */
const FINE = 5;

/** Lanes that have something; traces of one lane differ by their dashes. */
function lanesOf(strip: Strip) {
  const negated = strip.amps?.map((one) => (one === null ? null : -one)) ?? null;
  const lanes: {
    title: string;
    unit: string;
    digits: number;
    ink: string;
    traces: [string, Values, string][];
  }[] = [
    {
      title: 'Voltage',
      unit: 'V',
      digits: 1,
      ink: '--ink-volts',
      traces: [
        ['battery', strip.volts, ''],
        ['load', strip.loadVolts, '5 3'],
      ],
    },
    {
      title: 'Drawn',
      unit: 'A',
      digits: 0,
      ink: '--ink-amps',
      traces: [
        ['from the battery', negated, ''],
        ['by the load', strip.loadAmps, '5 3'],
      ],
    },
    {
      title: 'Lowest cell',
      unit: 'V',
      digits: 2,
      ink: '--ink-soc',
      traces: [['lowest cell', strip.lowestCell, '']],
    },
  ];
  return lanes
    .map((lane) => ({
      ...lane,
      traces: lane.traces.filter(([, values]) => values?.some((one) => one !== null)),
    }))
    .filter((lane) => lane.traces.length > 0);
}

export function CutStrip({ one, zone }: { one: CutOffOut; zone: string }) {
  const { strip, promisedHours, missedWh } = one;
  const facts = [
    promisedHours === null
      ? null
      : `An hour before, the reading promised ${duration(promisedHours * HOUR)} to go.`,
    missedWh === null || missedWh < 1
      ? null
      : `Not delivered while it was off: about ${Math.round(missedWh)} Wh.`,
    one.trips > 1 ? `It went off ${counted(one.trips, 'time')} within half an hour of each other.` : null,
  ].filter((text) => text !== null);
  return (
    <div className="py-1">
      {strip && lanesOf(strip).map((lane) => <Lane key={lane.title} lane={lane} strip={strip} />)}
      {strip && (
        <p className="text-ink-soft flex justify-between font-mono text-xs" style={{ paddingLeft: GUTTER }}>
          {[0, 10, 20].map((minutes) => (
            <span key={minutes}>
              {DateTime.fromISO(strip.from, { zone }).plus({ minutes }).toFormat('HH:mm:ss')}
            </span>
          ))}
        </p>
      )}
      {!strip && <p className="text-ink-soft text-xs">Strips are kept for the first cut-offs of a log.</p>}
      {facts.length > 0 && <p className="mt-1 text-xs">{facts.join(' ')}</p>}
    </div>
  );
}

function Lane({ lane, strip }: { lane: ReturnType<typeof lanesOf>[number]; strip: Strip }) {
  const { title, unit, ink, traces } = lane;
  const known = traces.flatMap(([, values]) => values!.filter((one) => one !== null));
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const digits = high - low < FINE * 10 ** -lane.digits ? lane.digits + 1 : lane.digits;
  const room = Math.max(high - low, 0.05) * 0.08;
  const count = traces[0]![1]!.length;
  const x = scaleLinear([0, count - 1], [0, WIDTH]);
  const y = scaleLinear([low - room, high + room], [HEIGHT - 2, 2]);
  const path = line<number | null>()
    .defined((one) => one !== null)
    .x((_, k) => x(k))
    .y((one) => y(one!))
    .curve(curveStepAfter);
  return (
    <div className="mb-1 grid" style={{ gridTemplateColumns: `${GUTTER}px 1fr` }}>
      <div
        className="text-ink-soft flex flex-col justify-between pr-1 text-right font-mono text-xs"
        aria-hidden
      >
        <span>{high.toFixed(digits)}</span>
        <span>{unit}</span>
        <span>{low.toFixed(digits)}</span>
      </div>
      <svg
        className="border-rule ruled block w-full border"
        style={{ height: HEIGHT }}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        role="img"
        aria-label={`${title} in ${unit} from ten minutes before to ten minutes after, ${low.toFixed(digits)} to ${high.toFixed(digits)}: ${traces.map(([name, , dash]) => `${name}${dash ? ' dashed' : ''}`).join(', ')}; a step each ${strip.stepSeconds} s`}
      >
        <line
          x1={WIDTH / 2}
          x2={WIDTH / 2}
          y1={0}
          y2={HEIGHT}
          stroke="var(--accent)"
          vectorEffect="non-scaling-stroke"
        />
        {traces.map(([name, values, dash]) => (
          <path
            key={name}
            d={path(values!) ?? ''}
            fill="none"
            stroke={`var(${ink})`}
            strokeWidth={1.4}
            strokeDasharray={dash}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      <span />
      <span className="text-ink-soft text-xs">
        {title}: {traces.map(([name, , dash]) => `${name}${dash ? ' (dashed)' : ''}`).join(', ')}
      </span>
    </div>
  );
}
