import { afterEach, describe, expect, it } from 'vitest';
import { between, currencyUnit, day, keepPlace, moment, price } from '~/lib/format';
import { keepUnits } from '~/lib/units';

afterEach(() => keepPlace({ time_zone: null, currency: null }));

describe('where a kitchen is', () => {
  it('tells times in its zone, whatever the device is set to', () => {
    keepPlace({ time_zone: 'Pacific/Auckland', currency: null });
    expect(moment('2026-11-29T12:30:00Z')).toBe('Mon 30 November, 01:30');
    keepPlace({ time_zone: 'America/Lima', currency: null });
    expect(moment('2026-11-29T02:30:00Z')).toBe('Sat 28 November, 21:30');
  });

  it('keeps a day of the calendar in every zone', () => {
    for (const time_zone of ['Pacific/Auckland', 'Pacific/Kiritimati', 'Pacific/Pago_Pago', null]) {
      keepPlace({ time_zone, currency: null });
      expect(day('2026-11-29')).toBe('Sun 29 November');
    }
  });

  it('tells prices in its currency, and as bare numbers while none is set', () => {
    expect(price(2.5)).toBe('2.50');
    expect(currencyUnit()).toBe('');
    keepPlace({ time_zone: null, currency: 'EUR' });
    expect(price(2.5)).toBe('€2.50');
    expect(currencyUnit()).toBe('EUR');
    keepPlace({ time_zone: null, currency: 'JPY' });
    expect(price(250)).toBe('¥250');
  });
});

describe('where filling may stop', () => {
  const metric = { mass_unit: 'g', temperature_unit: 'C', energy_unit: 'kcal' };
  afterEach(() => keepUnits(metric));

  it('is rounded inward', () => {
    expect(between(110.2, 125, 137.9)).toBe('111–137');
    expect(between(110, 125, 137)).toBe('110–137');
  });

  it('always holds what is planned', () => {
    expect(between(85.7, 85.7, 85.9)).toBe('85.7–85.7');
  });

  it('is in the unit of the person', () => {
    keepUnits({ ...metric, mass_unit: 'oz' });
    // 100 g are 3.527 oz, 200 g are 7.055 oz.
    expect(between(100, 150, 200)).toBe('3.6–7');
  });
});
