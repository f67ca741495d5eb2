import { useEffect, useState } from 'react';
import { PARTS, SCHOOLS, type School, schoolHint } from '~/lib/schools';
import { Choice } from '~/parts/choice';
import type { PlanDesk } from '~/views/batch/frame/use-plan';
import { type DishPart, partOf } from '~/views/batch/plan/dishes';
import { InlineNumber } from '~/views/batch/plan/inline-number';

/** How one component of this batch gets into the containers of a dish. A school that lacks a figure waits for it. */
export function Portioning({ part, closed, desk }: { part: DishPart; closed: boolean; desk: PlanDesk }) {
  const [school, setSchool] = useState<School>(part.school as School);
  useEffect(() => setSchool(part.school as School), [part.school]);
  const { pieces, unit_g, unit_part, plate_share, eye_g } = part;
  const send = (figures: Partial<Parameters<typeof change>[0]>) =>
    desk.change((now) => {
      const by = partOf(now, part, part.id) ?? part;
      return [
        change({
          school,
          pieces: by.pieces,
          unit_g: by.unit_g,
          unit_part: by.unit_part,
          plate_share: by.plate_share,
          eye_g: by.eye_g,
          ...figures,
        }),
      ];
    });
  const change = (figures: {
    school: School;
    pieces: number | null;
    unit_g: number | string | null;
    unit_part: number;
    plate_share: number;
    eye_g: number | string;
  }) => ({ kind: 'school' as const, component_id: part.id, dish_id: part.dish_id, ...figures });
  const choose = (chosen: School) => {
    setSchool(chosen);
    const lacks =
      (chosen === 'pieces' && pieces === null && unit_g === null) ||
      (chosen === 'fixed measure' && unit_g === null);
    if (!lacks) void send({ school: chosen });
  };
  const parts = (
    <Choice
      label="Into a container go"
      options={PARTS}
      value={String(unit_part)}
      disabled={closed}
      onValue={(chosen) => void send({ unit_part: Number(chosen) })}
    />
  );
  return (
    <div className="space-y-3">
      <Choice
        label="How it is portioned"
        hint={schoolHint(school)}
        options={SCHOOLS}
        value={school}
        disabled={closed}
        onValue={choose}
      />
      {school === 'pieces' || school === 'built raw' ? (
        <div className="grid grid-cols-2 gap-3">
          <InlineNumber
            of={`${part.dish_id}/${part.id}`}
            label={school === 'pieces' ? 'The recipe makes' : 'The lines are for'}
            unit={school === 'pieces' ? 'pcs' : 'units'}
            placeholder={school === 'pieces' ? '' : '1'}
            value={pieces}
            disabled={closed}
            onCommit={(value) => send({ pieces: value === null ? null : Number(value) })}
          />
          {parts}
        </div>
      ) : null}
      {school === 'fixed measure' ? (
        <div className="grid grid-cols-2 gap-3">
          <InlineNumber
            of={`${part.dish_id}/${part.id}`}
            label="One scoop"
            unit="g"
            value={unit_g}
            disabled={closed}
            onCommit={(value) => send({ unit_g: value })}
          />
          {parts}
        </div>
      ) : null}
      {school === 'plate shares' ? (
        <InlineNumber
          of={`${part.dish_id}/${part.id}`}
          label="Share of the plate"
          unit="parts"
          value={plate_share}
          disabled={closed}
          onCommit={(value) => send({ plate_share: Number(value ?? 0) })}
        />
      ) : null}
      {school === 'by eye' ? (
        <InlineNumber
          of={`${part.dish_id}/${part.id}`}
          label="About"
          unit="g"
          value={eye_g}
          disabled={closed}
          onCommit={(value) => send({ eye_g: value ?? 0 })}
        />
      ) : null}
    </div>
  );
}
