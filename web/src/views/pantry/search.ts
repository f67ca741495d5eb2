import { textsOf } from '~/lib/search';

export type PantrySearch = { text?: string; group?: string; state?: string; food?: string };

/** What the address of the pantry looks for, and the food that is open. */
export const readPantry = (search: Record<string, unknown>): PantrySearch =>
  textsOf(search, ['text', 'group', 'state', 'food']);
