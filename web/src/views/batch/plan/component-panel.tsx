import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { FoodPicker } from '~/food/food-picker';
import { Composition, MacroLine } from '~/food/macros';
import { YieldRibbon } from '~/food/yield-ribbon';
import { exactWeight, grams, moment, percent, plural, weight, yieldAndLoss } from '~/lib/format';
import { oddsWords } from '~/lib/odds';
import { massUnit } from '~/lib/units';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { Why } from '~/parts/why';
import { Panel } from '~/views/batch/frame/panel';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { type Component, dishesWith, partsOf } from '~/views/batch/plan/dishes';
import { InlineNumber } from '~/views/batch/plan/inline-number';
import { PartSettings } from '~/views/batch/plan/part-settings';
import { PotSettings } from '~/views/batch/plan/pot-settings';
import { WeighIn } from '~/views/batch/weigh/weigh-in';

/** One component of the batch: the chain from bought to containers, its raw amounts, its weigh-in. */
export function ComponentPanel({
  plan,
  component,
  closed,
  desk,
  onClose,
}: {
  plan: Plan;
  component: Component;
  closed: boolean;
  desk: PlanDesk;
  onClose: () => void;
}) {
  const measured = component.weighing !== null;
  const dishes = dishesWith(plan, component.id);
  const builtRaw = dishes.some((dish) => partIn(plan, dish, component.id)?.school === 'built raw');
  return (
    <Panel
      title={component.name}
      detail={`${component.role}, ${component.method === 'none' ? 'not cooked' : component.method}`}
      onClose={onClose}
    >
      {component.caution ? <Notice tone="caution">{component.caution}</Notice> : null}
      {component.packed_raw ? (
        <p className="border-l-4 border-l-ochre bg-bench px-3 py-2 text-sm">
          Packed raw, to be cooked later: its grams are raw grams. {component.kit_text}
        </p>
      ) : null}
      {!component.to_weigh ? (
        <p className="text-sm">
          {component.fresh_g > 0
            ? `${weight(component.fresh_g)} are added at eating: no pot gives them, and nothing is weighed here.`
            : 'No container has chosen it, so it is not cooked.'}
        </p>
      ) : (
        <WeighIn
          key={`${component.weighing?.weighed_at ?? 'open'}/${desk.taken}`}
          component={component}
          closed={closed}
          desk={desk}
          plan={plan}
        />
      )}
      <Chain component={component} />
      {dishes.length > 1 ? (
        <WhereItGoes plan={plan} component={component} closed={closed} desk={desk} />
      ) : null}
      <RawAmounts component={component} closed={closed} desk={desk} />
      {closed ? null : <AtTheStove component={component} desk={desk} />}
      {dishes.map((dish) => {
        const part = partIn(plan, dish, component.id);
        return part ? (
          <PartSettings
            key={dish.id}
            dish={dish}
            part={part}
            shared={dishes.length > 1}
            closed={closed}
            desk={desk}
          />
        ) : null;
      })}
      <PotSettings component={component} dishes={dishes} closed={closed} desk={desk} />
      <Composition amounts={component.per_100g} caption={`100 g cooked hold${measured ? '' : ' about'}`} />
      <Why label={`100 g of ${component.name}`} figure="Where 100 g come from">
        <PanChain component={component} />
      </Why>
      {component.piece_g !== null && component.makes !== null ? (
        <p className="text-sm">
          {plural(component.makes, builtRaw ? 'unit' : 'piece')} of {exactWeight(component.piece_g)} each
          {builtRaw
            ? `: ${component.lines.map((line) => `${exactWeight(line.unit_g ?? 0)} ${line.name}`).join(' + ')}`
            : ''}
          .
        </p>
      ) : null}
      {component.rounds !== null && component.rounds > 1 && component.round_g !== null ? (
        <p className="text-sm">
          {plural(component.rounds, 'round')} of {weight(component.round_g)}: the pan holds no more at once.
        </p>
      ) : null}
      {component.allergens.length ? (
        <p className="text-sm">
          Contains <strong>{component.allergens.join(', ')}</strong>
        </p>
      ) : null}
    </Panel>
  );
}

const partIn = (plan: Plan, dish: Plan['dishes'][number], componentId: string) =>
  partsOf(plan, dish).find((part) => part.id === componentId);

