import { describe, expect, it } from 'vitest';
import { newComponent, newRecipe, newStep } from '~/views/recipes/draft';
import { componentWords, portionWords, recipeWords, stepWords } from '~/views/recipes/reading';

const component = (of: Partial<ReturnType<typeof newComponent>>) => ({ ...newComponent(), ...of });

describe('a recipe in words', () => {
  it('tells the recipe', () => {
    expect(recipeWords(newRecipe())).toBe('1 component');
    const recipe = { ...newRecipe(), serves: '8', groups: '1 grain, 2 vegetables' };
    expect(recipeWords(recipe)).toBe('serves 8, 1 component, a container takes 1 grain, 2 vegetables');
  });

  it('tells how a component is cooked', () => {
    expect(componentWords(component({}))).toBe('not cooked; protein');
    expect(componentWords(component({ method: 'simmered', lid: 'off', cook_min: '35' }))).toBe(
      'simmered; protein; lid off; 35 min on the heat',
    );
    expect(componentWords(component({ packed_raw: true, kit_text: '6 h on low' }))).toContain(
      'packed raw, to be cooked later: 6 h on low',
    );
  });

  it('tells how it is portioned, by what its school needs', () => {
    const words = (of: Parameters<typeof component>[0]) => portionWords(component(of));
    expect(words({})).toBe('');
    expect(words({ minimum_g: '60', maximum_g: '280' })).toBe('60 to 280 g.');
    expect(words({ minimum_g: '60' })).toBe('At least 60 g.');
    expect(words({ maximum_g: '280' })).toBe('At most 280 g.');
    expect(words({ school: 'pieces', pieces: '24', unit_part: '0.5' })).toBe('24 pieces, halves too.');
    expect(words({ school: 'fixed measure', unit_g: '55' })).toBe('One holds 55 g.');
    expect(words({ school: 'plate shares', plate_share: '2' })).toBe('Its share is 2.');
    expect(words({ school: 'by eye', eye_g: '15', place: 'at eating' })).toBe('About 15 g, added at eating.');
    expect(words({ place: 'beside', tub_ml: '60', group: 'sauce' })).toBe(
      'In a tub of 60 ml beside the container, one of the group “sauce”.',
    );
    expect(words({ served: false, minimum_g: '60' })).toBe(
      'Goes into no container by itself, only into other components.',
    );
  });

  it('tells what a step needs', () => {
    expect(stepWords(newStep())).toBe('');
    const step = newStep({
      unattended_min: '18',
      temperature_c: '210',
      equipment: 'oven',
    });
    expect(stepWords(step, 'Kofta')).toBe('Kofta, 18 min unattended, 210 °C, on: oven');
  });
});
