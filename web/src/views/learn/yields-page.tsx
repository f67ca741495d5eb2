import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { day, percent, plural, yieldAndLoss } from '~/lib/format';
import { Choice } from '~/parts/choice';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { yieldsQuery } from '~/views/learn/queries';
import { Times } from '~/views/learn/times';

type Learned = Schemas['LearnedView'];

const WIDTH = 520;
const HEIGHT = 96;
const EDGE = 10;

/** What the kitchen has learned: every food and component that was weighed, by method. */
export function YieldsPage() {
  const found = useQuery(yieldsQuery);
  const [kind, setKind] = useState('');
  if (found.isError) return <LoadFailed error={found.error} retry={() => void found.refetch()} />;
  if (!found.data) return <Loading what="the yields" />;
  const shown = found.data.filter((one) => !kind || one.kind === kind);
  const pans = found.data.reduce((sum, one) => sum + (one.kind === 'component' ? one.measured.length : 0), 0);
  return (
    <Page
      title="Yields"
      detail={found.data.length ? `${plural(pans, 'pan')} weighed in this kitchen` : ''}
      actions={
        found.data.length ? (
          <Choice
            label="Show"
            hideLabel
            value={kind}
            options={[
              { value: '', label: 'foods and components' },
              { value: 'food', label: 'foods' },
              { value: 'component', label: 'components' },
            ]}
            onValue={setKind}
          />
        ) : null
      }
    >
      {found.data.length === 0 ? (
        <Empty title="Nothing weighed yet">
          <p>
            Open a batch, cook, and weigh each component. From the first pan on, what this kitchen gets takes
            the place of the published yields, step by step.
          </p>
        </Empty>
      ) : (
        <>
          <p className="mb-4 max-w-prose text-sm text-muted">
            A few pans lean on the prior, many stand on their own; a weighing far from the others hardly
            counts. The dark band is where the next pan should land, the pale one what the prior says.
          </p>
          <ul className="grid gap-4 xl:grid-cols-2">
            {shown.map((one) => (
              <LearnedCard key={`${one.kind}-${one.id}-${one.method}`} learned={one} />
            ))}
          </ul>
        </>
      )}
      <Times />
    </Page>
  );
}

function LearnedCard({ learned }: { learned: Learned }) {
  const { estimate, prior, measured } = learned;
  return (
    <li className="rounded-xl border border-steel bg-sheet p-4">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-lg">
          {learned.name}{' '}
          <span className="font-sans text-sm font-normal text-muted">
            {learned.detail}; {learned.method === 'none' ? 'not cooked' : learned.method}
          </span>
        </h2>
        <p className="figures text-2xl font-bold">×{estimate.expected.toFixed(2)}</p>
      </div>
      <p className="text-sm">
        {yieldAndLoss(estimate.expected)}; the next pan {estimate.low.toFixed(2)} to{' '}
        {estimate.high.toFixed(2)}
      </p>
      <History learned={learned} />
      <p className="text-sm text-muted">
        Prior ×{prior.expected.toFixed(2)} ({prior.low.toFixed(2)} to {prior.high.toFixed(2)}), {prior.source}
        {prior.note ? `: ${prior.note}` : ''}. It still makes {percent(learned.prior_share)} of the estimate.
      </p>
      <details className="mt-1 text-sm">
        <summary className="min-h-8">{plural(measured.length, 'weighing')}</summary>
        <table className="w-full">
          <tbody>
            {measured.map((pan) => (
              <tr key={pan.weighed_at + pan.batch} className="border-t border-steel">
                <td className="py-1">{day(pan.weighed_at)}</td>
                <td>{pan.batch}</td>
                <td className="figures text-right">×{pan.yield_factor.toFixed(3)}</td>
                <td className="text-right text-muted">
                  {pan.weight < 0.995
                    ? `counts ${percent(Math.round(pan.weight * 100) / 100)}`
                    : 'counts fully'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </li>
  );
}

/** Weighings in their order on the scale of yields, over the bands of the prior and of the estimate. */
function History({ learned }: { learned: Learned }) {
  const { estimate, prior, measured } = learned;
  const values = [
    prior.low,
    prior.high,
    estimate.low,
    estimate.high,
    ...measured.map((pan) => pan.yield_factor),
  ];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = Math.max(high - low, 0.02);
  const y = (value: number) => EDGE + ((high - value) / room) * (HEIGHT - 2 * EDGE);
  const x = (at: number) => EDGE + 24 + ((at + 0.5) / measured.length) * (WIDTH - 2 * EDGE - 60);
  const band = (from: number, to: number) => ({ y: y(to), height: Math.max(y(from) - y(to), 2) });
  return (
    <svg
      role="img"
      aria-label={`${plural(measured.length, 'weighing')}, yields ${measured.map((pan) => pan.yield_factor.toFixed(2)).join(', ')}; estimate ${estimate.expected.toFixed(2)}, next pan ${estimate.low.toFixed(2)} to ${estimate.high.toFixed(2)}; prior ${prior.expected.toFixed(2)}`}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="my-2 w-full"
    >
      <rect x={EDGE} width={WIDTH - 2 * EDGE - 36} className="fill-bench" {...band(prior.low, prior.high)} />
      <rect
        x={EDGE}
        width={WIDTH - 2 * EDGE - 36}
        className="fill-band"
        {...band(estimate.low, estimate.high)}
      />
      <line
        x1={EDGE}
        x2={WIDTH - EDGE - 36}
        y1={y(prior.expected)}
        y2={y(prior.expected)}
        strokeDasharray="4 4"
        className="stroke-edge"
      />
      <line
        x1={EDGE}
        x2={WIDTH - EDGE - 36}
        y1={y(estimate.expected)}
        y2={y(estimate.expected)}
        strokeWidth={2}
        className="stroke-ink"
      />
      {measured.map((pan, at) => (
        <circle
          key={pan.weighed_at + pan.batch}
          cx={x(at)}
          cy={y(pan.yield_factor)}
          r={5}
          strokeWidth={2}
          className={pan.weight > 0.5 ? 'fill-ink stroke-ink' : 'fill-sheet stroke-alert'}
        />
      ))}
      {[high, low].map((value) => (
        <text
          key={value}
          x={WIDTH - EDGE}
          y={y(value) + 4}
          textAnchor="end"
          className="fill-muted text-[11px]"
        >
          {value.toFixed(2)}
        </text>
      ))}
    </svg>
  );
}
