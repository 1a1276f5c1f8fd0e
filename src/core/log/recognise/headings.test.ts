/** What single columns are by their headings, their units and their cells. */

import { type DeviceKind, recognise } from './index';

/** A small log of one column beside the time and a running number. */
function one(heading: string, cells: string[], device: DeviceKind, delimiter = ',') {
  const rows = cells.map(
    (cell, i) =>
      `2026-09-21T06:${String(30 + i).padStart(2, '0')}:00Z${delimiter}${cell}${delimiter}${7 + i}`,
  );
  const text = [`time${delimiter}${heading}${delimiter}row`, ...rows].join('\n') + '\n';
  return recognise(new TextEncoder().encode(text), device).columns[1]!;
}

const VOLTS = ['12.40', '12.41', '12.42', '12.41'];
const AMPS = ['3.2', '-1.4', '0.0', '2.2'];
const ONE_WAY = ['3.2', '1.4', '0.0', '2.2'];
const PERCENT = ['81', '80.5', '80', '79.5'];
const SWITCH = ['1', '1', '0', '1'];
const DEGREES = ['18.5', '18.5', '18.6', '18.6'];

describe('headings are recognised by meaning and unit', () => {
  test.each<[string, string[], DeviceKind, string | null]>([
    ['Battery voltage (V)', VOLTS, 'monitor', 'battery_voltage'],
    ['State of charge', PERCENT, 'monitor', 'soc'],
    ['Battery percentage', PERCENT, 'monitor', 'soc'],
    ['Charge level (%)', PERCENT, 'bms', 'soc'],
    ['Stato di carica', PERCENT, 'monitor', 'soc'],
    ['Ladezustand', PERCENT, 'monitor', 'soc'],
    ['Estado de carga', PERCENT, 'monitor', 'soc'],
    ['State of health (%)', PERCENT, 'bms', null],
    ['Humidity %', PERCENT, 'monitor', null],
    ['Batteriespannung', VOLTS, 'monitor', 'battery_voltage'],
    ['Batteriestrom', AMPS, 'monitor', 'battery_current'],
    ['Batterietemperatur', DEGREES, 'monitor', 'battery_temperature'],
    ['battery_voltage', VOLTS, 'monitor', 'battery_voltage'],
    ['Vbat', VOLTS, 'monitor', 'battery_voltage'],
    ['V_batt [V]', VOLTS, 'source', 'battery_voltage'],
    ['Voltage', VOLTS, 'source', 'source_voltage'],
    ['Voltage', VOLTS, 'load', 'load_voltage'],
    ['Voltage', VOLTS, 'bms', 'battery_voltage'],
    ['Output voltage [V]', VOLTS, 'source', 'source_voltage'],
    ['Charger V', VOLTS, 'source', 'source_voltage'],
    ['Panel voltage [V]', ['18.1', '18.2', '18.4', '18.0'], 'source', 'source_input_voltage'],
    ['Mains V', ['229', '230', '231', '230'], 'source', 'source_input_voltage'],
    ['Midpoint voltage', VOLTS, 'monitor', 'midpoint_voltage'],
    ['Load voltage', VOLTS, 'source', 'load_voltage'],
    ['Battery current, A', AMPS, 'monitor', 'battery_current'],
    ['Battery current (A)', ONE_WAY, 'source', 'source_current'],
    ['Battery current (A)', AMPS, 'source', 'battery_current'],
    ['Charging current', ONE_WAY, 'source', 'source_current'],
    ['I_bat', AMPS, 'monitor', 'battery_current'],
    ['Current', AMPS, 'monitor', 'battery_current'],
    ['Load current [A]', ONE_WAY, 'source', 'load_current'],
    ['PV current', ONE_WAY, 'source', null],
    ['PV power (W)', ['120', '130', '140', '10'], 'source', 'source_input_power'],
    ['Battery temperature [°C]', DEGREES, 'source', 'battery_temperature'],
    ['Ambient temp °C', DEGREES, 'source', 'ambient_temperature'],
    ['Heatsink temperature', DEGREES, 'source', null],
    ['SOC', ['80', '81', '82', '83'], 'monitor', 'soc'],
    ['State of charge (%)', ['80', '81', '82', '83'], 'monitor', 'soc'],
    ['Humidity (%)', ['80', '81', '82', '83'], 'monitor', null],
    ['Consumed Ah', ['-3.1', '-3.2', '-3.3', '-3.4'], 'monitor', 'consumed_charge'],
    ['Cell 3 voltage', ['3.31', '3.32', '3.31', '3.30'], 'bms', 'cell_03_voltage'],
    ['cell_12_voltage', ['3.31', '3.32', '3.31', '3.30'], 'bms', 'cell_12_voltage'],
    ['Cell7 temperature', DEGREES, 'bms', 'cell_07_temperature'],
    ['U', VOLTS, 'monitor', 'battery_voltage'],
    ['u_bat', VOLTS, 'monitor', 'battery_voltage'],
    ['vbus', VOLTS, 'source', 'source_voltage'],
    ['Vdc', VOLTS, 'monitor', 'battery_voltage'],
    ['Adc', AMPS, 'monitor', 'battery_current'],
    ['vpack', VOLTS, 'bms', 'battery_voltage'],
    ['Ilast', ONE_WAY, 'load', 'load_current'],
    ['Input voltage', VOLTS, 'load', 'load_voltage'],
    ['Input current', ONE_WAY, 'load', 'load_current'],
    ['SOC%', PERCENT, 'monitor', 'soc'],
    ['%', PERCENT, 'monitor', 'soc'],
    ['%', PERCENT, 'source', null],
    ['RSOC (%)', PERCENT, 'bms', 'soc'],
    ['Carica (%)', PERCENT, 'monitor', 'soc'],
    ['capacity %', PERCENT, 'monitor', 'soc'],
    ['PWM duty %', PERCENT, 'source', null],
    ['CHG', SWITCH, 'bms', 'bms_charge_allowed'],
    ['dsg_ok', SWITCH, 'bms', 'bms_discharge_allowed'],
    ['Entladen erlaubt', SWITCH, 'bms', 'bms_discharge_allowed'],
    ['Charge', PERCENT, 'bms', null],
    ['Charge state', ['0', '3', '4', '5'], 'source', null],
    ['SOC', PERCENT, 'source', 'soc'],
    ['mains_ok', SWITCH, 'source', 'source_available'],
    ['engine on', SWITCH, 'source', 'source_available'],
    ['rete presente', SWITCH, 'source', 'source_available'],
    ['Mains V', ['229', '230', '231', '0'], 'source', 'source_input_voltage'],
    ['midpoint', ['6.21', '6.22', '6.2', '6.21'], 'monitor', 'midpoint_voltage'],
    ['Lower half V', ['6.21', '6.22', '6.2', '6.21'], 'monitor', 'midpoint_voltage'],
    ['Mittelspannung', ['6.21', '6.22', '6.2', '6.21'], 'monitor', 'midpoint_voltage'],
    ['Mittelwert Spannung', VOLTS, 'monitor', 'battery_voltage'],
    ['Temp centre', DEGREES, 'monitor', 'battery_temperature'],
    ['Generator V', ['0', '0', '0', '0'], 'source', 'source_voltage'],
    ['Input current', ['0', '0', '0', '0'], 'source', null],
    ['State of charge', ['12', '13', '13', '14'], 'source', 'soc'],
    ['Charge', ['0.4', '0', '0', '0.2'], 'bms', null],
    ['Charge', ['0', '0', '0', '0'], 'bms', null],
    ['Charge current (A)', ['0', '0', '0', '0'], 'bms', 'battery_current'],
    ['Aux A', ONE_WAY, 'load', 'load_current'],
    ['Starter battery V', VOLTS, 'monitor', null],
    ['Aux voltage', VOLTS, 'monitor', null],
    ['Ah used', ['3.1', '3.2', '3.3', '3.4'], 'monitor', 'consumed_charge'],
    ['deficit (Ah)', ['3.1', '3.2', '3.3', '3.4'], 'monitor', 'consumed_charge'],
    ['Ah remaining', ['31', '32', '33', '34'], 'monitor', null],
    ['A', AMPS, 'bms', 'battery_current'],
    ['mA', AMPS, 'monitor', 'battery_current'],
    ['Avg cell V', ['3.31', '3.32', '3.31', '3.30'], 'bms', null],
    ['cell_min_v', ['3.31', '3.32', '3.31', '3.30'], 'bms', null],
    ['Max charge current (A)', ONE_WAY, 'bms', null],
    ['Setpoint V', VOLTS, 'source', null],
    ['AC out V', ['229', '230', '231', '230'], 'load', null],
    ['DC in A', ONE_WAY, 'load', 'load_current'],
    ['Tamb', DEGREES, 'source', 'ambient_temperature'],
    ['ambient', DEGREES, 'source', 'ambient_temperature'],
    ['Umgebungstemperatur', DEGREES, 'source', 'ambient_temperature'],
    ['MOS temp', DEGREES, 'bms', null],
    ['Ppv', ['120', '130', '140', '10'], 'source', 'source_input_power'],
    ['State', ['bulk', 'bulk', 'absorption', 'float'], 'source', 'source_stage'],
    ['Charger mode', ['MPPT', 'CV', 'CV', 'Trickle'], 'source', 'source_stage'],
    ['Temp. ambiente', DEGREES, 'monitor', 'ambient_temperature'],
    ['Raumtemperatur', DEGREES, 'monitor', 'ambient_temperature'],
    ['Cabinet temp', DEGREES, 'monitor', 'ambient_temperature'],
    ['Env temp', DEGREES, 'bms', 'ambient_temperature'],
    ['Temp', DEGREES, 'load', null],
    ['Battery temp', DEGREES, 'load', 'battery_temperature'],
    ['Battery level', PERCENT, 'monitor', 'soc'],
    ['Battery level alarm', SWITCH, 'monitor', null],
    ['Amp hours', ['-3.1', '-3.2', '-3.3', '-3.4'], 'monitor', 'consumed_charge'],
    ['Amp hours', ['31', '32', '33', '34'], 'monitor', null],
    ['Amp-hours consumed', ['3.1', '3.2', '3.3', '3.4'], 'monitor', 'consumed_charge'],
    ['Ah', ['-3.1', '-3.2', '0', '0'], 'monitor', 'consumed_charge'],
    ['Ah', ['3.1', '3.2', '3.3', '3.4'], 'monitor', null],
    ['Ah consumati', ['3.1', '3.2', '3.3', '3.4'], 'monitor', 'consumed_charge'],
    ['Entnommene Ah', ['3.1', '3.2', '3.3', '3.4'], 'monitor', 'consumed_charge'],
    ['Shunt mV', ['0.5', '0.4', '-0.1', '0.2'], 'monitor', null],
    ['Upper V', ['6.21', '6.22', '6.2', '6.21'], 'monitor', 'upper_half_voltage'],
    ['Upper half', ['6.21', '6.22', '6.2', '6.21'], 'monitor', 'upper_half_voltage'],
    ['Lower V', ['6.21', '6.22', '6.2', '6.21'], 'monitor', 'midpoint_voltage'],
    ['Lower charger V', ['6.21', '6.22', '6.2', '6.21'], 'source', 'source_voltage'],
    ['Engine battery V', VOLTS, 'monitor', null],
    ['Set voltage', VOLTS, 'source', null],
    ['Shore power', ['on', 'on', 'off', 'on'], 'source', 'source_available'],
    ['Shore power', ['120', '130', '140', '10'], 'source', 'source_input_power'],
    ['Ignition', SWITCH, 'source', 'source_available'],
    ['Mains', ['OK', 'FAIL', 'OK', 'OK'], 'source', 'source_available'],
    ['CFET', SWITCH, 'bms', 'bms_charge_allowed'],
    ['DFET', SWITCH, 'bms', 'bms_discharge_allowed'],
    ['Charger state', ['Charging', 'Charging', 'Float', 'Off'], 'source', 'source_stage'],
    ['Charger state', ['Charging', 'OK', 'OK', 'Charging'], 'source', null],
    ['Remark', ['fine', 'fine', 'rain', 'fine'], 'source', null],
    ['Serial number', ['12', '12', '12', '12'], 'source', null],
  ])('%s %j of a %s is %s', (heading, cells, device, role) => {
    expect(one(heading, cells, device, heading.includes(',') ? ';' : ',').role).toBe(role);
  });
});

