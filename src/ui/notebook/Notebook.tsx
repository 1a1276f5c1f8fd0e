'use client';
/** The notebook: causes by standing, each opening to its evidence; pointing at an item lights its spans, pressing it goes there. */

import { Accordion } from 'radix-ui';
import { ChevronDown } from 'lucide-react';
import Link from 'next/link';
import type { ReactNode } from 'react';
import type { Diagnosis, Finding, IsoSpan } from '@/core/diagnosis/result';
import type { Span } from '@/core/quantity/span';
import { explainedText, oddsText, POINTS_LINE, signedPoints } from '@/core/diagnosis/odds';
import { isFound, nothingFound } from '@/core/diagnosis/summary';
import { counted } from '@/core/quantity/text';
import type { Job } from '@/core/system/schema';
import { Standing } from '@/ui/primitives/Standing';
import { RuleOut } from './RuleOut';
import { Tests } from './Tests';

interface Props {
  jobId: string;
  job: Job;
  jobVersion: number;
  diagnosis: Diagnosis;
  hasLogs: boolean;
  openAll: boolean;
  onLight: (spans: Span[]) => void;
  /** Goes to a span on the strips; null where there are no strips. */
  onGo: ((span: Span) => void) | null;
}

const toSpan = ([from, to]: IsoSpan): Span => ({ from: Date.parse(from), to: Date.parse(to) });

export function Notebook({ jobId, job, jobVersion, diagnosis, hasLogs, openAll, onLight, onGo }: Props) {
  const { findings, hazards, settings, trust } = diagnosis;
  const notable = findings.filter(isFound);
  return (
    <div className="p-3">
      <h2 className="mb-2 font-semibold">What the log says</h2>
      {!hasLogs && (
        <p className="text-ink-soft mb-3 text-sm">
          No logs yet; based on the description only.{' '}
          <Link href={`/jobs/${jobId}/logs`} className="text-accent underline">
            Take in a log
          </Link>
        </p>
      )}
      {hazards.map((hazard) => (
        <p key={hazard.text} className="border-hazard mb-2 border-l-3 pl-2 text-sm">
          <span className="text-hazard font-semibold">Hazard.</span> {hazard.text}
        </p>
      ))}
      {trust.map((note) => (
        <p key={note.text} className="border-rule-strong mb-2 border-l-3 pl-2 text-sm">
          {note.text}
        </p>
      ))}
      <Tests jobId={jobId} job={job} jobVersion={jobVersion} diagnosis={diagnosis} />
      {hasLogs && notable.length === 0 && <p className="mb-2 text-sm">{nothingFound(diagnosis)}</p>}
      <Accordion.Root
        type="multiple"
        defaultValue={(openAll ? findings : notable.slice(0, 1)).map((one) => one.cause)}
      >
        {findings.map((finding) => (
          <CauseItem
            key={finding.cause}
            finding={finding}
            explained={explainedText(finding.explainedBy, findings)}
            onLight={onLight}
            onGo={onGo}
            ruleOut={<RuleOut jobId={jobId} job={job} jobVersion={jobVersion} finding={finding} />}
          />
        ))}
      </Accordion.Root>
      <p className="text-ink-soft mt-2 text-xs">{POINTS_LINE}</p>
      {settings.length > 0 && (
        <p className="mt-3 text-sm">
          <Link href={`/jobs/${jobId}/settings?view=sheet`} className="text-accent underline">
            {counted(settings.length, 'setting')} to change
          </Link>
        </p>
      )}
      <p className="text-ink-soft mt-4 text-xs">
        Local codes and the maker’s sheet come before anything said here. Mains work belongs to licensed
        people.
      </p>
    </div>
  );
}

function CauseItem({
  finding,
  explained,
  onLight,
  onGo,
  ruleOut,
}: { finding: Finding; explained: string | null; ruleOut: ReactNode } & Pick<Props, 'onLight' | 'onGo'>) {
  return (
    <Accordion.Item value={finding.cause} className="border-rule border-t">
      <Accordion.Header>
        <Accordion.Trigger className="group hover:bg-accent-soft flex w-full items-start gap-1 py-2 text-left">
          <ChevronDown
            className="text-ink-soft mt-0.5 size-4 shrink-0 transition-transform group-data-[state=closed]:-rotate-90"
            aria-hidden
          />
          <span className="flex-1">
            <span className="flex items-center justify-between">
              <Standing standing={finding.standing} />
              {finding.standing !== 'cannot-tell' && (
                <span className="text-ink-soft text-xs">
                  {finding.ruledOut
                    ? 'ruled out by hand'
                    : explained
                      ? 'comes with another'
                      : oddsText(finding.decibans)}
                </span>
              )}
            </span>
            <span className="block text-sm">{finding.title}</span>
          </span>
        </Accordion.Trigger>
      </Accordion.Header>
      <Accordion.Content>
        <ul className="pb-2 pl-5">
          {explained && <li className="border-rule-strong my-1 border-l-3 pl-2 text-sm">{explained}</li>}
          {finding.evidence.map((item) => (
            <EvidenceItem key={item.text} item={item} onLight={onLight} onGo={onGo} />
          ))}
          {finding.missing.map((one) => (
            <li key={one} className="text-ink-soft py-1 text-sm">
              Not enough to tell: {one} is missing.
            </li>
          ))}
          {finding.remedy && (
            <li className="border-accent my-1 border-l-3 pl-2 text-sm">
              <strong>What to do.</strong> {finding.remedy.text}
              {finding.remedy.caution && (
                <span className="border-hazard mt-1 block border-l-3 pl-2">{finding.remedy.caution}</span>
              )}
            </li>
          )}
          {finding.caveats.map((one) => (
            <li key={one} className="border-rule-strong my-1 border-l-3 pl-2 text-sm">
              With care: {one}
            </li>
          ))}
          <li className="pt-1">{ruleOut}</li>
        </ul>
      </Accordion.Content>
    </Accordion.Item>
  );
}

function EvidenceItem({
  item,
  onLight,
  onGo,
}: { item: Finding['evidence'][number] } & Pick<Props, 'onLight' | 'onGo'>) {
  const spans = item.spans.map(toSpan);
  const text = (
    <>
      <span className="text-ink-soft font-mono text-xs">{signedPoints(item.decibans)}</span>
      <span>{item.text}</span>
    </>
  );
  const layout = 'grid w-full grid-cols-[2rem_1fr] gap-1 py-1 text-left text-sm';
  if (spans.length === 0 || !onGo) return <li className={layout}>{text}</li>;
  return (
    <li>
      <button
        type="button"
        className={`${layout} hover:bg-accent-soft`}
        onMouseEnter={() => onLight(spans)}
        onMouseLeave={() => onLight([])}
        onFocus={() => onLight(spans)}
        onBlur={() => onLight([])}
        onClick={() => onGo({ from: spans[0]!.from, to: spans[Math.min(2, spans.length - 1)]!.to })}
      >
        {text}
      </button>
    </li>
  );
}
