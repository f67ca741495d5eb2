import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { type Problem, type Schemas, toProblem } from '~/api/client';
import { useTypedForm } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { Refused } from '~/parts/form-fields';
import { LoadFailed, Loading, ProblemNotice } from '~/parts/notice';
import { potStepsQuery } from '~/views/batch/cook/queries';
import type { PlanDesk } from '~/views/batch/frame/use-plan';
import { newComponent, newRecipe, type RecipeDraft, recipeInput, stepDraft } from '~/views/recipes/draft';
import { OneOpened } from '~/views/recipes/opened';
import { StepsEditor } from '~/views/recipes/steps-editor';

type Props = { batchId: string; componentId: string; desk: PlanDesk; onClose: () => void };

/** How one component of this batch is made: its own steps, which the recipe keeps no record of. */
export function StepsDialog({ batchId, componentId, desk, onClose }: Props) {
  const found = useQuery(potStepsQuery(batchId, componentId));
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      title={found.data ? `How ${found.data.component} is made` : 'Steps'}
      detail="In this batch alone; the recipe stays as it is. Minutes are for the amount of the recipe."
      wide="page"
    >
      {found.isError ? (
        <LoadFailed error={found.error} retry={() => void found.refetch()} />
      ) : found.data ? (
        <StepsForm found={found.data} batchId={batchId} desk={desk} onClose={onClose} />
      ) : (
        <Loading what="the steps" />
      )}
    </Overlaid>
  );
}

const draftOf = ({ component_id, component, steps }: Schemas['PotStepsView']): RecipeDraft => ({
  ...newRecipe(),
  name: component,
  components: [{ ...newComponent(), key: component_id, id: component_id, name: component }],
  steps: steps.map((step) => stepDraft({ ...step, component_id })),
});

/** A fault of the command is one of the form: its steps stand there under their own name. */
const ofForm = (problem: Problem): Problem => ({
  ...problem,
  errors:
    problem.errors?.map((one) => ({ ...one, pointer: one.pointer.replace('/changes/0/steps', '/steps') })) ??
    [],
});

type FormProps = Omit<Props, 'componentId'> & { found: Schemas['PotStepsView'] };

function StepsForm({ found, batchId, desk, onClose }: FormProps) {
  const queries = useQueryClient();
  const form = useTypedForm<RecipeDraft>({ initial: draftOf(found), toInput: recipeInput });
  const [problem, setProblem] = useState<Problem | null>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const { body, faults } = recipeInput(form.draft);
    if (faults.size) return;
    const { steps } = body;
    const refused = await desk
      .change(() => [{ kind: 'steps', component_id: found.component_id, steps }])
      .catch(toProblem);
    if (refused) {
      setProblem(ofForm(refused));
      return;
    }
    void queries.invalidateQueries({ queryKey: ['plans', batchId, 'cooking'] });
    onClose();
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate>
      {found.is_proposed ? (
        <p className="text-ochre-text">
          Proposed, nobody wrote them. Saved, they are yours, and change with nothing else.
        </p>
      ) : null}
      <Refused value={problem}>
        <OneOpened>{() => <StepsEditor form={form} />}</OneOpened>
      </Refused>
      {problem ? <ProblemNotice problem={problem} /> : null}
      <div className="mt-3 flex justify-end gap-2">
        <Close>
          <Button>Leave it</Button>
        </Close>
        <Button type="submit" look="main" disabled={form.isUnreadable}>
          Save the steps
        </Button>
      </div>
    </form>
  );
}
