'use client';
/** Take in: the job, and all of its system that is known. */

import { useState } from 'react';
import { useFormContext } from 'react-hook-form';
import { COMPLAINT_WORDS } from '@/core/diagnosis/summary';
import { ampHours } from '@/core/quantity/text';
import { capacityAtRate } from '@/core/system/peukert';
import { presetVolts } from '@/core/system/known';
import { CHEMISTRY, isLead } from '@/core/system/chemistry';
import { COMPLAINTS } from '@/core/system/schema';
import {
  CHEMISTRY_OPTIONS,
  METHOD_OPTIONS,
  PART_OPTIONS,
  SITS_OPTIONS,
  VOLTAGE_AT_OPTIONS,
} from '@/core/system/words';
import { ChoiceField, YesNoField } from '../fields/ChoiceField';
import { useTyped } from '../fields/context';
import { NumberField } from '../fields/NumberField';
import { VOLT_VIEW_NAMES, VOLT_VIEWS, type VoltView } from '../fields/secondUnit';
import { TextField } from '../fields/TextField';
import { Checkboxes } from '../fields/Checkboxes';
import { Batteries, Loads, Sources } from './Devices';
import { More } from './More';
import { OptionalPart } from './OptionalPart';
import { ReadingFields } from './ReadingFields';
import { buttonClass } from '@/ui/primitives/buttons';
import { Fields, Section } from './Section';
import { Shunts } from './Shunts';

const BMS_FIGURES = [
  'cellHighReleaseV',
  'cellLowReleaseV',
  'balanceV',
  'balanceA',
  'chargeAboveC',
  'dischargeAboveC',
  'maxChargeA',
  'maxDischargeA',
];
const MONITOR_FIGURES = ['peukert', 'floorPercent', 'thresholdA', 'startPercent', 'bulkEndPercent'];
/** Most monitors have none of these, or nobody needs them: they are not counted as open. */
const MONITOR_ALARMS = ['ratedA', 'emptyV', 'alarmHighV', 'alarmA', 'alarmC'];
const MONITOR_CHOICES = ['peukertBelowRate', 'sees', 'voltageAt'];
const MORE_OF_BANK = [
  'stringsInParallel',
  'installedOn',
  'chargeVolts.min',
  'chargeVolts.max',
  'floatVolts.min',
  'floatVolts.max',
  'maxChargeA',
  'chargeAboveC',
  'dischargeAboveC',
].map((key) => `system.bank.${key}`);
/** Equalisation is left out of the count: most makers ask for none. */
const MORE_OF_LEAD = [
  ...MORE_OF_BANK,
  'system.bank.compensationMvPerCellPerC.min',
  'system.bank.compensationMvPerCellPerC.max',
];

export function TakeIn({ jobId }: { jobId: string }) {
  const [view, setView] = useState<VoltView>('cell');
  return (
    <form noValidate onSubmit={(event) => event.preventDefault()}>
      <Section title="The job">
        <Fields>
          <TextField name="job.title" label="Title" where="One line that the owner would recognise." />
          <TextField name="job.since" label="Since when" where="Day, season, or what happened then." />
          <Checkboxes
            name="job.complaints"
            legend="Complaint"
            options={COMPLAINTS.map((id) => ({ id, name: COMPLAINT_WORDS[id] }))}
          />
        </Fields>
        <div className="mt-3 grid gap-x-4 gap-y-3 md:grid-cols-3">
          <TextField
            name="job.changed"
            label="What changed"
            kind="lines"
            where="New devices, new settings, new loads."
          />
          <TextField
            name="job.tried"
            label="Already tried"
            kind="lines"
            where="By the owner or by a colleague."
          />
          <TextField name="job.notes" label="Notes" kind="lines" where="Anything else that was said." />
        </div>
      </Section>

      <Section
        title="First reading"
        about="What the display and a meter of your own said before anything was touched."
      >
        <ReadingFields />
        <p className="mt-2 text-sm">
          <a href={`/jobs/${jobId}/settings?view=rest`} className="text-accent underline">
            What this reading says
          </a>
        </p>
      </Section>

      <Battery view={view} setView={setView} />
      <Sources view={view} />
      <Monitor view={view} />
      <Loads view={view} />
      <OptionalPart part="bms" title="BMS" about="Voltages of one cell.">
        <Fields>
          {['cellHighV', 'cellLowV'].map((key) => (
            <NumberField key={key} path={`bms.${key}`} />
          ))}
        </Fields>
        <More of="the BMS" names={BMS_FIGURES.map((key) => `system.bms.${key}`)}>
          <Fields>
            {BMS_FIGURES.map((key) => (
              <NumberField key={key} path={`bms.${key}`} />
            ))}
          </Fields>
        </More>
      </OptionalPart>
      <Batteries />
      <Section title="Site">
        <Fields>
          <TextField name="system.name" />
          <TextField name="system.owner" />
          <TextField name="system.timeZone" list="time-zones" />
          <NumberField path="site.coldestC" />
          <NumberField path="site.warmestC" />
          <NumberField path="site.airflow" />
        </Fields>
        <datalist id="time-zones">
          {Intl.supportedValuesOf('timeZone').map((zone) => (
            <option key={zone} value={zone} />
          ))}
        </datalist>
      </Section>
    </form>
  );
}

