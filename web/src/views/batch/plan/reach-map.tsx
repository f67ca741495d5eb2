import { useQuery } from '@tanstack/react-query';
import { wholeNumber } from '~/lib/format';
import { Panel } from '~/views/batch/frame/panel';
import { reachQuery } from '~/views/batch/frame/queries';
import type { Plan } from '~/views/batch/frame/use-plan';

const SIDE = 200;
const TOP = SIDE * (Math.sqrt(3) / 2);

/** A triangle of energy shares: protein on top, carbohydrate left, fat right. Squares are components, circles targets. */
export function ReachMap({ plan, onClose }: { plan: Plan; onClose: () => void }) {
  const reach = useQuery(reachQuery(plan.batch.id, plan.batch.version));
  const at = ({ x, y }: { x: number; y: number }) => ({ x: 24 + x * SIDE, y: 26 + TOP - y * SIDE });
  const outside = reach.data?.targets.filter((target) => target.inside === false) ?? [];
  const corners = reach.data?.hull.flatMap((place) => reach.data.components[place] ?? []) ?? [];
  const line = (points: { x: number; y: number }[]) =>
    points
      .map(at)
      .map(({ x, y }) => `${x},${y}`)
      .join(' ');
  return (
    <Panel title="Reach map" detail="where the energy comes from" onClose={onClose}>
      <svg
        viewBox="0 0 248 226"
        className="w-full"
        role="img"
        aria-label={words(outside.length, plan.rows.length)}
      >
        <polygon
          points={line([
            { x: 0, y: 0 },
            { x: 1, y: 0 },
            { x: 0.5, y: Math.sqrt(3) / 2 },
          ])}
          className="fill-bench stroke-steel"
        />
        <polygon points={line(corners)} className="fill-chosen stroke-ink" strokeWidth="1" />
        {reach.data?.components.map((component) => {
          const { x, y } = at(component);
          return (
            <rect key={component.name} x={x - 4} y={y - 4} width="8" height="8" className="fill-ink">
              <title>{component.name}</title>
            </rect>
          );
        })}
        {reach.data?.targets.map((target) => {
          const { x, y } = at(target);
          return (
            <circle
              key={target.name}
              cx={x}
              cy={y}
              r="5"
              strokeWidth="2.5"
              className={target.inside ? 'fill-band stroke-ink' : 'fill-alert stroke-alert'}
            >
              <title>{target.name}</title>
            </circle>
          );
        })}
        <text x="124" y="16" textAnchor="middle" className="fill-ink text-[12px] font-semibold">
          Protein
        </text>
        <text x="2" y="222" className="fill-ink text-[12px] font-semibold">
          Carbs
        </text>
        <text x="246" y="222" textAnchor="end" className="fill-ink text-[12px] font-semibold">
          Fat
        </text>
      </svg>
      <p className="text-sm">{reach.data ? words(outside.length, reach.data.targets.length) : 'Reading …'}</p>
      {outside.length ? (
        <ul className="text-sm">
          {outside.map((target) => (
            <li key={target.name} className="font-medium text-alert">
              {target.name}
            </li>
          ))}
        </ul>
      ) : null}
      <table className="w-full text-sm">
        <caption className="sr-only">Shares of the energy</caption>
        <thead>
          <tr className="text-right text-xs">
            <th scope="col" className="text-left font-medium text-muted">
              % of the energy
            </th>
            <th scope="col" className="font-semibold">
              P
            </th>
            <th scope="col" className="font-semibold">
              C
            </th>
            <th scope="col" className="font-semibold">
              F
            </th>
          </tr>
        </thead>
        <tbody>
          {reach.data?.components.map((one) => (
            <tr key={one.name} className="border-t border-steel">
              <th scope="row" className="py-1 text-left font-normal">
                {one.name}
              </th>
              {[one.protein, one.carbohydrate, one.fat].map((share, number) => (
                <td key={['P', 'C', 'F'][number]} className="figures py-1 text-right">
                  {wholeNumber(share * 100)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-sm text-muted">
        Inside the area some mix of these components has the target’s proportions; limits can still stand in
        the way. Outside it none has.
      </p>
    </Panel>
  );
}

function words(outside: number, all: number) {
  if (all === 0) return 'No target states all three macros.';
  if (outside === 0) return 'Every target lies inside what these components can give.';
  return `${outside} of ${all} targets ${outside === 1 ? 'lies' : 'lie'} outside what these components can give:`;
}
