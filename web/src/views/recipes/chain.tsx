import type { Schemas } from '~/api/client';
import { MACROS } from '~/food/macros';
import type { MacroKey } from '~/food/nutrients';
import { energy, exactWeight, oneDecimal, percent, weight } from '~/lib/format';
import { energyUnit } from '~/lib/units';

type Component = Schemas['ComponentView'];
type Figures = Schemas['ComponentFigures'];

const amount = (key: MacroKey, value: number) => (key === 'kcal' ? energy(value) : oneDecimal(value));
const unit = (key: MacroKey) => (key === 'kcal' ? energyUnit() : 'g');

/** 100 g cooked, down to the line, the source and the formula. */
export function Per100gChain({
  component,
  figures,
  of,
}: {
  component: Component;
  figures: Figures;
  of: MacroKey;
}) {
  return (
    <>
      <p className="mb-2">
        100 × {amount(of, figures.totals[of])} / {weight(figures.cooked_g)} cooked ={' '}
        <strong className="figures">
          {amount(of, figures.per_100g[of])} {unit(of)}
        </strong>{' '}
        {MACROS[of].word}. Macros stay in the pan; water comes and goes.
      </p>
      <table className="w-full">
        <tbody>
          {component.lines.map((line) => (
            <tr
              key={`${line.food?.id ?? line.source?.id}-${line.purchased_g}`}
              className="border-t border-steel align-top"
            >
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {line.food?.name ?? line.source?.name}
                <span className="block text-xs text-muted">
                  {exactWeight(line.edible_g)}
                  {line.retained_share < 1 ? ` × ${percent(line.retained_share)} stays` : ''} ×{' '}
                  {amount(of, (line.food ?? line.source)?.per_100g[of] ?? 0)} per 100 g
                  {line.food ? `, ${line.food.source}` : ', as it comes out of its own pan'}
                  {line.counted && !line.free ? '' : '; not counted'}
                </span>
              </th>
              <td className="figures py-1 text-right whitespace-nowrap">
                {amount(of, line.amounts[of])} {unit(of)}
              </td>
            </tr>
          ))}
          {component.poured_fat_g && (of === 'fat_g' || of === 'kcal') ? (
            <tr className="border-t border-steel">
              <th scope="row" className="py-1 text-left font-normal">
                Fat poured off
              </th>
              <td className="figures py-1 text-right">
                − {amount(of, of === 'fat_g' ? component.poured_fat_g : component.poured_fat_g * 9)}{' '}
                {unit(of)}
              </td>
            </tr>
          ) : null}
          <tr className="border-t-2 border-edge">
            <th scope="row" className="py-1 text-left font-semibold">
              In the pan
            </th>
            <td className="figures py-1 text-right font-semibold">
              {amount(of, figures.totals[of])} {unit(of)}
            </td>
          </tr>
        </tbody>
      </table>
      <p className="mt-1 text-muted">
        Cooked weight: {figures.yield_source}
        {figures.yield_note ? ` (${figures.yield_note})` : ''}.
      </p>
    </>
  );
}

/** The cooked weight of a line: what goes in, what stays, by which yield. */
export function LineChain({ line }: { line: Schemas['LineView'] }) {
  const { expected } = line;
  return (
    <>
      <p>
        {exactWeight(line.purchased_g)} bought
        {line.refuse_share
          ? ` − ${percent(line.refuse_share)} ${line.refuse_after ? 'off after cooking' : 'off'}`
          : ''}{' '}
        = {exactWeight(line.edible_g)} edible
      </p>
      <p>
        {line.retained_share < 1 ? `× ${percent(line.retained_share)} that stays in ` : ''}×{' '}
        {expected.expected.toFixed(2)} = <strong className="figures">{exactWeight(line.cooked_g)}</strong>{' '}
        cooked
      </p>
      <p className="mt-1 text-muted">
        Yield {expected.low.toFixed(2)} to {expected.high.toFixed(2)}: {expected.source}
        {expected.note ? `, ${expected.note}` : ''}.
      </p>
      {line.food ? (
        <p className="mt-1 text-muted">
          Figures of {line.food.name}, {line.food.state}: {line.food.source}
          {line.food.weak ? ' (weak)' : ''}.
        </p>
      ) : null}
      {line.text ? <p className="mt-1 text-muted">Written as “{line.text}”.</p> : null}
    </>
  );
}
