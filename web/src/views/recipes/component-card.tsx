import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import type { Schemas } from '~/api/client';
import { Composition, MACROS, MacroName, macroFigure } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { YieldRibbon } from '~/food/yield-ribbon';
import { energyWithUnit, exactWeight, lossWords, plural, weight } from '~/lib/format';
import { energyUnit } from '~/lib/units';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Notice } from '~/parts/notice';
import { Why } from '~/parts/why';
import { Per100gChain } from '~/views/recipes/chain';
import { ComponentHead } from '~/views/recipes/component-head';
import {
  type Asked,
  type ComponentDraft,
  type LineDraft,
  newLine,
  type RecipeDraft,
  type StepDraft,
} from '~/views/recipes/draft';
import { Findings } from '~/views/recipes/findings';
import { LineEntry } from '~/views/recipes/line-entry';
import { LINE_GRID, LineRow, type Mend, withReason } from '~/views/recipes/line-row';
import { mendedComponent } from '~/views/recipes/mends';

/** A component that lines may be made of: of this recipe or another. */
export type Part = { id: string; name: string; recipe: string };

type Props = {
  form: Form<RecipeDraft>;
  index: number;
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

/** One component of a recipe: its lines at the left, what comes out of them at the right. */
export function ComponentCard(props: Props) {
  const { form, index, view, words, parts, onChange, mendOf, onSteps, onRemove } = props;
  const { control } = form;
  const at = `components.${index}` as const;
  const draft = useWatch({ control, name: at });
  const name = draft.name || 'this component';
  const [isWriting, write] = useState(draft.lines.length === 0);
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
    <li
      data-component
      className="grid gap-5 rounded-xl border border-steel bg-sheet p-4 lg:grid-cols-[minmax(0,1fr)_270px]"
    >
      <div className="min-w-0">
        <ComponentHead control={control} at={at} draft={draft} words={words} onRemove={onRemove} />
        {draft.lines.length > 0 ? (
          <>
            <p className={`${LINE_GRID} mt-3 text-sm text-muted`}>
              <span className="text-right">Bought</span>
              <span className="text-right max-sm:col-start-3 sm:col-start-4">Cooked</span>
            </p>
            <ul>
              {draft.lines.map((line, place) => (
                <LineRow
                  key={line.key}
                  form={form}
                  at={`${at}.lines.${place}`}
                  view={viewOf(line, place)}
                  findings={
                    viewOf(line, place) ? (view?.findings.filter((one) => one.line === place) ?? []) : []
                  }
                  next={draft.lines[place + 1]?.key}
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
            </ul>
          </>
        ) : (
          <p className="mt-4 text-muted">
            Nothing in it yet. Write the first ingredient with its raw weight.
          </p>
        )}
        {isWriting || draft.asked.length ? (
          <>
            <LineEntry
              label={`Write an ingredient of ${name}`}
              autoFocus={draft.lines.length > 0}
              asked={draft.asked}
              onRead={take}
              onSteps={onSteps}
            />
            {parts.length ? <MadeOf parts={parts} onChosen={(line) => take([line])} /> : null}
          </>
        ) : (
          <Button
            look="quiet"
            className="mt-1 !px-2"
            data-entry
            aria-label={`Add an ingredient to ${name}`}
            onClick={() => write(true)}
          >
            Add an ingredient
          </Button>
        )}
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
      <Outcome draft={draft} view={view} />
    </li>
  );
}

function MadeOf({ parts, onChosen }: Pick<Props, 'parts'> & { onChosen: (line: LineDraft) => void }) {
  return (
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
          if (part) onChosen(newLine({ source: { id: part.id, name: part.name } }));
        }}
      />
    </div>
  );
}

function Outcome({ draft, view }: { draft: ComponentDraft } & Pick<Props, 'view'>) {
  const figures = view?.figures;
  return (
    <div className="space-y-2 lg:border-l lg:border-steel lg:pl-5">
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
          <p className="text-sm text-muted first-letter:uppercase">
            {[
              figures.cooked_low_g < figures.cooked_high_g
                ? `usually ${weight(figures.cooked_low_g)} to ${weight(figures.cooked_high_g)}`
                : '',
              lossWords(figures.yield_factor),
              figures.yield_source,
            ]
              .filter(Boolean)
              .join(', ')}
            .
          </p>
          {draft.asked.length ? (
            <p className="text-sm font-semibold">
              without {plural(draft.asked.length, 'line')} that{' '}
              {draft.asked.length === 1 ? 'waits for its answer' : 'wait for their answers'}
            </p>
          ) : null}
          <table className="w-full">
            <thead>
              <tr className="text-right text-sm text-muted">
                <th className="text-left font-medium">About, by this recipe</th>
                <th className="font-medium">100 g</th>
                <th className="font-medium">batch</th>
              </tr>
            </thead>
            <tbody>
              {MACRO_KEYS.map((key) => (
                <tr key={key} className="border-t border-steel">
                  <th scope="row" className="py-0.5 text-left text-sm font-medium">
                    <MacroName of={key} word={key === 'kcal' ? energyUnit() : MACROS[key].word} />
                  </th>
                  <td className="figures py-0.5 text-right text-lg font-semibold">
                    <Why label={`${MACROS[key].word} in 100 g`} figure={macroFigure(figures.per_100g, key)}>
                      <Per100gChain component={view} figures={figures} of={key} />
                    </Why>
                  </td>
                  <td className="figures py-0.5 pl-3 text-right">{macroFigure(figures.totals, key)}</td>
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
