import {
  createRootRoute,
  createRoute,
  createRouter,
  lazyRouteComponent,
  redirect,
} from '@tanstack/react-router';
import { ProblemError } from '~/api/client';
import { queryClient } from '~/api/query-client';
import { homeOf, mayDo, sessionQuery } from '~/api/session';
import { Shell } from '~/app/shell';
import { textsOf } from '~/lib/search';
import { openOutbox } from '~/offline/writes';
import { LoadFailed, Loading } from '~/parts/notice';
import { Pair } from '~/views/accounts/pair';
import { SignIn } from '~/views/accounts/sign-in';
import { readPlan, readTrip } from '~/views/batch/frame/search';
import { readWanted } from '~/views/outbox/search';
import { readPantry } from '~/views/pantry/search';
import { readWhoCanEat } from '~/views/surveys/search';
import { Today } from '~/views/today/today';
import { readWalk } from '~/views/trip/search';

const root = createRootRoute();

const signIn = createRoute({
  getParentRoute: () => root,
  path: '/sign-in',
  component: SignIn,
  validateSearch: (search): { next?: string } =>
    typeof search.next === 'string' && search.next.startsWith('/') ? { next: search.next } : {},
});

const pair = createRoute({
  getParentRoute: () => root,
  path: '/pair',
  component: Pair,
  validateSearch: (search) => textsOf(search, ['code']),
});

/** Where a helper has business, by their rights: from elsewhere they are led to where they begin. */
const FOR_SHOPPERS = /^\/trips(\/|$)/;
const FOR_COOKS = /^\/(batches(\/[^/]+\/(cook|weigh|fill))?|scales\/[^/]+)\/?$/;

