import { useMutation, useQueryClient } from '@tanstack/react-query';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';
import { stepsQuery } from '~/views/batch/frame/queries';
import type { Plan } from '~/views/batch/frame/use-plan';
import { planQuery } from '~/views/batches/queries';

type Taken = 'recipe' | 'foods' | 'targets' | 'anew';
const TAKEN: Record<Taken, string> = {
  recipe: 'the recipe as it is now',
  foods: 'foods by their newest figures',
  targets: 'targets as the clients have them now',
  anew: 'planned anew',
};

/** The batch as it is with the newest recipe, or the newest figures of its foods. */
function useTake(plan: Plan, what: Taken) {
  const queries = useQueryClient();
  const params = { path: { batch_id: plan.batch.id }, query: { version: plan.batch.version } };
  return useMutation({
    mutationFn: () =>
      write(call('post', `/api/v1/batches/{batch_id}/${what}`, { params }), {
        about: `batch/${plan.batch.id}`,
        words: [TAKEN[what]],
        href: `/batches/${plan.batch.id}`,
      }),
    onSuccess: (fresh) => {
      queries.setQueryData(planQuery(plan.batch.id).queryKey, fresh);
      void queries.invalidateQueries({ queryKey: stepsQuery(plan.batch.id).queryKey });
    },
    onError: showProblem,
  });
}

/** The plan is as an earlier version of the application computed it; nothing of it moves unasked. */
export function EngineOlder({ plan }: { plan: Plan }) {
  const take = useTake(plan, 'anew');
  if (!plan.batch.engine_older) return null;
  return (
    <Notice tone="caution" title="Planned by an earlier version">
      <p className="mb-2">
        The way grams are found has changed since. This plan is as it was; the next change plans it anew.
      </p>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        Plan it anew now
      </Button>
    </Notice>
  );
}

export function RecipeChanged({ plan }: { plan: Plan }) {
  const take = useTake(plan, 'recipe');
  const changed = plan.dishes.filter((dish) => dish.recipe_changed);
  if (changed.length === 0) return null;
  return (
    <Notice tone="caution" title="The recipe has changed">
      <p className="mb-2">
        This batch keeps {changed.map((dish) => dish.recipe).join(' and ')} as it was when you planned it.
      </p>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        Take the recipe as it is now
      </Button>
    </Notice>
  );
}

/** Foods were edited after this batch took their figures: it keeps them until the coach takes the new ones. */
export function FoodsChanged({ plan }: { plan: Plan }) {
  const take = useTake(plan, 'foods');
  if (plan.batch.foods_changed.length === 0) return null;
  return (
    <Notice tone="caution" title="Foods were edited">
      <p className="mb-2">
        This batch counts {plan.batch.foods_changed.join(', ')} by the figures it was planned with.
      </p>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        Plan it with the new figures
      </Button>
    </Notice>
  );
}

/** Clients aim at something else than when this batch took their targets. */
export function TargetsChanged({ plan }: { plan: Plan }) {
  const take = useTake(plan, 'targets');
  if (plan.batch.targets_changed.length === 0) return null;
  return (
    <Notice tone="caution" title="Targets have changed">
      <p>This batch keeps the targets it was planned with. The clients now have:</p>
      <ul className="mb-2">
        {plan.batch.targets_changed.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        Plan it with the new targets
      </Button>
    </Notice>
  );
}
