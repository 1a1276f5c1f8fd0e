/**
 * The wiring of a system as it is walked: a schematic laid out by itself, the conductors in the order of the walk, what the monitor
 * counts, which percentage may be trusted, and whether clamp-meter readings add up.
 */

import { amps } from '../quantity/text';
import type { Load, Source, System, Walk } from './schema';

export type NodeKind = 'battery' | 'half' | 'sensor' | 'bus' | 'source' | 'load';

export interface WiringNode {
  /** Device id, or `battery`, `lower`, `upper`, `sensor`, `bus`. */
  id: string;
  kind: NodeKind;
  name: string;
  /** Column and row of the layout, from 0. Sources stand above the bus, loads below. */
  column: number;
  row: number;
}

export interface Wire {
  from: string;
  to: string;
  /** Device whose conductor it is; null for the bank's own. */
  device: string | null;
  /** false: on the battery post, past the sensor; null: not known where. */
  counted: boolean | null;
}

export interface Schematic {
  nodes: WiringNode[];
  wires: Wire[];
  columns: number;
  rows: number;
}

/** Row of each kind, top to bottom. */
const ROW = { source: 0, bus: 1, load: 2 };

/** Lays out a system: battery on the left, sensor, bus; each device on the side of the sensor on which it was found. */
export function layWiring(system: System): Schematic {
  const nodes: WiringNode[] = [];
  const wires: Wire[] = [];
  const sensor = system.monitor && ['shunt', 'hall'].includes(system.monitor.method ?? 'shunt');
  const split = system.sources.some((one) => one.across === 'lower' || one.across === 'upper');
  const onPost = (one: Source | Load) => Boolean(sensor) && one.counted === false;
  const halves = split ? (['upper', 'lower'] as const) : [];
  const post = (one: Source | Load) =>
    'across' in one && (one.across === 'lower' || one.across === 'upper') ? one.across : 'battery';

  // Devices on the battery's side of the sensor stand in the first columns, over and under the battery.
  const battery = (devices: readonly (Source | Load)[]) =>
    devices.filter((one) => onPost(one) || post(one) !== 'battery');
  const beyond = (devices: readonly (Source | Load)[]) =>
    devices.filter((one) => !battery(devices).includes(one));
  const left = Math.max(1, battery(system.sources).length, battery(system.loads).length);
  if (split)
    halves.forEach((half, i) =>
      nodes.push({
        id: half,
        kind: 'half',
        name: `${half} half`,
        column: 0,
        row: ROW.bus + (i === 0 ? -0.25 : 0.25),
      }),
    );
  else nodes.push({ id: 'battery', kind: 'battery', name: 'Battery', column: 0, row: ROW.bus });
  if (sensor)
    nodes.push({
      id: 'sensor',
      kind: 'sensor',
      name: system.monitor?.method === 'hall' ? 'Clip-on sensor' : 'Shunt',
      column: left,
      row: ROW.bus,
    });
  const busAt = left + (sensor ? 1 : 0);
  nodes.push({ id: 'bus', kind: 'bus', name: 'Busbars', column: busAt, row: ROW.bus });
  const start = split ? 'lower' : 'battery';
  wires.push(
    ...(split ? [{ from: 'upper', to: 'lower', device: null, counted: null }] : []),
    { from: start, to: sensor ? 'sensor' : 'bus', device: null, counted: null },
    ...(sensor ? [{ from: 'sensor', to: 'bus', device: null, counted: null }] : []),
  );
  for (const [kind, devices] of [
    ['source', system.sources],
    ['load', system.loads],
  ] as const) {
    const place = (list: readonly (Source | Load)[], first: number, to: (one: Source | Load) => string) =>
      list.forEach((one, i) => {
        nodes.push({ id: one.id, kind, name: one.name, column: first + i, row: ROW[kind] });
        wires.push({ from: one.id, to: to(one), device: one.id, counted: one.counted });
      });
    place(battery(devices), 0, (one) => (split && post(one) === 'battery' ? start : post(one)));
    place(beyond(devices), busAt, () => 'bus');
  }
  return {
    nodes,
    wires,
    columns: Math.max(...nodes.map((one) => one.column)) + 1,
    rows: 3,
  };
}

export interface CoverageRow {
  id: string;
  name: string;
  kind: 'source' | 'load';
  counted: boolean | null;
  clampA: number | null;
}

/** What the monitor counts, device by device, in the order of the walk. */
export function coverageOf(system: System, walk: Walk | undefined): CoverageRow[] {
  const row = (kind: 'source' | 'load') => (one: Source | Load) => ({
    id: one.id,
    name: one.name,
    kind,
    counted: one.counted,
    clampA: walk?.clampA?.[one.id] ?? null,
  });
  return [...system.sources.map(row('source')), ...system.loads.map(row('load'))];
}

export interface Trust {
  who: 'BMS' | 'Monitor' | 'Inverter';
  /** Usable as it is, usable with care, or not. */
  verdict: 'yes' | 'with care' | 'no';
  text: string;
}

