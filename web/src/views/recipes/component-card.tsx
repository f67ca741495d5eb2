import { useWatch } from 'react-hook-form';
import type { Schemas } from '~/api/client';
import { Composition, MACROS, MacroName, macroFigure } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { YieldRibbon } from '~/food/yield-ribbon';
import { energyWithUnit, exactWeight, lossWords, plural, weight, yieldWords } from '~/lib/format';
import { PARTS, PLACES, SCHOOLS, schoolHint } from '~/lib/schools';
import { energyUnit } from '~/lib/units';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { ChoiceField, GramsField, TextField, TickField } from '~/parts/form-fields';
import { Notice } from '~/parts/notice';
import { Why } from '~/parts/why';
import { Per100gChain } from '~/views/recipes/chain';
import {
  type Asked,
  type ComponentDraft,
  type Lid,
  type LineDraft,
  newLine,
  type RecipeDraft,
  type StepDraft,
} from '~/views/recipes/draft';
import { Findings } from '~/views/recipes/findings';
import { LineEntry } from '~/views/recipes/line-entry';
import { LineRow, type Mend, withReason } from '~/views/recipes/line-row';
import { mendedComponent } from '~/views/recipes/mends';

/** A component that lines may be made of: of this recipe or another. */
export type Part = { id: string; name: string; recipe: string };

type Props = {
  form: Form<RecipeDraft>;
  index: number;
  /** It was added just now: typing goes on in its name. */
  focused: boolean;
  view: Schemas['ComponentView'] | undefined;
  words: Schemas['RecipeWords'];
  /** Components that lines may be made of. */
  parts: Part[];
  /** Change this component, wherever it stands by then. */
  onChange: (next: (now: ComponentDraft) => ComponentDraft) => void;
  /** What a mend sets in a line. */
  mendOf: (mend: Mend) => Promise<Partial<LineDraft>>;
  onSteps: (steps: StepDraft[]) => void;
  onRemove: () => void;
};

const LIDS: { value: Lid; label: string }[] = [
  { value: '', label: 'not said' },
  { value: 'on', label: 'on' },
  { value: 'off', label: 'off' },
];

const asOption = (value: string) => ({ value, label: value === 'none' ? 'not cooked' : value });

/** One component of a recipe: its lines at the left, what comes out of them at the right. */
export function ComponentCard(props: Props) {
  const { form, index, focused, view, words, parts, onChange, mendOf, onSteps, onRemove } = props;
  const { control } = form;
  const at = `components.${index}` as const;
  const draft = useWatch({ control, name: at });
  const name = draft.name || 'this component';
  const changeLine = (key: string, part: Partial<LineDraft>) =>
    onChange((now) => ({
      ...now,
      lines: now.lines.map((line) => (line.key === key ? { ...line, ...part } : line)),
    }));
  const take = (lines: LineDraft[], asked: (before: Asked[]) => Asked[] = (before) => before) =>
    onChange((now) => ({ ...now, lines: [...now.lines, ...lines], asked: asked(now.asked) }));
  const viewOf = (line: LineDraft, place: number) => {
    const found = view?.lines[place];
    return (found?.food?.id ?? found?.source?.id) === (line.food?.id ?? line.source?.id) ? found : undefined;
  };
  return (
    <li className="grid gap-5 rounded-xl border border-steel bg-sheet p-4 lg:grid-cols-[minmax(0,1fr)_270px]">
      <div className="min-w-0">
        <div className="grid grid-cols-2 items-end gap-3 md:grid-cols-[minmax(0,2fr)_1fr_1fr_104px_104px_auto]">
          <TextField control={control} name={`${at}.name`} label="Component" autoFocus={focused} />
          <ChoiceField
            control={control}
            name={`${at}.role`}
            label="On the plate"
            options={words.roles.map(asOption)}
          />
          <ChoiceField
            control={control}
            name={`${at}.method`}
            label="Cooked"
            options={words.methods.map(asOption)}
          />
          <GramsField control={control} name={`${at}.minimum_g`} label="At least" />
          <GramsField control={control} name={`${at}.maximum_g`} label="At most" placeholder="usual" />
          <Button look="quiet" onClick={onRemove} aria-label={`Remove ${name}`}>
            Remove
          </Button>
        </div>
        {draft.lines.length > 0 ? (
          <div className="relative overflow-x-auto">
            <table className="mt-3 w-full min-w-xl">
              <thead>
                <tr className="text-left text-sm text-muted">
                  <th className="py-1 font-medium">Ingredient</th>
                  <th className="w-32 py-1 pr-2 text-right font-medium">Bought</th>
                  <th className="w-20 py-1 pr-2 text-right font-medium">Trimmed</th>
                  <th className="w-22 py-1 pr-2 text-right font-medium">In the dish</th>
                  <th className="w-30 py-1 pr-2 text-right font-medium">Yield</th>
                  <th className="w-22 py-1 text-right font-medium">Cooked</th>
                  <th className="w-12 py-1">
                    <span className="sr-only">Remove</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {draft.lines.map((line, place) => (
                  <LineRow
                    key={line.key}
                    form={form}
                    at={`${at}.lines.${place}`}
                    view={viewOf(line, place)}
                    findings={
                      viewOf(line, place) ? (view?.findings.filter((one) => one.line === place) ?? []) : []
                    }
                    onChange={(part) => changeLine(line.key, part)}
                    onMend={(mend) => void mendOf(mend).then((part) => changeLine(line.key, part))}
                    onRemove={() =>
                      onChange((now) => ({
                        ...now,
                        lines: now.lines.filter((one) => one.key !== line.key),
                      }))
                    }
                  />
                ))}
              </tbody>
            </table>
          </div>
        ) : (
          <p className="mt-4 text-muted">
            Nothing in it yet. Write the first ingredient with its raw weight.
          </p>
        )}
        <LineEntry
          label={`Write an ingredient of ${name}`}
          asked={draft.asked}
          onRead={take}
          onSteps={onSteps}
        />
        {parts.length ? (
          <div className="mt-2 max-w-md">
            <Choice
              label="Or made of another component"
              value=""
              options={[
                { value: '', label: 'choose one' },
                ...parts.map((part) => ({ value: part.id, label: `${part.name} (${part.recipe})` })),
              ]}
              onValue={(id) => {
                const part = parts.find((one) => one.id === id);
                if (part) take([newLine({ source: { id: part.id, name: part.name } })]);
              }}
            />
          </div>
        ) : null}
        <div className="mt-3">
          <Findings
            findings={view?.findings.filter((one) => one.line === null) ?? []}
            onMend={(mend) => onChange((now) => mendedComponent(now, mend))}
            onDismiss={(code, reason) =>
              onChange((now) => ({ ...now, dismissed: withReason(now.dismissed, code, reason) }))
            }
          />
        </div>
      </div>
      <Outcome control={control} at={at} draft={draft} view={view} />
    </li>
  );
}