/** Everything behind the sign-in. */
const inside = createRoute({
  getParentRoute: () => root,
  id: 'inside',
  component: Shell,
  beforeLoad: async ({ location }) => {
    try {
      const account = await queryClient.ensureQueryData(sessionQuery);
      await openOutbox(account.email);
      const may = mayDo(account);
      const isTheirs =
        may.isCoach ||
        (may.shop && FOR_SHOPPERS.test(location.pathname)) ||
        (may.cook && FOR_COOKS.test(location.pathname));
      if (!isTheirs) throw redirect({ to: homeOf(account) });
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
const forms = createRoute({
  getParentRoute: () => inside,
  path: '/clients/forms',
  component: lazyRouteComponent(() => import('~/views/clients/forms/forms-page'), 'FormsPage'),
  validateSearch: (search) => textsOf(search, ['client']),
});
const form = createRoute({
  getParentRoute: () => inside,
  path: '/clients/forms/$formId',
  component: lazyRouteComponent(() => import('~/views/clients/forms/review-page'), 'ReviewPage'),
});
const weeks = createRoute({
  getParentRoute: () => inside,
  path: '/clients/$clientId/weeks',
  component: lazyRouteComponent(() => import('~/views/clients/weeks/weeks-page'), 'WeeksPage'),
});
const outbox = createRoute({
  getParentRoute: () => inside,
  path: '/outbox',
  component: lazyRouteComponent(() => import('~/views/outbox/outbox-page'), 'OutboxPage'),
  validateSearch: readWanted,
});
const postOffice = createRoute({
  getParentRoute: () => inside,
  path: '/post-office',
  component: lazyRouteComponent(() => import('~/views/outbox/post-office-page'), 'PostOfficePage'),
});
const client = createRoute({
  getParentRoute: () => inside,
  path: '/clients/$clientId',
  validateSearch: (search) => textsOf(search, ['page']),
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
const whoCanEat = createRoute({
  getParentRoute: () => inside,
  path: '/recipes/who-can-eat',
  component: lazyRouteComponent(() => import('~/views/surveys/who-can-eat'), 'WhoCanEat'),
  validateSearch: readWhoCanEat,
});
const recipe = createRoute({
  getParentRoute: () => inside,
  path: '/recipes/$recipeId',
  component: lazyRouteComponent(() => import('~/views/recipes/recipe-page'), 'RecipePage'),
});

const pantry = createRoute({
  getParentRoute: () => inside,
  path: '/pantry',
  component: lazyRouteComponent(() => import('~/views/pantry/pantry'), 'Pantry'),
  validateSearch: readPantry,
});
const newFood = createRoute({
  getParentRoute: () => inside,
  path: '/pantry/new',
  component: lazyRouteComponent(() => import('~/views/pantry/food-form'), 'NewFood'),
  validateSearch: (search) => textsOf(search, ['copy']),
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
const house = createRoute({
  getParentRoute: () => inside,
  path: '/house',
  component: lazyRouteComponent(() => import('~/views/house/house-page'), 'HousePage'),
});
const houseHistory = createRoute({
  getParentRoute: () => inside,
  path: '/house/history',
  component: lazyRouteComponent(() => import('~/views/house/history-page'), 'HistoryPage'),
});
const containers = createRoute({
  getParentRoute: () => inside,
  path: '/containers',
  component: lazyRouteComponent(() => import('~/views/containers/containers-page'), 'ContainersPage'),
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
const newKitchen = createRoute({
  getParentRoute: () => inside,
  path: '/kitchens/new',
  component: lazyRouteComponent(() => import('~/views/kitchen/kitchen-page'), 'NewKitchen'),
});
const kitchen = createRoute({
  getParentRoute: () => inside,
  path: '/kitchens/$kitchenId',
  component: lazyRouteComponent(() => import('~/views/kitchen/kitchen-page'), 'KitchenPage'),
});
const simulated = createRoute({
  getParentRoute: () => inside,
  path: '/scales/$instrumentId',
  component: lazyRouteComponent(() => import('~/views/kitchen/simulated-page'), 'SimulatedPage'),
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
const plan = createRoute({
  getParentRoute: () => inside,
  path: '/batches/$batchId',
  validateSearch: readPlan,
  component: lazyRouteComponent(() => import('~/views/batch/plan-page'), 'PlanPage'),
});
const shop = createRoute({
  getParentRoute: () => inside,
  path: '/batches/$batchId/shop',
  validateSearch: readTrip,
  component: lazyRouteComponent(() => import('~/views/batch/shop/shop-page'), 'ShopPage'),
});

const cook = createRoute({
  getParentRoute: () => inside,
  path: '/batches/$batchId/cook',
  component: lazyRouteComponent(() => import('~/views/batch/cook/cook-page'), 'CookPage'),
});

const weigh = createRoute({
  getParentRoute: () => inside,
  path: '/batches/$batchId/weigh',
  validateSearch: (search) => textsOf(search, ['pot']),
  component: lazyRouteComponent(() => import('~/views/batch/weigh-page'), 'WeighPage'),
});
const fill = createRoute({
  getParentRoute: () => inside,
  path: '/batches/$batchId/fill',
  component: lazyRouteComponent(() => import('~/views/batch/fill/fill-page'), 'FillPage'),
});

const handOver = createRoute({
  getParentRoute: () => inside,
  path: '/batches/$batchId/hand-over',
  validateSearch: (search) => textsOf(search, ['client']),
  component: lazyRouteComponent(() => import('~/views/batch/hand-over/hand-over-page'), 'HandOverPage'),
});

const labelled = createRoute({
  getParentRoute: () => inside,
  path: '/c/$code',
  component: lazyRouteComponent(() => import('~/views/batch/hand-over/container-page'), 'ContainerPage'),
});

const labelPrinter = createRoute({
  getParentRoute: () => inside,
  path: '/label-printer',
  component: lazyRouteComponent(() => import('~/views/batch/hand-over/printer-page'), 'PrinterPage'),
});

const trips = createRoute({
  getParentRoute: () => inside,
  path: '/trips',
  component: lazyRouteComponent(() => import('~/views/trip/trip-list'), 'TripList'),
});
const trip = createRoute({
  getParentRoute: () => inside,
  path: '/trips/$tripId',
  validateSearch: readWalk,
  component: lazyRouteComponent(() => import('~/views/trip/trip-page'), 'TripPage'),
});

const pages = [
  today,
  clients,
  newClient,
  forms,
  form,
  weeks,
  outbox,
  postOffice,
  client,
  recipes,
  newRecipe,
  whoCanEat,
  recipe,
  pantry,
  newFood,
  importFoods,
  ownFood,
  house,
  houseHistory,
  containers,
  yields,
  settings,
  newKitchen,
  kitchen,
  simulated,
  batches,
  newBatch,
  plan,
  shop,
  cook,
  weigh,
  fill,
  handOver,
  labelled,
  labelPrinter,
  trips,
  trip,
];

export const router = createRouter({
  routeTree: root.addChildren([signIn, pair, inside.addChildren(pages)]),
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
