import type { Schemas } from '~/api/client';
import { Button } from '~/parts/button';
import { inWords, lengthWords, timeOfDay } from '~/views/batch/cook/clock';
import type { Fact } from '~/views/batch/cook/waiting';

type Props = {
  live: Schemas['LiveView'];
  minute: number;
  note: (fact: Fact, words: string) => void;
};

/** What left the heat and has to be cold: told before it is too late. */
export function Cooling({ live, minute, note }: Props) {
  const warm = live.cooling.filter((one) => one.done_min === null);
  if (warm.length === 0) return null;
  return (
    <ul
      aria-label="To be cooled"
      className="divide-y divide-steel rounded-xl border border-steel bg-sheet px-4"
    >
      {warm.map((one) => {
        const left = one.end_min - minute;
        return (
          <li key={one.component_id} className="flex min-h-16 flex-wrap items-center gap-x-4 py-2">
            <span className="min-w-0 flex-1">
              <b>{one.component}</b>: in the fridge by{' '}
              <span className={`figures ${left <= 15 ? 'font-semibold text-alert' : ''}`}>
                {timeOfDay(one.end_min)}
              </span>
              {left < 0 ? `, ${lengthWords(-left)} ago` : `, ${inWords(left)}`}
            </span>
            <Button
              className="min-h-16"
              onClick={() =>
                note({ event: 'in the fridge', task: one.component_id }, `${one.component}: in the fridge`)
              }
            >
              In the fridge
            </Button>
          </li>
        );
      })}
    </ul>
  );
}
