/** What can be set otherwise on one charger: sliders with fields, and which ends of absorption it has. */

import { useId } from 'react';
import { blocksInSeries, isLead } from '@/core/system/chemistry';
import type { KnownBank } from '@/core/system/known';
import type { ChargerSettings } from '@/core/whatif/settings';
import { SliderField } from '@/ui/primitives/SliderField';

interface Props {
  name: string;
  bank: KnownBank;
  settings: ChargerSettings;
  /** As it was set: where an end of absorption starts that it did not have. */
  was: ChargerSettings;
  disabled: boolean;
  onChange(settings: ChargerSettings): void;
}

export function ChargerFields({ name, bank, settings, was, disabled, onChange }: Props) {
  const blocks = blocksInSeries(bank);
  const set = (some: Partial<ChargerSettings>) => onChange({ ...settings, ...some });
  const usualTail = was.tailA ?? Math.round(0.2 * bank.capacityAh) / 10;
  return (
    <fieldset className="border-rule-strong bg-sheet border p-3" disabled={disabled}>
      <legend className="px-1 text-sm font-semibold">{name}</legend>
      <div className="flex flex-col gap-2">
        <SliderField
          label="Absorption voltage"
          unit="V"
          min={13.2 * blocks}
          max={15 * blocks}
          step={0.05 * blocks}
          value={settings.absorptionV}
          disabled={disabled}
          onChange={(absorptionV) => set({ absorptionV })}
        />
        <End
          label="Ends absorption by time"
          isOn={settings.absorptionMinutes !== null}
          disabled={disabled || settings.tailA === null}
          onSwitch={(on) => set({ absorptionMinutes: on ? (was.absorptionMinutes ?? 120) : null })}
        >
          <SliderField
            label="Absorption time"
            unit="min"
            min={0}
            max={480}
            step={5}
            value={settings.absorptionMinutes ?? was.absorptionMinutes ?? 120}
            disabled={disabled || settings.absorptionMinutes === null}
            onChange={(absorptionMinutes) => set({ absorptionMinutes })}
          />
        </End>
        <End
          label="Ends absorption by current"
          isOn={settings.tailA !== null}
          disabled={disabled || settings.absorptionMinutes === null}
          onSwitch={(on) => set({ tailA: on ? usualTail : null })}
        >
          <SliderField
            label="Tail current"
            unit="A"
            min={0}
            max={Math.max(1, Math.round(0.1 * bank.capacityAh))}
            step={0.1}
            value={settings.tailA ?? usualTail}
            disabled={disabled || settings.tailA === null}
            onChange={(tailA) => set({ tailA })}
          />
        </End>
        <SliderField
          label="Float voltage"
          unit="V"
          min={12.8 * blocks}
          max={14.4 * blocks}
          step={0.05 * blocks}
          value={settings.floatV}
          disabled={disabled}
          onChange={(floatV) => set({ floatV })}
        />
        {isLead(bank.chemistry) && (
          <SliderField
            label="Compensation"
            unit="mV/°C/cell"
            min={-6}
            max={0}
            step={0.5}
            value={settings.compensationMvPerCellPerC}
            disabled={disabled}
            least={-10}
            onChange={(compensationMvPerCellPerC) => set({ compensationMvPerCellPerC })}
          />
        )}
        <SliderField
          label="Size of the source"
          unit="times"
          min={0.25}
          max={3}
          step={0.05}
          value={settings.size}
          disabled={disabled}
          onChange={(size) => set({ size: Math.min(size, 20) })}
        />
      </div>
    </fieldset>
  );
}

interface EndProps {
  label: string;
  isOn: boolean;
  disabled: boolean;
  onSwitch(on: boolean): void;
  children: React.ReactNode;
}

/** One of the two ends of absorption; a charger has one at least. */
function End({ label, isOn, disabled, onSwitch, children }: EndProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="text-ink-soft flex items-center gap-2 text-xs">
        <input
          id={id}
          type="checkbox"
          className="accent-accent size-4"
          checked={isOn}
          disabled={disabled}
          onChange={({ target }) => onSwitch(target.checked)}
        />
        {label}
      </label>
      {isOn && children}
    </div>
  );
}
