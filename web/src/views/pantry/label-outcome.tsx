import type { Schemas } from '~/api/client';
import { Composition } from '~/food/macros';
import { energyWithUnit } from '~/lib/format';
import { Notice } from '~/parts/notice';

/** 100 g by the label, with what rounding leaves open, and whether its kcal agree with its macros. */
export function LabelOutcome({ detail }: { detail: Schemas['FoodDetail'] }) {
  return (
    <>
      <div className="rounded-xl border border-steel bg-sheet p-4">
        <Composition amounts={detail.food.per_100g} caption="100 g hold" />
      </div>
      <Contradictions told={detail.contradictions} />
      <LabelAudit audit={detail.audit} />
    </>
  );
}

/** What a label says twice and not alike. */
export function Contradictions({ told }: { told: string[] }) {
  if (told.length === 0) return null;
  return (
    <Notice tone="caution" title="The label contradicts itself">
      <ul className="list-disc pl-5">
        {told.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </Notice>
  );
}

export function LabelAudit({ audit }: { audit: Schemas['AuditView'] | null }) {
  if (!audit) return null;
  return (
    <Notice
      tone={audit.words ? 'caution' : 'plain'}
      title={audit.words ? 'The label disagrees with itself' : 'The label agrees with itself'}
    >
      <p>
        {audit.words ||
          `${energyWithUnit(audit.stated_kcal)} stated, ${energyWithUnit(audit.implied_kcal)} from its macros.`}
      </p>
      <details className="mt-1">
        <summary className="min-h-6">By each way of counting fibre</summary>
        <ul>
          {audit.readings.map((one) => (
            <li key={one.words} className="flex justify-between gap-3 border-t border-steel py-1">
              <span>
                {one.words}
                {one.agrees ? <strong> – this fits</strong> : null}
              </span>
              <span className="figures whitespace-nowrap">{energyWithUnit(one.kcal)}</span>
            </li>
          ))}
        </ul>
      </details>
    </Notice>
  );
}
