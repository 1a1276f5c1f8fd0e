'use client';
/** Sliders and fields for the settings that a counting monitor has. */

import { useMemo } from 'react';
import type { CounterSettings } from '@/core/count/settings';
import { blocksInSeries, isLead } from '@/core/system/chemistry';
import type { KnownBank } from '@/core/system/known';
import { SliderField } from '@/ui/primitives/SliderField';

interface Props {
  bank: KnownBank;
  settings: CounterSettings;
  disabled: boolean;
  onChange(settings: CounterSettings): void;
}

interface Field {
  name: Exclude<keyof CounterSettings, 'peukertBelowRate'>;
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
}

function fieldsOf(bank: KnownBank): Field[] {
  const blocks = blocksInSeries(bank);
  const lead = isLead(bank.chemistry);
  const ah = bank.capacityAh;
  return [
    {
      name: 'chargedV',
      label: 'Charged voltage',
      unit: 'V',
      min: 12.6 * blocks,
      max: 15 * blocks,
      step: 0.05 * blocks,
    },
    { name: 'tailPercent', label: 'Tail current', unit: '%', min: 0.5, max: 20, step: 0.5 },
    { name: 'detectionMinutes', label: 'Detection time', unit: 'min', min: 0, max: 60, step: 1 },
    {
      name: 'efficiencyPercent',
      label: 'Charge efficiency',
      unit: '%',
      min: lead ? 50 : 80,
      max: 100,
      step: 1,
    },
    {
      name: 'capacityAh',
      label: 'Capacity',
      unit: 'Ah',
      min: Math.round(ah / 4),
      max: Math.round(2.5 * ah),
      step: ah > 250 ? 5 : 1,
    },
    { name: 'peukert', label: 'Peukert exponent', unit: '', min: 1, max: 1.5, step: 0.01 },
    { name: 'thresholdA', label: 'Zero threshold', unit: 'A', min: 0, max: 2, step: 0.05 },
  ];
}

export function SettingFields({ bank, settings, disabled, onChange }: Props) {
  const fields = useMemo(() => fieldsOf(bank), [bank]);
  return (
    <fieldset className="border-rule-strong bg-sheet border p-3" disabled={disabled}>
      <legend className="px-1 text-sm font-semibold">Settings tried</legend>
      <div className="flex flex-col gap-2">
        {fields.map(({ name, ...field }) => (
          <SliderField
            key={name}
            {...field}
            value={settings[name]}
            disabled={disabled}
            onChange={(value) => onChange({ ...settings, [name]: value })}
          />
        ))}
        <label className="flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="accent-accent size-4"
            checked={settings.peukertBelowRate}
            onChange={(event) => onChange({ ...settings, peukertBelowRate: event.target.checked })}
          />
          The exponent works below the rated current too
        </label>
      </div>
    </fieldset>
  );
}
