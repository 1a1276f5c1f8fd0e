'use client';
/** One little calculator: figures in, figures out, formula and source in view; the address keeps what was typed. */

import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import { CALCULATORS, compute, isNumber } from '@/core/plan/calculators';
import { inputClass } from '@/ui/describe/fields/FieldFrame';
import { onScreen } from '@/ui/primitives/useChosenEarly';

export function CalculatorPage({ id, start }: { id: string; start: Record<string, string> }) {
  const calculator = CALCULATORS.find((one) => one.id === id)!;
  const [typed, setTyped] = useState<Record<string, string>>(() =>
    Object.fromEntries(calculator.inputs.map((one) => [one.key, start[one.key] ?? String(one.start)])),
  );
  const computed = compute(calculator, typed);
  const keep = (now: Record<string, string>) => {
    setTyped(now);
    window.history.replaceState(null, '', `?${new URLSearchParams(now).toString()}`);
  };
  const type = (key: string, value: string) => keep({ ...typed, [key]: value });
  // What was typed before the page's scripts were there stands in its fields only.
  const form = useRef<HTMLFormElement>(null);
  const asDrawn = useRef({ typed, keep });
  useEffect(() => {
    const { typed, keep } = asDrawn.current;
    const fields = form.current!.elements;
    const now = Object.fromEntries(
      Object.entries(typed).map(([key, value]) => [
        key,
        onScreen(fields.namedItem(key) as HTMLInputElement | HTMLSelectElement, value),
      ]),
    );
    if (Object.keys(typed).some((key) => now[key] !== typed[key])) keep(now);
  }, []);
  return (
    <main className="mx-auto grid w-full max-w-5xl gap-4 p-4 md:grid-cols-[13rem_1fr]">
      <nav aria-label="Calculators">
        <ul className="flex flex-wrap gap-x-3 md:block">
          {CALCULATORS.map((one) => (
            <li key={one.id}>
              <Link
                href={`/calculators/${one.id}`}
                aria-current={one.id === id ? 'page' : undefined}
                className={`hover:bg-accent-soft block border-l-3 px-2 py-1 ${one.id === id ? 'border-accent bg-accent-soft font-semibold' : 'border-transparent'}`}
              >
                {one.title}
              </Link>
            </li>
          ))}
        </ul>
      </nav>
      <div>
        <h1 className="text-xl font-semibold">{calculator.title}</h1>
        <p className="text-ink-soft mb-3">{calculator.about}</p>
        <form
          ref={form}
          noValidate
          className="border-rule-strong bg-sheet grid gap-4 border p-4 sm:grid-cols-2"
          onSubmit={(event) => event.preventDefault()}
        >
          <div className="flex flex-col gap-2">
            {calculator.inputs.map((input) => {
              const problem = computed.ok ? undefined : computed.problems[input.key];
              return (
                <div key={input.key}>
                  <label htmlFor={input.key} className="block text-sm font-semibold">
                    {input.label}
                  </label>
                  <div className="flex items-center gap-1.5">
                    {isNumber(input) ? (
                      <>
                        <input
                          id={input.key}
                          inputMode="decimal"
                          autoComplete="off"
                          className={`${inputClass} w-32 text-right font-mono`}
                          aria-invalid={problem ? true : undefined}
                          value={typed[input.key]}
                          onChange={({ target }) => type(input.key, target.value)}
                        />
                        <span className="text-ink-soft text-sm">{input.unit}</span>
                      </>
                    ) : (
                      <select
                        id={input.key}
                        className={inputClass}
                        value={typed[input.key]}
                        onChange={({ target }) => type(input.key, target.value)}
                      >
                        {/* What the address has and the calculator does not: the first of the list would look chosen. */}
                        {problem && <option value={typed[input.key]}>choose …</option>}
                        {input.options.map((one) => (
                          <option key={one.id} value={one.id}>
                            {one.name}
                          </option>
                        ))}
                      </select>
                    )}
                  </div>
                  {problem && (
                    <p role="alert" className="text-hazard text-xs">
                      {problem}
                    </p>
                  )}
                </div>
              );
            })}
          </div>
          <output className="bg-paper border-rule block border p-3" aria-label="Result">
            {computed.ok ? (
              computed.outputs.map((one, i) => (
                <span key={one.label} className="mb-1 block">
                  <span className="text-ink-soft block text-sm">{one.label}</span>
                  <span className={`font-mono ${i === 0 ? 'text-xl font-semibold' : ''}`}>
                    {typeof one.value === 'number' ? one.value.toFixed(one.digits) : one.value}
                  </span>{' '}
                  <span className="text-ink-soft">{one.unit}</span>
                </span>
              ))
            ) : (
              <span className="text-ink-soft">Nothing to show until each figure can be used.</span>
            )}
          </output>
        </form>
        <dl className="mt-3 grid grid-cols-[5rem_1fr] gap-y-1 text-sm">
          <dt className="text-ink-soft">Formula</dt>
          <dd className="font-mono">{calculator.formula}</dd>
          <dt className="text-ink-soft">Source</dt>
          <dd>{calculator.source}</dd>
        </dl>
        {calculator.caution && (
          <p className="border-hazard mt-3 border-l-3 pl-2 text-sm">{calculator.caution}</p>
        )}
      </div>
    </main>
  );
}
