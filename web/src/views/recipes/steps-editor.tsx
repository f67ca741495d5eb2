import { heat } from '~/lib/format';
import { asText, readNumber } from '~/lib/numbers';
import { heatInCelsius, heatShown, temperatureUnit } from '~/lib/units';
import { Button } from '~/parts/button';
import { Choice, Field } from '~/parts/field';
import { newStep, type StepDraft } from '~/views/recipes/draft';

/** The steps in words, with the times, temperature and equipment that a cook day is planned from. */
export function StepsEditor({
  steps,
  components,
  fault,
  onChange,
}: {
  steps: StepDraft[];
  components: string[];
  fault: (pointer: string) => string | null;
  onChange: (steps: StepDraft[]) => void;
}) {
  const change = (place: number, part: Partial<StepDraft>) =>
    onChange(steps.map((step, at) => (at === place ? { ...step, ...part } : step)));
  const move = (place: number, by: number) => {
    const moved = [...steps];
    const [step] = moved.splice(place, 1);
    if (step) moved.splice(place + by, 0, step);
    onChange(moved);
  };
  return (
    <section className="mt-6 rounded-xl border border-steel bg-sheet p-4">
      <h2 className="text-xl">Steps</h2>
      {steps.length === 0 ? (
        <p className="mt-1 text-muted">
          None yet. Paste a recipe with its method into an ingredient field, or write the first step here.
        </p>
      ) : null}
      <ol className="mt-2 space-y-3">
        {steps.map((step, place) => {
          const at = `/steps/${place}`;
          return (
            <li
              key={step.key}
              className="grid gap-2 border-t border-steel pt-3 lg:grid-cols-[minmax(0,1fr)_560px]"
            >
              <label>
                <span className="mb-1 block text-sm text-muted">Step {place + 1}</span>
                <textarea
                  aria-label={`Step ${place + 1}`}
                  rows={2}
                  value={step.text}
                  onChange={(event) => change(place, { text: event.target.value, trouble: '' })}
                  className="w-full rounded-lg border border-edge bg-sheet px-3 py-2"
                />
                {step.trouble ? (
                  <span className="block text-sm font-medium text-alert">{step.trouble}</span>
                ) : null}
                {fault(`${at}/text`) ? (
                  <span role="alert" className="text-sm font-medium text-alert">
                    {fault(`${at}/text`)}
                  </span>
                ) : null}
              </label>
              <div className="grid grid-cols-3 items-end gap-2 sm:grid-cols-5">
                <Field
                  label="Hands-on"
                  unit="min"
                  className="!pr-10"
                  inputMode="decimal"
                  value={step.hands_on_min}
                  onChange={(event) => change(place, { hands_on_min: event.target.value })}
                  fault={fault(`${at}/hands_on_min`)}
                />
                <Field
                  label="Unattended"
                  unit="min"
                  inputMode="decimal"
                  value={step.unattended_min}
                  onChange={(event) => change(place, { unattended_min: event.target.value })}
                  fault={fault(`${at}/unattended_min`)}
                />
                <Field
                  label="Oven"
                  unit={`°${temperatureUnit()}`}
                  inputMode="decimal"
                  value={step.temperature_c === null ? '' : asText(Math.round(heatShown(step.temperature_c)))}
                  title={step.temperature_c === null ? undefined : heat(step.temperature_c)}
                  onChange={(event) => {
                    const { value } = readNumber(event.target.value);
                    change(place, { temperature_c: value === null ? null : heatInCelsius(value) });
                  }}
                  fault={fault(`${at}/temperature_c`)}
                />
                <Field
                  label="Ahead"
                  unit="min"
                  inputMode="decimal"
                  value={step.lead_min}
                  onChange={(event) => change(place, { lead_min: event.target.value })}
                  fault={fault(`${at}/lead_min`)}
                />
                <Field
                  label="On"
                  value={step.equipment}
                  placeholder="oven"
                  onChange={(event) => change(place, { equipment: event.target.value })}
                />
                <div className="col-span-2">
                  <Choice
                    label="Of"
                    value={step.component}
                    options={[
                      { value: '', label: 'the whole recipe' },
                      ...[...new Set([...components, step.component])]
                        .filter(Boolean)
                        .map((name) => ({ value: name, label: name })),
                    ]}
                    onChange={(event) => change(place, { component: event.target.value })}
                  />
                </div>
                <div className="col-span-3 flex justify-end gap-1">
                  <Button
                    look="quiet"
                    aria-label={`Step ${place + 1} up`}
                    disabled={place === 0}
                    onClick={() => move(place, -1)}
                  >
                    ↑
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Step ${place + 1} down`}
                    disabled={place === steps.length - 1}
                    onClick={() => move(place, 1)}
                  >
                    ↓
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Remove step ${place + 1}`}
                    onClick={() => onChange(steps.filter((_, at) => at !== place))}
                  >
                    Remove
                  </Button>
                </div>
              </div>
            </li>
          );
        })}
      </ol>
      <Button className="mt-3" onClick={() => onChange([...steps, newStep()])}>
        Add a step
      </Button>
    </section>
  );
}
