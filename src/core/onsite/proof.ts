/**
 * Proof of coverage: everything off, then each device alone. What the monitor should show is known from plate, own display or clamp meter;
 * what it does show says whether the device is counted, and with what sign and scale. Tolerances are common practice, no source.
 */

import { median } from '../quantity/numbers';
import { amps, percent } from '../quantity/text';
import type { Load, Source, System } from '../system/schema';
import type { Said } from './said';
import type { Proof, Proved } from './visit';

export type Answer = 'shown' | 'unseen' | 'turned' | 'fraction' | 'too-small' | 'open';

export interface ProvedDevice {
  id: string;
  name: string;
  kind: 'source' | 'load';
  /** What the monitor should show, with its sign and how far that may be off, A; null where nobody knows. */
  expected: { amps: number; within: number; by: 'clamp' | 'known' | 'watts' | 'described' } | null;
  /** What it showed, the current with everything off taken away. */
  showed: number | null;
  answer: Answer;
}

/** Parts of the figure that it may be off, by where it comes from. */
const WITHIN = { clamp: 0.05, known: 0.1, watts: 0.3, described: 0.4 };
/** Less than this says nothing against the noise of a display, A. */
const TOO_SMALL = 0.5;
/** A device of which the monitor shows less than this part is not counted. */
const UNSEEN = 0.15;
/** What a display shows with everything off, A, where no threshold is set. */
const NOTHING = 0.1;

/** Volts of the bank for watts: as read, else about its rest voltage. */
const voltsOf = ({ bank }: System, read?: number): number | null =>
  read ?? (bank.cellsInSeries ? bank.cellsInSeries * (bank.chemistry === 'lfp' ? 3.3 : 2.1) : null);

/** A that a device should draw or give, without sign. @param volts read at the posts */
export function expectedOf(
  device: Source | Load,
  proved: Proved,
  system: System,
  volts?: number,
): ProvedDevice['expected'] {
  const at = voltsOf(system, volts);
  const found = (value: number, by: keyof typeof WITHIN) => ({
    amps: value,
    within: WITHIN[by] * value + (by === 'clamp' ? 0.3 : 0.2),
    by,
  });
  if (proved.clampA !== undefined) return found(Math.abs(proved.clampA), 'clamp');
  if (proved.knownA !== undefined) return found(proved.knownA, 'known');
  if (proved.watts !== undefined && at !== null)
    return found(proved.watts / at / ((proved.efficiencyPercent ?? 100) / 100), 'watts');
  if ('usualA' in device && device.usualA !== undefined) return found(device.usualA, 'described');
  // What a charger gives is the battery’s affair: its rating says nothing of this moment.
  return null;
}

export function proveDevices(system: System, proof: Proof | undefined, volts?: number): ProvedDevice[] {
  const each = (kind: 'source' | 'load') => (device: Source | Load) => {
    const proved = proof?.devices?.[device.id] ?? {};
    const size = expectedOf(device, proved, system, volts);
    const sign = kind === 'source' ? 1 : -1;
    const expected = size && { ...size, amps: sign * size.amps };
    const showed = proved.showsA === undefined ? null : proved.showsA - (proof?.offA ?? 0);
    return {
      id: device.id,
      name: device.name,
      kind,
      expected,
      showed,
      answer: answerOf(expected, showed, sign),
    };
  };
  return settled([...system.sources.map(each('source')), ...system.loads.map(each('load'))]);
}

function answerOf(expected: ProvedDevice['expected'], showed: number | null, sign: number): Answer {
  if (showed === null) return 'open';
  if (expected === null)
    return Math.abs(showed) < TOO_SMALL ? 'open' : sign * showed > 0 ? 'shown' : 'turned';
  if (Math.abs(expected.amps) < TOO_SMALL) return 'too-small';
  const part = showed / expected.amps;
  if (Math.abs(part) < UNSEEN) return 'unseen';
  if (part < 0) return 'turned';
  return Math.abs(showed - expected.amps) <= expected.within ? 'shown' : 'fraction';
}

/** A plate may say so much more, or less, than a device draws, parts. */
const PLATE = { least: 0.5, most: 2 };

/** Of a device that is known by its plate alone a fraction is no news, unless a better known one says the same. */
function settled(devices: ProvedDevice[]): ProvedDevice[] {
  const scale = scaleOf(devices);
  return devices.map((one) => {
    if (one.answer !== 'fraction' || scale !== null || one.expected?.by === 'clamp') return one;
    const part = Math.abs(one.showed! / one.expected!.amps);
    return part > PLATE.least && part < PLATE.most ? { ...one, answer: 'shown' } : one;
  });
}

