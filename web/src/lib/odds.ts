/** A probability as people say it: "19 times in 20". */
export function oddsWords(share: number): string {
  if (share < 0.005) return 'hardly ever';
  for (const of of [10, 20, 100]) {
    const times = Math.round(share * of);
    if (times < of && (Math.abs(times / of - share) < 0.005 || of === 100)) return `${times} times in ${of}`;
  }
  return 'nearly always';
}
