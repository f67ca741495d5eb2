import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { type Schemas, toProblem } from '~/api/client';
import { exactWeight, moment, today } from '~/lib/format';
import { asWeight, readNumber, readWeight } from '~/lib/numbers';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice, optionsOf, Toggles } from '~/parts/choice';
import { Overlaid } from '~/parts/dialog';
import { Field, Tick } from '~/parts/field';
import { ProblemNotice } from '~/parts/notice';
import { WeightField } from '~/parts/weight-field';
import { entriesQuery, keepHouse } from '~/views/house/queries';
import { takeBack } from '~/views/house/take-back';
import { keepsWords, lotWords, PLACES } from '~/views/house/words';

type Lot = Schemas['LotView'];
type What = Schemas['Told'] | 'bags';

const WHAT: Record<What, string> = {
  counted: 'Counted',
  used: 'Used',
  'thrown away': 'Thrown away',
  bags: 'Into bags',
};

/** One lot: what happened to it, where it is and how long it keeps, and its ledger. */
export function LotDialog({ lot, onClose }: { lot: Lot; onClose: () => void }) {
  return (
    <Overlaid
      open
      wide
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title={`${lot.name}, ${lotWords(lot)}`}
      detail={`${lot.words ? `“${lot.words}”, ` : ''}${keepsWords(lot)}`}
    >
      <Happened lot={lot} />
      <Details lot={lot} />
      <Ledger lot={lot} />
    </Overlaid>
  );
}

function Happened({ lot }: { lot: Lot }) {
  const [what, setWhat] = useState<What>('counted');
  const [grams, setGrams] = useState('');
  const [note, setNote] = useState('');
  const [bags, setBags] = useState('2');
  const [noted, setNoted] = useState(0);
  const path = { path: { lot_id: lot.id } };
  const about = { about: 'house', words: [`${lot.name}: ${WHAT[what].toLowerCase()}`], href: '/house' };
  const weighed = readWeight(grams);
  const counted = readNumber(bags);
  const save = useMutation({
    mutationFn: () =>
      what === 'bags'
        ? write(
            call('post', '/api/v1/house/lots/{lot_id}/bags', {
              params: path,
              body: {
                bags: counted.value ?? 0,
                bag_g: weighed.value ?? 0,
                place: 'freezer',
                frozen_on: today(),
                use_by: null,
              },
            }),
            about,
          )
        : write(
            call('post', '/api/v1/house/lots/{lot_id}/entries', {
              params: path,
              body: { kind: what, grams: weighed.value ?? 0, note },
            }),
            about,
          ),
    onSuccess: ({ act, house }) => {
      keepHouse(house);
      setGrams('');
      setNoted((before) => before + 1);
      setNote('');
      toast.success(`${lot.name}: noted.`, { action: { label: 'Undo', onClick: () => void takeBack(act) } });
    },
  });
  const problem = save.isError ? toProblem(save.error) : null;
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        if (weighed.value !== null && !weighed.fault) save.mutate();
      }}
    >
      <Toggles
        label="What happened"
        value={what}
        onValue={(chosen) => {
          save.reset();
          setWhat(chosen);
        }}
        options={optionsOf(WHAT)}
      />
      <div className="mt-3 grid grid-cols-2 gap-3">
        {what === 'bags' ? (
          <Field
            label="Bags"
            inputMode="numeric"
            value={bags}
            onChange={(event) => setBags(event.target.value)}
            fault={counted.fault}
          />
        ) : null}
        <WeightField
          // A new field each time: the sum it was typed as goes with it.
          key={noted}
          label={what === 'counted' ? 'There is' : what === 'bags' ? 'In each' : 'So much of it'}
          value={grams}
          onText={setGrams}
          placeholder={what === 'counted' ? asWeight(lot.grams) : ''}
          fault={weighed.fault}
        />
        {what === 'bags' ? null : (
          <Field label="Note" value={note} onChange={(event) => setNote(event.target.value)} />
        )}
      </div>
      {what === 'bags' ? (
        <p className="mt-1 text-sm text-muted">
          The bags go into the freezer today, raw. Thaw them in the fridge the day before they are cooked.
        </p>
      ) : null}
      {problem ? (
        <div className="mt-2">
          <ProblemNotice problem={problem} />
        </div>
      ) : null}
      <Button
        type="submit"
        look="main"
        className="mt-3"
        disabled={weighed.value === null || weighed.fault !== null || save.isPending}
      >
        Note it
      </Button>
    </form>
  );
}

function Details({ lot }: { lot: Lot }) {
  const [place, setPlace] = useState(lot.place);
  const [useBy, setUseBy] = useState(lot.use_by ?? '');
  const [opened, setOpened] = useState(lot.opened);
  const save = useMutation({
    mutationFn: () =>
      write(
        call('put', '/api/v1/house/lots/{lot_id}', {
          params: { path: { lot_id: lot.id } },
          body: { place, opened, use_by: useBy || null, frozen_on: lot.frozen_on },
        }),
        { about: 'house', words: [`${lot.name}: where it is and how long it keeps`], href: '/house' },
      ),
    onSuccess: (house) => {
      keepHouse(house);
      toast.success(`${lot.name}: saved.`);
    },
  });
  const isChanged = place !== lot.place || useBy !== (lot.use_by ?? '') || opened !== lot.opened;
  return (
    <div className="mt-4 border-t border-steel pt-3">
      <div className="grid grid-cols-2 gap-3">
        <Choice label="Where" value={place} onValue={setPlace} options={optionsOf(PLACES)} />
        <Field label="Use by" type="date" value={useBy} onChange={(event) => setUseBy(event.target.value)} />
      </div>
      <div className="mt-2 flex items-center justify-between">
        <Tick label="It is open" checked={opened} onChange={setOpened} />
        <Button disabled={!isChanged || save.isPending} onClick={() => save.mutate()}>
          Save
        </Button>
      </div>
      {save.isError ? <ProblemNotice problem={toProblem(save.error)} /> : null}
    </div>
  );
}

function Ledger({ lot }: { lot: Lot }) {
  const entries = useQuery(entriesQuery(lot.id));
  return (
    <section aria-label="What happened to it" className="mt-4 border-t border-steel pt-3">
      <h3 className="text-base">What happened to it</h3>
      <ol className="mt-1 divide-y divide-steel text-sm">
        {(entries.data ?? []).map((entry, index) => (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: entries are only ever added at the front
            key={`${entry.act}${index}`}
            className="flex items-center justify-between gap-3 py-1"
          >
            <span>
              {entry.kind}
              {entry.batch ? ` for ${entry.batch}` : ''}
              {entry.note ? `, ${entry.note}` : ''}
              <span className="block text-muted">
                {entry.made_by}, {moment(entry.made_at)}
              </span>
            </span>
            <span className="flex items-center gap-2">
              <span className="figures">
                {entry.grams > 0 ? '+' : '−'}
                {exactWeight(Math.abs(entry.grams))}
              </span>
              {entry.batch === null && !entry.is_taken_back && entry.kind !== 'taken back' ? (
                <Button look="quiet" onClick={() => void takeBack(entry.act)}>
                  Take back
                </Button>
              ) : null}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
