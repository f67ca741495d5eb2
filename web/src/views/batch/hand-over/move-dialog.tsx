import { useState } from 'react';
import { day } from '~/lib/format';
import { Button } from '~/parts/button';
import { Choice, Toggles } from '~/parts/choice';
import { Close, Overlaid } from '~/parts/dialog';
import { moveTo, withoutDay } from '~/views/batch/hand-over/move';
import type { HandOverDesk } from '~/views/batch/hand-over/use-hand-over';
import { containerName, fitWords, type Placed, storeWords, type Week } from '~/views/batch/hand-over/words';

const DAYS_SHOWN = 14;

/** A container, and another day or place for it. */
export function MoveDialog({
  one,
  week,
  desk,
  onClose,
}: {
  one: Placed;
  week: Week;
  desk: HandOverDesk;
  onClose: () => void;
}) {
  const [on, setOn] = useState(one.eaten_on ?? week.first_on);
  const [store, setStore] = useState<'' | 'fridge' | 'freezer'>(one.by_hand ? (one.store ?? '') : '');
  const days = [...new Set([...fromDay(week.first_on), ...(one.eaten_on ? [one.eaten_on] : [])])].sort();
  const done = () => {
    onClose();
    void moveTo(desk, week, one, on, store || null);
  };
  const letGo = (words: string) => {
    onClose();
    void desk.move([withoutDay(one)], [one], words);
  };
  return (
    <Overlaid open onOpenChange={onClose} title={containerName(one)} detail={detail(one)}>
      <div className="grid gap-4">
        <Choice
          label="Eaten on"
          value={on}
          options={days.map((value) => ({ value, label: `${day(value)}: ${fitWords(one, value)}` }))}
          onValue={setOn}
        />
        <Toggles
          label="It waits"
          value={store}
          options={[
            { value: '', label: 'where it keeps' },
            { value: 'fridge', label: 'in the fridge' },
            { value: 'freezer', label: 'in the freezer' },
          ]}
          onValue={setStore}
        />
        <div className="flex flex-wrap justify-end gap-3">
          {one.eaten_on ? (
            <Button onClick={() => letGo(`${containerName(one)} waits for a day`)}>Take its day away</Button>
          ) : null}
          <Close>
            <Button>Cancel</Button>
          </Close>
          <Button look="main" onClick={done}>
            Move it
          </Button>
        </div>
      </div>
    </Overlaid>
  );
}

function fromDay(first: string): string[] {
  const start = Date.parse(`${first}T12:00:00Z`);
  return Array.from({ length: DAYS_SHOWN }, (_, at) =>
    new Date(start + at * 86_400_000).toISOString().slice(0, 10),
  );
}

function detail(one: Placed): string {
  const keeps = one.fridge_until
    ? `Keeps in the fridge until ${day(one.fridge_until)}${one.decided_by ? `, by ${one.decided_by}` : ''}.`
    : 'Nothing in it limits its days.';
  const freezes =
    one.freezes === 'no'
      ? `${one.apart.join(' and ')} does not freeze.`
      : one.freezes === 'yes'
        ? 'It freezes.'
        : 'It freezes with care: some of it changes.';
  const now = one.eaten_on ? `${day(one.eaten_on)}. ${storeWords(one)}. ` : '';
  return `${one.slot}. ${now}${keeps} ${freezes}`;
}
