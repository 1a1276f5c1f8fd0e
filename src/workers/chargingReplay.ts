/** Web worker: keeps a job's logs on a grid, fits a battery to them, and replays the charging by other settings. */

import { expose, transfer } from 'comlink';
import type { ChargerSettings } from '@/core/whatif/settings';
import { unpackMinutes } from '@/core/whatif/minutes';
import type { ReplayFacts } from '@/core/whatif/recorded';
import { type Prepared, prepareWhatIf, type WhatIf } from '@/core/whatif/whatIf';
import type { Outcome } from '@/core/whatif/replay';
import { inSteps } from './inSteps';
import type { KnownSystem } from '@/core/system/known';

let whatIf: WhatIf | null = null;

const answered = (outcome: Outcome): Outcome =>
  transfer(outcome, [outcome.percent.buffer, outcome.volts.buffer]);

const replayer = {
  /** @param onDone part of the fit that is done, 0 to 1 @throws with a sentence for the user */
  async prepare(
    url: string,
    system: KnownSystem,
    facts: ReplayFacts,
    onDone: (part: number) => void,
  ): Promise<Prepared> {
    const response = await fetch(url);
    if (!response.ok)
      throw new Error('The logs could not be fetched: check that the server runs, and load the page anew.');
    const minutes = unpackMinutes(await response.arrayBuffer());
    whatIf = prepareWhatIf(system, minutes, facts, inSteps(onDone));
    if (!whatIf)
      throw new Error(
        'These logs hold no charge from a known state that a battery could be fitted to, so nothing can be replayed.',
      );
    return whatIf.prepared;
  },
  replay(settings: ChargerSettings[]): Outcome {
    if (!whatIf) throw new Error('Nothing was prepared to be replayed.');
    return answered(whatIf.replay(settings));
  },
};

export type Replayer = typeof replayer;

expose(replayer);
