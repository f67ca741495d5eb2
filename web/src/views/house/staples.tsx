import { useMutation } from '@tanstack/react-query';
import type { Schemas } from '~/api/client';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { showProblem } from '~/parts/show-problem';
import { keepHouse } from '~/views/house/queries';

/** Remember whether a food is always in the house; null asks again. */
export const answerStaple = (foodId: string, name: string, always: boolean | null) =>
  write(
    call('put', '/api/v1/house/staples/{food_id}', {
      params: { path: { food_id: foodId } },
      body: { is_always_there: always },
    }),
    {
      about: 'house',
      words: [
        always === null
          ? `${name}: asked again`
          : `${name} is ${always ? 'always' : 'not always'} in the house`,
      ],
      href: '/house',
    },
  );

/** What the coach said is always there, or is not, with the way to be asked again. */
export function StapleList({ staples }: { staples: Schemas['StapleView'][] }) {
  const forget = useMutation({
    mutationFn: (one: Schemas['StapleView']) => answerStaple(one.food_id, one.name, null),
    onSuccess: keepHouse,
    onError: showProblem,
  });
  const always = staples.filter((one) => one.is_always_there);
  const never = staples.filter((one) => !one.is_always_there);
  if (staples.length === 0) return null;
  return (
    <section aria-label="Always in the house" className="mb-6">
      <h2 className="text-xl">Always in the house</h2>
      <p className="text-sm text-muted">
        These are not on shopping lists, for they are there anyway. Remove one to be asked again.
      </p>
      {[
        ['Always there', always],
        ['Bought when needed', never],
      ].map(([title, list]) =>
        list?.length ? (
          <p key={title as string} className="mt-2 flex flex-wrap items-center gap-2">
            <span className="text-sm font-medium text-muted">{title as string}</span>
            {(list as Schemas['StapleView'][]).map((one) => (
              <Button
                key={one.food_id}
                disabled={forget.isPending}
                aria-label={`Ask again about ${one.name}`}
                onClick={() => forget.mutate(one)}
              >
                {one.name} ×
              </Button>
            ))}
          </p>
        ) : null,
      )}
    </section>
  );
}
