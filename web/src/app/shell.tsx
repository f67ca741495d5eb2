import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, Outlet, useNavigate } from '@tanstack/react-router';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useState } from 'react';
import { Toaster, toast } from 'sonner';
import { api, ask } from '~/api/client';
import { mayDo, sessionQuery } from '~/api/session';
import { FindAnything } from '~/app/find-anything';
import { KeysHelp } from '~/app/keys-help';
import { SignInAgain } from '~/app/sign-in-again';
import { applyTheme, readTheme } from '~/app/theme';
import { WaitingList } from '~/app/waiting-list';
import { plural } from '~/lib/format';
import { EVERYWHERE, useShortcut } from '~/lib/keys';
import { forgetDrafts } from '~/lib/use-draft';
import { tellWhoIsHere, watchPerson } from '~/offline/person';
import { forgetOpened, onNewVersion } from '~/offline/shell';
import { getOutbox } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';

const PLACES = [
  { to: '/', label: 'Today' },
  { to: '/clients', label: 'Clients' },
  { to: '/pantry', label: 'Pantry' },
  { to: '/recipes', label: 'Recipes' },
  { to: '/batches', label: 'Batches' },
  { to: '/yields', label: 'Yields' },
  { to: '/outbox', label: 'Outbox' },
] as const;

/** Where a helper goes, by their rights. */
const HELPERS = [
  { to: '/batches', label: 'Cooking', right: 'cook' },
  { to: '/trips', label: 'Shopping', right: 'shop' },
] as const;

const FIND = { caption: EVERYWHERE, key: '/', words: 'find anything' };
const HELP = { caption: EVERYWHERE, key: '?', words: 'show these keys' };

const KEPT = 'It stays in this browser, unseen by others, and is sent when you sign in here again. Sign out?';

export function Shell() {
  const [finding, setFinding] = useState(false);
  const [helping, setHelping] = useState(false);

  const account = useQuery(sessionQuery).data;
  const email = account?.email;
  const isHelper = account?.rights != null;
  const places = account && isHelper ? HELPERS.filter(({ right }) => mayDo(account)[right]) : PLACES;
  useEffect(() => (email ? watchPerson(email) : undefined), [email]);
  useEffect(
    () =>
      onNewVersion((take) =>
        toast('A new version of Yantai is there. It is taken when you say so.', {
          duration: Number.POSITIVE_INFINITY,
          action: { label: 'Take it now', onClick: take },
        }),
      ),
    [],
  );
  useShortcut(FIND, () => setFinding(true));
  useShortcut(HELP, () => setHelping(true));

  return (
    <>
      <a
        href="#main"
        className="absolute left-2 top-2 z-50 -translate-y-20 rounded-lg bg-sheet px-4 py-2 focus:translate-y-0"
      >
        Skip to the content
      </a>
      <header className="print:hidden flex min-h-13 flex-wrap items-center gap-x-5 bg-bar px-5 text-on-bar">
        <Link to="/" className="font-heading text-[22px] font-bold">
          Yantai
        </Link>
        <nav
          aria-label="Main"
          className="flex flex-1 flex-wrap gap-x-1 max-sm:order-last max-sm:-mx-2.5 max-sm:basis-full"
        >
          {places.map((place) => (
            <Link
              key={place.to}
              to={place.to}
              activeOptions={{ exact: place.to === '/' }}
              className="inline-flex min-h-11 items-center px-2.5 text-on-bar-muted hover:text-on-bar"
              activeProps={{ className: 'font-bold !text-on-bar' }}
            >
              {place.label}
            </Link>
          ))}
        </nav>
        <button
          type="button"
          hidden={isHelper}
          onClick={() => setFinding(true)}
          className="inline-flex min-h-11 items-center gap-2 text-sm text-on-bar-muted hover:text-on-bar"
        >
          Find anything{' '}
          <kbd className="figures rounded border border-on-bar-muted px-1.5 py-0.5 text-xs">/</kbd>
        </button>
        <button
          type="button"
          onClick={() => setHelping(true)}
          className="hidden sm:inline-flex min-h-11 items-center gap-2 text-sm text-on-bar-muted hover:text-on-bar"
        >
          Keys <kbd className="figures rounded border border-on-bar-muted px-1.5 py-0.5 text-xs">?</kbd>
        </button>
        <WaitingList />
        <AccountMenu />
      </header>
      <Outlet />
      <FindAnything open={finding} onOpenChange={setFinding} />
      <KeysHelp open={helping} onOpenChange={setHelping} />
      <SignInAgain />
      <Toaster position="bottom-center" />
    </>
  );
}

function AccountMenu() {
  const account = useQuery(sessionQuery);
  const client = useQueryClient();
  const navigate = useNavigate();
  const [theme, setTheme] = useState(readTheme);
  const leave = async () => {
    try {
      const left = getOutbox().entries.length;
      if (left && !window.confirm(`${plural(left, 'change')} not saved yet. ${KEPT}`)) return;
      await ask(api.DELETE('/api/v1/session'));
      tellWhoIsHere(null);
      forgetOpened();
      client.clear();
      forgetDrafts();
      getOutbox().close();
      await navigate({ to: '/sign-in', search: {} });
    } catch (error) {
      showProblem(error);
    }
  };
  const turnTheme = () => {
    const next = theme === 'kitchen' ? 'paper' : 'kitchen';
    applyTheme(next);
    setTheme(next);
  };
  const item = 'flex min-h-11 items-center rounded-lg px-3 data-[highlighted]:bg-chosen';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="min-h-11 text-sm text-on-bar">
        {account.data?.name ?? 'Account'}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-30 min-w-56 rounded-xl border border-edge bg-sheet p-1 text-ink shadow-lg"
        >
          <DropdownMenu.Label className="px-3 py-2 text-sm text-muted">
            {account.data?.workspace}
          </DropdownMenu.Label>
          <DropdownMenu.Item className={item} onSelect={turnTheme}>
            {theme === 'kitchen' ? 'Light theme' : 'Dark kitchen theme'}
          </DropdownMenu.Item>
          {account.data?.rights == null ? (
            <DropdownMenu.Item className={item} onSelect={() => void navigate({ to: '/settings' })}>
              Settings
            </DropdownMenu.Item>
          ) : null}
          <DropdownMenu.Item className={item} onSelect={() => void leave()}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
