import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { day, weight } from '~/lib/format';
import { asWeight, readWeight } from '~/lib/numbers';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';
import { useSaving } from '~/parts/form-dialog';
import { WeightField } from '~/parts/weight-field';

type Eaten = Schemas['EatenContainerView'];

/** What was left of a container that came back: of each part, weighed, or nothing. */
export function LeftDialog({
  clientId,
  one,
  onClose,
}: {
  clientId: string;
  one: Eaten;
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const [typed, setTyped] = useState<Record<string, string>>(() =>
    Object.fromEntries(
      one.parts.flatMap((part) => (part.left_g ? [[part.component_id, asWeight(part.left_g)]] : [])),
    ),
  );
  const saving = useSaving(
    (body: Schemas['EatenInput']) =>
      write(
        call('post', '/api/v1/clients/{client_id}/eaten', {
          params: { path: { client_id: clientId } },
          body,
        }),
        {
          about: `weeks of ${clientId}`,
          words: [`What was left of ${one.dish}`],
          href: `/clients/${clientId}/weeks`,
        },
      ),
    () => {
      void queries.invalidateQueries({ queryKey: ['clients', clientId, 'weeks'] });
      onClose();
    },
  );
  const spot = { row_id: one.row_id, container: one.container };
  const read = one.parts.map((part) => ({ part, ...readWeight(typed[part.component_id] ?? '') }));
  const wrong = read.some((each) => each.fault);
  const left = Object.fromEntries(
    read.flatMap(({ part, value }) => (value ? [[part.component_id, value]] : [])),
  );
  const isLeft = Object.keys(left).length > 0;
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      title={`${one.dish}, ${one.container} of ${one.of}`}
      detail={`${one.meal}, ${day(one.on)}. Weigh what is left of each part; what is empty was eaten.`}
    >
      <form
        noValidate
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (wrong) return;
          saving.save(isLeft ? { ...spot, event: 'left', left_parts: left } : { ...spot, event: 'eaten' });
        }}
      >
        {read.map(({ part, fault }) => (
          <WeightField
            key={part.component_id}
            label={`${part.name}, of ${weight(part.grams)}`}
            value={typed[part.component_id] ?? ''}
            fault={fault}
            onText={(text) => setTyped({ ...typed, [part.component_id]: text })}
          />
        ))}
        {saving.fault('/left_parts') ? (
          <p role="alert" className="font-medium text-alert">
            {saving.fault('/left_parts')}
          </p>
        ) : null}
        <div className="flex flex-wrap justify-end gap-3">
          {one.told ? (
            <Button disabled={saving.isSaving} onClick={() => saving.save({ ...spot, event: 'taken back' })}>
              Nothing is known
            </Button>
          ) : null}
          <Button type="submit" look="main" disabled={saving.isSaving || wrong}>
            {isLeft ? 'Save what was left' : 'All was eaten'}
          </Button>
        </div>
      </form>
    </Overlaid>
  );
}
