/** What each school would have given over the log, a row each, to be tried. */

import type { Preset, Trial } from '@/core/count/bench';
import type { CounterSettings } from '@/core/count/settings';
import { offText } from './trialText';
import { TableFrame } from '@/ui/primitives/TableFrame';

interface Props {
  presets: readonly Preset[];
  /** One for each preset, in the same order. */
  trials: readonly Trial[];
  onTry(settings: CounterSettings): void;
}

export function TrialsTable({ presets, trials, onTry }: Props) {
  return (
    <TableFrame label="What each school would have given">
      <table className="w-full border-collapse text-left text-xs">
        <thead>
          <tr className="border-rule-strong text-ink-soft border-b">
            <th scope="col" className="px-2 py-1 font-normal">
              Settings
            </th>
            <th scope="col" className="px-2 py-1 text-right font-normal">
              Off by
            </th>
            <th scope="col" className="px-2 py-1 text-right font-normal">
              Syncs
            </th>
            <th scope="col" className="px-2 py-1 text-right font-normal">
              False
            </th>
            <th scope="col" className="px-2 py-1 text-right font-normal">
              Missed
            </th>
            <th scope="col" className="px-2 py-1">
              <span className="sr-only">Try</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {presets.map(({ name, settings: some }, k) => {
            const trial = trials[k];
            return (
              <tr key={name} className="border-rule border-b">
                <th scope="row" className="px-2 py-1 font-semibold">
                  {name}
                </th>
                <td className="px-2 py-1 text-right font-mono">{trial ? offText(trial) : '–'}</td>
                <td className="px-2 py-1 text-right font-mono">{trial?.syncs ?? '–'}</td>
                <td className="px-2 py-1 text-right font-mono">{trial?.wrong ?? '–'}</td>
                <td className="px-2 py-1 text-right font-mono">{trial?.missed ?? '–'}</td>
                <td className="px-2 py-1 text-right">
                  <button
                    type="button"
                    className="text-accent underline"
                    aria-label={`Try ${name}`}
                    onClick={() => onTry(some)}
                  >
                    try
                  </button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </TableFrame>
  );
}
