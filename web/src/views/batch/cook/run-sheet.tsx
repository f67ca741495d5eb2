import type { Schemas } from '~/api/client';
import { weight } from '~/lib/format';
import { temperature } from '~/lib/units';
import { timeWords } from '~/views/batch/cook/clock';
import { whereWords } from '~/views/batch/cook/step-detail';

type Props = { found: Schemas['CookView']; order: Schemas['OrderView'] };

/** The order of work on paper: what to do at which minute, by whom, with a box to tick. */
export function RunSheet({ found, order }: Props) {
  const names = new Map(found.kitchen?.people.map(({ id, name }) => [id, name]));
  const steps = new Map(order.steps.map((step) => [step.key, step]));
  return (
    <section aria-label="Run sheet" className="hidden print:block">
      <p className="mb-2">
        {found.kitchen?.name}. Ready to fill at {timeWords(order.ready_min)}. Doneness and the thermometer
        decide, not the minutes; local rules prevail.
      </p>
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b border-ink text-left">
            <th className="py-1 pr-3">At</th>
            <th className="py-1 pr-3">Who</th>
            <th className="py-1 pr-3">What</th>
            <th className="py-1 pr-3">On, how hot, how much</th>
            <th className="py-1 pr-3">Done when</th>
            <th className="py-1">Done</th>
          </tr>
        </thead>
        <tbody>
          {order.prompts.map((prompt) => {
            const step = steps.get(prompt.task);
            return (
              <tr key={prompt.key} className="break-inside-avoid border-b border-steel align-top">
                <td className="figures py-1 pr-3 whitespace-nowrap">{timeWords(prompt.at_min)}</td>
                <td className="py-1 pr-3">{names.get(prompt.person_id ?? '') ?? ''}</td>
                <td className="py-1 pr-3">{prompt.says}</td>
                <td className="py-1 pr-3">{step ? whereWords(step) : ''}</td>
                <td className="py-1 pr-3">
                  {[
                    step?.done_when,
                    prompt.core_c !== null && prompt.event === 'done' && !step?.done_when.includes('°')
                      ? `${temperature(prompt.core_c)} inside`
                      : '',
                    step && step.until_g !== null && prompt.event === 'done'
                      ? `${weight(step.until_g)} and the pan`
                      : '',
                  ]
                    .filter(Boolean)
                    .join(', ')}
                </td>
                <td className="py-1">
                  <span className="inline-block size-4 border border-ink" />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
