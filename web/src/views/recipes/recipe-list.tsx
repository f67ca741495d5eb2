import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { allergensQuery } from '~/food/queries';
import { plural } from '~/lib/format';
import { buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { recipesQuery } from '~/views/recipes/queries';

export function RecipeList() {
  const recipes = useQuery(recipesQuery);
  const allergens = useQuery(allergensQuery);
  if (recipes.isError) return <LoadFailed error={recipes.error} retry={() => void recipes.refetch()} />;
  if (!recipes.data) return <Loading what="the recipes" />;
  return (
    <Page
      title="Recipes"
      detail={plural(recipes.data.length, 'recipe')}
      actions={
        <>
          <Link to="/recipes/who-can-eat" className={buttonClass()}>
            Who can eat what
          </Link>
          <Link to="/recipes/new" className={buttonClass('main')}>
            New recipe
          </Link>
        </>
      }
    >
      {recipes.data.length === 0 ? (
        <Empty title="No recipe yet">
          <p>
            A recipe is made of components that are cooked apart: a protein, a grain, vegetables, a sauce.
          </p>
        </Empty>
      ) : (
        <ul className="grid gap-4 md:grid-cols-2">
          {recipes.data.map((recipe) => (
            <li key={recipe.id} className="rounded-xl border border-steel bg-sheet">
              <Link
                to="/recipes/$recipeId"
                params={{ recipeId: recipe.id }}
                className="block h-full rounded-xl p-5 hover:bg-chosen"
              >
                <h2 className="text-[22px]">{recipe.name}</h2>
                <p className="mt-2">{recipe.components.map((part) => part.name).join(', ')}</p>
                <p className="mt-2 text-sm text-muted">{recipe.note}</p>
                {recipe.allergens.length ? (
                  <p className="mt-2 text-sm">
                    Contains{' '}
                    <strong>{recipe.allergens.map((one) => allergens.data?.[one] ?? one).join(', ')}</strong>
                  </p>
                ) : null}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