/** What each dish takes of a pot that several share; each can have one of its own again. */
function WhereItGoes({
  plan,
  component,
  closed,
  desk,
}: {
  plan: Plan;
  component: Component;
  closed: boolean;
  desk: PlanDesk;
}) {
  return (
    <section aria-label="Where it goes">
      <h3 className="mb-1 text-lg">One pot for several dishes</h3>
      <ul>
        {dishesWith(plan, component.id).map((dish) => (
          <li key={dish.id} className="border-t border-steel py-1">
            <span className="flex justify-between gap-2">
              <span>{dish.name}</span>
              <span className="figures font-semibold">
                {weight(partIn(plan, dish, component.id)?.taken_g ?? 0)}
              </span>
            </span>
            {closed || component.weighing ? null : (
              <button
                type="button"
                className="min-h-9 text-sm underline"
                onClick={() =>
                  void desk.act(() => [{ kind: 'split-pot', component_id: component.id, dish_id: dish.id }])
                }
              >
                A pot of its own for {dish.name}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What each ingredient brings to the pan, less the fat poured off, over the cooked weight. */
function PanChain({ component }: { component: Component }) {
  return (
    <>
      <ul>
        {component.lines.map((line) => (
          <li key={line.id} className="border-t border-steel py-1">
            {line.name}, {weight(line.edible_g)} edible
            {line.retained_share < 1 ? `, ${percent(line.retained_share)} stays` : ''}
            <span className="block">
              <MacroLine amounts={line.amounts} />
            </span>
          </li>
        ))}
        {component.poured_fat_g ? (
          <li className="border-t border-steel py-1">
            less {exactWeight(component.poured_fat_g)} of fat poured off
          </li>
        ) : null}
        <li className="border-t-2 border-edge py-1">
          <strong>In the pan</strong>
          <span className="block">
            <MacroLine amounts={component.totals} />
          </span>
        </li>
      </ul>
      <p className="mt-1">
        Divided by {weight(component.cooked_g)} cooked ({component.yield_source}), times 100. Macros stay in
        the pan; water comes and goes.
      </p>
    </>
  );
}

/** What happens while it cooks: an ingredient added by taste, fat poured off. Both are noted at once. */
function AtTheStove({ component, desk }: { component: Component; desk: PlanDesk }) {
  const [food, setFood] = useState<Schemas['FoodBrief'] | null>(null);
  return (
    <section>
      <h3 className="mb-1 text-lg">At the stove</h3>
      {food ? (
        <div className="space-y-2">
          <InlineNumber
            of={component.id}
            key={food.id}
            label={`${food.name}, added`}
            unit="g"
            value={null}
            onCommit={async (value) => {
              if (value === null) return null;
              const problem = await desk.change(() => [
                { kind: 'add-line', component_id: component.id, food_id: food.id, purchased_g: value },
              ]);
              // Another food may have been chosen by the time of the answer.
              if (!problem) setFood((now) => (now === food ? null : now));
              return problem;
            }}
          />
          <Button look="quiet" onClick={() => setFood(null)}>
            Nothing added
          </Button>
        </div>
      ) : (
        <FoodPicker label="Add an ingredient" onPick={setFood} />
      )}
      <div className="mt-2">
        <InlineNumber
          of={component.id}
          label="Fat poured off, weighed"
          unit="g"
          value={component.poured_fat_g}
          onCommit={(value) =>
            desk.change(() => [{ kind: 'poured', component_id: component.id, poured_fat_g: value ?? 0 }])
          }
        />
      </div>
      {component.weighing ? (
        <p className="mt-1 text-sm text-muted">
          It is weighed already: weigh it again if what was added is not in that weight.
        </p>
      ) : null}
    </section>
  );
}

/** bought → edible → cooked → in containers → left over, each step with what it takes away. */
function Chain({ component }: { component: Component }) {
  const measured = component.weighing !== null;
  const about = measured || component.cooked_g === 0 ? '' : '~';
  const edible = component.lines.reduce((sum, line) => sum + line.edible_g, 0);
  const steps: [string, string, string][] = [
    ['Bought', grams(component.purchased_g), ''],
    [
      'Into the pan',
      grams(edible),
      edible < component.purchased_g - 0.5 ? `${weight(component.purchased_g - edible)} trimmed off` : '',
    ],
    [
      measured ? 'Cooked, weighed' : 'Cooked, expected',
      `${about}${grams(component.cooked_g)}`,
      measured
        ? ''
        : `${grams(component.cooked_low_g)} to ${weight(component.cooked_high_g)}${
            component.enough == null ? '' : `; enough ${oddsWords(component.enough)}`
          }`,
    ],
    ['In containers', grams(component.needed_g), ''],
    [
      component.spare_g < -0.5 ? 'Short' : 'Left over',
      `${about}${grams(Math.abs(component.spare_g))}`,
      component.over_g > 0.05
        ? 'found no place in the containers: the cook’s'
        : component.raw_fixed
          ? ''
          : 'for tasting and spill',
    ],
  ];
  return (
    <div>
      <YieldRibbon
        basis={component.basis_g}
        low={component.cooked_low_g}
        cooked={component.cooked_g}
        high={component.cooked_high_g}
        factor={component.yield_factor}
        measured={measured}
        figures={false}
      />
      <p className="mt-1 mb-2 text-sm text-muted">
        Yield {yieldAndLoss(component.yield_factor)}, {component.yield_source}, on {weight(component.basis_g)}{' '}
        without water, oil and seasoning
      </p>
      <dl>
        {steps.map(([name, value, note]) => (
          <div key={name} className="flex flex-wrap justify-between border-t border-steel py-1">
            <dt className={name === 'Short' ? 'font-semibold text-alert' : ''}>{name}</dt>
            <dd className={`figures font-semibold ${name === 'Short' ? 'text-alert' : ''}`}>
              {value} {massUnit()}
            </dd>
            {note ? <dd className="w-full text-right text-xs text-muted">{note}</dd> : null}
          </div>
        ))}
      </dl>
    </div>
  );
}

function RawAmounts({ component, closed, desk }: { component: Component; closed: boolean; desk: PlanDesk }) {
  const follow = () =>
    desk.act((now) => {
      const current = now.components.find((one) => one.id === component.id);
      return current?.raw_fixed ? [{ kind: 'raw', component_id: component.id, fixed: false, lines: [] }] : [];
    });
  return (
    <section>
      <h3 className="mb-1 text-lg">Raw amounts, as bought</h3>
      <p className="mb-2 text-sm text-muted">
        {component.raw_fixed
          ? 'Fixed: they do not follow the plan.'
          : 'They follow the plan. Type what you really have or used to fix them.'}
      </p>
      <ul className="space-y-2">
        {component.lines.map((line) => (
          <li key={line.id} className="grid grid-cols-[1fr_118px] items-start gap-2">
            <span className="pt-1.5 text-sm leading-tight">
              <span className="font-medium">{line.name}</span>{' '}
              <span className="text-muted">{line.state}</span>
              <span className="block text-xs text-muted">
                {component.own_yield
                  ? 'by the component’s own yield'
                  : `${line.expected.source}, ×${line.expected.expected.toFixed(2)}`}
                {line.expected.note && !component.own_yield ? ` (${line.expected.note})` : ''}
                {line.added_at ? `; added at the stove by ${line.added_by}, ${moment(line.added_at)}` : ''}
                {line.refuse_share ? `, ${percent(line.refuse_share)} trimmed` : ''}
                {line.retained_share < 1 ? `, ${percent(line.retained_share)} stays in (assumed)` : ''}
              </span>
              {closed || component.weighing !== null
                ? null
                : line.packs.map((pack) => (
                    <button
                      key={pack.name}
                      type="button"
                      className="min-h-9 text-left text-xs underline"
                      onClick={() =>
                        void desk.act(() => [
                          {
                            kind: 'packs',
                            component_id: component.id,
                            line_id: line.id,
                            pack_g: pack.grams,
                            packs: null,
                          },
                        ])
                      }
                    >
                      Cook {pack.needed} whole × {pack.name} of {exactWeight(pack.grams)}
                    </button>
                  ))}
            </span>
            <InlineNumber
              of={component.id}
              label={`${line.name}, raw`}
              hideLabel
              unit="g"
              disabled={closed}
              value={line.weigh_out_g}
              onCommit={(value) =>
                desk.change(() => [
                  {
                    kind: 'raw',
                    component_id: component.id,
                    fixed: true,
                    lines: [{ line_id: line.id, purchased_g: value ?? 0 }],
                  },
                ])
              }
            />
          </li>
        ))}
      </ul>
      {component.raw_fixed && !closed && component.weighing === null ? (
        <Button className="mt-2 w-full" onClick={() => void follow()}>
          Follow the plan again
        </Button>
      ) : null}
    </section>
  );
}
