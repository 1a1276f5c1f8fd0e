/** What the proof of coverage comes to, in sentences: zero, signs, scale, what is not counted, and what passes which shunt. */

import { amps, percent } from '../quantity/text';
import type { System } from '../system/schema';
import { proveDevices, type ProvedDevice, scaleOf } from './proof';
import type { Said } from './said';
import type { Proof } from './visit';

/** What a display shows with everything off, A, where no threshold is set. */
const NOTHING = 0.1;

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
