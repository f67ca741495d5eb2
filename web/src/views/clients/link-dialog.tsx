import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas, toProblem } from '~/api/client';
import { faultFinder } from '~/lib/faults';
import { dayAndYear, moment, plural } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';
import { Field, Tick } from '~/parts/field';
import { NewLink } from '~/parts/new-link';
import { LoadFailed, Loading } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';

const NONE = new Map<string, string>();

/** A client's own page: its links, made and revoked here, and words that came by it. */
export function LinkDialog({ clientId, onClose }: { clientId: string; onClose: () => void }) {
  const queries = useQueryClient();
  const key = ['clients', clientId, 'page'];
  const found = useQuery({
    queryKey: key,
    queryFn: () =>
      ask(api.GET('/api/v1/clients/{client_id}/page', { params: { path: { client_id: clientId } } })),
  });
  const [made, setMade] = useState<Schemas['NewLinkView'] | null>(null);
  const [days, setDays] = useState('30');
  const [macros, setMacros] = useState(true);
  const read = readNumber(days);
  const told = { about: `page of ${clientId}`, href: '/clients' };
  const renew = () => queries.invalidateQueries({ queryKey: key });
  const make = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/clients/{client_id}/links', {
          params: { path: { client_id: clientId } },
          body: { address: window.location.origin, days: read.value ?? 0, shows_macros: macros },
        }),
        { ...told, words: ['A link for a client'] },
      ),
    onSuccess: (link) => {
      setMade(link);
      void renew();
    },
  });
  const revoke = useMutation({
    mutationFn: (id: string) =>
      write(
        call('post', '/api/v1/clients/{client_id}/links/{link_id}/revoked', {
          params: { path: { client_id: clientId, link_id: id } },
        }),
        { ...told, words: ['A link revoked'] },
      ),
    onSuccess: (page) => queries.setQueryData(key, page),
    onError: showProblem,
  });
  const markRead = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/clients/{client_id}/words/read', { params: { path: { client_id: clientId } } }),
        { ...told, words: ['Words of a client read'] },
      ),
    onSuccess: (page) => queries.setQueryData(key, page),
    onError: showProblem,
  });
  const problem = make.isError ? toProblem(make.error) : null;
  const fault = faultFinder(NONE, problem);
  const page = found.data;
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      wide
      title={page ? `The page of ${page.client}` : 'Their page'}
      detail="What to eat today, how to warm it up, what to thaw tonight. It opens by a link, without an account, and shows nobody else."
    >
      {found.isError ? <LoadFailed error={found.error} retry={() => void found.refetch()} /> : null}
      {found.isPending ? <Loading what="the links" /> : null}
      {made ? <NewLink made={made} /> : null}
      {page ? (
        <>
          <form
            className="flex flex-wrap items-end gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              if (!read.fault) make.mutate();
            }}
          >
            <div className="w-32">
              <Field
                label="Works for"
                unit="days"
                inputMode="numeric"
                value={days}
                onChange={(event) => setDays(event.target.value)}
                fault={read.fault ?? fault('/days')}
              />
            </div>
            <Tick label="With macros" checked={macros} onChange={setMacros} />
            <Button type="submit" look={made ? 'plain' : 'main'} disabled={make.isPending}>
              {page.links.length ? 'Make another link' : 'Make a link'}
            </Button>
          </form>
          {problem && !problem.errors?.length ? <p className="mt-2 text-alert">{problem.detail}</p> : null}
          {fault('/address') ? <p className="mt-2 text-alert">{fault('/address')}</p> : null}
          <ul aria-label="Links" className="mt-4 divide-y divide-steel">
            {page.links.map((link) => (
              <li key={link.id} className="flex items-center justify-between gap-4 py-2">
                <span>
                  {link.is_open
                    ? `Works until ${dayAndYear(link.expires_at)}`
                    : link.revoked_at
                      ? `Revoked ${moment(link.revoked_at)}`
                      : `Expired ${dayAndYear(link.expires_at)}`}
                  <span className="block text-sm text-muted">
                    {link.seen_at
                      ? `opened ${plural(link.opened, 'time')}, last ${moment(link.seen_at)}`
                      : 'not opened yet'}
                    , made {moment(link.made_at)} by {link.made_by}
                  </span>
                </span>
                {link.is_open ? (
                  <Button
                    look="alert"
                    disabled={revoke.isPending}
                    onClick={() => revoke.mutate(link.id)}
                    aria-label={`Revoke the link of ${moment(link.made_at)}`}
                  >
                    Revoke
                  </Button>
                ) : null}
              </li>
            ))}
          </ul>
          {page.words.length ? (
            <section aria-label="Words" className="mt-4">
              <div className="flex items-center justify-between gap-3">
                <h3 className="text-base">Words from {page.client}</h3>
                {page.words.some((one) => one.read_at === null) ? (
                  <Button disabled={markRead.isPending} onClick={() => markRead.mutate()}>
                    Read
                  </Button>
                ) : null}
              </div>
              <ul>
                {page.words.map((one) => (
                  <li key={one.id} className="border-t border-steel py-2">
                    <p className={`whitespace-pre-wrap ${one.read_at ? '' : 'font-semibold'}`}>{one.text}</p>
                    <p className="text-sm text-muted">{moment(one.made_at)}</p>
                  </li>
                ))}
              </ul>
            </section>
          ) : null}
        </>
      ) : null}
    </Overlaid>
  );
}
