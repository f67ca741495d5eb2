import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { Progress } from 'radix-ui';
import type { Schemas } from '~/api/client';
import { moment, plural, slotName } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';
import { clientsQuery } from '~/views/clients/queries';
import { recipesQuery } from '~/views/recipes/queries';
import { AnswerGrid } from '~/views/surveys/answer-grid';
import { Outside } from '~/views/surveys/outside';
import { answersQuery, surveyQuery, type Answers as Wanted } from '~/views/surveys/queries';
import type { Order, WhoCanEatSearch } from '~/views/surveys/search';

type Survey = Schemas['SurveyView'];
const ABOUT = { about: 'surveys', href: '/recipes/who-can-eat' };

/** Every recipe as written against every client's targets: who can eat what, how near, and why not. */
export function WhoCanEat() {
  const queries = useQueryClient();
  const survey = useQuery(surveyQuery);
  const keep = (fresh: Survey) => queries.setQueryData(surveyQuery.queryKey, fresh);
  const start = useMutation({
    mutationFn: () =>
      write(call('post', '/api/v1/surveys', {}), { ...ABOUT, words: ['Who can eat what: asked'] }),
    onSuccess: keep,
    onError: showProblem,
  });
  const stop = useMutation({
    mutationFn: (id: string) =>
      write(call('post', '/api/v1/surveys/{survey_id}/cancelled', { params: { path: { survey_id: id } } }), {
        ...ABOUT,
        words: ['Who can eat what: stopped'],
      }),
    onSuccess: keep,
    onError: showProblem,
  });
  if (survey.isError) return <LoadFailed error={survey.error} retry={() => void survey.refetch()} />;
  if (survey.data === undefined) return <Loading what="who can eat what" />;
  const newest = survey.data;
  const running = newest?.state === 'running';
  return (
    <Page
      title="Who can eat what"
      detail={
        newest
          ? `${plural(newest.recipes, 'recipe')} as written on ${moment(newest.asked_at)}, asked by ${newest.asked_by}`
          : ''
      }
      actions={
        running ? (
          <Button onClick={() => stop.mutate(newest.id)} disabled={stop.isPending}>
            Stop
          </Button>
        ) : (
          <Button look="main" onClick={() => start.mutate()} disabled={start.isPending}>
            {newest ? 'Ask anew' : 'Ask'}
          </Button>
        )
      }
    >
      {newest ? (
        <>
          {running ? <Running survey={newest} /> : null}
          {newest.state === 'cancelled' ? (
            <div className="mb-4">
              <Notice tone="caution" title="Stopped">
                {newest.answered} of {plural(newest.recipes, 'recipe')} answered before.
              </Notice>
            </div>
          ) : null}
          {newest.troubles.map((trouble) => (
            <div key={trouble} className="mb-4">
              <Notice tone="alert">{trouble}</Notice>
            </div>
          ))}
          <Answers survey={newest} />
        </>
      ) : (
        <Empty title="Not asked yet">
          <p>
            Every recipe as written is tried against every client’s targets, one container each, within their
            tolerances, limits and allergens. It runs in the background; you can go on working.
          </p>
        </Empty>
      )}
    </Page>
  );
}

function Running({ survey }: { survey: Survey }) {
  const words = `${survey.answered} of ${plural(survey.recipes, 'recipe')} answered`;
  return (
    <div className="mb-4 max-w-xl" aria-live="polite">
      <p className="mb-1">{words}; it goes on while you work elsewhere.</p>
      <Progress.Root
        value={survey.answered}
        max={survey.recipes}
        aria-label={words}
        className="h-2.5 overflow-hidden rounded-full border border-steel bg-paper"
      >
        <Progress.Indicator
          className="h-full bg-ink"
          style={{ width: `${(100 * survey.answered) / survey.recipes}%` }}
        />
      </Progress.Root>
    </div>
  );
}

/** The answers line by line, or as a grid. */
function Answers({ survey }: { survey: Survey }) {
  const search = useSearch({ from: '/inside/recipes/who-can-eat' });
  const navigate = useNavigate();
  const go = (to: WhoCanEatSearch) =>
    void navigate({ to: '/recipes/who-can-eat', search: to, replace: true });
  return (
    <>
      <div className="mb-4 max-w-sm">
        <Choice
          label="Shown as"
          options={[
            { value: '', label: 'lines with the grams' },
            { value: 'grid', label: 'clients by recipes' },
          ]}
          value={search.as ?? ''}
          onValue={(as) => go({ ...search, as: as || undefined })}
        />
      </div>
      {search.as === 'grid' ? (
        <AnswerGrid survey={survey} onOpen={(client, recipe) => go({ client, recipe })} />
      ) : (
        <AnswerTable survey={survey} />
      )}
    </>
  );
}

const ORDERS: { value: Order; label: string }[] = [
  { value: 'nearest', label: 'the nearest first' },
  { value: 'recipe', label: 'by recipe' },
  { value: 'client', label: 'by client' },
];