describe('units are scaled', () => {
  test.each<[string, string, number, number]>([
    ['voltage_mV', '12400', 12400, 12.4],
    ['Battery current (mA)', '-1500', -1500, -1.5],
    ['Battery temperature (°F)', '68', 68, 20],
    ['Battery temp degF', '32', 32, 0],
    ['PV power (kW)', '0.12', 0.12, 120],
  ])('%s: %s', (heading, cell, number, si) => {
    const column = one(heading, [cell, cell, cell, cell], 'monitor');
    expect(column.role).not.toBeNull();
    expect((number - column.offset) * column.scale).toBeCloseTo(si, 9);
  });
});

test('what is not certain is marked or asked, never guessed in silence', () => {
  expect(one('Voltage', VOLTS, 'source').sure).toBe('likely');
  expect(one('Battery voltage', VOLTS, 'source').sure).toBe('certain');
  const warmth = one('Temperature', DEGREES, 'source');
  expect(warmth.sure).toBe('ask');
  expect(warmth.question).toMatch(/battery's temperature, or the device's own\?/);
  expect(one('Temperature', DEGREES, 'monitor').sure).toBe('likely');
});

test('a limit of current is no switch', () => {
  expect(one('Charge current limit (A)', ['50', '50', '50', '40'], 'bms').role).not.toBe(
    'bms_charge_allowed',
  );
  expect(one('Fan enabled', ['1', '0', '1', '1'], 'bms').role).toBeNull();
});

test.each(['SoC %', 'SoC [%]', 'SOC (%)', 'soc_pct', 'State of charge (%)', 'Battery SoC'])(
  '%s is the state of charge',
  (heading) => {
    expect(one(heading, ['90', '89.5', '89', '88'], 'monitor').role).toBe('soc');
  },
);
