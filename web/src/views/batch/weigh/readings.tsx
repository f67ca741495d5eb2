import type { Schemas } from '~/api/client';
import { exactWeight, moment } from '~/lib/format';
import { Button } from '~/parts/button';
import type { Plan } from '~/views/batch/frame/use-plan';

type Component = Plan['components'][number];

/** Weights of one pot by helpers who did not know of each other: the later one counts until somebody chooses. */
export function Undecided({
  readings,
  onTake,
}: {
  readings: Schemas['PotReading'][];
  onTake: ((chosen: Schemas['PotReading']) => void) | null;
}) {
  return (
    <div className="mt-2 rounded-lg border-l-4 border-l-alert bg-sheet px-3 py-2 text-sm">
      <p className="font-semibold">Weighed more than once. Which is right?</p>
      <ul aria-label="Weights of this pot" className="space-y-2">
        {readings.map((one) => (
          <li key={one.weighed_at + one.cooked_g}>
            <span className="figures font-bold">{exactWeight(one.cooked_g)}</span>{' '}
            <span className="text-muted">
              {one.weighed_by}, {moment(one.weighed_at)}
            </span>
            {onTake ? (
              <Button className="mt-1 !min-h-9 w-full" onClick={() => onTake(one)}>
                {exactWeight(one.cooked_g)} is right
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What may be behind an unlikely weight, the best explanation first; one tap records it without the slip. */
export function Causes({
  causes,
  onTake,
}: {
  causes: Component['doubts'];
  onTake: (vessels: Schemas['VesselView'][]) => void;
}) {
  return (
    <div className="mt-2 rounded-lg border-l-4 border-l-alert bg-sheet px-3 py-2 text-sm">
      <p className="font-semibold">Outside what this pan should give. It may be:</p>
      <ol className="list-decimal pl-5">
        {causes.slice(0, 4).map((cause) => (
          <li key={cause.words} className="mt-1">
            {cause.words}
            {cause.vessels ? (
              <Button
                className="mt-1 !min-h-9 w-full !whitespace-normal"
                onClick={() => onTake(cause.vessels ?? [])}
              >
                Record it so
              </Button>
            ) : null}
          </li>
        ))}
      </ol>
    </div>
  );
}
