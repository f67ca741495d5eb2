/** The texts that stand in an address under these keys; what is empty or no text is left out. */
export function textsOf<K extends string>(search: Record<string, unknown>, keys: readonly K[]) {
  const found: { [key in K]?: string } = {};
  for (const key of keys) {
    const value = search[key];
    if (typeof value === 'string' && value) found[key] = value;
  }
  return found;
}
