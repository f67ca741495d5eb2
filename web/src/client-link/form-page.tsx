/** @jsxImportSource preact */
import type { ComponentChildren } from 'preact';
import type { Answers, MyForm } from '~/client-link/form';
import { AvoidRows, DateBox, FigureBox, OneOf, TextBox, Ticks } from '~/client-link/form-fields';
import { fullDay } from '~/client-link/link';
import { type FormState, useMyForm } from '~/client-link/use-my-form';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'].map(
  (label, value) => ({ label, value }),
);
const same = <V extends string>(...words: V[]) => words.map((value) => ({ value, label: value }));
const MEALS = same('breakfast', 'snack', 'lunch', 'dinner');
const EQUIPMENT = same('freezer', 'microwave', 'oven', 'hob', 'kitchen scale');
const CONDITIONS = same(
  'pregnant or nursing',
  'kidney or liver disease',
  'diabetes on medication',
  'a history of disordered eating',
);
const ACTIVITY = [
  'mostly sitting, little sport',
  'sport once or twice a week',
  'sport three to five times a week',
  'hard training nearly every day',
] as const;

/** A form for the coach: agreed to first, kept as it is typed, handed in when it is done. */
export function FormPage() {
  const state = useMyForm();
  const { form, answers, trouble } = state;
  if (!form || !answers)
    return (
      <main class="mx-auto max-w-md p-4">
        <h1 class="text-2xl">A form for your coach</h1>
        <p class="mt-3" role="status">
          {trouble || 'Loading …'}
        </p>
        {trouble ? (
          <button
            type="button"
            class="mt-4 min-h-12 rounded-lg border-2 border-ink px-4 font-bold"
            onClick={() => void state.read()}
          >
            Try again
          </button>
        ) : null}
      </main>
    );
  if (form.is_taken)
    return (
      <main class="mx-auto max-w-md p-4">
        <h1 class="text-2xl">Thank you, {form.name}</h1>
        <p class="mt-3">{form.coach} has read your answers. You can close this page.</p>
      </main>
    );
  return <Open state={state} form={form} answers={answers} />;
}

function Open({ state, form, answers }: { state: FormState; form: MyForm; answers: Answers }) {
  const { change, faults } = state;
  const isIntake = form.kind === 'intake';
  return (
    <main class="mx-auto max-w-md p-4 pb-28">
      <p class="text-muted">For {form.coach}</p>
      <h1 class="text-3xl">{isIntake ? `Hello ${form.name}` : 'How was it?'}</h1>
      <p class="mt-2">
        {isIntake
          ? 'Answer what you want to. You can stop at any time and go on later by the same link.'
          : 'Three questions; answer what you want to.'}
      </p>
      <label class="mt-4 flex items-start gap-3 rounded-xl border border-edge bg-sheet p-4">
        <input
          type="checkbox"
          class="mt-1 size-6 shrink-0 accent-ink"
          checked={answers.agrees === true}
          onChange={(event) => {
            const agrees = event.currentTarget.checked;
            if (agrees || confirm('All of these answers are erased then. Take your agreement back?'))
              change({ agrees });
            else event.currentTarget.checked = true;
          }}
        />
        <span>
          <b>I agree.</b> {form.agreement}
        </span>
      </label>
      {faults.agrees ? (
        <p role="alert" class="mt-1 font-bold text-alert">
          {faults.agrees}
        </p>
      ) : null}
      {answers.agrees ? (
        <>
          {isIntake ? (
            <Intake answers={answers} faults={faults} change={change} allergens={form.allergens} />
          ) : (
            <HowWasIt answers={answers} faults={faults} change={change} />
          )}
          <button
            type="button"
            class="mt-8 min-h-14 w-full rounded-lg bg-ink px-4 text-lg font-bold text-sheet disabled:opacity-45"
            disabled={state.isTelling}
            onClick={() => void state.handIn()}
          >
            {form.handed_in_at ? 'Hand it in again' : 'Hand it in'}
          </button>
        </>
      ) : (
        <p class="mt-4 text-muted">Tick this to begin: nothing is kept before.</p>
      )}
      <p class="mt-4 text-sm text-muted">
        This link works until {fullDay(form.expires_at)}. Keep it to yourself.
      </p>
      <State state={state} form={form} />
    </main>
  );
}

/** Where the answers are, always in view, and in one place. */
function State({ state, form }: { state: FormState; form: MyForm }) {
  const { trouble, faults, waits, isTelling } = state;
  const wrong = Object.keys(faults).length;
  return (
    <p
      role="status"
      class={`fixed inset-x-0 bottom-0 border-t border-steel bg-bench px-4 py-3 text-center ${trouble || wrong ? 'font-bold' : ''}`}
    >
      {trouble && !wrong
        ? trouble
        : wrong
          ? `${wrong === 1 ? 'One answer makes no sense yet: it is' : `${wrong} answers make no sense yet: they are`} marked in red.`
          : isTelling || waits
            ? 'Keeping …'
            : form.handed_in_at
              ? `Handed in. ${form.coach} reads it; until then you can change it.`
              : state.answers?.agrees
                ? 'What you typed is kept.'
                : 'Nothing is kept yet.'}
    </p>
  );
}

type Part = {
  answers: Answers;
  faults: Record<string, string>;
  change: (answers: Answers) => void;
};

