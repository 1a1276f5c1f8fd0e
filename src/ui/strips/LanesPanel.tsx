'use client';
/** Which lanes are shown, in which order, how tall, on one scale or on several; and two channels whose difference is a lane of its own. */

import { ArrowDown, ArrowUp } from 'lucide-react';
import type { RecordingInfo } from '@/core/log/recording';
import type { System } from '@/core/system/schema';
import { buttonClass } from '@/ui/primitives/buttons';
import {
  channelsOf,
  isShown,
  labelOfChannel,
  type LaneId,
  type LaneWishes,
  nameOfChannel,
  possibleLanes,
  SIZES,
} from './lanes';

interface Props {
  system: System;
  recordings: readonly RecordingInfo[];
  wishes: LaneWishes;
  onWishes(some: Partial<LaneWishes>): void;
}

const NAMES: Record<LaneId, string> = {
  volts: 'Voltage',
  amps: 'Current',
  soc: 'Charge',
  celsius: 'Temperature',
  cells: 'Cells',
  watts: 'Power',
  difference: 'Difference',
};
const SIZE_WORDS: Record<number, string> = { 0.6: 'low', 1: 'usual', 1.6: 'tall', 2.4: 'very tall' };
/** Lanes that may hold several traces. */
const APART: readonly LaneId[] = ['volts', 'amps', 'soc', 'celsius'];
const fieldClass = 'border-rule-strong bg-paper border px-1.5 py-1';

export function LanesPanel({ system, recordings, wishes, onWishes }: Props) {
  const possible = possibleLanes(recordings);
  const order = [
    ...wishes.order.filter((id) => possible.some((one) => one.id === id)),
    ...possible.map((one) => one.id).filter((id) => !wishes.order.includes(id)),
  ];
  const channels = channelsOf(recordings);
  const move = (id: LaneId, by: number) => {
    const at = order.indexOf(id);
    const next = order.filter((one) => one !== id);
    next.splice(at + by, 0, id);
    onWishes({ order: next });
  };
  const difference = wishes.difference ?? {
    of: channels[0] ? nameOfChannel(channels[0]) : '',
    less: channels[1] ? nameOfChannel(channels[1]) : '',
  };
  return (
    <div className="text-sm">
      <ul className="flex flex-col gap-1">
        {order.map((id, nth) => {
          const kind = possible.find((one) => one.id === id)!;
          return (
            <li key={id} className="flex flex-wrap items-center gap-2">
              <label className="flex min-h-6 w-32 items-center gap-1.5">
                <input
                  type="checkbox"
                  className="size-4 accent-(--accent)"
                  checked={isShown(kind, wishes)}
                  onChange={({ target }) =>
                    onWishes({
                      shown: { ...wishes.shown, [id]: target.checked },
                      ...(id === 'difference' ? { difference } : {}),
                    })
                  }
                />
                {NAMES[id]}
              </label>
              <select
                aria-label={`Height of ${NAMES[id]}`}
                className={fieldClass}
                value={wishes.sizes[id] ?? 1}
                onChange={({ target }) =>
                  onWishes({ sizes: { ...wishes.sizes, [id]: Number(target.value) } })
                }
              >
                {SIZES.map((one) => (
                  <option key={one} value={one}>
                    {SIZE_WORDS[one]}
                  </option>
                ))}
              </select>
              {APART.includes(id) && (
                <select
                  aria-label={`Scale of ${NAMES[id]}`}
                  className={fieldClass}
                  value={wishes.apart[id] ? 'own' : 'shared'}
                  onChange={({ target }) =>
                    onWishes({ apart: { ...wishes.apart, [id]: target.value === 'own' } })
                  }
                >
                  <option value="shared">one scale</option>
                  <option value="own">a scale for each trace</option>
                </select>
              )}
              <button
                type="button"
                className={buttonClass}
                disabled={nth === 0}
                aria-label={`${NAMES[id]} further up`}
                onClick={() => move(id, -1)}
              >
                <ArrowUp className="size-3.5" aria-hidden />
              </button>
              <button
                type="button"
                className={buttonClass}
                disabled={nth === order.length - 1}
                aria-label={`${NAMES[id]} further down`}
                onClick={() => move(id, 1)}
              >
                <ArrowDown className="size-3.5" aria-hidden />
              </button>
              {id === 'difference' && (
                <span className="flex flex-wrap items-center gap-2">
                  {(['of', 'less'] as const).map((end) => (
                    <select
                      key={end}
                      aria-label={end === 'of' ? 'Difference of' : 'Less'}
                      className={`${fieldClass} max-w-52`}
                      value={difference[end]}
                      onChange={({ target }) =>
                        onWishes({ difference: { ...difference, [end]: target.value } })
                      }
                    >
                      {channels.map((one) => (
                        <option key={nameOfChannel(one)} value={nameOfChannel(one)}>
                          {end === 'less' ? '− ' : ''}
                          {labelOfChannel(system, one)}
                        </option>
                      ))}
                    </select>
                  ))}
                </span>
              )}
            </li>
          );
        })}
      </ul>
      <p className="text-ink-soft mt-2 text-xs">Kept for this job in this browser.</p>
    </div>
  );
}
