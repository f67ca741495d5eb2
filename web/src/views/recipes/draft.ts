import type { Schemas } from '~/lib/api';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import type { School } from '~/lib/schools';

/** Whether the pot is covered; '' where nobody said. */
export type Lid = '' | 'on' | 'off';

/** A recipe as typed: figures stay text until they are numbers; shares are typed in percent. */
export type LineDraft = {
  key: string;
  food: Schemas['FoodBrief'] | null;
  source: { id: string; name: string } | null;
  purchased_g: string;
  refuse: string;
  refuse_after: boolean;
  retained: string;
  yield_factor: string;
  text: string;
  weighed_state: string;
  counted: boolean;
  scales: boolean;
  dismissed: Record<string, string>;
};

export type ComponentDraft = {
  key: string;
  id: string;
  name: string;
  role: string;
  method: string;
  minimum_g: string;
  maximum_g: string;
  density_g_per_ml: string;
  yield_low: string;
  yield_expected: string;
  yield_high: string;
  poured_fat_g: string;
  pieces: string;
  pan_capacity_g: string;
  lid: Lid;
  cook_min: string;
  school: School;
  unit_g: string;
  unit_part: string;
  plate_share: string;
  eye_g: string;
  served: boolean;
  dismissed: Record<string, string>;
  lines: LineDraft[];
  /** Written lines that still wait for an answer; they are not saved. */
  asked: Schemas['ProposalView'][];
};

export type StepDraft = {
  key: string;
  /** What is odd about it, as it was read. */
  trouble: string;
  text: string;
  component: string;
  hands_on_min: string;
  unattended_min: string;
  temperature_c: number | null;
  equipment: string;
  lead_min: string;
};

export type RecipeDraft = {
  name: string;
  note: string;
  components: ComponentDraft[];
  steps: StepDraft[];
  version: number | null;
};

export const newComponent = (): ComponentDraft => {
  const id = crypto.randomUUID();
  return {
    key: id,
    id,
    name: '',
    role: 'protein',
    method: 'none',
    minimum_g: asWeight(0),
    maximum_g: '',
    density_g_per_ml: '0.8',
    yield_low: '',
    yield_expected: '',
    yield_high: '',
    poured_fat_g: '',
    pieces: '',
    pan_capacity_g: '',
    lid: '',
    cook_min: '',
    school: 'by component',
    unit_g: '',
    unit_part: '1',
    plate_share: '1',
    eye_g: '',
    served: true,
    dismissed: {},
    lines: [],
    asked: [],
  };
};

export const newLine = (of: Partial<LineDraft>): LineDraft => ({
  key: crypto.randomUUID(),
  food: null,
  source: null,
  purchased_g: '',
  refuse: '0',
  refuse_after: false,
  retained: '100',
  yield_factor: '',
  text: '',
  weighed_state: '',
  counted: true,
  scales: true,
  dismissed: {},
  ...of,
});

export const newStep = (of: Partial<StepDraft> = {}): StepDraft => ({
  key: crypto.randomUUID(),
  trouble: '',
  text: '',
  component: '',
  hands_on_min: '',
  unattended_min: '',
  temperature_c: null,
  equipment: '',
  lead_min: '',
  ...of,
});

export const newRecipe = (): RecipeDraft => ({
  name: '',
  note: '',
  components: [newComponent()],
  steps: [],
  version: null,
});

export const lineName = (line: LineDraft) => line.food?.name ?? line.source?.name ?? 'ingredient';

/** A line from a proposal, of the food that was found or answered. */
export const lineOf = (
  proposal: Schemas['ProposalView'],
  food: Schemas['FoodBrief'],
  grams: number,
): LineDraft =>
  newLine({
    food,
    purchased_g: asWeight(Math.round(grams * 10) / 10),
    refuse: percentText(proposal.refuse_share),
    retained: percentText(proposal.retained_share),
    yield_factor: asText(proposal.yield_factor),
    text: proposal.text,
  });

/** The lines of proposals that need no answer, and the proposals that do. */
export function sorted(proposals: Schemas['ProposalView'][]) {
  return {
    lines: proposals.flatMap((one) =>
      !one.asks && one.matches[0] ? [lineOf(one, one.matches[0].food, one.grams ?? 0)] : [],
    ),
    asked: proposals.filter((one) => one.asks),
  };
}

/** What a file or page brings: its components with lines and questions, and its steps. */
export function intakeDraft(found: Schemas['IntakeView']): Partial<RecipeDraft> {
  const parts = found.components.length ? found.components : [{ name: '', role: 'mixed', method: 'none' }];
  return {
    name: found.name,
    note: found.description,
    steps: found.steps.map(stepDraft),
    components: parts.map((part) => ({
      ...newComponent(),
      name: part.name,
      role: part.role || 'mixed',
      method: part.method || 'none',
      ...sorted(found.lines.filter((line) => found.components.length === 0 || line.component === part.name)),
    })),
  };
}

const percentText = (share: number) => asText(Math.round(share * 1e6) / 1e4);

