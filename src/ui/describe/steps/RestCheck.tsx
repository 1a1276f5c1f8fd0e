'use client';
/** The reading checked against a rested battery, and how to set the monitor right. */

import { checkRest } from '@/core/system/restCheck';
import { resynchronise } from '@/core/system/resynchronise';
import { useTyped } from '../fields/context';
import { ReadingFields } from './ReadingFields';
import { Section } from './Section';

const VERDICTS = { 'in-step': 'In step', 'out-of-step': 'Out of step', 'cannot-tell': 'Cannot tell' };

export function RestCheck() {
  const { system, job } = useTyped();
  const check = checkRest(system.bank, job.reading ?? {});
  const procedure = resynchronise(system, check.percent ?? undefined);
  const shown = job.reading?.displayedPercent;
  return (
    <>
      <Section
        title="Reading against rest voltage"
        about="Everything off, wait, then measure at the battery posts."
      >
        <ReadingFields />
      </Section>
      <Section title={VERDICTS[check.verdict]}>
        {check.low !== null && check.high !== null && (
          <BandScale low={check.low} high={check.high} shown={shown ?? null} />
        )}
        <p role="status" className="max-w-prose">
          {check.sentence}
        </p>
        <ul className="text-ink-soft mt-1 list-disc pl-5 text-sm">
          {check.percent === null ? null : check.reasons.map((one) => <li key={one}>{one}</li>)}
        </ul>
        <p className="text-ink-soft mt-2 text-xs">
          Lead-acid: table of the Battery Council International, from memory. Lithium and all widths: common
          practice, no source.
        </p>
      </Section>
      <Section title={procedure.title}>
        <ol className="list-decimal pl-5">
          {procedure.steps.map((one) => (
            <li key={one} className="mb-1 max-w-prose">
              {one}
            </li>
          ))}
        </ol>
        {procedure.cautions.map((one) => (
          <p key={one} className="border-hazard mt-1 border-l-3 pl-2 text-sm">
            {one}
          </p>
        ))}
      </Section>
    </>
  );
}

/** 0 to 100 % with the band that the voltage stands for, and the mark of what is displayed. */
function BandScale({ low, high, shown }: { low: number; high: number; shown: number | null }) {
  const x = (percent: number) => 22 + 4.56 * percent;
  return (
    <svg
      viewBox="0 0 500 58"
      className="mb-2 w-full max-w-xl"
      role="img"
      aria-label={`The rested battery stands between ${low.toFixed(0)} and ${high.toFixed(0)} %${shown === null ? '' : `; displayed are ${shown} %`}.`}
    >
      <rect
        x={x(low)}
        y={18}
        width={Math.max(2, x(high) - x(low))}
        height={16}
        fill="var(--band)"
        stroke="var(--accent)"
      />
      <line x1={x(0)} x2={x(100)} y1={34} y2={34} stroke="var(--ink)" />
      {[0, 25, 50, 75, 100].map((tick) => (
        <g key={tick}>
          <line x1={x(tick)} x2={x(tick)} y1={34} y2={39} stroke="var(--ink)" />
          <text x={x(tick)} y={52} textAnchor="middle" fontSize={12} fill="var(--ink-soft)">
            {tick} %
          </text>
        </g>
      ))}
      {shown !== null && (
        <>
          <line x1={x(shown)} x2={x(shown)} y1={12} y2={38} stroke="var(--ink)" strokeWidth={2.5} />
          <text
            x={Math.min(440, Math.max(40, x(shown)))}
            y={10}
            textAnchor="middle"
            fontSize={12}
            fill="var(--ink)"
          >
            displayed {shown} %
          </text>
        </>
      )}
    </svg>
  );
}
