/** What a little calculator is: what goes in, what comes out, by which formula and from which source. And how it is worked. */

import type { System } from '../../system/schema';

export interface NumberInput {
  key: string;
  label: string;
  unit: string;
  /** What it starts with. */
  start: number;
  min: number;
  max: number;
}

export interface ChoiceInput {
  key: string;
  label: string;
  start: string;
  options: readonly { id: string; name: string }[];
}

export type CalculatorInput = NumberInput | ChoiceInput;

export interface Output {
  label: string;
  value: number | string;
  unit: string;
  digits: number;
}

export interface Values {
  number(key: string): number;
  choice(key: string): string;
}

export interface Calculator {
  id: string;
  title: string;
  about: string;
  inputs: readonly CalculatorInput[];
  formula: string;
  source: string;
  caution?: string;
  compute(values: Values): Output[];
  /** Values that a system's description gives. */
  from?(system: System): Record<string, number | string | undefined>;
}

export const number = (
  key: string,
  label: string,
  unit: string,
  start: number,
  min: number,
  max: number,
): NumberInput => ({ key, label, unit, start, min, max });
export const out = (label: string, value: number | string, unit: string, digits = 1): Output => ({
  label,
  value,
  unit,
  digits,
});
export const isNumber = (input: CalculatorInput): input is NumberInput => 'unit' in input;

export type Computed = { ok: true; outputs: Output[] } | { ok: false; problems: Record<string, string> };

/** Reads what was typed and computes; each input that cannot be used is told with what to do. */
export function compute(calculator: Calculator, typed: Record<string, string>): Computed {
  const problems: Record<string, string> = {};
  const numbers: Record<string, number> = {};
  for (const input of calculator.inputs) {
    const text = (typed[input.key] ?? String(input.start)).trim();
    if (!isNumber(input)) {
      if (!input.options.some((one) => one.id === text)) problems[input.key] = 'Choose one of the list.';
      continue;
    }
    const value = Number(text.replace(',', '.'));
    if (text === '' || !Number.isFinite(value))
      problems[input.key] = `“${text}” is not a number: write it like 14.4.`;
    else if (value < input.min || value > input.max)
      problems[input.key] =
        `This lies between ${input.min} and ${input.max}${input.unit ? ` ${input.unit}` : ''}.`;
    numbers[input.key] = value;
  }
  if (Object.keys(problems).length > 0) return { ok: false, problems };
  const start = (key: string) => calculator.inputs.find((one) => one.key === key)!.start;
  return {
    ok: true,
    outputs: calculator.compute({
      number: (key) => numbers[key]!,
      choice: (key) => typed[key] ?? String(start(key)),
    }),
  };
}
