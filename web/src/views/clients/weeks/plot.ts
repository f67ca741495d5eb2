import type { Schemas } from '~/api/client';
import type { MacroKey } from '~/food/nutrients';

export type EatenDay = Schemas['EatenDayView'];

/** Heights from the bottom: what was filled, planned and eaten of a whole day, and its target. */
export type Bar = {
  on: string;
  x: number;
  width: number;
  filled: number;
  planned: number;
  eaten: number | null;
  target: number | null;
  values: { filled: number; planned: number; eaten: number | null; target: number | null };
};

/** Days from `since` on as bars over each other's dates, the highest as high as there is room. */
export function barsOf(
  days: readonly EatenDay[],
  key: MacroKey,
  since: string,
  today: string,
  size: { width: number; height: number },
): { bars: Bar[]; most: number } {
  const start = Date.parse(since);
  const span = (Date.parse(today) - start) / 86_400_000 + 1;
  const step = size.width / span;
  const found = days.map((day) => {
    const beside = day.beside[key] ?? 0;
    return {
      on: day.on,
      values: {
        filled: (day.filled[key] ?? 0) + beside,
        planned: (day.planned[key] ?? 0) + beside,
        eaten: day.eaten === null ? null : (day.eaten[key] ?? 0) + beside,
        target: day.target?.[key] ?? null,
      },
    };
  });
  const most = Math.max(1, ...found.flatMap(({ values }) => Object.values(values).map((one) => one ?? 0)));
  const y = (value: number) => (value / most) * size.height;
  return {
    most,
    bars: found.map(({ on, values }) => ({
      on,
      values,
      x: ((Date.parse(on) - start) / 86_400_000) * step + step * 0.15,
      width: step * 0.7,
      filled: y(values.filled),
      planned: y(values.planned),
      eaten: values.eaten === null ? null : y(values.eaten),
      target: values.target === null ? null : y(values.target),
    })),
  };
}

/** How near a day was met by what was eaten: in percent of its target, 100 is just right. */
export const nearness = ({ eaten, target }: Bar['values']): number | null =>
  eaten === null || !target ? null : Math.round((100 * eaten) / target);
