import {
  createRootRoute,
  createRoute,
  createRouter,
  lazyRouteComponent,
  redirect,
} from '@tanstack/react-router';
import { ProblemError } from '~/api/client';
import { queryClient } from '~/api/query-client';
import { sessionQuery } from '~/api/session';
import { Shell } from '~/app/shell';
import { openOutbox } from '~/offline/writes';
import { LoadFailed, Loading } from '~/parts/notice';
import { SignIn } from '~/views/accounts/sign-in';
import { Today } from '~/views/today/today';

const text = (value: unknown) => (typeof value === 'string' && value ? value : undefined);

const root = createRootRoute();

const signIn = createRoute({
  getParentRoute: () => root,
  path: '/sign-in',
  component: SignIn,
  validateSearch: (search): { next?: string } =>
    typeof search.next === 'string' && search.next.startsWith('/') ? { next: search.next } : {},
});

/** Everything behind the sign-in. */
const inside = createRoute({
  getParentRoute: () => root,
  id: 'inside',
  component: Shell,
  beforeLoad: async ({ location }) => {
    try {
      const { email } = await queryClient.ensureQueryData(sessionQuery);
      await openOutbox(email);
    } catch (error) {
      if (error instanceof ProblemError && error.problem.status === 401) {
        throw redirect({ to: '/sign-in', search: location.href === '/' ? {} : { next: location.href } });
      }
      throw error;
    }
  },
});

const today = createRoute({ getParentRoute: () => inside, path: '/', component: Today });
const clients = createRoute({
  getParentRoute: () => inside,
  path: '/clients',
  component: lazyRouteComponent(() => import('~/views/clients/client-list'), 'ClientList'),
});
const newClient = createRoute({
  getParentRoute: () => inside,
  path: '/clients/new',
  component: lazyRouteComponent(() => import('~/views/clients/client-page'), 'NewClient'),
});
const client = createRoute({
  getParentRoute: () => inside,
  path: '/clients/$clientId',
  component: lazyRouteComponent(() => import('~/views/clients/client-page'), 'ClientPage'),
});
const recipes = createRoute({
  getParentRoute: () => inside,
  path: '/recipes',
  component: lazyRouteComponent(() => import('~/views/recipes/recipe-list'), 'RecipeList'),
});
const newRecipe = createRoute({
  getParentRoute: () => inside,
  path: '/recipes/new',
  component: lazyRouteComponent(() => import('~/views/recipes/recipe-page'), 'NewRecipe'),
});
export type WhoCanEatSearch = { sort?: Order; recipe?: string; client?: string; show?: 'fits' | 'not' };
export type Order = 'nearest' | 'recipe' | 'client';

const whoCanEat = createRoute({
  getParentRoute: () => inside,
  path: '/recipes/who-can-eat',
  component: lazyRouteComponent(() => import('~/views/surveys/who-can-eat'), 'WhoCanEat'),
  validateSearch: (search): WhoCanEatSearch => {
    const found: WhoCanEatSearch = {};
    if (search.sort === 'recipe' || search.sort === 'client') found.sort = search.sort;
    if (search.show === 'fits' || search.show === 'not') found.show = search.show;
    for (const key of ['recipe', 'client'] as const) {
      const value = text(search[key]);
      if (value) found[key] = value;
    }
    return found;
  },
});
const recipe = createRoute({
  getParentRoute: () => inside,
  path: '/recipes/$recipeId',
  component: lazyRouteComponent(() => import('~/views/recipes/recipe-page'), 'RecipePage'),
});

export type PantrySearch = { text?: string; group?: string; state?: string; food?: string };

const pantry = createRoute({
  getParentRoute: () => inside,
  path: '/pantry',
  component: lazyRouteComponent(() => import('~/views/pantry/pantry'), 'Pantry'),
  validateSearch: (search): PantrySearch => {
    const found: PantrySearch = {};
    for (const key of ['text', 'group', 'state', 'food'] as const) {
      const value = text(search[key]);
      if (value) found[key] = value;
    }
    return found;
  },
});
const newFood = createRoute({
  getParentRoute: () => inside,
  path: '/pantry/new',
  component: lazyRouteComponent(() => import('~/views/pantry/food-form'), 'NewFood'),
  validateSearch: (search): { copy?: string } => {
    const copy = text(search.copy);
    return copy ? { copy } : {};
  },
});
const importFoods = createRoute({
  getParentRoute: () => inside,
  path: '/pantry/import',
  component: lazyRouteComponent(() => import('~/views/pantry/import-foods'), 'ImportFoods'),
});
const ownFood = createRoute({
  getParentRoute: () => inside,
  path: '/pantry/$foodId',
  component: lazyRouteComponent(() => import('~/views/pantry/food-form'), 'FoodPage'),
});
const yields = createRoute({
  getParentRoute: () => inside,
  path: '/yields',
  component: lazyRouteComponent(() => import('~/views/learn/yields-page'), 'YieldsPage'),
});
const settings = createRoute({
  getParentRoute: () => inside,
  path: '/settings',
  component: lazyRouteComponent(() => import('~/views/kitchen/settings-page'), 'SettingsPage'),
});
const batches = createRoute({
  getParentRoute: () => inside,
  path: '/batches',
  component: lazyRouteComponent(() => import('~/views/batches/batch-list'), 'BatchList'),
});
const newBatch = createRoute({
  getParentRoute: () => inside,
  path: '/batches/new',
  component: lazyRouteComponent(() => import('~/views/batches/new-batch'), 'NewBatch'),
});
export type PlanSearch = { view?: 'days' | 'beside'; other?: string; panel?: string };

const plan = createRoute({
  getParentRoute: () => inside,
  path: '/batches/$batchId',
  validateSearch: (search): PlanSearch => {
    const found: PlanSearch = {};
    if (search.view === 'days' || search.view === 'beside') found.view = search.view;
    const other = text(search.other);
    if (other) found.other = other;
    const panel = text(search.panel);
    if (panel) found.panel = panel;
    return found;
  },
  component: lazyRouteComponent(() => import('~/views/batch/frame/plan-page'), 'PlanPage'),
});

const pages = [
  today,
  clients,
  newClient,
  client,
  recipes,
  newRecipe,
  whoCanEat,
  recipe,
  pantry,
  newFood,
  importFoods,
  ownFood,
  yields,
  settings,
  batches,
  newBatch,
  plan,
];

export const router = createRouter({
  routeTree: root.addChildren([signIn, inside.addChildren(pages)]),
  defaultPendingComponent: () => <Loading what="the page" />,
  defaultErrorComponent: ({ error, reset }) => <LoadFailed error={error} retry={reset} />,
  defaultNotFoundComponent: () => (
    <div className="p-8">
      <h1 className="mb-2 text-2xl">There is no such page</h1>
      <p>
        Go back, or start from{' '}
        <a className="underline" href="/">
          Today
        </a>
        .
      </p>
    </div>
  ),
});

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router;
  }
}
