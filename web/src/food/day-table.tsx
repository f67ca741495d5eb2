import type { Schemas } from '~/api/client';
import { GaugeLevel } from '~/food/level';
import { type Amounts, MacroHead, macroFigure } from '~/food/macros';
import { LIMITED, MACRO_KEYS, type MacroKey } from '~/food/nutrients';
import { energy, energyWithUnit, oneDecimal, weight, wholeNumber } from '~/lib/format';
import { Notice } from '~/parts/notice';

type Day = Schemas['DayView'];

const DETAIL: Record<string, string> = {
  extra: 'outside the containers',
  container: 'in a container',
  target: 'as targeted',
};

/** A day: what is eaten outside the containers, each meal, their sum, and how that stands to the day. */
export function DayTable({ day }: { day: Day }) {
  const limits = day.gauges.filter((gauge) => gauge.side !== 'aim');
  return (
    <div className="space-y-2">
      <table className="w-full table-fixed text-sm">
        <caption className="sr-only">
          The {day.day_type} day{day.client ? ` of ${day.client}` : ''}
        </caption>
        <MacroHead first="grams" wide />
        <tbody>
          {day.parts.map((part, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two extras of a day may be the same food
            <tr key={`${part.kind} ${part.name} ${place}`} className="border-t border-steel align-top">
              <th scope="row" className="py-1 pr-1 text-left font-normal leading-tight break-words">
                {part.name}
                <span className="block text-xs text-muted">{DETAIL[part.kind]}</span>
              </th>
              {MACRO_KEYS.map((key) => (
                <td key={key} className="figures py-1 text-right">
                  {known(part.amounts, key)}
                </td>
              ))}
            </tr>
          ))}
          <tr className="border-t-2 border-ink font-bold">
            <th scope="row" className="py-1 text-left">
              Together
            </th>
            {MACRO_KEYS.map((key) => (
              <td key={key} className="figures py-1 text-right">
                {macroFigure(day.total, key)}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row" className="py-1 text-left font-normal text-muted">
              The day shall hold
            </th>
            {MACRO_KEYS.map((key) => (
              <td key={key} className="py-1 pl-3 align-top">
                <DayGauge day={day} nutrient={key} />
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      {limits.map((gauge) => (
        <p
          key={gauge.nutrient}
          className={`text-sm ${gauge.miss === 0 ? 'text-muted' : 'font-medium text-alert'}`}
        >
          {LIMIT_WORDS[gauge.nutrient]} {gauge.side} {wholeNumber(gauge.target)}: holds{' '}
          {gauge.at_least ? 'at least ' : ''}
          {wholeNumber(gauge.amount)}
          {!gauge.known ? ', not known' : gauge.miss === 0 ? ', inside' : ''}
        </p>
      ))}
      {day.aims.map((aim) => (
        <DailyAim key={aim.name} aim={aim} />
      ))}
      {day.instead.map((other) => (
        <p key={other.name} className="text-sm text-muted">
          With {other.name} instead: {oneDecimal(other.total.protein_g)} P,{' '}
          {oneDecimal(other.total.carbohydrate_g)} C, {oneDecimal(other.total.fat_g)} F,{' '}
          {energyWithUnit(other.total.kcal)}
        </p>
      ))}
      {day.fill_ups.length ? <FillUps day={day} /> : null}
      {day.notes.map((note) => (
        <Notice key={note} tone="caution">
          {note}
        </Notice>
      ))}
    </div>
  );
}

/** What the coach aims at for every day: vegetables and fruit, fibre, minerals. Nothing is claimed where it is not known. */
function DailyAim({ aim }: { aim: Day['aims'][number] }) {
  const holds = `${aim.at_least ? 'at least ' : ''}${wholeNumber(aim.amount)} ${aim.unit}`;
  return (
    <p className={`text-sm ${aim.missed ? 'font-medium text-alert' : 'text-muted'}`}>
      {aim.name[0]?.toUpperCase()}
      {aim.name.slice(1)}: {holds}
      {aim.aim === null
        ? '; no aim set'
        : `; aim ${aim.side} ${wholeNumber(aim.aim)} ${aim.unit}: ${aim.missed === null ? 'not known' : aim.missed ? 'missed' : 'inside'}`}
    </p>
  );
}

/** What a client has at hand and would bring the day nearer, each tried. */
const FillUps = ({ day }: { day: Day }) => (
  <section aria-label="What closes the gap" className="border-t border-steel pt-2 text-sm">
    <h3 className="text-base">From what is at hand</h3>
    <ul className="space-y-1">
      {day.fill_ups.map((one) => {
        const what = one.foods.map((food) => `${weight(food.grams)} ${food.name}`).join(' and ');
        return (
          <li key={what}>
            <strong>{what}</strong>: then {oneDecimal(one.total.protein_g)} P,{' '}
            {oneDecimal(one.total.carbohydrate_g)} C, {oneDecimal(one.total.fat_g)} F,{' '}
            {energyWithUnit(one.total.kcal)}
            {one.closes ? '; nothing is missed' : '; nearer, not all'}
          </li>
        );
      })}
    </ul>
  </section>
);

const LIMIT_WORDS: Record<string, string> = Object.fromEntries(
  LIMITED.map(({ key, name, unit }) => [key, `${name} [${unit}]`]),
);

/** Nothing stands where a target does not aim: it is not known, which is not zero. */
function known(amounts: Amounts, key: MacroKey) {
  if (amounts[key] === 0 && amounts.at_least.includes(key)) return '–';
  return key === 'kcal' ? energy(amounts.kcal) : oneDecimal(amounts[key]);
}

function DayGauge({ day, nutrient }: { day: Day; nutrient: MacroKey }) {
  const gauge = day.gauges.find((one) => one.nutrient === nutrient);
  if (!gauge) return <span className="block text-right text-muted">–</span>;
  return <GaugeLevel gauge={gauge} nutrient={nutrient} />;
}