export const lineDraft = (line: Schemas['LineView']): LineDraft => ({
  key: crypto.randomUUID(),
  food: line.food,
  source: line.source ? { id: line.source.id, name: line.source.name } : null,
  purchased_g: asWeight(line.purchased_g),
  refuse: percentText(line.refuse_share),
  refuse_after: line.refuse_after,
  retained: percentText(line.retained_share),
  yield_factor: asText(line.yield_factor),
  text: line.text,
  weighed_state: line.weighed_state,
  counted: line.counted,
  scales: line.scales,
  dismissed: line.dismissed,
});

export const stepDraft = (step: Schemas['StepView']): StepDraft =>
  newStep({
    trouble: step.trouble,
    text: step.text,
    component: step.component,
    hands_on_min: asText(step.hands_on_min),
    unattended_min: asText(step.unattended_min),
    temperature_c: step.temperature_c,
    equipment: step.equipment,
    lead_min: asText(step.lead_min),
  });

export const recipeDraft = (recipe: Schemas['RecipeView']): RecipeDraft => ({
  name: recipe.name,
  note: recipe.note,
  version: recipe.version,
  steps: recipe.steps.map(stepDraft),
  components: recipe.components.map((component) => {
    const id = component.id ?? crypto.randomUUID();
    return {
      key: id,
      id,
      name: component.name,
      role: component.role,
      method: component.method,
      minimum_g: asWeight(component.minimum_g),
      maximum_g: asWeight(component.maximum_g),
      density_g_per_ml: asText(component.density_g_per_ml),
      yield_low: asText(component.yield_low),
      yield_expected: asText(component.yield_expected),
      yield_high: asText(component.yield_high),
      poured_fat_g: component.poured_fat_g ? asWeight(component.poured_fat_g) : '',
      pieces: asText(component.pieces),
      pan_capacity_g: asWeight(component.pan_capacity_g),
      lid: component.lid as Lid,
      cook_min: asText(component.cook_min),
      school: component.school as School,
      unit_g: asWeight(component.unit_g),
      unit_part: asText(component.unit_part),
      plate_share: asText(component.plate_share),
      eye_g: component.eye_g ? asWeight(component.eye_g) : '',
      served: component.served,
      dismissed: component.dismissed,
      lines: component.lines.map(lineDraft),
      asked: [],
    };
  }),
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
  const weight = (pointer: string, text: string) => {
    const { value, fault } = readWeight(text);
    if (fault) faults.set(pointer, fault);
    return value;
  };
  const body: Schemas['RecipeInput'] = {
    name: draft.name,
    note: draft.note,
    version: draft.version,
    steps: draft.steps.map((step, place) => ({
      text: step.text,
      component: step.component,
      hands_on_min: number(`/steps/${place}/hands_on_min`, step.hands_on_min),
      unattended_min: number(`/steps/${place}/unattended_min`, step.unattended_min),
      temperature_c: step.temperature_c,
      equipment: step.equipment,
      lead_min: number(`/steps/${place}/lead_min`, step.lead_min),
    })),
    components: draft.components.map((component, place) => {
      const at = `/components/${place}`;
      return {
        id: component.id,
        name: component.name,
        role: component.role,
        method: component.method,
        minimum_g: weight(`${at}/minimum_g`, component.minimum_g) ?? 0,
        maximum_g: weight(`${at}/maximum_g`, component.maximum_g),
        density_g_per_ml: number(`${at}/density_g_per_ml`, component.density_g_per_ml) ?? 0.8,
        yield_low: number(`${at}/yield_low`, component.yield_low),
        yield_expected: number(`${at}/yield_expected`, component.yield_expected),
        yield_high: number(`${at}/yield_high`, component.yield_high),
        poured_fat_g: weight(`${at}/poured_fat_g`, component.poured_fat_g) ?? 0,
        pieces: number(`${at}/pieces`, component.pieces),
        pan_capacity_g: weight(`${at}/pan_capacity_g`, component.pan_capacity_g),
        lid: component.lid,
        cook_min: number(`${at}/cook_min`, component.cook_min),
        school: component.school,
        unit_g: weight(`${at}/unit_g`, component.unit_g),
        unit_part: number(`${at}/unit_part`, component.unit_part) ?? 1,
        plate_share: number(`${at}/plate_share`, component.plate_share) ?? 0,
        eye_g: weight(`${at}/eye_g`, component.eye_g) ?? 0,
        served: component.served,
        dismissed: component.dismissed,
        lines: component.lines.map((line, row) => ({
          food_id: line.food?.id ?? null,
          source_id: line.source?.id ?? null,
          purchased_g: weight(`${at}/lines/${row}/purchased_g`, line.purchased_g) ?? 0,
          refuse_share: (number(`${at}/lines/${row}/refuse_share`, line.refuse) ?? 0) / 100,
          refuse_after: line.refuse_after,
          retained_share: (number(`${at}/lines/${row}/retained_share`, line.retained) ?? 100) / 100,
          yield_factor: number(`${at}/lines/${row}/yield_factor`, line.yield_factor),
          text: line.text,
          weighed_state: line.weighed_state,
          counted: line.counted,
          scales: line.scales,
          unfolded: false,
          dismissed: line.dismissed,
        })),
      };
    }),
  };
  return { body, faults };
}
