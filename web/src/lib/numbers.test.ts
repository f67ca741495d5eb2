import { afterEach, describe, expect, it } from 'vitest';
import { asMacro, asWeight, isSum, readNumber, readWeight, withUnits } from '~/lib/numbers';
import { keepUnits } from '~/lib/units';

const home = { mass_unit: 'g', temperature_unit: 'C', energy_unit: 'kcal' };
const abroad = { mass_unit: 'oz', temperature_unit: 'F', energy_unit: 'kJ' };
afterEach(() => keepUnits(home));

describe('a number as it is typed', () => {
  it.each([
    ['', null],
    ['12', 12],
    ['12.5', 12.5],
    ['12,5', 12.5],
    ['.5', 0.5],
    ['1,234', 1234],
    ['1,234.5', 1234.5],
    ['1 234', 1234],
    ['-3', -3],
  ])('%j is %j', (text, value) => expect(readNumber(text)).toEqual({ value, fault: null }));

  it.each(['twelve', '1.2.3', '5 g', '--1', '1e3'])('%j is none, and is told back', (text) => {
    const { value, fault } = readNumber(text);
    expect(value).toBeNull();
    expect(fault).toContain(`“${text}”`);
  });
});

describe('a weight as it is typed', () => {
  it('is grams at home', () => expect(readWeight('412').value).toBe(412));

  it('is ounces where the person reads ounces', () => {
    keepUnits(abroad);
    expect(readWeight('10').value).toBeCloseTo(283.49523125, 8);
    expect(asWeight(283.49523125)).toBe('10');
  });

  it.each(['412+380-35', '812-764', '1.2 kg', '812 − 764'])(
    '%j is left to the server, with units',
    (text) => {
      expect(isSum(text)).toBe(true);
      expect(readWeight(text)).toEqual({ value: withUnits(text), fault: null });
    },
  );

  it('gives every bare number of a sum the unit of who types it', () => {
    expect(withUnits('412+380-35')).toBe('412 g+380 g-35 g');
    keepUnits(abroad);
    expect(withUnits('12 + 1 lb')).toBe('12 oz + 1 lb');
  });

  it('is refused where it is neither', () => expect(readWeight('a handful').fault).toContain('a handful'));
});

describe('a stored figure in its field', () => {
  it('goes there and back without moving, in either unit', () => {
    for (const units of [home, abroad]) {
      keepUnits(units);
      for (const grams of [1, 37.5, 412, 2650.25]) {
        expect(Math.abs(Number(readWeight(asWeight(grams)).value) - grams)).toBeLessThan(0.02);
      }
    }
  });

  it('shows energy in the person’s unit and macros in grams', () => {
    keepUnits(abroad);
    expect(asMacro('kcal', 100)).toBe('418.4');
    expect(asMacro('protein_g', 100)).toBe('100');
    expect(asMacro('fat_g', null)).toBe('');
  });
});
