/** Which core this is: a hash of what weighs logs, made at the build. Analyses of another are made anew. */

import { readFileSync } from 'node:fs';
import { join } from 'node:path';

let hash: string | undefined;

/** @throws when the programs were not built */
export function coreHash(): string {
  // Written by scripts/build-tools.mjs.
  const file = join(/* turbopackIgnore: true */ process.cwd(), '.build', 'core.hash');
  return (hash ??= readFileSync(file, 'utf8'));
}
