import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { type FormEvent, useDeferredValue, useState } from 'react';
import { toast } from 'sonner';
import type { Schemas } from '~/api/client';
import { foodQuery } from '~/food/queries';
import { plural } from '~/lib/format';
import { type Key, useListed, useShortcut } from '~/lib/keys';
import { useRecordForm } from '~/lib/use-record-form';
import { call } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Field } from '~/parts/field';
import { LoadFailed, Loading, ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { ComponentCard, type Part } from '~/views/recipes/component-card';
import {
  type ComponentDraft,
  intakeDraft,
  type LineDraft,
  newComponent,
  newRecipe,
  type RecipeDraft,
  recipeDraft,
  recipeInput,
} from '~/views/recipes/draft';
import type { Proposal } from '~/views/recipes/line-entry';
import type { Mend } from '~/views/recipes/line-row';
import { lineChanges, mendedComponent } from '~/views/recipes/mends';
import { OpenFile } from '~/views/recipes/open-file';
import { previewQuery, recipeQuery, recipesQuery, recipeWordsQuery } from '~/views/recipes/queries';
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

function RecipeForm({ id, initial }: { id: string | null; initial: RecipeDraft }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const words = useQuery(recipeWordsQuery);
  const [added, setAdded] = useState('');
  const form = useRecordForm({
    initial,
    toDraft: recipeDraft,
    toInput: recipeInput,
    what: 'Recipe',
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
  const { draft, body, dirty, problem, fault, change, submit } = form;
  // Figures wait for typing to pause, and keep the last good ones while a field is no number.
  const preview = useQuery({ ...previewQuery(useDeferredValue(body), id), enabled: !form.unreadable });
  useShortcut(UNDO, form.undo);
  useListed('In a recipe', KEYS);
  const recipes = useQuery(recipesQuery);
  const changeComponent = (place: number, part: Partial<ComponentDraft>) =>
    change((now) => ({
      components: now.components.map((one, at) => (at === place ? { ...one, ...part } : one)),
    }));
  const takeLines = (place: number, lines: LineDraft[], asked: (before: Proposal[]) => Proposal[]) =>
    change((now) => ({
      components: now.components.map((one, at) =>
        at === place ? { ...one, lines: [...one.lines, ...lines], asked: asked(one.asked) } : one,
      ),
    }));
  const fetchFood = (food: string) => queries.fetchQuery(foodQuery(food)).then((detail) => detail.food);
  const mendLine = async (place: number, at: number, mend: Mend) => {
    const part = await lineChanges(mend, fetchFood);
    change((now) => ({
      components: now.components.map((one, here) =>
        here === place
          ? { ...one, lines: one.lines.map((line, row) => (row === at ? { ...line, ...part } : line)) }
          : one,
      ),
    }));
  };
  const mendComponent = (place: number, mend: Mend) =>
    change((now) => ({
      components: now.components.map((one, at) => (at === place ? mendedComponent(one, mend) : one)),
    }));
  const parts = (of: string): Part[] => [
    ...draft.components
      .filter((one) => one.id !== of && one.name)
      .map((one) => ({ id: one.id, name: one.name, recipe: 'this recipe' })),
    ...(recipes.data ?? [])
      .filter((one) => one.id !== id)
      .flatMap((one) => one.components.map((part) => ({ ...part, recipe: one.name }))),
  ];

  const waiting = draft.components.reduce((sum, one) => sum + one.asked.length, 0);
  // A line that waits for its answer is no ingredient yet: saving would drop it without a word.
  const saveAnswered = (event: FormEvent) => {
    if (!waiting) return submit(event);
    event.preventDefault();
    toast.error(`${plural(waiting, 'written line')} to answer first, or to leave out. Nothing is saved yet.`);
  };

  return (
    <form onSubmit={saveAnswered} noValidate>
      <Page
        title={draft.name || 'New recipe'}
        detail={form.waits ? 'kept in this browser until the server answers' : dirty ? 'not saved yet' : ''}
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
                change((now) => ({
                  components: recipeDraft(view).components.map((one, at) => ({
                    ...one,
                    asked: now.components[at]?.asked ?? [],
                  })),
                }))
              }
            />
            {id === null ? <OpenFile onOpened={(found) => change(intakeDraft(found))} /> : null}
            {form.canUndo ? <Button onClick={form.undo}>Undo</Button> : null}
            {id === null ? null : (
              <>
                <a className={buttonClass()} href={`/api/v1/recipes/${id}/recipe.json`} download>
                  JSON-LD
                </a>
                <a className={buttonClass()} href={`/api/v1/recipes/${id}/recipe.csv`} download>
                  CSV
                </a>
                <Button onClick={() => form.archive()}>Archive</Button>
              </>
            )}
            <Button type="submit" look="main" disabled={form.saving || form.unreadable}>
              {form.waits ? 'Waits for the server …' : form.saving ? 'Saving …' : 'Save recipe'}
            </Button>
          </>
        }
      >
        {problem ? (
          <div className="mb-4">
            <ProblemNotice
              problem={problem}
              placed={
                problem.errors?.map((one) => one.pointer).filter((one) => !/lines$|components$/.test(one)) ??
                []
              }
            />
          </div>
        ) : null}
        <div className="grid gap-4 sm:grid-cols-[1fr_2fr]">
          <Field
            label="Name"
            value={draft.name}
            onChange={(event) => change({ name: event.target.value })}
            fault={fault('/name')}
          />
          <Field
            label="Note"
            value={draft.note}
            onChange={(event) => change({ note: event.target.value })}
            fault={fault('/note')}
          />
        </div>
        <ol className="mt-5 space-y-5">
          {draft.components.map((component, place) => (
            <ComponentCard
              key={component.key}
              pointer={`/components/${place}`}
              draft={component}
              focused={component.key === added}
              view={preview.data?.components[place]}
              words={words.data ?? { roles: [component.role], methods: [component.method] }}
              parts={parts(component.id)}
              fault={fault}
              onChange={(part) => changeComponent(place, part)}
              onLineMend={(at, mend) => void mendLine(place, at, mend)}
              onMend={(mend) => mendComponent(place, mend)}
              onRead={(lines, asked) => takeLines(place, lines, asked)}
              onSteps={(steps) => change((now) => ({ steps: [...now.steps, ...steps] }))}
              onRemove={() => change({ components: draft.components.filter((_, at) => at !== place) })}
            />
          ))}
        </ol>
        <Button
          className="mt-4"
          onClick={() => {
            const made = newComponent();
            setAdded(made.key);
            change({ components: [...draft.components, made] });
          }}
        >
          Add a component
        </Button>
        <StepsEditor
          steps={draft.steps}
          components={draft.components.map((one) => one.name)}
          fault={fault}
          onChange={(steps) => change({ steps })}
        />
      </Page>
    </form>
  );
}
