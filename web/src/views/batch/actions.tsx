import { toast } from 'sonner';
import { Button } from '~/parts/button';
import { Tip } from '~/parts/tip';
import type { Aside } from '~/views/batch/aside-panel';
import type { Plan, PlanDesk, Step } from '~/views/batch/frame/use-plan';

/** Undo and redo go by the log of the batch: the step may be somebody else's, and the button says so. */
function StepButton({ words, step, onPress }: { words: string; step: Step | null; onPress: () => void }) {
  return (
    <Tip words={step ? step.words.join('; ') : ''}>
      <Button onClick={onPress} disabled={step === null}>
        {step === null || step.own ? words : `${words} ${step.by}’s`}
      </Button>
    </Tip>
  );
}

const WEIGH_FIRST = 'Weigh every component first.';

export function Actions({
  plan,
  desk,
  onShow,
}: {
  plan: Plan;
  desk: PlanDesk;
  onShow: (aside: Aside) => void;
}) {
  const packed = plan.batch.packed_at !== null;
  const [only] = plan.dishes;
  const allWeighed = plan.components.every((component) => component.weighing !== null || !component.to_weigh);
  const pack = () => desk.act((now) => [{ kind: 'packed', packed: now.batch.packed_at === null }]);
  return (
    <>
      <StepButton words="Undo" step={desk.steps.undo} onPress={desk.undo} />
      <StepButton words="Redo" step={desk.steps.redo} onPress={desk.redo} />
      {only && plan.dishes.length === 1 ? (
        <Button onClick={() => onShow({ show: 'dish', id: only.id })}>The dish</Button>
      ) : null}
      {packed ? null : <Button onClick={() => onShow({ show: 'add-dish' })}>Add a dish</Button>}
      <Button onClick={() => onShow({ show: 'history' })}>History</Button>
      {packed ? null : <Button onClick={() => onShow({ show: 'reach' })}>Reach map</Button>}
      <Button onClick={() => window.print()}>Print fill sheet</Button>
      {packed ? (
        <Button onClick={pack}>Open it again</Button>
      ) : (
        <Tip words={allWeighed ? '' : WEIGH_FIRST}>
          {/* It can be reached while it waits for the weights, and says so. */}
          <Button
            look="main"
            aria-disabled={!allWeighed}
            onClick={() => (allWeighed ? void pack() : toast(WEIGH_FIRST))}
          >
            Mark as packed
          </Button>
        </Tip>
      )}
    </>
  );
}