/** Which percentages can be trusted, in the usual order: BMS, then shunt, then an inverter's own (common practice, no source). */
export function trustedPercentages(system: System): Trust[] {
  const out: Trust[] = [];
  const names = (devices: readonly (Source | Load)[]) => devices.map((one) => one.name).join(', ');
  if (system.bms)
    out.push({
      who: 'BMS',
      verdict: 'yes',
      text: 'The BMS measures at the cells: everything that passes them is counted, wherever it is wired.',
    });
  const { monitor } = system;
  if (!monitor) return out;
  const devices = [...system.sources, ...system.loads];
  const unseen = devices.filter((one) => one.counted === false);
  const unknown = devices.filter((one) => one.counted === null);
  switch (monitor.method) {
    case 'voltage':
      out.push({
        who: 'Monitor',
        verdict: 'no',
        text: 'A reading made from voltage alone jumps with each load and each charge.',
      });
      break;
    case 'source-count':
      out.push({
        who: 'Inverter',
        verdict: unseen.length > 0 || system.sources.length > 1 ? 'no' : 'with care',
        text: 'The inverter counts its own current only; whatever else is wired to the battery is not in its reading.',
      });
      break;
    default:
      out.push(
        unseen.length > 0
          ? {
              who: 'Monitor',
              verdict: 'no',
              text: `It does not see ${names(unseen)}: its count runs away by what flows there.`,
            }
          : unknown.length > 0
            ? {
                who: 'Monitor',
                verdict: 'with care',
                text: `It is not known whether it sees ${names(unknown)}.`,
              }
            : (monitor.sees ?? 'bank') !== 'bank'
              ? {
                  who: 'Monitor',
                  verdict: 'with care',
                  text: `It sees the ${monitor.sees} half only, and stands for both while they agree.`,
                }
              : {
                  who: 'Monitor',
                  verdict: 'yes',
                  text: 'It sees every source and load; good from one full charge to the next.',
                },
      );
  }
  return out;
}

export interface ClampBalance {
  sources: number;
  loads: number;
  battery: number;
  /** Sources less loads less what goes into the battery, A. */
  remainder: number;
  /** Within this the readings add up, A. */
  tolerance: number;
  adds: boolean;
  text: string;
}

/** A clamp meter reads to about 2 % and a few tenths of an ampere (common practice, no source). */
const CLAMP_SHARE = 0.02;
const CLAMP_AMPS = 0.3;

/**
 * Do clamp-meter readings add up? Sources minus loads must equal the battery's current.
 * @returns null until the battery and every device have a reading
 */
export function clampBalance(system: System, walk: Walk | undefined): ClampBalance | null {
  const clamp = walk?.clampA ?? {};
  const battery = clamp.battery;
  const devices = [...system.sources, ...system.loads];
  if (battery === undefined || devices.some((one) => clamp[one.id] === undefined)) return null;
  const total = (list: readonly (Source | Load)[]) => list.reduce((sum, one) => sum + clamp[one.id]!, 0);
  const sources = total(system.sources);
  const loads = total(system.loads);
  const remainder = sources - loads - battery;
  const readings = [battery, ...devices.map((one) => clamp[one.id]!)];
  const tolerance = Math.hypot(...readings.map((one) => CLAMP_SHARE * Math.abs(one) + CLAMP_AMPS));
  const adds = Math.abs(remainder) <= tolerance;
  const balance = { sources, loads, battery, remainder, tolerance, adds };
  const named = [
    { name: 'the battery’s conductor', amps: battery },
    ...devices.map((one) => ({ name: one.name, amps: clamp[one.id]! })),
  ];
  return { ...balance, text: suggestion(balance, named) };
}

/** What a remainder suggests, by its sign and size. */
function suggestion(
  { sources, loads, battery, remainder, tolerance, adds }: Omit<ClampBalance, 'text'>,
  readings: readonly { name: string; amps: number }[],
): string {
  const sum = `${amps(sources)} from sources, less ${amps(loads)} to loads, against ${amps(battery)} into the battery`;
  if (adds) return `${sum}: they add up within ${amps(tolerance)}.`;
  const left = amps(Math.abs(remainder));
  // A clamp put on the wrong way round counts twice; a device that is missing counts once.
  const turned = readings.find(
    (one) =>
      Math.abs(one.amps) > tolerance && Math.abs(Math.abs(remainder) - 2 * Math.abs(one.amps)) <= tolerance,
  );
  const hint = turned
    ? ` Or the clamp was the wrong way round on ${turned.name}: ${left} is twice its reading.`
    : '';
  return remainder > 0
    ? `${sum}: ${left} are left over. Something draws them between the sources and the battery: a load that is not on the list, or one on the battery post.${hint}`
    : `${sum}: ${left} more go in than come from the sources. A source that is not on the list gives them.${hint}`;
}
