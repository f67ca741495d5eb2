import type { Schemas } from '~/api/client';
import { Composition, MACROS, MacroName, macroFigure } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { YieldRibbon } from '~/food/yield-ribbon';
import { energyWithUnit, exactWeight, lossWords, plural, weight, yieldWords } from '~/lib/format';
import { PARTS, SCHOOLS, type School, schoolHint } from '~/lib/schools';
import { energyUnit } from '~/lib/units';
import { Button } from '~/parts/button';
import { Choice, Field, Tick } from '~/parts/field';
import { Notice } from '~/parts/notice';
import { WeightField } from '~/parts/weight-field';
import { Why } from '~/parts/why';
import { Per100gChain } from '~/views/recipes/chain';
import {
  type ComponentDraft,
  type Lid,
  type LineDraft,
  newLine,
  type StepDraft,
} from '~/views/recipes/draft';
import { Findings } from '~/views/recipes/findings';
import { LineEntry, type Proposal } from '~/views/recipes/line-entry';
import { LineRow, type Mend, withReason } from '~/views/recipes/line-row';

/** A component that lines may be made of: of this recipe or another. */
export type Part = { id: string; name: string; recipe: string };

type Props = {
  pointer: string;
  draft: ComponentDraft;
  /** It was added just now: typing goes on in its name. */
  focused: boolean;
  view: Schemas['ComponentView'] | undefined;
  words: Schemas['RecipeWords'];
  parts: Part[];
  fault: (pointer: string) => string | null;
  onChange: (part: Partial<ComponentDraft>) => void;
  onLineMend: (place: number, mend: Mend) => void;
  onMend: (mend: Mend) => void;
  onRead: (lines: LineDraft[], asked: (before: Proposal[]) => Proposal[]) => void;
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
  const { pointer, draft, focused, view, words, parts, fault, onChange, onRead, onSteps, onRemove } = props;
  const name = draft.name || 'this component';
  const changeLine = (place: number, part: Partial<LineDraft>) =>
    onChange({ lines: draft.lines.map((line, at) => (at === place ? { ...line, ...part } : line)) });
  const viewOf = (line: LineDraft, place: number) => {
    const found = view?.lines[place];
    return (found?.food?.id ?? found?.source?.id) === (line.food?.id ?? line.source?.id) ? found : undefined;
  };
  return (
    <li className="grid gap-5 rounded-xl border border-steel bg-sheet p-4 lg:grid-cols-[minmax(0,1fr)_270px]">
      <div className="min-w-0">
        <div className="grid grid-cols-2 items-end gap-3 md:grid-cols-[minmax(0,2fr)_1fr_1fr_104px_104px_auto]">
          <Field
            label="Component"
            autoFocus={focused}
            value={draft.name}
            onChange={(event) => onChange({ name: event.target.value })}
            fault={fault(`${pointer}/name`)}
          />
          <Choice
            label="On the plate"
            value={draft.role}
            onChange={(event) => onChange({ role: event.target.value as Schemas['Role'] })}
            options={words.roles.map(asOption)}
            fault={fault(`${pointer}/role`)}
          />
          <Choice
            label="Cooked"
            value={draft.method}
            onChange={(event) => onChange({ method: event.target.value })}
            options={words.methods.map(asOption)}
            fault={fault(`${pointer}/method`)}
          />
          <WeightField
            label="At least"
            value={draft.minimum_g}
            onText={(minimum_g) => onChange({ minimum_g })}
            fault={fault(`${pointer}/minimum_g`)}
          />
          <WeightField
            label="At most"
            placeholder="usual"
            value={draft.maximum_g}
            onText={(maximum_g) => onChange({ maximum_g })}
            fault={fault(`${pointer}/maximum_g`)}
          />
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
                    pointer={`${pointer}/lines/${place}`}
                    line={line}
                    view={viewOf(line, place)}
                    findings={
                      viewOf(line, place) ? (view?.findings.filter((one) => one.line === place) ?? []) : []
                    }
                    fault={fault}
                    onChange={(part) => changeLine(place, part)}
                    onMend={(mend) => props.onLineMend(place, mend)}
                    onRemove={() => onChange({ lines: draft.lines.filter((_, at) => at !== place) })}
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
          onRead={onRead}
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
              onChange={(event) => {
                const part = parts.find((one) => one.id === event.target.value);
                if (part) onRead([newLine({ source: { id: part.id, name: part.name } })], (asked) => asked);
              }}
            />
          </div>
        ) : null}
        <div className="mt-3">
          <Findings
            findings={view?.findings.filter((one) => one.line === null) ?? []}
            onMend={props.onMend}
            onDismiss={(code, reason) => onChange({ dismissed: withReason(draft.dismissed, code, reason) })}
          />
        </div>
      </div>
      <Outcome {...props} />
    </li>
  );
}

