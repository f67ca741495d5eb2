import { Link } from '@tanstack/react-router';
import type { Schemas } from '~/api/client';
import { day, weight } from '~/lib/format';
import { Notice } from '~/parts/notice';

const linked = 'min-h-9 underline underline-offset-4';

/** What expires within days, with the recipes that use it and who can eat those; `onUse` takes one into a plan. */
export function UseUp({ useUp, onUse }: { useUp: Schemas['UseUp'][]; onUse?: (recipeId: string) => void }) {
  if (useUp.length === 0) return null;
  return (
    <div className="my-4">
      <Notice tone="caution" title="Use up soon">
        <ul className="space-y-1">
          {useUp.map((one) => (
            <li key={one.food_id}>
              <strong>
                {weight(one.grams)} {one.name}
              </strong>{' '}
              until {day(one.use_by)}:{' '}
              {one.recipes.map((recipe, place) => (
                <span key={recipe.id}>
                  {place ? ', ' : ''}
                  {onUse ? (
                    <button type="button" className={linked} onClick={() => onUse(recipe.id)}>
                      {recipe.name}
                    </button>
                  ) : (
                    <Link to="/recipes/$recipeId" params={{ recipeId: recipe.id }} className={linked}>
                      {recipe.name}
                    </Link>
                  )}{' '}
                  (
                  <Link
                    to="/recipes/who-can-eat"
                    search={{ recipe: recipe.id }}
                    aria-label={`Who can eat ${recipe.name}`}
                    className={linked}
                  >
                    who can eat it
                  </Link>
                  )
                </span>
              ))}
              {one.recipes.length === 0
                ? 'no recipe uses it yet.'
                : one.recipes.length === 1
                  ? ' uses it.'
                  : ' use it.'}
            </li>
          ))}
        </ul>
      </Notice>
    </div>
  );
}
