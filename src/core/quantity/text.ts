/** Quantities as people read them: sensible digits, unit after a space. */

import { HOUR, MINUTE } from './span';

/** A figure with a true minus. */
export const trueMinus = (text: string): string => text.replace('-', '−');
/** The same with its sign, whichever it is. */
export const withSign = (text: string): string => {
  const signed = trueMinus(text);
  return signed.startsWith('−') ? signed : `+${signed}`;
};

const fixed = (value: number, digits: number): string => {
  const text = value.toFixed(digits);
  return Number(text) === 0 ? text.replace('-', '') : trueMinus(text);
};

/** Millivolts per °C and cell. */
export const slopeMv = (value: number): string => fixed(value, 1);

export const volts = (value: number): string => `${fixed(value, 2)} V`;
export const amps = (value: number): string => `${fixed(value, 1)} A`;
/** Of ohms. */
export const milliohms = (ohms: number): string => `${fixed(1000 * ohms, 1)} mΩ`;
export const ampHours = (value: number): string => `${fixed(value, Math.abs(value) < 10 ? 1 : 0)} Ah`;
export const celsius = (value: number): string => `${fixed(value, 0)} °C`;

/** A percentage: one decimal below 20, whole above. */
export const percent = (value: number): string => `${fixed(value, Math.abs(value) < 20 ? 1 : 0)} %`;

/** How far two percentages are apart, without its sign: "4.2 points". */
export const points = (value: number): string =>
  `${Math.abs(value).toFixed(Math.abs(value) < 10 ? 1 : 0)} ${Math.abs(value) === 1 ? 'point' : 'points'}`;

/** A length of time in ms: "45 s", "60 min", "3 h 20 min", "12 days". */
export function duration(ms: number): string {
  const seconds = Math.round(ms / 1000);
  if (seconds < 60) return `${seconds} s`;
  const minutes = Math.round(ms / MINUTE);
  if (minutes < 100) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  if (hours < 48)
    return minutes % 60 === 0 ? `${hours} h` : `${hours} h ${String(minutes % 60).padStart(2, '0')} min`;
  const days = Math.round(ms / (24 * HOUR));
  return `${days} days`;
}

/** "1 day", "3 days". */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${count} ${count === 1 ? one : many}`;

/** "11 of 12 days", "all 12 days", "none of 12 days". */
export function share(part: number, whole: number, one: string): string {
  const unit = `${whole} ${whole === 1 ? one : `${one}s`}`;
  if (part === 0) return `none of ${unit}`;
  if (part === whole) return whole === 1 ? `the one ${one}` : `all ${unit}`;
  return `${part} of ${unit}`;
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
/** A day as it is written everywhere: "14 Oct 2026". @param iso yyyy-mm-dd, with or without a time behind it */
export const dayText = (iso: string): string =>
  `${Number(iso.slice(8, 10))} ${MONTHS[Number(iso.slice(5, 7)) - 1]} ${iso.slice(0, 4)}`;

/** With a capital at its head, or a small letter where it goes on in a sentence. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
export const small = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
