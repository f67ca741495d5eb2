import type { Schemas } from '~/api/client';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { massInGrams } from '~/lib/units';
import type { ComponentDraft, LineDraft } from '~/views/recipes/draft';

type Mend = Schemas['MendView'];

/** The part of a line that a mend sets; a food is looked up by its id. */
export async function lineChanges(
  mend: Mend,
  foodOf: (id: string) => Promise<Schemas['FoodBrief']>,
): Promise<Partial<LineDraft>> {
  const part: Partial<LineDraft> = {};
  for (const [field, value] of Object.entries(mend.changes)) {
    if (field === 'food_id') part.food = await foodOf(String(value));
    else if (field === 'purchased_g') part.purchased_g = asWeight(Number(value));
    else if (field === 'retained_share') part.retained_share = asText(Math.round(Number(value) * 1000) / 10);
    else if (field === 'yield_factor') part.yield_factor = asText(Number(value));
    else if (field === 'weighed_state') part.weighed_state = String(value);
    else if (field === 'text') part.text = String(value);
  }
  return part;
}

/** A component as a mend leaves it; a factor makes each of its lines that follow so many times as large. */
export function mendedComponent(component: ComponentDraft, mend: Mend): ComponentDraft {
  let mended = component;
  for (const [field, value] of Object.entries(mend.changes)) {
    if (field === 'role') mended = { ...mended, role: String(value) as Schemas['Role'] };
    else if (field === 'yield_expected')
      mended = { ...mended, yield_expected: asText(Number(value)), yield_low: '', yield_high: '' };
    else if (field === 'factor') mended = { ...mended, lines: mended.lines.map(times(Number(value))) };
  }
  return mended;
}

const times = (factor: number) => (line: LineDraft) => {
  const typed = readWeight(line.purchased_g);
  const number = readNumber(line.purchased_g).value;
  if (!line.scales || typed.fault || number === null) return line;
  return { ...line, text: '', purchased_g: asWeight(massInGrams(number) * factor) };
};
