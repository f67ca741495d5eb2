import type { Schemas } from '~/lib/api';
import { asText, readNumber } from '~/lib/numbers';

/** A recipe as typed: figures stay text until they are numbers; shares are typed in percent. */
export type LineDraft = {
  key: string;
  food: Schemas['FoodBrief'];
  purchased_g: string;
  refuse: string;
  retained: string;
  yield_factor: string;
};

export type ComponentDraft = {
  key: string;
  id: string | null;
  name: string;
  role: string;
  method: string;
  minimum_g: string;
  maximum_g: string;
  density_g_per_ml: number;
  yield_low: string;
  yield_expected: string;
  yield_high: string;
  lines: LineDraft[];
};

export type RecipeDraft = {
  name: string;
  note: string;
  components: ComponentDraft[];
  version: number | null;
};

export const newComponent = (): ComponentDraft => ({
  key: crypto.randomUUID(),
  id: null,
  name: '',
  role: 'protein',
  method: 'none',
  minimum_g: '0',
  maximum_g: '400',
  density_g_per_ml: 0.8,
  yield_low: '',
  yield_expected: '',
  yield_high: '',
  lines: [],
});

export const newLine = (food: Schemas['FoodBrief']): LineDraft => ({
  key: crypto.randomUUID(),
  food,
  purchased_g: '',
  refuse: '0',
  retained: '100',
  yield_factor: '',
});

export const newRecipe = (): RecipeDraft => ({
  name: '',
  note: '',
  components: [newComponent()],
  version: null,
});

const percentText = (share: number) => asText(Math.round(share * 1e6) / 1e4);

export const recipeDraft = (recipe: Schemas['RecipeView']): RecipeDraft => ({
  name: recipe.name,
  note: recipe.note,
  version: recipe.version,
  components: recipe.components.map((component) => ({
    key: component.id ?? crypto.randomUUID(),
    id: component.id,
    name: component.name,
    role: component.role,
    method: component.method,
    minimum_g: asText(component.minimum_g),
    maximum_g: asText(component.maximum_g),
    density_g_per_ml: component.density_g_per_ml,
    yield_low: asText(component.yield_low),
    yield_expected: asText(component.yield_expected),
    yield_high: asText(component.yield_high),
    lines: component.lines.map((line) => ({
      key: crypto.randomUUID(),
      food: line.food,
      purchased_g: asText(line.purchased_g),
      refuse: percentText(line.refuse_share),
      retained: percentText(line.retained_share),
      yield_factor: asText(line.yield_factor),
    })),
  })),
});

/** What to send, and the fields that are no numbers yet, by JSON pointer. */
export function recipeInput(draft: RecipeDraft): {
  body: Schemas['RecipeInput'];
  faults: Map<string, string>;
} {
  const faults = new Map<string, string>();
  const number = (pointer: string, text: string) => {
    const { value, fault } = readNumber(text);
    if (fault) faults.set(pointer, fault);
    return value;
  };
  const body: Schemas['RecipeInput'] = {
    name: draft.name,
    note: draft.note,
    version: draft.version,
    components: draft.components.map((component, place) => {
      const at = `/components/${place}`;
      return {
        id: component.id,
        name: component.name,
        role: component.role,
        method: component.method,
        minimum_g: number(`${at}/minimum_g`, component.minimum_g) ?? 0,
        maximum_g: number(`${at}/maximum_g`, component.maximum_g) ?? 0,
        density_g_per_ml: component.density_g_per_ml,
        yield_low: number(`${at}/yield_low`, component.yield_low),
        yield_expected: number(`${at}/yield_expected`, component.yield_expected),
        yield_high: number(`${at}/yield_high`, component.yield_high),
        lines: component.lines.map((line, row) => ({
          food_id: line.food.id,
          purchased_g: number(`${at}/lines/${row}/purchased_g`, line.purchased_g) ?? 0,
          refuse_share: (number(`${at}/lines/${row}/refuse_share`, line.refuse) ?? 0) / 100,
          retained_share: (number(`${at}/lines/${row}/retained_share`, line.retained) ?? 100) / 100,
          yield_factor: number(`${at}/lines/${row}/yield_factor`, line.yield_factor),
        })),
      };
    }),
  };
  return { body, faults };
}
