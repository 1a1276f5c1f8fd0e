'use client';
/** A number set by a slider or typed into the field beside it. */

import { Slider } from 'radix-ui';
import { useId } from 'react';

interface Props {
  label: string;
  unit: string;
  /** Ends and step of the slider; what is typed may lie beyond its ends. */
  min: number;
  max: number;
  step: number;
  value: number;
  disabled: boolean;
  /** Least that may be typed. */
  least?: number;
  onChange(value: number): void;
}

const digitsOf = (step: number): number => (step >= 1 ? 0 : step >= 0.1 ? 1 : 2);

export function SliderField({ label, unit, min, max, step, value, disabled, least = 0, onChange }: Props) {
  const id = useId();
  return (
    <div className="grid grid-cols-[8.5rem_1fr_8rem] items-center gap-2 text-sm">
      <label htmlFor={id}>{label}</label>
      <Slider.Root
        className="relative flex h-6 touch-none items-center select-none"
        min={min}
        max={max}
        step={step}
        value={[Math.min(max, Math.max(min, value))]}
        disabled={disabled}
        onValueChange={([next]) => onChange(Number(next!.toFixed(3)))}
      >
        <Slider.Track className="bg-rule-strong relative h-[3px] grow">
          <Slider.Range className="bg-accent absolute h-full" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={label}
          className="border-accent bg-sheet block size-4 rounded-full border-2"
        />
      </Slider.Root>
      <span className="flex items-center gap-1">
        <input
          id={id}
          type="number"
          className="border-rule-strong bg-paper w-18 border px-1.5 py-0.5 text-right font-mono"
          min={least}
          step={step}
          value={Number(value.toFixed(digitsOf(step)))}
          disabled={disabled}
          onChange={(event) => {
            const typed = event.target.valueAsNumber;
            if (Number.isFinite(typed) && typed >= least) onChange(typed);
          }}
        />
        <span className="text-ink-soft text-xs">{unit}</span>
      </span>
    </div>
  );
}