/** Devices that agree so far say that it is the scale, parts. */
const AGREE = 0.12;

/** Shown over expected, where it is plainly not 1 and the devices agree; null otherwise. */
export function scaleOf(devices: readonly ProvedDevice[]): number | null {
  const parts = devices.flatMap(({ expected, showed, answer }) =>
    expected && showed !== null && ['shown', 'fraction', 'turned'].includes(answer)
      ? [{ part: Math.abs(showed / expected.amps), sure: expected.by === 'clamp', off: answer !== 'shown' }]
      : [],
  );
  if (parts.length === 0) return null;
  const middle = median(parts.map((one) => one.part));
  const agree = parts.every((one) => Math.abs(one.part / middle - 1) < (one.sure ? AGREE : 2.5 * AGREE));
  const sure = parts.some((one) => one.sure) || parts.length > 1;
  const sureOff = parts.some((one) => one.sure) ? Math.abs(middle - 1) > 0.08 : Math.abs(middle - 1) > 0.35;
  return agree && sure && sureOff ? middle : null;
}

/** What the proof says of which device is counted; devices that it does not settle are left out. */
export function provenCounted(
  system: System,
  proof: Proof | undefined,
  volts?: number,
): Record<string, boolean> {
  return Object.fromEntries(
    proveDevices(system, proof, volts).flatMap(({ id, answer }): [string, boolean][] => {
      if (answer === 'unseen') return [[id, false]];
      return ['shown', 'turned', 'fraction'].includes(answer) ? [[id, true]] : [];
    }),
  );
}

export function judgeProof(system: System, proof: Proof | undefined, volts?: number): Said[] {
  if (!proof || !system.monitor) return [];
  const hall = system.monitor.method === 'hall';
  const devices = proveDevices(system, proof, volts);
  return [
    ...judgeNothing(system, proof, hall),
    ...judgeSigns(devices, hall),
    ...judgeScale(devices, hall),
    ...(['source', 'load'] as const).flatMap((kind) =>
      judgeKind(
        devices.filter((one) => one.kind === kind),
        kind,
        hall,
      ),
    ),
    ...judgeShunts(system, proof),
  ];
}

/** With everything off, and with the isolator open. */
function judgeNothing({ monitor }: System, { offA, isolatedA }: Proof, hall: boolean): Said[] {
  const nothing = Math.max(NOTHING, monitor?.thresholdA ?? 0);
  if (offA === undefined) return [];
  if (Math.abs(offA) <= nothing)
    return [{ weight: 'fine', text: `With everything off it reads ${amps(offA)}.`, fact: 'zero-right' }];
  if (isolatedA === undefined)
    return [
      {
        weight: 'open',
        text: `With everything off it reads ${amps(offA)}.`,
        follows:
          'Open the battery’s isolator and read again: what is still shown then is a zero error, what is gone is a standing load.',
      },
    ];
  if (Math.abs(isolatedA) > nothing)
    return [
      {
        weight: 'fault',
        text: `With the isolator open, when nothing can flow, it reads ${amps(isolatedA)}.`,
        follows: `That is a zero error: set the zero in the monitor${hall ? ', with the clip-on sensor empty and closed' : ''}.`,
        fact: 'zero-off',
      },
    ];
  return [
    { weight: 'fine', text: `With the isolator open it reads ${amps(isolatedA)}.`, fact: 'zero-right' },
    {
      weight: 'caution',
      text: `With everything off ${amps(Math.abs(offA))} still flow ${offA < 0 ? 'out' : 'in'}.`,
      follows:
        offA < 0
          ? 'A standing load that nobody switched off: find it, and count it among the loads.'
          : 'A source that nobody switched off: find it, and count it among the sources.',
    },
  ];
}

function judgeSigns(devices: readonly ProvedDevice[], hall: boolean): Said[] {
  const answered = devices.filter((one) => ['shown', 'turned', 'fraction'].includes(one.answer));
  const turned = answered.filter((one) => one.answer === 'turned');
  if (answered.length === 0) return [];
  if (turned.length === 0)
    return [
      { weight: 'fine', text: 'What charges reads positive, what draws reads negative.', fact: 'sign-right' },
    ];
  if (turned.length === answered.length)
    return [
      {
        weight: 'fault',
        text: 'Every device reads with the wrong sign.',
        follows: hall
          ? 'The clip-on sensor is turned round: unclip it, turn it, clip it on again.'
          : 'The shunt is turned round: isolate, and change its two sides.',
        fact: 'sensor-turned',
      },
    ];
  return turned.map((one) => ({
    weight: 'fault' as const,
    text: `${one.name} reads with the wrong sign, others do not.`,
    follows: hall
      ? 'Its conductor goes through the clip-on sensor the wrong way: lead it through from the other side.'
      : 'Was another source running at the time? Else its conductors are on the wrong shunt, or crossed.',
  }));
}