function Battery({ view, setView }: { view: VoltView; setView(view: VoltView): void }) {
  const { system } = useTyped();
  const { setValue } = useFormContext();
  const { chemistry, cellsInSeries, capacityAh, capacityHours } = system.bank;
  const lead = chemistry !== undefined && isLead(chemistry);
  const exponent = system.monitor?.peukert ?? 1.25;
  const atTwenty =
    lead && capacityAh && capacityHours && capacityHours !== 20
      ? `That is ${ampHours(capacityAtRate({ capacityAh, hours: capacityHours }, 20, exponent))} at 20 h (Peukert, exponent ${exponent}).`
      : null;
  const fill = () => {
    if (!chemistry || !cellsInSeries) return;
    const { charge, float } = presetVolts(chemistry, cellsInSeries);
    const set = (path: string, value: unknown) =>
      setValue(`system.bank.${path}`, value, { shouldValidate: true, shouldDirty: true });
    set('chargeVolts', charge);
    set('floatVolts', float);
    set('compensationMvPerCellPerC', CHEMISTRY[chemistry].compensation);
  };
  return (
    <Section
      title="Battery"
      aside={
        <label className="text-sm">
          Beside volts show{' '}
          <select
            className="border-rule-strong bg-paper border px-1 py-0.5"
            value={view}
            onChange={(event) => setView(event.target.value as VoltView)}
          >
            {VOLT_VIEWS.map((one) => (
              <option key={one} value={one}>
                {VOLT_VIEW_NAMES[one]}
              </option>
            ))}
          </select>
        </label>
      }
    >
      <Fields>
        <ChoiceField name="system.bank.chemistry" options={CHEMISTRY_OPTIONS} />
        <NumberField path="bank.cellsInSeries" />
        <NumberField path="bank.capacityAh" more={atTwenty} />
        <NumberField path="bank.capacityHours" />
      </Fields>
      <More of="the battery" names={lead || chemistry === undefined ? MORE_OF_LEAD : MORE_OF_BANK}>
        <Fields>
          <NumberField path="bank.stringsInParallel" />
          <TextField name="system.bank.installedOn" kind="date" />
        </Fields>
        <div className="mt-4 mb-2 flex flex-wrap items-center gap-3">
          <h3 className="font-semibold">The maker’s voltages at 25 °C</h3>
          <button
            type="button"
            className={buttonClass}
            onClick={fill}
            disabled={!chemistry || !cellsInSeries}
          >
            Use what is usual for {chemistry ? CHEMISTRY[chemistry].name : 'the chemistry'}
          </button>
        </div>
        <Fields>
          {['chargeVolts.min', 'chargeVolts.max', 'floatVolts.min', 'floatVolts.max'].map((key) => (
            <NumberField key={key} path={`bank.${key}`} voltView={view} />
          ))}
          {(chemistry === undefined || lead) && (
            <>
              <NumberField path="bank.compensationMvPerCellPerC.min" />
              <NumberField path="bank.compensationMvPerCellPerC.max" />
            </>
          )}
          {['maxChargeA', 'chargeAboveC', 'dischargeAboveC'].map((key) => (
            <NumberField key={key} path={`bank.${key}`} />
          ))}
        </Fields>
        {(chemistry === undefined || lead) && (
          <>
            <h3 className="mt-4 font-semibold">Equalisation</h3>
            <p className="text-ink-soft mb-2 text-sm">
              Only where the maker’s sheet asks for it; leave it empty for never.
            </p>
            <Fields>
              <NumberField path="bank.equalise.volts" voltView={view} />
              <NumberField path="bank.equalise.minutes" />
              <NumberField path="bank.equalise.everyDays" />
              <TextField name="system.bank.equalise.lastOn" kind="date" />
              <YesNoField name="system.bank.equalise.byHand" unknownAs={undefined} />
            </Fields>
          </>
        )}
      </More>
    </Section>
  );
}

function Monitor({ view }: { view: VoltView }) {
  return (
    <OptionalPart part="monitor" title="Monitor">
      <Fields>
        <ChoiceField name="system.monitor.method" options={METHOD_OPTIONS} />
        <NumberField path="monitor.capacityAh" />
        <NumberField path="monitor.chargedV" voltView={view} />
        {['tailPercent', 'detectionMinutes', 'efficiencyPercent'].map((key) => (
          <NumberField key={key} path={`monitor.${key}`} />
        ))}
      </Fields>
      <More
        of="the monitor"
        names={[...MONITOR_FIGURES, ...MONITOR_CHOICES].map((key) => `system.monitor.${key}`)}
      >
        <Fields>
          {[...MONITOR_FIGURES, ...MONITOR_ALARMS].map((key) => (
            <NumberField key={key} path={`monitor.${key}`} />
          ))}
          <YesNoField name="system.monitor.peukertBelowRate" unknownAs={undefined} />
          <ChoiceField name="system.monitor.sees" options={PART_OPTIONS} />
          <ChoiceField name="system.monitor.sits" options={SITS_OPTIONS} />
          <ChoiceField name="system.monitor.voltageAt" options={VOLTAGE_AT_OPTIONS} />
        </Fields>
        <Shunts />
      </More>
    </OptionalPart>
  );
}
