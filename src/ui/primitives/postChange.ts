/** Records a changed setting; the answer as one of three things. */

import type { Change } from '@/core/bundle/schema';
import type { System } from '@/core/system/schema';

export type ChangeAnswer =
  | { kind: 'changed'; version: number; system: System; change: Change & { id: string } }
  /** Somebody has changed the system meanwhile: what stands there now. */
  | { kind: 'conflict'; version: number; value: System }
  /** By the name of the field; '' for what is of no field. */
  | { kind: 'refused'; problems: Record<string, string> };

const UNREACHED = 'The server could not be reached. Nothing was changed; try again.';
const NOT_STORED = 'The change could not be stored. Try again.';

/** @param body `base` is the version of the system that the change is made on */
export async function postChange(
  systemId: string,
  body: { base: number } & Pick<Change, 'path' | 'after' | 'why' | 'on'>,
): Promise<ChangeAnswer> {
  try {
    const response = await fetch(`/api/systems/${systemId}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    const answer = (await response.json()) as {
      version: number;
      system: System;
      value?: System;
      change?: Change & { id: string };
      problems?: Record<string, string>;
      error?: string;
    };
    if (response.status === 409 && answer.value)
      return { kind: 'conflict', version: answer.version, value: answer.value };
    if (response.ok && answer.change)
      return { kind: 'changed', version: answer.version, system: answer.system, change: answer.change };
    return { kind: 'refused', problems: answer.problems ?? { '': answer.error ?? NOT_STORED } };
  } catch {
    return { kind: 'refused', problems: { '': UNREACHED } };
  }
}
