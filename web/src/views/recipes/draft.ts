import * as z from 'zod';
import type { Schemas } from '~/api/client';
import { fill, heat, key, number, or, percent, read, weight } from '~/lib/codecs';
import { asText, asWeight } from '~/lib/numbers';
import type { School } from '~/lib/schools';

/** Whether the pot is covered; '' where nobody said. */
export type Lid = '' | 'on' | 'off';

/** Groups as one writes them, "1 grain, 2 vegetables": of how many parts of each a container takes some. */
const groups = z.codec(z.string(), z.record(z.string(), z.number()), {
  decode: (text, context) => {
    const found: [string, number][] = [];
    for (const one of text.split(',').map((part) => part.trim())) {
      const [, takes, name] = /^(\d+)\s+(.+)$/.exec(one) ?? [];
      if (takes && name) found.push([name, Number(takes)]);
      else if (one)
        context.issues.push({
          code: 'custom',
          message: 'Write how many a container takes, and of what: 1 grain, 2 vegetables.',
          input: text,
        });
    }
    return Object.fromEntries(found);
  },
  encode: (record) =>
    Object.entries(record)
      .map(([name, takes]) => `${takes} ${name}`)
      .join(', '),
});

/** A word, or none. */
const word = z.codec(z.string(), z.string().nullable(), {
  decode: (text) => text.trim() || null,
  encode: (value) => value ?? '',
});

const line = z.object({
  key,
  purchased_g: or(weight, 0),
  refuse_share: or(percent, 0),
  refuse_after: z.boolean(),
  retained_share: or(percent, 1),
  yield_factor: number,
  text: z.string(),
  weighed_state: z.string(),
  counted: z.boolean(),
  scales: z.boolean(),
  dismissed: z.record(z.string(), z.string()),
  food_id: z.string().nullable(),
  source_id: z.string().nullable(),
  unfolded: z.boolean(),
});

const component = z.object({
  key,
  id: z.string(),
  name: z.string(),
  role: z.custom<Schemas['Role']>(),
  method: z.string(),
  minimum_g: or(weight, 0),
  maximum_g: weight,
  density_g_per_ml: or(number, 0.8),
  yield_low: number,
  yield_expected: number,
  yield_high: number,
  poured_fat_g: or(weight, 0, { unsaid: true }),
  pieces: number,
  pan_capacity_g: weight,
  lid: z.custom<Lid>(),
  cook_min: number,
  school: z.custom<School>(),
  unit_g: weight,
  unit_part: or(number, 1),
  plate_share: or(number, 0),
  eye_g: or(weight, 0, { unsaid: true }),
  place: z.custom<Schemas['Place']>(),
  tub_ml: number,
  group: word,
  packed_raw: z.boolean(),
  kit_text: z.string(),
  whole_pans: z.boolean(),
  served: z.boolean(),
  dismissed: z.record(z.string(), z.string()),
  lines: z.array(line),
});

/** How minutes grow with the amount; '' where nobody said. */
const growth = z.codec(z.string(), z.custom<Schemas['Growth'] | null>(), {
  decode: (text) => (text || null) as Schemas['Growth'] | null,
  encode: (value) => value ?? '',
});

const step = z.object({
  key,
  id: z.string(),
  text: z.string(),
  component_id: word,
  hands_on_min: number,
  unattended_min: number,
  every_min: number,
  temperature_c: heat,
  equipment: z.string(),
  growth,
  load_g: weight,
  lead_min: number,
  lead_most_min: number,
  core_c: heat,
  done_when: z.string(),
  after: z.array(z.string()).nullable(),
});

const recipe = z.object({
  name: z.string(),
  note: z.string(),
  serves: number,
  groups,
  version: z.number().nullable(),
  steps: z.array(step),
  components: z.array(component),
});

