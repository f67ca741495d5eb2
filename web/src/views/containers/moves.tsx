import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { type Schemas, toProblem } from '~/api/client';
import { plural } from '~/lib/format';
import { asText, readNumber } from '~/lib/numbers';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Close, Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { ProblemNotice } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';
import { clientsQuery } from '~/views/clients/queries';
import type { Kind } from '~/views/containers/queries';

type Move = Schemas['ContainerMoveInput'];

const moved = (kind: Kind, client: string, body: Move) =>
  write(call('post', '/api/v1/containers/moves', { body }), {
    about: 'containers',
    words: [`${plural(Number(body.count), kind.name)}, ${client}: ${body.move}`],
    href: '/containers',
  });

/** What a client has of a kind: it comes back, or is lost. */
export function Moved({ kind, out, onMoved }: { kind: Kind; out: Schemas['OutView']; onMoved: () => void }) {
  const [count, setCount] = useState(asText(out.count));
  const read = readNumber(count);
  const move = useMutation({
    mutationFn: (how: Move['move']) =>
      moved(kind, out.client, {
        kind_id: kind.id,
        client_id: out.client_id,
        move: how,
        count: read.value ?? 0,
      }),
    onSuccess: onMoved,
    onError: showProblem,
  });
  const isOff = move.isPending || read.value === null || Boolean(read.fault);
  return (
    <li className="flex min-h-12 flex-wrap items-center gap-x-4 gap-y-1">
      <span className="min-w-56 flex-1">
        <b className="figures">{out.count}</b> out with {out.client}
      </span>
      <span className="w-20">
        <Field
          hideLabel
          label={`How many of ${out.client}’s`}
          inputMode="numeric"
          value={count}
          onChange={(event) => setCount(event.target.value)}
        />
      </span>
      <Button disabled={isOff} onClick={() => move.mutate('came back')}>
        Came back
      </Button>
      <Button look="quiet" disabled={isOff} onClick={() => move.mutate('lost')}>
        Lost
      </Button>
    </li>
  );
}

/** Containers of a kind go out with a client, beside those that leave with a packed batch. */
export function GiveOut({
  kind,
  onClose,
  onMoved,
}: {
  kind: Kind;
  onClose: () => void;
  onMoved: () => void;
}) {
  const clients = useQuery(clientsQuery);
  const [client, setClient] = useState('');
  const [count, setCount] = useState('');
  const read = readNumber(count);
  const name = clients.data?.find((one) => one.id === client)?.name ?? '';
  const give = useMutation({
    mutationFn: () =>
      moved(kind, name, { kind_id: kind.id, client_id: client, move: 'went out', count: read.value ?? 0 }),
    onSuccess: onMoved,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    give.mutate();
  };
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      title={`${kind.name}: give out`}
      detail={`${kind.there} are empty here.`}
    >
      <form onSubmit={submit} noValidate className="space-y-4">
        <Choice
          label="With whom"
          options={(clients.data ?? []).map((one) => ({ value: one.id, label: one.name }))}
          value={client}
          onValue={setClient}
        />
        <Field
          label="How many"
          inputMode="numeric"
          value={count}
          onChange={(event) => setCount(event.target.value)}
          fault={read.fault}
        />
        {give.isError ? <ProblemNotice problem={toProblem(give.error)} /> : null}
        <div className="flex justify-end gap-3">
          <Close>
            <Button>Cancel</Button>
          </Close>
          <Button type="submit" look="main" disabled={!client || read.value === null || give.isPending}>
            Write it down
          </Button>
        </div>
      </form>
    </Overlaid>
  );
}
