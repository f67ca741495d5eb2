import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useDeferredValue } from 'react';
import type { Schemas } from '~/api/client';
import { foodQuery } from '~/food/queries';
import { plural } from '~/lib/format';
import { type Key, useListed, useShortcut } from '~/lib/keys';
import { call } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { LoadFailed, Loading } from '~/parts/notice';
import { RecordPage } from '~/parts/record-page';
import { useRecordForm } from '~/parts/use-record-form';
import { ComponentCard, type Part } from '~/views/recipes/component-card';
import {
  type ComponentDraft,
  intakeDraft,
  newComponent,
  newRecipe,
  type RecipeDraft,
  recipeDraft,
  recipeInput,
} from '~/views/recipes/draft';
import { lineChanges } from '~/views/recipes/mends';
import { OpenFile } from '~/views/recipes/open-file';
import { OneOpened } from '~/views/recipes/opened';
import { previewQuery, recipeQuery, recipesQuery, recipeWordsQuery } from '~/views/recipes/queries';
import { RecipeHead } from '~/views/recipes/recipe-head';
import { ScaleDialog } from '~/views/recipes/scale-dialog';
import { StepsEditor } from '~/views/recipes/steps-editor';

const UNDO = { caption: 'In a recipe', key: 'z', ctrl: true, words: 'undo', inFields: 'saved' } as const;
const KEYS: Key[] = [
  ['Enter', 'after a written line: it is added, and the next can be written'],
  ['Shift + Enter', 'a new line in the same field'],
  ['Enter', 'in a weight: to the next ingredient'],
];

export function NewRecipe() {
  return <RecipeForm id={null} initial={newRecipe()} />;
}

export function RecipePage() {
  const { recipeId } = useParams({ from: '/inside/recipes/$recipeId' });
  const recipe = useQuery(recipeQuery(recipeId));
  if (recipe.isError) return <LoadFailed error={recipe.error} retry={() => void recipe.refetch()} />;
  if (!recipe.data) return <Loading what="the recipe" />;
  return <RecipeForm key={recipeId} id={recipeId} initial={recipeDraft(recipe.data)} />;
}

/** A line that waits for its answer is no ingredient yet: saving would drop it without a word. */
function linesToAnswer({ components }: RecipeDraft) {
  const waiting = components.reduce((sum, one) => sum + one.asked.length, 0);
  if (!waiting) return null;
  return `${plural(waiting, 'written line')} to answer first, or to leave out. Nothing is saved yet.`;
}

function RecipeForm({ id, initial }: { id: string | null; initial: RecipeDraft }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const words = useQuery(recipeWordsQuery);
  const form = useRecordForm({
    initial,
    toDraft: recipeDraft,
    toInput: recipeInput,
    what: 'Recipe',
    notYet: linesToAnswer,
    nameOf: (view) => view.name,
    save: (body) =>
      id === null
        ? call('post', '/api/v1/recipes', { body })
        : call('put', '/api/v1/recipes/{recipe_id}', { params: { path: { recipe_id: id } }, body }),
    archive: (archived) =>
      call('put', '/api/v1/recipes/{recipe_id}/archived', {
        params: { path: { recipe_id: id ?? '' }, query: { archived } },
      }),
    onSaved: (view: Schemas['RecipeView']) => {
      void queries.invalidateQueries({ queryKey: ['plans'] });
      if (!view.id) return;
      queries.setQueryData(recipeQuery(view.id).queryKey, view);
      if (id !== null) return;
      void navigate({ to: '/recipes/$recipeId', params: { recipeId: view.id }, ignoreBlocker: true });
    },
    onArchived: () => void navigate({ to: '/recipes', ignoreBlocker: true }),
    listKey: recipesQuery.queryKey,
  });
  const { control, draft, body, change } = form;
  // Figures wait for typing to pause, and keep the last good ones while a field is no number.
  const preview = useQuery({ ...previewQuery(useDeferredValue(body), id), enabled: !form.unreadable });
  useShortcut(UNDO, form.undo);
  useListed('In a recipe', KEYS);
  const recipes = useQuery(recipesQuery);
  const changeComponent = (key: string, next: (now: ComponentDraft) => ComponentDraft) =>
    change('components', (now) => now.map((one) => (one.key === key ? next(one) : one)));
  const fetchFood = (food: string) => queries.fetchQuery(foodQuery(food)).then((detail) => detail.food);
  const parts = (of: string): Part[] => [
    ...draft.components
      .filter((one) => one.id !== of && one.name)
      .map((one) => ({ id: one.id, name: one.name, recipe: 'this recipe' })),
    ...(recipes.data ?? [])
      .filter((one) => one.id !== id)
      .flatMap((one) => one.components.map((part) => ({ ...part, recipe: one.name }))),
  ];

  return (
    <RecordPage
      form={form}
      what="recipe"
      isNew={id === null}
      isPlaced={(pointer) => !/lines$|components$/.test(pointer)}
      actions={
        <>
          {id === null ? null : (
            <Link to="/recipes/who-can-eat" search={{ recipe: id }} className={buttonClass()}>
              Who can eat it
            </Link>
          )}
          <ScaleDialog
            draft={draft}
            recipe={body}
            onScaled={(view) =>
              change('components', (now) =>
                recipeDraft(view).components.map((one, index) => ({
                  ...one,
                  asked: now[index]?.asked ?? [],
                })),
              )
            }
          />
          {id === null ? (
            <OpenFile onOpened={(found) => form.take(intakeDraft(found))} />
          ) : (
            <>
              <a className={buttonClass()} href={`/api/v1/recipes/${id}/recipe.json`} download>
                JSON-LD
              </a>
              <a className={buttonClass()} href={`/api/v1/recipes/${id}/recipe.csv`} download>
                CSV
              </a>
            </>
          )}
        </>
      }
    >
      <OneOpened>
        {(open) => (
          <>
            <RecipeHead control={control} draft={draft} isNew={id === null} />
            <ol className="mt-4 space-y-4">
              {draft.components.map(({ key, id: componentId, role, method }, index) => (
                <ComponentCard
                  key={key}
                  form={form}
                  index={index}
                  view={preview.data?.components[index]}
                  words={words.data ?? { roles: [role], methods: [method] }}
                  parts={parts(componentId)}
                  onChange={(next) => changeComponent(key, next)}
                  mendOf={(mend) => lineChanges(mend, fetchFood)}
                  onSteps={(steps) =>
                    change('steps', (now) => [
                      ...now,
                      ...steps.map((one) => ({ ...one, component_id: componentId })),
                    ])
                  }
                  onRemove={() => {
                    change('components', (now) => now.filter((one) => one.key !== key));
                    // What was done for it stays, for the whole recipe, until somebody says otherwise.
                    change('steps', (now) =>
                      now.map((one) =>
                        one.component_id === componentId ? { ...one, component_id: '' } : one,
                      ),
                    );
                  }}
                />
              ))}
            </ol>
            <Button
              className="mt-4"
              onClick={() => {
                const made = newComponent();
                open(made.key);
                change('components', (now) => [...now, made]);
              }}
            >
              Add a component
            </Button>
            <StepsEditor form={form} />
          </>
        )}
      </OneOpened>
    </RecordPage>
  );
}