/** A recipe as typed: figures stay text until they are numbers; shares are typed in percent. */
export type LineDraft = Omit<z.input<typeof line>, 'food_id' | 'source_id' | 'unfolded'> & {
  food: Schemas['FoodBrief'] | null;
  source: { id: string; name: string } | null;
};
export type ComponentDraft = Omit<z.input<typeof component>, 'lines'> & {
  lines: LineDraft[];
  /** Written lines that still wait for an answer; they are not saved. */
  asked: Asked[];
};
/** What a written line proposes, told apart from one that is written alike. */
export type Asked = Schemas['ProposalView'] & { key: string };
/** `trouble` is what is odd about it, as it was read. */
export type StepDraft = z.input<typeof step> & { trouble: string };
export type RecipeDraft = Omit<z.input<typeof recipe>, 'components' | 'steps'> & {
  components: ComponentDraft[];
  steps: StepDraft[];
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
    place: 'in the container',
    tub_ml: '',
    group: '',
    packed_raw: false,
    kit_text: '',
    whole_pans: false,
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
  refuse_share: '0',
  refuse_after: false,
  retained_share: '100',
  yield_factor: '',
  text: '',
  weighed_state: '',
  counted: true,
  scales: true,
  dismissed: {},
  ...of,
});

export const newStep = (of: Partial<StepDraft> = {}): StepDraft => {
  const id = crypto.randomUUID();
  return {
    key: id,
    id,
    trouble: '',
    text: '',
    component_id: '',
    hands_on_min: '',
    unattended_min: '',
    every_min: '',
    temperature_c: '',
    equipment: '',
    growth: '',
    load_g: '',
    lead_min: '',
    lead_most_min: '',
    core_c: '',
    done_when: '',
    after: null,
    ...of,
  };
};

export const newRecipe = (): RecipeDraft => ({
  name: '',
  note: '',
  serves: '',
  groups: '',
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
    refuse_share: percent.encode(proposal.refuse_share),
    retained_share: percent.encode(proposal.retained_share),
    yield_factor: asText(proposal.yield_factor),
    text: proposal.text,
  });

/** The lines of proposals that need no answer, and the proposals that do. */
export function sorted(proposals: Schemas['ProposalView'][]) {
  return {
    lines: proposals.flatMap((one) =>
      !one.asks && one.matches[0] ? [lineOf(one, one.matches[0].food, one.grams ?? 0)] : [],
    ),
    asked: proposals.filter((one) => one.asks).map((one) => ({ ...one, key: crypto.randomUUID() })),
  };
}

/** What a file or page brings: its components with lines and questions, and its steps. */
export function intakeDraft(found: Schemas['IntakeView']): Partial<RecipeDraft> {
  const parts = found.components.length ? found.components : [{ name: '', role: 'mixed', method: 'none' }];
  const components = parts.map((part) => ({
    ...newComponent(),
    name: part.name,
    role: (part.role || 'mixed') as Schemas['Role'],
    method: part.method || 'none',
    ...sorted(found.lines.filter((line) => found.components.length === 0 || line.component === part.name)),
  }));
  return {
    name: found.name,
    note: found.description,
    // A file tells by name which component a step is of.
    steps: found.steps.map((one) => ({
      ...stepDraft(one),
      component_id: components.find(({ name }) => name && name === one.component)?.id ?? '',
    })),
    components,
  };
}

/** A stored line in its form. */
const lineDraft = (found: Schemas['LineView']): LineDraft => ({
  ...fill(line, { ...found, food_id: null, source_id: null, unfolded: false }),
  food: found.food,
  source: found.source ? { id: found.source.id, name: found.source.name } : null,
});

export const stepDraft = (found: Schemas['StepView']): StepDraft => ({
  ...fill(step, { ...found, id: found.id ?? crypto.randomUUID() }),
  trouble: found.trouble,
});

export const recipeDraft = (found: Schemas['RecipeView']): RecipeDraft => ({
  name: found.name,
  note: found.note,
  serves: asText(found.serves),
  groups: groups.encode(found.groups),
  version: found.version,
  steps: found.steps.map(stepDraft),
  components: found.components.map((one) => {
    const id = one.id ?? crypto.randomUUID();
    const typed = fill(component, { ...one, id, lines: [] });
    return { ...typed, lines: one.lines.map(lineDraft), asked: [] };
  }),
});

const withIds = ({ food, source, ...typed }: LineDraft) => ({
  ...typed,
  food_id: food?.id ?? null,
  source_id: source?.id ?? null,
  unfolded: false,
});

/** What to send, and by JSON pointer the fields that are no numbers yet. */
export const recipeInput = (draft: RecipeDraft) =>
  read(recipe, {
    ...draft,
    components: draft.components.map((one) => ({ ...one, lines: one.lines.map(withIds) })),
  });
