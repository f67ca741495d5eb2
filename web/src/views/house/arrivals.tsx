import { useMutation } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, ask, type Problem, type Schemas, toProblem } from '~/api/client';
import { FoodPicker } from '~/food/food-picker';
import { currencyUnit, plural } from '~/lib/format';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { useDraft } from '~/lib/use-draft';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice, optionsOf } from '~/parts/choice';
import { Field } from '~/parts/field';
import { ProblemNotice } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';
import { WeightField } from '~/parts/weight-field';
import { keepHouse } from '~/views/house/queries';
import { takeBack } from '~/views/house/take-back';
import { PLACES } from '~/views/house/words';

/** A line that was read, as it stands in the fields below it. */
type Row = {
  key: string;
  text: string;
  foodId: string;
  food: string;
  grams: string;
  packG: number | null;
  place: Schemas['Keeping'];
  useBy: string;
  frozenOn: string;
  paid: string;
  opened: boolean;
  notes: string[];
};

const rowOf = (found: Schemas['ArrivalView']): Row => {
  const match = found.line.matches[0];
  const isUnsure = match && !found.line.sure;
  return {
    key: crypto.randomUUID(),
    text: found.line.text,
    foodId: match?.food.id ?? '',
    food: match ? `${match.food.name}, ${match.food.state}` : '',
    grams: found.line.grams === null ? '' : asWeight(Math.round(found.line.grams * 10) / 10),
    packG: found.pack_g,
    place: found.place,
    useBy: found.use_by ?? '',
    frozenOn: found.frozen_on ?? '',
    paid: asText(found.paid),
    opened: found.opened,
    notes: [
      found.trouble,
      isUnsure ? 'Is this the food that is meant? Choose another if it is not.' : '',
      found.assumed ? `Assumed: ${found.assumed}.` : '',
    ].filter(Boolean),
  };
};

/** Where is written what came into the house: a line a food, read, looked over, then noted. */
export function Arrivals() {
  const [text, setText, forgetText] = useDraft('house/arrivals', '');
  const [rows, setRows, forgetRows] = useDraft<Row[]>('house/rows', []);
  const read = useMutation({
    mutationFn: (sent: string) => ask(api.POST('/api/v1/house/reading', { body: { text: sent } })),
    onSuccess: (found) => {
      setRows((before) => [...before, ...found.map(rowOf)]);
      forgetText();
    },
  });
  const note = useMutation({
    mutationFn: (lots: Schemas['LotInput'][]) =>
      write(call('post', '/api/v1/house/lots', { body: { lots } }), {
        about: 'house',
        words: [`In the house: ${plural(lots.length, 'lot')}`],
        href: '/house',
      }),
    onSuccess: ({ act, house }) => {
      keepHouse(house);
      forgetRows();
      toast.success(`${plural(rows.length, 'lot')} noted.`, {
        action: { label: 'Undo', onClick: () => void takeBack(act) },
      });
    },
  });
  const change = (key: string, part: Partial<Row>) =>
    setRows((before) => before.map((row) => (row.key === key ? { ...row, ...part } : row)));
  const isReady = rows.every(
    (row) => row.foodId && row.grams.trim() && !readWeight(row.grams).fault && !readNumber(row.paid).fault,
  );
  const problem = note.isError ? toProblem(note.error) : null;
  return (
    <section aria-label="What came in" className="mb-5">
      <div className="flex items-start gap-2">
        <label className="min-w-0 flex-1">
          <span className="mb-1 block text-sm font-medium">What came into the house</span>
          <textarea
            rows={Math.min(Math.max(text.split('\n').length, 2), 10)}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter' || event.shiftKey || !text.trim()) return;
              event.preventDefault();
              if (!read.isPending) read.mutate(text);
            }}
            placeholder="2 x 400 g tins kidney beans, use by 3 March – Enter. Or paste a list, a line a food."
            className="min-h-11 w-full resize-none rounded-lg border border-edge bg-sheet px-3 py-2.5 placeholder:text-muted"
          />
        </label>
        <Button className="mt-6" disabled={!text.trim() || read.isPending} onClick={() => read.mutate(text)}>
          {read.isPending ? 'Reading …' : 'Read'}
        </Button>
      </div>
      {read.isError ? (
        <p role="alert" className="mt-1 text-sm font-medium text-alert">
          {toProblem(read.error).detail}
        </p>
      ) : null}
      {rows.length ? (
        <>
          <ul aria-label="Read, not noted yet" className="mt-3 space-y-3">
            {rows.map((row, place) => (
              <RowFields
                key={row.key}
                row={row}
                faults={faultsAt(problem, place)}
                onChange={(part) => change(row.key, part)}
                onRemove={() => setRows((before) => before.filter((one) => one.key !== row.key))}
              />
            ))}
          </ul>
          {problem ? (
            <div className="mt-3">
              <ProblemNotice
                problem={problem}
                placed={(problem.errors ?? []).map(({ pointer }) => pointer)}
              />
            </div>
          ) : null}
          <Button
            look="main"
            className="mt-3"
            disabled={!isReady || note.isPending}
            onClick={() => note.mutate(rows.map(lotOf))}
          >
            Put {plural(rows.length, 'lot')} in the house
          </Button>
        </>
      ) : null}
    </section>
  );
}