type Fields = { control: Props['form']['control']; at: `components.${number}`; draft: ComponentDraft };

function Outcome({ view, ...fields }: Fields & Pick<Props, 'view'>) {
  const { draft } = fields;
  const figures = view?.figures;
  return (
    <div className="space-y-4 lg:border-l lg:border-steel lg:pl-5">
      {view && figures ? (
        <>
          <YieldRibbon
            basis={figures.basis_g}
            low={figures.cooked_low_g}
            cooked={figures.cooked_g}
            high={figures.cooked_high_g}
            factor={figures.yield_factor}
            measured={false}
          />
          <p className="text-sm text-muted">
            Yield {yieldWords(figures.yield_factor)}, {lossWords(figures.yield_factor)}; usually{' '}
            {weight(figures.cooked_low_g)} to {weight(figures.cooked_high_g)} cooked, {figures.yield_source}.
          </p>
          <table className="w-full">
            <caption className="mb-1 text-left text-sm font-medium text-muted">
              About, by this recipe
              {draft.asked.length ? (
                <strong className="block text-ink">
                  without {plural(draft.asked.length, 'line')} that{' '}
                  {draft.asked.length === 1 ? 'waits for its answer' : 'wait for their answers'}
                </strong>
              ) : null}
            </caption>
            <thead>
              <tr className="text-right text-sm text-muted">
                <th>
                  <span className="sr-only">Macro</span>
                </th>
                <th className="font-medium">100 g</th>
                <th className="font-medium">batch</th>
              </tr>
            </thead>
            <tbody>
              {MACRO_KEYS.map((key) => (
                <tr key={key} className="border-t border-steel">
                  <th scope="row" className="py-1 text-left text-sm font-medium">
                    <MacroName of={key} word={key === 'kcal' ? energyUnit() : MACROS[key].word} />
                  </th>
                  <td className="figures py-1 text-right text-lg font-semibold">
                    <Why label={`${MACROS[key].word} in 100 g`} figure={macroFigure(figures.per_100g, key)}>
                      <Per100gChain component={view} figures={figures} of={key} />
                    </Why>
                  </td>
                  <td className="figures py-1 text-right">{macroFigure(figures.totals, key)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Extras figures={figures} pieces={draft.pieces} />
          <details className="text-sm">
            <summary className="min-h-8 font-medium">All of 100 g</summary>
            <Composition amounts={figures.per_100g} caption="100 g cooked hold about" />
          </details>
        </>
      ) : (
        <p className="text-sm text-muted">
          {draft.lines.length
            ? (view?.trouble ?? 'Type the weights, and the figures follow.')
            : 'No figures yet.'}
        </p>
      )}
      <PanDetails {...fields} />
      {view?.caution ? <Notice tone="caution">{view.caution}</Notice> : null}
    </div>
  );
}

/** Pieces, rounds, bones and what is not counted, where there is any. */
function Extras({ figures, pieces }: { figures: Schemas['ComponentFigures']; pieces: string }) {
  const told: string[] = [];
  if (figures.piece_g !== null && figures.per_piece)
    told.push(
      `${pieces} pieces of about ${exactWeight(figures.piece_g)}: ${energyWithUnit(figures.per_piece.kcal)}, ${macroFigure(figures.per_piece, 'protein_g')} g protein each.`,
    );
  if (figures.rounds !== null && figures.rounds > 1 && figures.round_g !== null)
    told.push(
      `${plural(figures.rounds, 'round')} of ${weight(figures.round_g)}: split everything, the sauce too.`,
    );
  if (figures.left_on_g > 0)
    told.push(
      `Bone and skin of about ${weight(figures.left_on_g)} stand on the scale with it; take them off the weight.`,
    );
  if (figures.uncounted_kcal > 0.5)
    told.push(`Not counted by your rule: ${energyWithUnit(figures.uncounted_kcal)}.`);
  return (
    <>
      {told.map((words) => (
        <p key={words} className="text-sm">
          {words}
        </p>
      ))}
    </>
  );
}

/** How it is portioned in a new batch, with the figure its school needs. */
function PortionDetails({ control, at, draft }: Fields) {
  const counted = draft.school === 'pieces' || draft.school === 'fixed measure';
  return (
    <div className="mt-2 grid grid-cols-2 gap-2">
      <div className="col-span-2">
        <ChoiceField
          control={control}
          name={`${at}.school`}
          label="How it is portioned"
          hint={schoolHint(draft.school)}
          options={SCHOOLS}
        />
      </div>
      {draft.school === 'fixed measure' ? (
        <GramsField control={control} name={`${at}.unit_g`} label="One scoop" />
      ) : null}
      {counted ? (
        <ChoiceField control={control} name={`${at}.unit_part`} label="Cut" options={PARTS} />
      ) : null}
      {draft.school === 'plate shares' ? (
        <TextField
          control={control}
          name={`${at}.plate_share`}
          label="Share of the plate"
          inputMode="decimal"
        />
      ) : null}
      {draft.school === 'by eye' ? <GramsField control={control} name={`${at}.eye_g`} label="About" /> : null}
      <div className="col-span-2">
        <ChoiceField control={control} name={`${at}.place`} label="Where it goes" options={PLACES} />
      </div>
      {draft.place === 'beside' ? (
        <TextField
          control={control}
          name={`${at}.tub_ml`}
          label="Its tub holds"
          unit="ml"
          inputMode="numeric"
        />
      ) : null}
      <TextField control={control} name={`${at}.group`} label="One of the group" placeholder="of none" />
    </div>
  );
}

function PanDetails({ control, at, draft }: Fields) {
  return (
    <details className="text-sm">
      <summary className="min-h-8 font-medium">Pan, portions and own yield</summary>
      <PortionDetails control={control} at={at} draft={draft} />
      <div className="mt-2 grid grid-cols-2 gap-2">
        <GramsField control={control} name={`${at}.poured_fat_g`} label="Fat poured off" />
        <TextField control={control} name={`${at}.pieces`} label="Makes pieces" inputMode="numeric" />
        <GramsField control={control} name={`${at}.pan_capacity_g`} label="Pan holds, raw" />
        {draft.method === 'none' ? null : (
          <>
            <ChoiceField control={control} name={`${at}.lid`} label="Lid" options={LIDS} />
            <TextField
              control={control}
              name={`${at}.cook_min`}
              label="On the heat"
              unit="min"
              inputMode="numeric"
              placeholder="usual"
            />
          </>
        )}
        <TextField
          control={control}
          name={`${at}.density_g_per_ml`}
          label="1 ml weighs"
          unit="g"
          inputMode="decimal"
        />
      </div>
      <TickField
        control={control}
        name={`${at}.served`}
        label="Goes into containers, and not only into other components"
      />
      <TickField control={control} name={`${at}.whole_pans`} label="Only whole pans are cooked" />
      <TickField control={control} name={`${at}.packed_raw`} label="Packed raw, to be cooked later" />
      {draft.packed_raw ? (
        <TextField control={control} name={`${at}.kit_text`} label="How it is cooked later" />
      ) : null}
      <p className="mt-2 font-medium">Own yield of the whole component</p>
      <div className="grid grid-cols-3 gap-2">
        <TextField control={control} name={`${at}.yield_low`} label="Low ×" inputMode="decimal" />
        <TextField
          control={control}
          name={`${at}.yield_expected`}
          alias="yield"
          label="Usual ×"
          inputMode="decimal"
        />
        <TextField control={control} name={`${at}.yield_high`} label="High ×" inputMode="decimal" />
      </div>
      <p className="mt-1 text-muted">
        On the raw weight without water, oil and seasoning. Empty: what is known.
      </p>
    </details>
  );
}
