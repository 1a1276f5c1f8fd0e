'use client';
/** All displays at one moment. */

import { displayRows } from '@/core/onsite/displays';
import { batteryShares } from '@/core/onsite/shares';
import { isSplit } from '@/core/onsite/splitBank';
import { percent } from '@/core/quantity/text';
import { TableFrame } from '@/ui/primitives/TableFrame';
import { Figure, Grid, Tick, TimeOfDay } from '../fields';
import { useRound } from '../useRound';

export function DisplaysStop() {
  const { system, visit } = useRound();
  const rows = displayRows(system, visit.displays);
  return (
    <>
      <p className="text-ink-soft mb-3 text-sm">
        Read them all within a minute or two, while the same loads run. Currents into the battery are
        positive.
      </p>
      <Grid>
        <TimeOfDay path="displays.at" label="Read at" />
        <Figure path="displays.postsV" label="Own meter at the posts" unit="V" />
        <Figure path="displays.hoursAtRest" label="Rested for" unit="h" />
        <Figure path="displays.celsius" label="Battery" unit="°C" />
        {(isSplit(system) || (system.bank.cellsInSeries ?? 0) > 6) && (
          <>
            <Figure path="displays.lowerV" label="Lower half" unit="V" />
            <Figure path="displays.upperV" label="Upper half" unit="V" />
          </>
        )}
      </Grid>
      {rows.map(({ id, name, kind }) => {
        const counts = kind === 'monitor' || kind === 'bms' || kind === 'battery';
        return (
          <fieldset key={id} className="border-rule mt-3 border-t pt-2">
            <legend className="text-sm font-semibold">{name}</legend>
            <Grid>
              {counts && (
                <Figure
                  path={`displays.shown.${id}.percent`}
                  label={
                    <>
                      Shows<span className="sr-only"> of {name}</span>
                    </>
                  }
                  unit="%"
                />
              )}
              <Figure
                path={`displays.shown.${id}.volts`}
                label={
                  <>
                    Voltage<span className="sr-only"> of {name}</span>
                  </>
                }
                unit="V"
              />
              <Figure
                path={`displays.shown.${id}.amps`}
                label={
                  <>
                    Current<span className="sr-only"> of {name}</span>
                  </>
                }
                unit="A"
              />
              {counts && (
                <Tick path={`displays.shown.${id}.noPercent`}>
                  shows no percentage<span className="sr-only">: {name}</span>
                </Tick>
              )}
            </Grid>
          </fieldset>
        );
      })}
      {(system.batteries?.length ?? 0) > 1 && <Shares />}
    </>
  );
}

/** What part of the current each battery carries. */
function Shares() {
  const { system, visit } = useRound();
  return (
    <TableFrame label="Share of the current">
      <table className="mt-3 w-full text-sm">
        <caption className="text-left font-semibold">Share of the current</caption>
        <thead>
          <tr className="text-ink-soft border-rule-strong border-b text-right text-xs">
            <th className="text-left font-semibold">Battery</th>
            <th className="font-semibold">Carries</th>
            <th className="font-semibold">By its label</th>
          </tr>
        </thead>
        <tbody>
          {batteryShares(system, visit.displays).map((one) => (
            <tr key={one.id} className="text-right">
              <td className="py-1 text-left">{one.name}</td>
              <td className="font-mono">{one.carries === null ? '–' : percent(100 * one.carries)}</td>
              <td className="font-mono">{percent(100 * one.part)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </TableFrame>
  );
}