function judgeScale(devices: readonly ProvedDevice[], hall: boolean): Said[] {
  const scale = scaleOf(devices);
  if (scale !== null)
    return [
      {
        weight: 'fault',
        text: `The monitor shows ${percent(100 * scale)} of what flows, on every device alike.`,
        follows: hall
          ? 'Set the sensor’s rating in the monitor as it is stamped on the sensor.'
          : 'Set the shunt’s rating, amperes and millivolts, as it is stamped on the shunt.',
        fact: 'scale-off',
      },
    ];
  const sure = devices.filter((one) => one.answer === 'shown' && one.expected?.by === 'clamp');
  const odd = devices.filter((one) => one.answer === 'fraction');
  return [
    ...(sure.length > 0 && odd.length === 0
      ? [
          {
            weight: 'fine' as const,
            text: 'The figures agree with the clamp meter.',
            fact: 'scale-right' as const,
          },
        ]
      : []),
    ...odd.map((one) => ({
      weight: 'caution' as const,
      text: `Of ${one.name} the monitor shows ${amps(Math.abs(one.showed!))}, not ${amps(Math.abs(one.expected!.amps))}.`,
      follows: `Part of it goes another way: two conductors, or another source that carries it. Trace it${one.expected!.by === 'clamp' ? '' : '; or it does not draw what its plate says: put a clamp meter on it'}.`,
    })),
  ];
}

function judgeKind(devices: readonly ProvedDevice[], kind: 'source' | 'load', hall: boolean): Said[] {
  const said: Said[] = devices
    .filter((one) => one.answer === 'unseen')
    .map((one) => ({
      weight: 'fault' as const,
      text: `${one.name} alone ${kind === 'source' ? 'gives' : 'draws'} ${amps(Math.abs(one.expected!.amps))}; the monitor shows ${amps(one.showed!)}.`,
      follows: `It is not counted: ${hall ? 'lead its conductor through the clip-on sensor with the others' : 'move its negative from the battery post to the other side of the shunt'}.`,
      fact: kind === 'source' ? ('source-unseen' as const) : ('load-unseen' as const),
    }));
  for (const one of devices.filter((each) => each.answer === 'too-small'))
    said.push({
      weight: 'open',
      text: `${one.name} draws too little to be seen.`,
      follows: 'Prove it together with something larger on the same conductor, or with a clamp meter.',
    });
  for (const one of devices.filter((each) => each.answer === 'open' && each.showed !== null))
    said.push({
      weight: 'open',
      text: `With ${one.name} alone the monitor shows nothing.`,
      follows: 'Either it gives nothing or it is not counted: read its own display, and type what it gives.',
    });
  const shown = devices.filter((one) => one.answer === 'shown' || one.answer === 'fraction');
  if (said.length === 0 && shown.length > 0 && shown.length === devices.length)
    said.push({
      weight: 'fine',
      text: `The monitor shows each ${kind}.`,
      fact: kind === 'source' ? 'sources-shown' : 'loads-shown',
    });
  return said;
}

/** Of a monitor of several shunts: which device moved which, against what is described. */
function judgeShunts({ monitor, sources, loads }: System, { devices }: Proof): Said[] {
  const shunts = monitor?.shunts;
  if (!shunts) return [];
  const nameOf = (id: string) => shunts.find((one) => one.id === id)?.name ?? id;
  const moved = [...sources, ...loads].flatMap((one) => {
    const on = devices?.[one.id]?.shunt;
    return on ? [{ device: one, on }] : [];
  });
  const said: Said[] = moved.flatMap(({ device, on }): Said[] => {
    const described = shunts.find((one) => one.devices.includes(device.id));
    return described && described.id !== on
      ? [
          {
            weight: 'caution',
            text: `${device.name} moves ${nameOf(on)}, and is described on ${described.name}.`,
            follows: 'Correct the description, or move the conductor.',
          },
        ]
      : [];
  });
  for (const shunt of shunts) {
    const on = moved.filter((one) => one.on === shunt.id).map((one) => one.device.name);
    if (on.length > 1)
      said.push({
        weight: 'fine',
        text: `${on.join(' and ')} pass ${shunt.name} together.`,
        follows: 'The monitor counts their sum: neither can be read alone.',
      });
  }
  return said;
}
