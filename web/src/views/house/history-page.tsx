import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, type Schemas } from '~/api/client';
import { dayAndYear, plural, price, weight } from '~/lib/format';
import { buttonClass } from '~/parts/button';
import { Field } from '~/parts/field';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { linesOf } from '~/views/house/plot';

type Food = Schemas['FoodHistory'];

const historyQuery = {
  queryKey: ['house', 'history'],
  queryFn: () => ask(api.GET('/api/v1/house/history')),
};

/** What foods cost and how much of them came and went, over time; what was thrown away; what each year cost. */
export function HistoryPage() {
  const history = useQuery(historyQuery);
  const [text, setText] = useState('');
  if (history.isError) return <LoadFailed error={history.error} retry={() => void history.refetch()} />;
  if (!history.data) return <Loading what="prices and amounts" />;
  const { foods, years } = history.data;
  const wanted = foods.filter((food) => food.name.toLowerCase().includes(text.trim().toLowerCase()));
  return (
    <Page
      title="Prices and amounts"
      detail={foods.length ? plural(foods.length, 'food') : ''}
      actions={
        <>
          <Link to="/house" className={buttonClass()}>
            In the house
          </Link>
          <a className={buttonClass()} href="/api/v1/house/history.csv" download>
            CSV
          </a>
        </>
      }
    >
      {foods.length === 0 ? (
        <Empty title="Nothing was bought yet">
          <p>Prices of packs, what comes into the house and what is thrown away stand here over time.</p>
        </Empty>
      ) : (
        <>
          <Years years={years} />
          <div className="mt-5 max-w-md">
            <Field
              label="Food"
              type="search"
              value={text}
              onChange={(event) => setText(event.target.value)}
              placeholder="turkey, rice"
            />
          </div>
          <ul className="mt-3 divide-y divide-steel border-y border-steel">
            {wanted.map((food) => (
              <FoodLine key={food.food_id} food={food} />
            ))}
          </ul>
          {wanted.length === 0 ? (
            <p className="mt-3 text-muted">No food of that name was bought yet.</p>
          ) : null}
        </>
      )}
    </Page>
  );
}

function Years({ years }: { years: Schemas['HistoryOfYear'][] }) {
  return (
    <table aria-label="By year" className="w-full max-w-3xl">
      <thead>
        <tr className="text-left text-sm text-muted">
          <th scope="col" className="py-1 font-medium">
            Year
          </th>
          <th scope="col" className="py-1 text-right font-medium">
            Paid at the till
          </th>
          <th scope="col" className="py-1 text-right font-medium">
            What came in cost
          </th>
          <th scope="col" className="py-1 text-right font-medium">
            Thrown away
          </th>
        </tr>
      </thead>
      <tbody>
        {years.map((one) => (
          <tr key={one.year} className="border-t border-steel">
            <th scope="row" className="py-1 text-left font-semibold">
              {one.year}
            </th>
            <td className="figures py-1 text-right">{price(one.paid_at_tills)}</td>
            <td className="figures py-1 text-right">{price(one.bought_worth)}</td>
            <td className="figures py-1 text-right">
              {weight(one.thrown_g)}, {price(one.thrown_worth)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function FoodLine({ food }: { food: Food }) {
  const newest = food.prices.at(-1);
  const sum = (of: (month: Food['months'][number]) => number) =>
    food.months.reduce((total, month) => total + of(month), 0);
  const thrown = sum((month) => month.thrown_g);
  const used = sum((month) => month.used_g);
  return (
    <li
      aria-label={food.name}
      className="grid items-center gap-x-4 gap-y-1 py-2 sm:grid-cols-[minmax(0,1fr)_12rem_minmax(0,16rem)]"
    >
      <span>
        <span className="font-semibold">{food.name}</span>
        {newest ? (
          <span className="block text-sm text-muted">
            {price(newest.price)} for {newest.pack} {weight(newest.grams)}
            {newest.shop ? `, ${newest.shop}` : ''},{' '}
            {newest.seen_on ? dayAndYear(newest.seen_on) : 'nobody noted when'}
          </span>
        ) : null}
      </span>
      <Plot food={food} />
      <span className="text-sm text-muted sm:text-right">
        {food.months.length
          ? [
              `${weight(sum((month) => month.bought_g))} came in`,
              used ? `${weight(used)} used` : '',
              thrown ? `${weight(thrown)} thrown away` : '',
            ]
              .filter(Boolean)
              .join(', ')
          : ''}
      </span>
    </li>
  );
}

/** The price of 100 g over time, a line for each shop and pack; what has no day has no place here. */
function Plot({ food }: { food: Food }) {
  const { lines, least, most } = linesOf(food.prices, 180, 36);
  if (lines.every((line) => line.points.length < 2)) return <span />;
  return (
    <svg
      viewBox="-4 -4 188 44"
      className="h-11 w-47"
      role="img"
      aria-label={`${food.name}: 100 g cost from ${price(least)} to ${price(most)}`}
    >
      {lines.map((line) => (
        <g key={line.name}>
          <polyline
            points={line.points.map(([x, y]) => `${x},${y}`).join(' ')}
            fill="none"
            className="stroke-ink"
            strokeWidth={1.5}
          />
          {line.points.map(([x, y]) => (
            <circle key={`${x},${y}`} cx={x} cy={y} r={2.5} className="fill-ink" />
          ))}
        </g>
      ))}
    </svg>
  );
}