const lotOf = (row: Row): Schemas['LotInput'] => ({
  food_id: row.foodId,
  words: row.text,
  grams: readWeight(row.grams).value ?? 0,
  pack_g: row.packG,
  place: row.place,
  opened: row.opened,
  use_by: row.useBy || null,
  frozen_on: row.frozenOn || null,
  paid: readNumber(row.paid).value,
});

/** What the server refused of one row, by field. */
const faultsAt = (problem: Problem | null, place: number) =>
  new Map(
    (problem?.errors ?? []).flatMap(({ pointer, message }) =>
      pointer.startsWith(`/lots/${place}/`) ? [[pointer.split('/')[3] ?? '', message] as const] : [],
    ),
  );

function RowFields({
  row,
  faults,
  onChange,
  onRemove,
}: {
  row: Row;
  faults: Map<string, string>;
  onChange: (part: Partial<Row>) => void;
  onRemove: () => void;
}) {
  // A piece, a tin or a cup weighs what it weighs of the chosen food, so the line is read again with it.
  const pick = useMutation({
    mutationFn: async (food: Schemas['FoodBrief']) => {
      const found = await ask(
        api.POST('/api/v1/recipes/read', { body: { text: row.text, food_id: food.id } }),
      );
      return { food, line: found.lines[0] };
    },
    onSuccess: ({ food, line }) => {
      const before = readWeight(row.grams).value;
      const grams = line?.grams ?? null;
      const isInPacks = row.packG !== null && grams !== null && typeof before === 'number' && before > 0;
      onChange({
        foodId: food.id,
        food: `${food.name}, ${food.state}`,
        grams: grams === null ? '' : asWeight(Math.round(grams * 10) / 10),
        packG: isInPacks ? ((row.packG ?? 0) * grams) / before : null,
        notes: line?.trouble ? [line.trouble] : [],
      });
    },
    onError: showProblem,
  });
  const weightFault = readWeight(row.grams).fault ?? faults.get('grams') ?? null;
  return (
    <li className="rounded-lg border border-steel bg-sheet p-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <p>
          “{row.text}” <strong>{row.food || 'Which food is it?'}</strong>
        </p>
        <span className="flex gap-2">
          <FoodPicker
            label={row.food ? 'Another food' : 'Choose the food'}
            onPick={(food) => pick.mutate(food)}
          />
          <Button look="quiet" aria-label={`Leave out ${row.text}`} onClick={onRemove}>
            ×
          </Button>
        </span>
      </div>
      <div className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-5">
        <WeightField
          label="All of it"
          value={row.grams}
          onText={(grams) => onChange({ grams, packG: null })}
          fault={weightFault}
        />
        <Choice
          label="Where"
          value={row.place}
          onValue={(place) => onChange({ place })}
          options={optionsOf(PLACES)}
        />
        <Field
          label="Use by"
          type="date"
          value={row.useBy}
          onChange={(event) => onChange({ useBy: event.target.value })}
        />
        <Field
          label="Frozen on"
          type="date"
          value={row.frozenOn}
          onChange={(event) => onChange({ frozenOn: event.target.value })}
        />
        <Field
          label="Paid for all of it"
          unit={currencyUnit()}
          inputMode="decimal"
          value={row.paid}
          onChange={(event) => onChange({ paid: event.target.value })}
          fault={readNumber(row.paid).fault ?? faults.get('paid') ?? null}
        />
      </div>
      {row.notes.map((words) => (
        <p key={words} className="mt-1 text-sm text-muted">
          {words}
        </p>
      ))}
      {faults.get('food_id') ? (
        <p role="alert" className="mt-1 text-sm font-medium text-alert">
          {faults.get('food_id')}
        </p>
      ) : null}
    </li>
  );
}
