/** The figures of a source and the balance, as sentences. */

import type { Diagnosis, SourceFigures } from './result';
import { balanceText, sourceLines } from './sourceTable';

const figures: SourceFigures = {
  source: 'solar',
  plateaus: [
    {
      stage: 'absorption',
      volts: 14.1,
      at25: true,
      band: 0.02,
      hours: 12.5,
      days: 9,
      called: 'float',
      configured: 14.4,
      asks: { min: 14.2, max: 14.6 },
    },
  ],
  compensation: {
    found: -0.1,
    band: 0.2,
    fromC: 12,
    toC: 27,
    configured: -4,
    asks: { min: -5, max: -3 },
  },
  path: { milliohms: 12.4, band: 0.6, offsetVolts: 0.05, amps: 30, lostVolts: 0.37, lostWatts: 11 },
  saysOtherwise: { reported: 'absorption', found: 'bulk', hours: 11.2, ofHours: 14 },
  limits: [28.4],
  ratedA: 40,
  missing: {
    charges: 8,
    minutes: 110,
    minutesBand: { min: 95, max: 131 },
    ampHours: 10.4,
    ampHoursBand: { min: 9.1, max: 12 },
  },
};

test('each figure stands beside what was set and what is asked for, with its band', () => {
  expect(sourceLines(figures)).toEqual([
    {
      what: 'Absorption',
      found: '14.10 V ± 0.02 at 25 °C, 12.5 h on 9 days; it calls it float',
      configured: '14.40 V',
      asks: '14.20 to 14.60 V',
    },
    {
      what: 'What it says of itself',
      found: 'calls 14 h absorption, of which 11.2 h are bulk: its voltage was not held',
      configured: '',
      asks: '',
    },
    {
      what: 'Compensation',
      found: '−0.1 ± 0.2 mV per °C per cell, seen from 12 to 27 °C',
      configured: '−4.0 mV',
      asks: '−5.0 to −3.0 mV',
    },
    {
      what: 'Way to the battery',
      found: '12.4 mΩ ± 0.6: 0.37 V and 11 W at 30 A; the two meters disagree by 0.05 V at no current',
      configured: '',
      asks: 'at most 3.0 % of the voltage',
    },
    { what: 'Most that it gives', found: '28.4 A', configured: 'rated 40 A', asks: '' },
    {
      what: 'Absorption is short of',
      found: '110 min (95 to 131), 10.4 Ah (9.1 to 12.0), by 8 charges',
      configured: '',
      asks: 'at least so much more time',
    },
  ]);
  const nothing = {
    source: null,
    plateaus: [],
    compensation: null,
    path: null,
    saysOtherwise: null,
    limits: [],
    ratedA: null,
    missing: null,
  };
  expect(sourceLines(nothing)).toEqual([]);
});

describe('the balance', () => {
  const balance: NonNullable<Diagnosis['charging']['balance']> = {
    from: '2026-09-01T00:00:00Z',
    to: '2026-09-20T00:00:00Z',
    between: 'full charges',
    ampHoursIn: 880,
    ampHoursOut: 800,
    startPercent: 100,
    endPercent: 100,
    returned: 1.1,
    returnedBand: 0.03,
    needs: { min: 1.03, max: 1.2 },
  };
  const text = (over: Partial<typeof balance>) =>
    balanceText({ ...balance, ...over }, (iso) => iso.slice(0, 10));
  test('says what was put back, and whether that is usual', () => {
    expect(text({})).toBe(
      'Between the full charges of 2026-09-01 and 2026-09-20 880 Ah went in and 800 Ah came out: 1.10 ± 0.03 Ah put back for each taken out, where 1.03 to 1.20 is usual: as it should be.',
    );
    expect(text({ returned: 0.9 })).toContain('less than it needs');
    expect(text({ returned: 1.4 })).toContain('more than it needs');
    expect(text({ returned: 1.0 })).toContain('at the lower edge of what meters can tell');
  });
  test('without known ends it gives the sums and no verdict', () => {
    expect(text({ between: 'ends of the log', returned: null, startPercent: null })).toBe(
      'From 2026-09-01 to 2026-09-20 880 Ah went in and 800 Ah came out.',
    );
    expect(balanceText(null, String)).toBeNull();
  });
});
