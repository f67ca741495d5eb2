import { textsOf } from '~/lib/search';

export type Wanted = { kind?: string; batch?: string; form?: string };

/** The message that somebody came for: its kind, and of what. */
export const readWanted = (search: Record<string, unknown>): Wanted =>
  textsOf(search, ['kind', 'batch', 'form']);
