import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask } from '~/api/client';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';
import { showProblem } from '~/parts/show-problem';

const aislesQuery = {
  queryKey: ['aisles'],
  queryFn: () => ask(api.GET('/api/v1/aisles')),
};

/** The order in which a shop is walked: dragged, or moved by its arrows. */
export function AisleOrder({ onClose }: { onClose: () => void }) {
  const queries = useQueryClient();
  const aisles = useQuery(aislesQuery);
  const [moved, setMoved] = useState<string[] | null>(null);
  const [dragged, setDragged] = useState<string | null>(null);
  const order = moved ?? aisles.data?.aisles ?? [];
  const move = (name: string, to: number) => {
    const rest = order.filter((one) => one !== name);
    setMoved([...rest.slice(0, to), name, ...rest.slice(to)]);
  };
  const save = useMutation({
    mutationFn: (sent: string[]) =>
      write(call('put', '/api/v1/aisles', { body: { aisles: sent } }), {
        about: 'aisles',
        words: ['The order of the aisles'],
        href: '/',
      }),
    onSuccess: (fresh) => {
      queries.setQueryData(aislesQuery.queryKey, fresh);
      for (const queryKey of [['plans'], ['trips']]) void queries.invalidateQueries({ queryKey });
      onClose();
    },
    onError: showProblem,
  });
  return (
    <Overlaid
      open
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title="The order of the aisles"
      detail="As you walk your shop. Drag an aisle, or move it by its arrows."
    >
      <ol aria-label="Aisles" className="divide-y divide-steel border-y border-steel">
        {order.map((name, at) => (
          <li
            key={name}
            draggable
            onDragStart={() => setDragged(name)}
            onDragOver={(event) => event.preventDefault()}
            onDragEnter={() => {
              if (dragged && dragged !== name) move(dragged, at);
            }}
            onDragEnd={() => setDragged(null)}
            className={`flex min-h-12 cursor-grab items-center justify-between gap-2 px-2 ${
              name === dragged ? 'bg-chosen' : ''
            }`}
          >
            <span className="first-letter:uppercase">{name}</span>
            <span className="flex">
              <Button
                look="quiet"
                aria-label={`${name} earlier`}
                disabled={at === 0}
                onClick={() => move(name, at - 1)}
              >
                ↑
              </Button>
              <Button
                look="quiet"
                aria-label={`${name} later`}
                disabled={at === order.length - 1}
                onClick={() => move(name, at + 1)}
              >
                ↓
              </Button>
            </span>
          </li>
        ))}
      </ol>
      <div className="mt-4 flex gap-2">
        <Button look="main" disabled={moved === null || save.isPending} onClick={() => save.mutate(order)}>
          Save
        </Button>
        <Button disabled={!aisles.data?.is_own || save.isPending} onClick={() => save.mutate([])}>
          The usual order
        </Button>
      </div>
    </Overlaid>
  );
}
