import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import type { Schemas } from '~/api/client';
import { exactWeight, weight } from '~/lib/format';
import { asWeight, readWeight } from '~/lib/numbers';
import { massUnit } from '~/lib/units';
import { Button } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { lengthWords, timeOfDay } from '~/views/batch/cook/clock';
import { BigButton } from '~/views/batch/cook/timers';
import type { Fact } from '~/views/batch/cook/waiting';
import { settingsQuery } from '~/views/kitchen/queries';

type Scale = Schemas['ScaleView'];
type Props = {
  scales: Scale[];
  steps: Schemas['CookStepView'][];
  minute: number;
  note: (fact: Fact, words: string) => void;
};

/** What is cooked down, or up, to a weight: what the scale is to show, how far it is, and about when. */
export function Scales({ scales, steps, minute, note }: Props) {
  const [asked, setAsked] = useState<string | null>(null);
  if (scales.length === 0) return null;
  const open = scales.find((one) => one.task === asked);
  return (
    <>
      <ul
        aria-label="On the scale"
        className="divide-y divide-steel rounded-xl border border-steel bg-sheet px-4"
      >
        {scales.map((one) => (
          <li key={one.task} className="flex min-h-16 flex-wrap items-center gap-x-4 gap-y-1 py-2">
            <div className="min-w-0 flex-1">
              <p>
                <b>{one.component}</b>: {untilWords(one)}
              </p>
              <p className="text-muted" role="status">
                {howFar(one, minute)}
              </p>
            </div>
            <ToOrder scale={one} step={steps.find((step) => step.key === one.task)} note={note} />
            <Button className="min-h-16" onClick={() => setAsked(one.task)}>
              Weigh it
            </Button>
          </li>
        ))}
      </ul>
      {open ? (
        <WeighDialog
          scale={open}
          onClose={() => setAsked(null)}
          onRead={(grams, vessel, vessel_g) => {
            note(
              { event: 'weighed', task: open.task, grams, vessel, vessel_g },
              `${open.component}: ${typeof grams === 'number' ? weight(grams) : grams} on the scale`,
            );
            setAsked(null);
          }}
        />
      ) : null}
    </>
  );
}

/** Until what the scale shows it is cooked. */
export function untilWords(scale: Pick<Scale, 'net_g' | 'vessel' | 'vessel_g' | 'left_g'>): string {
  const how = scale.left_g !== null && scale.left_g < 0 ? 'bring it up until' : 'cook it until';
  if (scale.vessel_g === null) return `${how} ${weight(scale.net_g)} are in it, without the pan`;
  const vessel = scale.vessel || 'the pan';
  return `${how} ${vessel} and all show ${weight(scale.net_g + scale.vessel_g)}`;
}

/** How far it is from its weight, and about when it gets there. */
export function howFar(scale: Scale, minute: number): string {
  const last = scale.readings.at(-1);
  if (!last || scale.left_g === null) return 'Weigh it with its pan: two readings tell about when.';
  const read = `${timeOfDay(last.at_min)}: ${weight(last.grams)}`;
  if (scale.is_there) return `${read}. It is there.`;
  const left =
    scale.left_g > 0 ? `${weight(scale.left_g)} still to go` : `${weight(-scale.left_g)} too little`;
  if (scale.about_min !== null) {
    const inMin = scale.about_min - minute;
    const when = inMin > 0 ? `, in ${lengthWords(inMin)}` : ', now';
    return `${read}, ${left}, about ${timeOfDay(scale.about_min)}${when}.`;
  }
  if (scale.per_min_g === null) return `${read}, ${left}. Weigh it again in a few minutes.`;
  return scale.left_g > 0
    ? `${read}, ${left}, and it does not get less: lid off, more heat.`
    : `${read}, ${left}: add water or stock to the weight.`;
}

/** The order of work follows the scale where it is off by more than a little. */
function ToOrder({
  scale,
  step,
  note,
}: {
  scale: Scale;
  step: Schemas['CookStepView'] | undefined;
  note: Props['note'];
}) {
  if (scale.about_min === null || !step) return null;
  const off = scale.about_min - step.end_min;
  if (Math.abs(off) < NOTED_FROM_MIN) return null;
  return (
    <Button
      className="min-h-16"
      onClick={() =>
        note(
          { event: 'longer', task: scale.task, minutes: off },
          `${scale.component}: done about ${timeOfDay(scale.about_min ?? 0)}`,
        )
      }
    >
      Plan with it: {lengthWords(Math.abs(off))} {off > 0 ? 'later' : 'earlier'}
    </Button>
  );
}

const NOTED_FROM_MIN = 3;

/** A weight as it is sent: grams, or the text with its unit. */
type Typed = NonNullable<Fact['grams']>;
type Dialog = {
  scale: Scale;
  onRead: (grams: Typed, vessel: string, vessel_g: Typed) => void;
  onClose: () => void;
};

function WeighDialog({ scale, onRead, onClose }: Dialog) {
  const settings = useQuery(settingsQuery);
  const [gross, setGross] = useState('');
  const [vessel, setVessel] = useState(scale.vessel_g === null ? '' : asWeight(scale.vessel_g));
  const [name, setName] = useState(scale.vessel);
  const [read, empty] = [readWeight(gross), readWeight(vessel)];
  const isImpossible =
    typeof read.value === 'number' && typeof empty.value === 'number' && read.value <= empty.value;
  const isWhole = read.value !== null && empty.value !== null && !read.fault && !empty.fault && !isImpossible;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (isWhole && read.value !== null && empty.value !== null) onRead(read.value, name, empty.value);
  };
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      title={`${scale.component} on the scale`}
      detail="Pan and all, off the heat for a moment. Two hands and dry cloths: what boils burns."
    >
      <form onSubmit={submit} className="space-y-3">
        <Field
          label="The scale shows"
          unit={massUnit()}
          inputMode="decimal"
          autoFocus
          value={gross}
          onChange={(event) => setGross(event.target.value)}
          fault={read.fault ?? (isImpossible ? 'That is no more than the empty pan weighs.' : undefined)}
        />
        <Field
          label="Empty pan"
          unit={massUnit()}
          inputMode="decimal"
          value={vessel}
          onChange={(event) => {
            setVessel(event.target.value);
            setName('');
          }}
          fault={empty.fault ?? undefined}
        />
        <ul aria-label="Known vessels" className="flex flex-wrap gap-2 empty:hidden">
          {(settings.data?.vessels ?? []).map((one) => (
            <li key={one.id}>
              <Button
                onClick={() => {
                  setVessel(asWeight(one.empty_g));
                  setName(one.name);
                }}
              >
                {one.name} {exactWeight(one.empty_g)}
              </Button>
            </li>
          ))}
        </ul>
        <BigButton type="submit" isMain disabled={!isWhole}>
          Note it
        </BigButton>
      </form>
    </Overlaid>
  );
}
