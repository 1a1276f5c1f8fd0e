/** The monitor is set to another capacity than the battery has. */

import { ampHours, percent, points } from '../quantity/text';
import { tells } from '../count/device';
import { type Bands, type Cause, type Evidence, shrunk, weightOf } from './cause';
import { countOf, driftBy, DRIFT_PRIOR, missingMonitor, ON_PAPER, over } from './drifting';

const WEIGHTS = {
  /** What the monitor is set to against the label, as a ratio of 1 and more. */
  set: [
    [1.4, 15],
    [1.22, 9],
    [1.12, 2],
    [0, -4],
  ],
  /** What its own reading moves by, against the label. */
  behaves: [
    [1.4, 12],
    [1.22, 7],
    [1.12, 0],
    [0, -6],
  ],
  /** What went in and out between known states, against the setting, in standard deviations. */
  measured: [
    [4, 11],
    [3, 8],
    [2, 4],
    [1, 0],
    [0, -4],
  ],
  /** Points that it alone makes of the drift, between syncs. */
  drift: [
    [8, 6],
    [4, 4],
    [2, 0],
    [0, -4],
  ],
} as const satisfies Record<string, Bands>;

/** A measured capacity that lies so near the setting is no other, parts. */
const NEAR = 0.12;

/** Points that are hardly a drift. */
const SMALL = 2;

const ratio = (a: number, b: number): number => Math.max(a / b, b / a);

export const capacityWrong: Cause = {
  code: 'capacity-wrong',
  title: 'The monitor is set to the wrong capacity',
  complaint: 'drifting-soc',
  chemistries: 'all',
  families: ['counting'],
  needs:
    'the monitor’s capacity setting and its percentage with current, between a full battery and a low one',
  signature: 'the error grows with the depth of discharge, and goes back on the way up',
  prior: DRIFT_PRIOR,
  weights: WEIGHTS,
  caps: { drift: 6 },
  tests: {
    'read-monitor-settings': [
      { name: 'another capacity than on the label', ifHolds: 0.85, ifNot: 0.08 },
      { name: 'the battery’s', ifHolds: 0.15, ifNot: 0.92 },
    ],
    'capacity-test': [
      { name: 'far from what the monitor is set to', ifHolds: 0.9, ifNot: 0.15 },
      { name: 'near it', ifHolds: 0.1, ifNot: 0.85 },
    ],
  },
  described({ system }): Evidence[] {
    const set = system.monitor?.capacityAh;
    const label = system.bank.capacityAh;
    if (set === undefined || label === undefined || system.monitor?.method === 'voltage') return [];
    return [
      {
        text: `The monitor is set to ${ampHours(set)}; the bank is ${ampHours(label)} by its label.`,
        decibans: weightOf(WEIGHTS.set, ratio(set, label)),
        group: 'settings',
        spans: [],
      },
    ];
  },
  weigh(seen): Evidence[] {
    const count = countOf(seen);
    if (!count) return [];
    const { bank } = seen;
    const { behaves, capacityAh, settings, assumed } = count;
    const evidence: Evidence[] = [];
    // How the device counts says something only where nobody told the setting, or it plainly is another.
    const plain = behaves && tells(behaves);
    if (plain && (assumed.includes('capacityAh') || ratio(behaves.capacityAh, settings.capacityAh) > 1.2))
      evidence.push({
        text: `The reading moves as if the capacity were ${ampHours(behaves.capacityAh)} (give or take ${ampHours(2 * behaves.capacityError)})${assumed.includes('capacityAh') ? '' : `, not the ${ampHours(settings.capacityAh)} that it is said to be set to`}; the bank is ${ampHours(bank.capacityAh)}.`,
        decibans: weightOf(WEIGHTS.behaves, ratio(behaves.capacityAh, bank.capacityAh)),
        group: 'settings',
        spans: [count.logged],
      });
    const counts = plain ? behaves.capacityAh : settings.capacityAh;
    const { value, deviation, before } = capacityAh;
    // Only what the log itself has narrowed down.
    if (deviation < 0.75 * before.deviation) {
      const off = Math.abs(Math.log(value / counts));
      const sigmas = off < NEAR ? 0 : (off * value) / deviation;
      evidence.push({
        text: `Between known states of charge the battery behaves as if it held ${ampHours(value)} (give or take ${ampHours(2 * deviation)}).`,
        decibans: weightOf(WEIGHTS.measured, sigmas),
        group: 'measured',
        spans: [count.logged],
      });
    }
    const drift = driftBy(count, 'capacity');
    const set = settings.capacityAh && bank.capacityAh ? ratio(settings.capacityAh, bank.capacityAh) : 1;
    // A setting that is plainly wrong is so where a battery is hardly drawn on, too.
    const speaks = drift && (Math.abs(drift.points) >= SMALL || weightOf(WEIGHTS.set, set) < ON_PAPER);
    if (speaks && drift.explains > 0.25)
      evidence.push({
        text: `Over ${drift.intervals.length === 1 ? 'one stretch' : `${drift.intervals.length} stretches`} between syncs it alone makes the reading ${points(drift.points)} ${over(drift.points)}, ${percent(100 * Math.min(1, drift.explains))} of the drift.`,
        decibans: shrunk(weightOf(WEIGHTS.drift, Math.abs(drift.points)), drift.intervals.length),
        group: 'drift',
        spans: drift.spans,
      });
    return evidence;
  },
  remedy({ bank, counting }) {
    const found =
      counting && counting.capacityAh.deviation < 0.06 * counting.capacityAh.value
        ? counting.capacityAh.value
        : null;
    return {
      text: `Set the monitor to ${ampHours(bank.capacityAh)}, the ${bank.chemistry === 'lfp' ? '' : '20-hour '}capacity on the label${found !== null && Math.abs(found / bank.capacityAh - 1) > 0.1 ? `; this battery seems to hold ${ampHours(found)}: test it, and set what was measured` : ', until a capacity test says otherwise'}.`,
      caution: null,
    };
  },
  missing: missingMonitor,
};
