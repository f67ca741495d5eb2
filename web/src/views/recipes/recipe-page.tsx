import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useBlocker, useNavigate, useParams } from '@tanstack/react-router';
import { type FormEvent, useDeferredValue, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas, toProblem } from '~/lib/api';
import { faultFinder } from '~/lib/faults';
import { previewQuery, recipeQuery, recipesQuery, recipeWordsQuery } from '~/lib/queries';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import { LoadFailed, Loading, ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { ComponentCard } from '~/views/recipes/component-card';
import {
  type ComponentDraft,
  newComponent,
  newRecipe,
  type RecipeDraft,
  recipeDraft,
  recipeInput,
} from '~/views/recipes/draft';

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
  const [draft, setDraft] = useState(initial);
  const [saved, setSaved] = useState(initial);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const words = useQuery(recipeWordsQuery);
  const dirty = draft !== saved;
  useBlocker({
    shouldBlockFn: () => dirty && !window.confirm('Leave without saving what you changed?'),
    enableBeforeUnload: dirty,
  });

  const { body, faults: local } = useMemo(() => recipeInput(draft), [draft]);
  // Figures wait for typing to pause, and keep the last good ones while a field is no number.
  const preview = useQuery({ ...previewQuery(useDeferredValue(body)), enabled: local.size === 0 });

  const save = useMutation({
    mutationFn: (given: Schemas['RecipeInput']) =>
      id === null
        ? ask(api.POST('/api/v1/recipes', { body: given }))
        : ask(api.PUT('/api/v1/recipes/{recipe_id}', { params: { path: { recipe_id: id } }, body: given })),
    onSuccess: (view) => {
      const fresh = recipeDraft(view);
      setDraft(fresh);
      setSaved(fresh);
      if (view.id) queries.setQueryData(recipeQuery(view.id).queryKey, view);
      void queries.invalidateQueries({ queryKey: recipesQuery.queryKey, exact: true });
      void queries.invalidateQueries({ queryKey: ['plans'] });
      toast.success(`${view.name} is saved.`);
      if (id === null && view.id) {
        void navigate({ to: '/recipes/$recipeId', params: { recipeId: view.id }, ignoreBlocker: true });
      }
    },
  });
  const archive = useMutation({
    mutationFn: (archived: boolean) =>
      ask(
        api.PUT('/api/v1/recipes/{recipe_id}/archived', {
          params: { path: { recipe_id: id ?? '' }, query: { archived } },
        }),
      ),
    onSuccess: (_, archived) => {
      void queries.invalidateQueries({ queryKey: recipesQuery.queryKey });
      if (!archived) return;
      toast(`${draft.name} is off your lists.`, {
        action: { label: 'Undo', onClick: () => archive.mutate(false) },
      });
      void navigate({ to: '/recipes', ignoreBlocker: true });
    },
    onError: (error) => toast.error(toProblem(error).detail),
  });

  const problem = save.isError ? toProblem(save.error) : null;
  const fault = faultFinder(local, problem);
  const change = (part: Partial<RecipeDraft>) => setDraft({ ...draft, ...part });
  const changeComponent = (place: number, part: Partial<ComponentDraft>) =>
    change({ components: draft.components.map((one, at) => (at === place ? { ...one, ...part } : one)) });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (local.size === 0) save.mutate(body);
  };

  return (
    <form onSubmit={submit} noValidate>
      <Page
        title={draft.name || 'New recipe'}
        detail={dirty ? 'not saved yet' : ''}
        actions={
          <>
            {id === null ? null : <Button onClick={() => archive.mutate(true)}>Take off the lists</Button>}
            <Button type="submit" look="main" disabled={save.isPending || local.size > 0}>
              {save.isPending ? 'Saving …' : 'Save recipe'}
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
              view={preview.data?.components[place]}
              words={words.data ?? { roles: [component.role], methods: [component.method] }}
              fault={fault}
              onChange={(part) => changeComponent(place, part)}
              onRemove={() => change({ components: draft.components.filter((_, at) => at !== place) })}
            />
          ))}
        </ol>
        <Button
          className="mt-4"
          onClick={() => change({ components: [...draft.components, newComponent()] })}
        >
          Add a component
        </Button>
      </Page>
    </form>
  );
}
