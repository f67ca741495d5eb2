import { type Control, useController, useWatch } from 'react-hook-form';
import { massUnit, temperatureUnit } from '~/lib/units';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { Tick } from '~/parts/field';
import { ChoiceField, TextField, useFormField } from '~/parts/form-fields';
import { newStep, type RecipeDraft, type StepDraft } from '~/views/recipes/draft';
import { InFields, Reads, useOpened, useOpener } from '~/views/recipes/opened';
import { GROWTHS, stepWords } from '~/views/recipes/reading';

/** The steps in words, with the times, temperature and equipment that a cook day is planned from. */
export function StepsEditor({ form }: { form: Form<RecipeDraft> }) {
  const { control, change } = form;
  const { open } = useOpener();
  const [steps, components] = useWatch({ control, name: ['steps', 'components'] });
  const move = (step: StepDraft, by: number) =>
    change('steps', (now) => {
      const from = now.findIndex((one) => one.key === step.key);
      return from < 0 ? now : now.toSpliced(from, 1).toSpliced(from + by, 0, ...now.slice(from, from + 1));
    });
  return (
    <section className="mt-6 rounded-xl border border-steel bg-sheet p-4">
      <h2 className="text-xl">Steps</h2>
      {steps.length === 0 ? (
        <p className="mt-1 text-muted">
          None yet. Paste a recipe with its method into an ingredient field, or write the first step here.
        </p>
      ) : null}
      <ol className="mt-2">
        {steps.map((step, index) => (
          <StepRow
            key={step.key}
            control={control}
            index={index}
            step={step}
            components={components}
            others={steps.filter((one) => one.key !== step.key && one.component_id === step.component_id)}
            isLast={index === steps.length - 1}
            onMove={(by) => move(step, by)}
            onRemove={() =>
              change('steps', (now) =>
                now
                  .filter((one) => one.key !== step.key)
                  .map((one) => ({ ...one, after: one.after?.filter((id) => id !== step.id) ?? null })),
              )
            }
          />
        ))}
      </ol>
      <Button
        look="quiet"
        className="mt-1 !px-2"
        onClick={() => {
          const made = newStep();
          change('steps', (now) => [...now, made]);
          open(made.key);
        }}
      >
        Add a step
      </Button>
    </section>
  );
}

type Props = {
  control: Control<RecipeDraft>;
  index: number;
  step: StepDraft;
  /** One of which it may be a step of. */
  components: { id: string; name: string }[];
  /** The other steps of its component. */
  others: StepDraft[];
  isLast: boolean;
  onMove: (by: number) => void;
  onRemove: () => void;
};

