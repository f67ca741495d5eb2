/** The units a person wants to see. Everything sent and received is grams, kcal and degrees Celsius. */

type Units = { mass: 'g' | 'oz'; temperature: 'C' | 'F'; energy: 'kcal' | 'kJ' };

const GRAMS_PER_OUNCE = 28.349523125;
const KJ_PER_KCAL = 4.184;

let units: Units = { mass: 'g', temperature: 'C', energy: 'kcal' };

/** Set when the account is read; a change reloads the page, so no view keeps the old ones. */
export function keepUnits(account: { mass_unit: string; temperature_unit: string; energy_unit: string }) {
  units = {
    mass: account.mass_unit === 'oz' ? 'oz' : 'g',
    temperature: account.temperature_unit === 'F' ? 'F' : 'C',
    energy: account.energy_unit === 'kJ' ? 'kJ' : 'kcal',
  };
}

export const massUnit = () => units.mass;
export const energyUnit = () => units.energy;
export const temperatureUnit = () => units.temperature;
export const massShown = (grams: number) => (units.mass === 'oz' ? grams / GRAMS_PER_OUNCE : grams);
export const massInGrams = (shown: number) => (units.mass === 'oz' ? shown * GRAMS_PER_OUNCE : shown);
export const energyShown = (kcal: number) => (units.energy === 'kJ' ? kcal * KJ_PER_KCAL : kcal);
const energyInKcal = (shown: number) => (units.energy === 'kJ' ? shown / KJ_PER_KCAL : shown);
export const heatShown = (celsius: number) => (units.temperature === 'F' ? celsius * 1.8 + 32 : celsius);
/** A temperature with its unit. */
export const temperature = (celsius: number) => `${Math.round(heatShown(celsius))} °${units.temperature}`;
export const heatInCelsius = (shown: number) => (units.temperature === 'F' ? (shown - 32) / 1.8 : shown);

/** A macro as it is shown: energy in the person's unit, grams as grams. */
export const macroShown = (key: string, value: number) => (key === 'kcal' ? energyShown(value) : value);
export const macroStored = (key: string, shown: number) => (key === 'kcal' ? energyInKcal(shown) : shown);
