import { useInfiniteQuery } from '@tanstack/react-query';
import type { Schemas } from '~/api/client';
import { Button } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Outside } from '~/views/surveys/outside';
import { gridQuery } from '~/views/surveys/queries';

/** Every client against every recipe: how many of the client's containers it fits. A cell opens its lines. */
export function AnswerGrid({
  survey,
  onOpen,
}: {
  survey: Schemas['SurveyView'];
  onOpen: (clientId: string, recipeId: string) => void;
}) {
  const grid = useInfiniteQuery(gridQuery(survey.id, survey.answered));
  if (grid.isError) return <LoadFailed error={grid.error} retry={() => void grid.refetch()} />;
  if (!grid.data) return <Loading what="the grid" />;
  const rows = grid.data.pages.flatMap((page) => page.rows);
  const last = grid.data.pages.at(-1);
  const recipes = last?.recipes ?? [];
  if (rows.length === 0)
    return (
      <Empty title="Nothing to show">
        <p>No recipe is answered yet.</p>
      </Empty>
    );
  return (
    <>
      <p className="mb-2 text-sm text-muted">
        How many of a client’s kinds of container a recipe fits; where none, how many times the tolerance the
        nearest is off. An asterisk: something of it has to stay out.
      </p>
      <div className="overflow-x-auto rounded-xl border border-steel bg-sheet">
        <table className="w-full border-collapse text-sm">
          <caption className="sr-only">Which recipe fits how many containers of which client</caption>
          <thead>
            <tr className="bg-bench align-bottom">
              <th scope="col" className="sticky left-0 z-[1] bg-bench p-3 text-left font-medium text-muted">
                Client
              </th>
              {recipes.map((recipe) => (
                <th
                  key={recipe.id}
                  scope="col"
                  className="min-w-24 border-l border-steel p-2 text-left leading-tight"
                >
                  {recipe.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => {
              const cells = new Map(row.cells.map((cell) => [cell.recipe_id, cell]));
              return (
                <tr key={row.client_id} className="border-t border-steel">
                  <th
                    scope="row"
                    className="sticky left-0 z-[1] bg-sheet px-3 py-1 text-left leading-tight font-semibold"
                  >
                    {row.client}
                  </th>
                  {recipes.map((recipe) => {
                    const cell = cells.get(recipe.id);
                    return (
                      <td key={recipe.id} className="border-l border-steel p-0">
                        {cell ? (
                          <button
                            type="button"
                            aria-label={`${row.client}, ${recipe.name}: fits ${cell.fits} of ${cell.containers}${cell.leaves_out ? ', something stays out' : ''}`}
                            onClick={() => onOpen(row.client_id, recipe.id)}
                            className={`min-h-11 w-full px-2 text-left hover:underline ${cell.fits ? 'bg-chosen font-semibold' : ''}`}
                          >
                            {cell.fits === cell.containers ? (
                              'fits'
                            ) : cell.fits ? (
                              `${cell.fits} of ${cell.containers}`
                            ) : (
                              <Outside missed={cell.missed} short />
                            )}
                            {cell.leaves_out ? ' *' : ''}
                          </button>
                        ) : (
                          <span className="px-2 text-muted">…</span>
                        )}
                      </td>
                    );
                  })}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {grid.hasNextPage ? (
        <Button className="mt-3" disabled={grid.isFetchingNextPage} onClick={() => void grid.fetchNextPage()}>
          Show more; {rows.length} of {last?.total} clients are shown
        </Button>
      ) : null}
    </>
  );
}