function AnswerTable({ survey }: { survey: Survey }) {
  const search = useSearch({ from: '/inside/recipes/who-can-eat' });
  const navigate = useNavigate();
  const recipes = useQuery(recipesQuery);
  const clients = useQuery(clientsQuery);
  const sort = search.sort ?? 'nearest';
  const wanted: Wanted = {
    sort,
    ...(search.recipe ? { recipe_id: search.recipe } : {}),
    ...(search.client ? { client_id: search.client } : {}),
    ...(search.show ? { met: search.show === 'fits' } : {}),
  };
  const answers = useInfiniteQuery(answersQuery(survey.id, survey.answered, wanted));
  const shown = answers.data?.pages.flatMap((page) => page.answers) ?? [];
  const total = answers.data?.pages[0]?.total ?? 0;
  const set = (part: WhoCanEatSearch) => {
    void navigate({ to: '/recipes/who-can-eat', search: { ...search, ...part }, replace: true });
  };
  const named = (all: string, list: { id: string; name: string }[] | undefined) => [
    { value: '', label: all },
    ...(list ?? []).map((one) => ({ value: one.id, label: one.name })),
  ];
  return (
    <>
      <div className="mb-4 grid gap-4 md:grid-cols-4">
        <Choice
          label="Recipe"
          options={named('all recipes', recipes.data)}
          value={search.recipe ?? ''}
          onValue={(chosen) => set({ recipe: chosen })}
        />
        <Choice
          label="Client"
          options={named('all clients', clients.data)}
          value={search.client ?? ''}
          onValue={(chosen) => set({ client: chosen })}
        />
        <Choice
          label="Show"
          options={[
            { value: '', label: 'what fits and what does not' },
            { value: 'fits', label: 'what fits' },
            { value: 'not', label: 'what does not fit' },
          ]}
          value={search.show ?? ''}
          onValue={(chosen) => set({ show: chosen || undefined })}
        />
        <Choice label="Sorted" options={ORDERS} value={sort} onValue={(chosen) => set({ sort: chosen })} />
      </div>
      {answers.isError ? <LoadFailed error={answers.error} retry={() => void answers.refetch()} /> : null}
      {answers.data ? (
        <>
          <table className="w-full table-fixed">
            <caption className="sr-only">Which recipe fits which client’s container, and why not</caption>
            <colgroup>
              <col className="w-[22%]" />
              <col className="w-[20%]" />
              <col className="w-[15%]" />
              <col />
            </colgroup>
            <thead>
              <tr className="bg-bench text-left text-sm text-muted">
                <SortHead name="Recipe" order="recipe" sort={sort} onSort={(order) => set({ sort: order })} />
                <SortHead
                  name="Container"
                  order="client"
                  sort={sort}
                  onSort={(order) => set({ sort: order })}
                />
                <SortHead
                  name="How near"
                  order="nearest"
                  sort={sort}
                  onSort={(order) => set({ sort: order })}
                />
                <th className="p-3 font-medium">The grams, or why not</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((one) => (
                <AnswerRow
                  key={`${one.recipe_id} ${one.client_id} ${one.slot} ${one.day_type}`}
                  answer={one}
                />
              ))}
            </tbody>
          </table>
          {answers.hasNextPage ? (
            <Button
              className="mt-3"
              disabled={answers.isFetchingNextPage}
              onClick={() => void answers.fetchNextPage()}
            >
              Show more; {shown.length} of {total} are shown
            </Button>
          ) : null}
          {total === 0 && survey.state !== 'running' ? (
            <Empty title="Nothing to show">
              <p>No answer fits this choice. Show all recipes and clients, or ask anew.</p>
            </Empty>
          ) : null}
        </>
      ) : null}
    </>
  );
}

function SortHead({
  name,
  order,
  sort,
  onSort,
}: {
  name: string;
  order: Order;
  sort: Order;
  onSort: (order: Order) => void;
}) {
  return (
    <th className="p-0 font-medium" aria-sort={sort === order ? 'ascending' : 'none'}>
      <button
        type="button"
        className={`min-h-11 w-full px-3 text-left hover:underline ${sort === order ? 'font-bold text-ink' : ''}`}
        onClick={() => onSort(order)}
      >
        {name}
        {sort === order ? ' ↓' : ''}
      </button>
    </th>
  );
}

function AnswerRow({ answer }: { answer: Schemas['AnswerView'] }) {
  const link = 'inline-flex min-h-9 items-center underline-offset-4 hover:underline';
  return (
    <tr className="border-b border-steel bg-sheet align-top">
      <th scope="row" className="px-3 py-1 text-left font-normal">
        <Link to="/recipes/$recipeId" params={{ recipeId: answer.recipe_id }} className={link}>
          {answer.recipe}
        </Link>
      </th>
      <td className="px-3 py-1">
        <Link
          to="/clients/$clientId"
          params={{ clientId: answer.client_id }}
          className={`${link} font-semibold`}
        >
          {answer.client}
        </Link>
        <span className="block text-sm text-muted">{slotName(answer.slot, answer.day_type)}</span>
      </td>
      <td className="px-3 py-2">{answer.met ? <strong>fits</strong> : <Outside missed={answer.missed} />}</td>
      <td className="px-3 py-2">
        {answer.told}
        {answer.without.length ? (
          <span className="block text-sm text-muted">
            without {answer.without.join(', ')}, which must stay out
          </span>
        ) : null}
      </td>
    </tr>
  );
}
