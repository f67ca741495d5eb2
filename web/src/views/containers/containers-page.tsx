import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { plural, price, wholeNumber } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';
import { KindForm } from '~/views/containers/kind-form';
import { GiveOut, Moved } from '~/views/containers/moves';
import { containersQuery, type Kind } from '~/views/containers/queries';

/** The containers of the house: what one holds, how many are empty, full, or out with whom. */
export function ContainersPage() {
  const found = useQuery(containersQuery);
  const queries = useQueryClient();
  const [open, setOpen] = useState<Kind | 'new' | null>(null);
  const [given, setGiven] = useState<Kind | null>(null);
  const refresh = () => void queries.invalidateQueries({ queryKey: containersQuery.queryKey });
  const putAway = useMutation({
    mutationFn: (kind: Kind) =>
      write(
        call('put', '/api/v1/containers/{kind_id}/archived', {
          params: { path: { kind_id: kind.id }, query: { archived: true } },
        }),
        { about: 'containers', words: [`${kind.name} put away`], href: '/containers' },
      ),
    onSuccess: refresh,
    onError: showProblem,
  });
  if (found.isError) return <LoadFailed error={found.error} retry={() => void found.refetch()} />;
  if (!found.data) return <Loading what="the containers" />;
  const kinds = found.data;
  const sum = (of: (kind: Kind) => number) => kinds.reduce((total, kind) => total + of(kind), 0);
  return (
    <Page
      title="Containers"
      detail={
        kinds.length
          ? `${sum((kind) => kind.there)} of ${plural(
              sum((kind) => kind.owned),
              'container',
            )} are empty here`
          : ''
      }
      actions={
        <>
          <Link to="/house" className={buttonClass()}>
            In the house
          </Link>
          <Button look="main" onClick={() => setOpen('new')}>
            Add a kind
          </Button>
        </>
      }
    >
      {kinds.length === 0 ? (
        <Empty title="No container is written down yet">
          <p>
            Write down what there is, by size: a plan then says when it has more portions than there are
            containers, and the scale knows an empty one that was not tared.
          </p>
        </Empty>
      ) : (
        <ul className="divide-y divide-steel border-y border-steel">
          {kinds.map((kind) => (
            <li key={kind.id} aria-label={kind.name} className="py-3">
              <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
                <div className="min-w-56 flex-1">
                  <p className="text-lg font-semibold">{kind.name}</p>
                  <p className="text-sm text-muted">{kindWords(kind)}</p>
                </div>
                <p className="figures text-right">
                  <span className="text-3xl font-bold">{kind.there}</span>{' '}
                  <span className="font-sans text-sm text-muted">of {kind.owned} empty</span>
                </p>
                <div className="flex flex-wrap gap-2">
                  <Button onClick={() => setGiven(kind)}>Give out</Button>
                  <Button onClick={() => setOpen(kind)}>Change</Button>
                  <Button look="quiet" onClick={() => putAway.mutate(kind)}>
                    Put away
                  </Button>
                </div>
              </div>
              {kind.full ? (
                <p className="mt-1 text-sm">
                  <b>{kind.full} full</b>, packed and not handed over yet
                </p>
              ) : null}
              {kind.out.length ? (
                <ul aria-label={`Out: ${kind.name}`} className="mt-1">
                  {kind.out.map((out) => (
                    <Moved key={out.client_id} kind={kind} out={out} onMoved={refresh} />
                  ))}
                </ul>
              ) : null}
            </li>
          ))}
        </ul>
      )}
      {open ? (
        <KindForm
          of={open === 'new' ? null : open}
          onClose={() => setOpen(null)}
          onSaved={() => {
            refresh();
            setOpen(null);
          }}
        />
      ) : null}
      {given ? (
        <GiveOut
          kind={given}
          onClose={() => setGiven(null)}
          onMoved={() => {
            refresh();
            setGiven(null);
          }}
        />
      ) : null}
    </Page>
  );
}

const STANDS = {
  freezer: 'freezer',
  oven: 'oven',
  microwave: 'microwave',
  dishwasher: 'dishwasher',
} as const;

/** What one holds, weighs and stands. */
function kindWords(kind: Kind): string {
  const stands = Object.entries(STANDS).flatMap(([key, words]) =>
    kind[key as keyof typeof STANDS] ? [words] : [],
  );
  return [
    `${wholeNumber(kind.ml)} ml`,
    kind.empty_g === null ? 'empty weight not known' : `${kind.empty_g} g empty`,
    kind.lid_g === null ? '' : `lid ${kind.lid_g} g`,
    kind.deposit === null ? '' : `deposit ${price(kind.deposit)}`,
    stands.length ? `for ${stands.join(', ')}` : 'for none of freezer, oven, microwave, dishwasher',
  ]
    .filter(Boolean)
    .join(', ');
}
