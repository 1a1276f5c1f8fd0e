/** What display and meter said: asked when a job is taken in, and again where the reading is checked. */

import { ChoiceField } from '../fields/ChoiceField';
import { JobNumberField } from '../fields/JobNumberField';
import { Fields } from './Section';

export function ReadingFields() {
  return (
    <Fields>
      <JobNumberField
        path="reading.displayedPercent"
        label="Displayed percentage"
        unit="%"
        where="On the monitor."
      />
      <JobNumberField
        path="reading.volts"
        label="Rest voltage"
        unit="V"
        where="At the battery posts, everything off."
      />
      <JobNumberField
        path="reading.hoursAtRest"
        label="At rest for"
        unit="h"
        where="Four hours or more for lead-acid, one for lithium."
      />
      <JobNumberField
        path="reading.celsius"
        label="Battery temperature"
        unit="°C"
        where="At the case or a post."
      />
      <ChoiceField
        name="job.reading.after"
        label="Before that it was"
        where="Charge leaves surface charge, discharge a dip."
        options={[
          { id: 'charge', name: 'being charged' },
          { id: 'discharge', name: 'being discharged' },
        ]}
      />
    </Fields>
  );
}