/** One step as it reads; pressed, it turns into fields. */
function StepRow({ control, index, step, components, others, isLast, onMove, onRemove }: Props) {
  const at = `steps.${index}` as const;
  const part = useOpened(control, step.key, at);
  if (!part.isOpen && step.text)
    return (
      <li className="border-t border-steel">
        <Reads
          part={part}
          className="grid min-h-9 w-full grid-cols-[1.5rem_minmax(0,1fr)] items-baseline py-1 text-left hover:bg-bench pointer-coarse:min-h-11"
        >
          <span className="font-semibold">
            <span className="sr-only">Step </span>
            {index + 1}
          </span>
          <span>
            {step.text}{' '}
            <span className="text-sm text-muted">
              {stepWords(step, components.find(({ id }) => id === step.component_id)?.name)}
            </span>
            {step.trouble ? (
              <span className="block text-sm font-medium text-alert">{step.trouble}</span>
            ) : null}
          </span>
        </Reads>
      </li>
    );
  return (
    <li className="border-t border-steel">
      <InFields part={part} className="grid gap-2 bg-bench p-2 lg:grid-cols-[minmax(0,1fr)_560px]">
        <StepWords
          control={control}
          at={at}
          number={index + 1}
          trouble={step.trouble}
          autoFocus={part.isChosen}
        />
        <div className="grid grid-cols-3 items-end gap-2 sm:grid-cols-5">
          <TextField
            control={control}
            name={`${at}.hands_on_min`}
            label="Hands-on"
            unit="min"
            className="!pr-10"
            inputMode="decimal"
          />
          <TextField
            control={control}
            name={`${at}.unattended_min`}
            label="Unattended"
            unit="min"
            inputMode="decimal"
          />
          <TextField
            control={control}
            name={`${at}.temperature_c`}
            label="Oven"
            unit={`°${temperatureUnit()}`}
            inputMode="decimal"
          />
          <TextField control={control} name={`${at}.lead_min`} label="Ahead" unit="min" inputMode="decimal" />
          <TextField control={control} name={`${at}.equipment`} label="On" placeholder="oven" />
          <TextField
            control={control}
            name={`${at}.every_min`}
            label="A look every"
            unit="min"
            inputMode="decimal"
          />
          <TextField
            control={control}
            name={`${at}.load_g`}
            label="At once"
            unit={massUnit()}
            inputMode="decimal"
          />
          <TextField
            control={control}
            name={`${at}.core_c`}
            label="Inside"
            unit={`°${temperatureUnit()}`}
            inputMode="decimal"
          />
          <TextField
            control={control}
            name={`${at}.lead_most_min`}
            label="Ahead, most"
            unit="min"
            inputMode="decimal"
          />
          <ChoiceField
            control={control}
            name={`${at}.growth`}
            label="For more"
            options={[{ value: '', label: 'not said' }, ...GROWTHS]}
          />
          <div className="col-span-3 sm:col-span-5">
            <TextField
              control={control}
              name={`${at}.done_when`}
              label="Done when"
              placeholder="edges brown"
            />
          </div>
          <div className="col-span-3 sm:col-span-5">
            <WaitsFor control={control} at={at} others={others} />
          </div>
          <div className="col-span-2">
            <ChoiceField
              control={control}
              name={`${at}.component_id`}
              label="Of"
              options={[
                { value: '', label: 'the whole recipe' },
                ...components.filter(({ name }) => name).map(({ id, name }) => ({ value: id, label: name })),
              ]}
            />
          </div>
          <div className="col-span-3 flex justify-end gap-1">
            <Button
              look="quiet"
              className="!px-3"
              aria-label={`Step ${index + 1} up`}
              disabled={index === 0}
              onClick={() => onMove(-1)}
            >
              ↑
            </Button>
            <Button
              look="quiet"
              className="!px-3"
              aria-label={`Step ${index + 1} down`}
              disabled={isLast}
              onClick={() => onMove(1)}
            >
              ↓
            </Button>
            <Button aria-label={`Remove step ${index + 1}`} onClick={onRemove}>
              Remove
            </Button>
            <Button onClick={part.close}>Done</Button>
          </div>
        </div>
      </InFields>
    </li>
  );
}

/** What has to be done before: the step before it, or those that are chosen; none of them, and it waits for nothing. */
function WaitsFor({
  control,
  at,
  others,
}: {
  control: Control<RecipeDraft>;
  at: `steps.${number}`;
  others: StepDraft[];
}) {
  const { field } = useController({ control, name: `${at}.after` });
  const chosen = field.value;
  if (others.length === 0) return null;
  const put = (id: string, isOn: boolean) =>
    field.onChange(isOn ? [...(chosen ?? []), id] : (chosen ?? []).filter((one) => one !== id));
  return (
    <fieldset>
      <legend className="mb-1 text-sm font-medium text-muted">Waits for</legend>
      <div className="flex flex-wrap gap-x-4">
        <Tick
          label="the step before it"
          checked={chosen === null}
          onChange={(isOn) => field.onChange(isOn ? null : [])}
        />
        {others.map((one, place) => (
          <Tick
            key={one.key}
            label={one.text || `step ${place + 1}`}
            checked={chosen?.includes(one.id) ?? false}
            onChange={(isOn) => put(one.id, isOn)}
          />
        ))}
      </div>
    </fieldset>
  );
}

/** What to do, in words. What was odd about it as it was read is told until it is written anew. */
function StepWords({
  control,
  at,
  number,
  trouble,
  autoFocus,
}: {
  control: Control<RecipeDraft>;
  at: `steps.${number}`;
  number: number;
  trouble: string;
  autoFocus: boolean;
}) {
  const { fault, field } = useFormField({ control, name: `${at}.text` });
  const { field: odd } = useController({ control, name: `${at}.trouble` });
  return (
    <label>
      <span className="mb-1 block text-sm text-muted">Step {number}</span>
      <textarea
        aria-label={`Step ${number}`}
        rows={3}
        // biome-ignore lint/a11y/noAutofocus: the step was opened to be typed in
        autoFocus={autoFocus}
        ref={field.ref}
        value={field.value}
        onChange={(event) => {
          field.onChange(event);
          if (trouble) odd.onChange('');
        }}
        className="w-full rounded-lg border border-edge bg-sheet px-3 py-2"
      />
      {trouble ? <span className="block text-sm font-medium text-alert">{trouble}</span> : null}
      {fault ? (
        <span role="alert" className="text-sm font-medium text-alert">
          {fault}
        </span>
      ) : null}
    </label>
  );
}
