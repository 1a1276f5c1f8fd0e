// What a running bin/demo leaves on record, so that other runs from this clone know of it.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { processFolder, processLine, root } from './shell.mjs';

const file = join(root, '.pazienza', 'demo.json');

/** @typedef {{ pid: number, webPid: number, address: string }} DemoRun */

/** The record of the last run that did not clean up after itself, if there is one. @returns {DemoRun | null} */
export const lastRun = () => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null);

/** Whether that run is still going. @param {DemoRun | null} run */
export const isRunning = (run) =>
  run !== null && processLine(run.pid)?.includes('demo.mjs') === true && processFolder(run.pid) === root;

/** @param {DemoRun} run */
export function record(run) {
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, JSON.stringify(run));
}

export const forget = () => rmSync(file, { force: true });