function Section({ title, children }: { title: string; children: ComponentChildren }) {
  return (
    <section class="mt-8 border-t border-steel pt-4">
      <h2 class="text-xl">{title}</h2>
      {children}
    </section>
  );
}

function Intake({ answers, faults, change, allergens }: Part & { allergens: Record<string, string> }) {
  const text = (key: 'name' | 'email' | 'likes' | 'dislikes' | 'goals' | 'kitchen' | 'health') => ({
    value: answers[key] ?? '',
    fault: faults[key],
    onValue: (value: string) => change({ [key]: value }),
  });
  const figure = (key: 'container_ml' | 'fridge_l' | 'height_cm' | 'weight_kg') => ({
    value: answers[key] ?? null,
    fault: faults[key],
    onValue: (value: number | null) => change({ [key]: value }),
  });
  return (
    <>
      <Section title="You">
        <TextBox label="Your name" longest={200} {...text('name')} />
        <TextBox
          label="E-mail address"
          hint="For messages from your coach only."
          type="email"
          {...text('email')}
        />
        <TextBox
          label="What do you want to reach?"
          hint="In your own words."
          lines={3}
          longest={5000}
          {...text('goals')}
        />
      </Section>
      <Section title="Food">
        <TextBox label="What you like" hint="Divided by commas." lines={2} {...text('likes')} />
        <TextBox label="What you do not like" hint="Divided by commas." lines={2} {...text('dislikes')} />
        <Ticks
          label="Allergens that you must not eat"
          hint="Tell your coach about a severe allergy in person too: no kitchen is free of traces."
          options={Object.entries(allergens).map(([value, label]) => ({ value, label }))}
          value={answers.allergens ?? []}
          fault={faults.allergens}
          onValue={(value) => change({ allergens: value })}
        />
        <AvoidRows
          value={answers.avoid ?? []}
          fault={faults.avoid}
          onValue={(value) => change({ avoid: value })}
        />
      </Section>
      <Section title="Meals and days">
        <Ticks
          label="Meals to be prepared"
          options={MEALS}
          value={answers.meals ?? []}
          fault={faults.meals}
          onValue={(value) => change({ meals: value })}
        />
        <Ticks
          label="Days on which you train"
          options={DAYS}
          value={answers.training_days ?? []}
          fault={faults.training_days}
          onValue={(value) => change({ training_days: value })}
        />
      </Section>
      <Section title="Your kitchen">
        <FigureBox
          label="Size of your containers"
          hint="Empty if you have none."
          unit="ml"
          {...figure('container_ml')}
        />
        <FigureBox
          label="Room for containers in the fridge"
          hint="A shelf is about 20 l."
          unit="l"
          {...figure('fridge_l')}
        />
        <Ticks
          label="What you have"
          options={EQUIPMENT}
          value={answers.equipment ?? []}
          onValue={(value) => change({ equipment: value })}
        />
        <TextBox label="Anything else about it" lines={2} {...text('kitchen')} />
      </Section>
      <Section title="Health">
        <p class="mt-2 text-sm text-muted">
          With one of these, what you eat belongs to a doctor or registered dietitian: your coach sends you
          there first, and suggests no figures.
        </p>
        <Ticks
          label="Does one of these apply?"
          options={CONDITIONS}
          value={answers.conditions ?? []}
          onValue={(value) => change({ conditions: value })}
        />
        <TextBox
          label="Anything about your health that your coach should know"
          lines={3}
          longest={5000}
          {...text('health')}
        />
      </Section>
      <Section title="Figures for a suggestion">
        <Ticks
          label="Only if you want one"
          hint="By these your coach can suggest how much a day should hold. They are not kept beyond this form."
          options={[{ value: 'yes', label: 'I want a suggestion' }]}
          value={answers.wants_suggestion ? ['yes'] : []}
          onValue={(value) => change({ wants_suggestion: value.length > 0 })}
        />
        {answers.wants_suggestion ? (
          <>
            <DateBox
              label="Birthday"
              value={answers.birthday ?? null}
              fault={faults.birthday}
              onValue={(birthday) => change({ birthday })}
            />
            <OneOf
              label="Formula for"
              hint="The formula of resting energy knows two."
              options={['female', 'male'] as const}
              value={answers.sex ?? null}
              onValue={(sex) => change({ sex })}
            />
            <FigureBox label="Height" unit="cm" {...figure('height_cm')} />
            <FigureBox label="Weight" unit="kg" {...figure('weight_kg')} />
            <OneOf
              label="How active are you?"
              options={ACTIVITY}
              value={answers.activity ?? null}
              onValue={(activity) => change({ activity })}
            />
          </>
        ) : null}
      </Section>
    </>
  );
}

function HowWasIt({ answers, faults, change }: Part) {
  return (
    <Section title="The last containers">
      <OneOf
        label="Was it enough?"
        options={['too little', 'just right', 'too much'] as const}
        value={answers.enough ?? null}
        fault={faults.enough}
        onValue={(enough) => change({ enough })}
      />
      <TextBox
        label="What would you eat again, and what not?"
        lines={3}
        longest={5000}
        value={answers.again ?? ''}
        fault={faults.again}
        onValue={(again) => change({ again })}
      />
      <TextBox
        label="How did it go with thawing, warming up and your days?"
        lines={3}
        longest={5000}
        value={answers.week ?? ''}
        fault={faults.week}
        onValue={(week) => change({ week })}
      />
    </Section>
  );
}