function Outcome({ pointer, draft, view, fault, onChange }: Props) {
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
      <PanDetails pointer={pointer} draft={draft} fault={fault} onChange={onChange} />
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
function PortionDetails({
  pointer,
  draft,
  fault,
  onChange,
}: Pick<Props, 'pointer' | 'draft' | 'fault' | 'onChange'>) {
  const counted = draft.school === 'pieces' || draft.school === 'fixed measure';
  return (
    <div className="mt-2 grid grid-cols-2 gap-2">
      <div className="col-span-2">
        <Choice
          label="How it is portioned"
          hint={schoolHint(draft.school)}
          options={SCHOOLS}
          value={draft.school}
          onChange={(event) => onChange({ school: event.target.value as School })}
        />
      </div>
      {draft.school === 'fixed measure' ? (
        <WeightField
          label="One scoop"
          value={draft.unit_g}
          onText={(unit_g) => onChange({ unit_g })}
          fault={fault(`${pointer}/unit_g`)}
        />
      ) : null}
      {counted ? (
        <Choice
          label="Cut"
          options={PARTS}
          value={draft.unit_part}
          onChange={(event) => onChange({ unit_part: event.target.value })}
        />
      ) : null}
      {draft.school === 'plate shares' ? (
        <Field
          label="Share of the plate"
          inputMode="decimal"
          value={draft.plate_share}
          onChange={(event) => onChange({ plate_share: event.target.value })}
          fault={fault(`${pointer}/plate_share`)}
        />
      ) : null}
      {draft.school === 'by eye' ? (
        <WeightField
          label="About"
          value={draft.eye_g}
          onText={(eye_g) => onChange({ eye_g })}
          fault={fault(`${pointer}/eye_g`)}
        />
      ) : null}
    </div>
  );
}

function PanDetails({
  pointer,
  draft,
  fault,
  onChange,
}: Pick<Props, 'pointer' | 'draft' | 'fault' | 'onChange'>) {
  return (
    <details className="text-sm">
      <summary className="min-h-8 font-medium">Pan, portions and own yield</summary>
      <PortionDetails pointer={pointer} draft={draft} fault={fault} onChange={onChange} />
      <div className="mt-2 grid grid-cols-2 gap-2">
        <WeightField
          label="Fat poured off"
          value={draft.poured_fat_g}
          onText={(poured_fat_g) => onChange({ poured_fat_g })}
          fault={fault(`${pointer}/poured_fat_g`)}
        />
        <Field
          label="Makes pieces"
          inputMode="numeric"
          value={draft.pieces}
          onChange={(event) => onChange({ pieces: event.target.value })}
          fault={fault(`${pointer}/pieces`)}
        />
        <WeightField
          label="Pan holds, raw"
          value={draft.pan_capacity_g}
          onText={(pan_capacity_g) => onChange({ pan_capacity_g })}
          fault={fault(`${pointer}/pan_capacity_g`)}
        />
        {draft.method === 'none' ? null : (
          <>
            <Choice
              label="Lid"
              value={draft.lid}
              onChange={(event) => onChange({ lid: event.target.value as Lid })}
              options={LIDS}
              fault={fault(`${pointer}/lid`)}
            />
            <Field
              label="On the heat"
              unit="min"
              inputMode="numeric"
              placeholder="usual"
              value={draft.cook_min}
              onChange={(event) => onChange({ cook_min: event.target.value })}
              fault={fault(`${pointer}/cook_min`)}
            />
          </>
        )}
        <Field
          label="1 ml weighs"
          unit="g"
          inputMode="decimal"
          value={draft.density_g_per_ml}
          onChange={(event) => onChange({ density_g_per_ml: event.target.value })}
          fault={fault(`${pointer}/density_g_per_ml`)}
        />
      </div>
      <Tick
        label="Goes into containers, and not only into other components"
        checked={draft.served}
        onChange={(served) => onChange({ served })}
      />
      <p className="mt-2 font-medium">Own yield of the whole component</p>
      <div className="grid grid-cols-3 gap-2">
        <Field
          label="Low ×"
          inputMode="decimal"
          value={draft.yield_low}
          onChange={(event) => onChange({ yield_low: event.target.value })}
          fault={fault(`${pointer}/yield_low`)}
        />
        <Field
          label="Usual ×"
          inputMode="decimal"
          value={draft.yield_expected}
          onChange={(event) => onChange({ yield_expected: event.target.value })}
          fault={fault(`${pointer}/yield_expected`) ?? fault(`${pointer}/yield`)}
        />
        <Field
          label="High ×"
          inputMode="decimal"
          value={draft.yield_high}
          onChange={(event) => onChange({ yield_high: event.target.value })}
          fault={fault(`${pointer}/yield_high`)}
        />
      </div>
      <p className="mt-1 text-muted">
        On the raw weight without water, oil and seasoning. Empty: what is known.
      </p>
    </details>
  );
}
