import type { Problem } from '~/api/client';

/** Faults of a form by JSON pointer: what is no number here, and what the server refused. */
export function faultFinder(local: Map<string, string>, problem: Problem | null) {
  return (pointer: string) =>
    local.get(pointer) ?? problem?.errors?.find((one) => one.pointer === pointer)?.message ?? null;
}
