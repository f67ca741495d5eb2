import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '~/api/client';
import { sessionQuery } from '~/api/session';

export const ENERGY_RULES: Record<Schemas['EnergyRule'], string> = {
  general: '4/9/4 with all carbohydrate at 4',
  net: '4/9/4 with fibre at 0',
  eu: '4/9/4 with fibre at 2 and polyols at 2.4',
  label: 'the source’s own figure',
};

export const CARBOHYDRATES: Record<Schemas['Carbohydrate'], string> = {
  total: 'total, with its fibre',
  available: 'available, without fibre',
};

/** By which rule the kitchen counts energy. Carbohydrate is told where it is not the usual total. */
export function EnergyWords() {
  const account = useQuery(sessionQuery).data;
  if (!account) return null;
  return (
    <>
      Energy by {ENERGY_RULES[account.energy_rule]}; alcohol at 7. Carbohydrate is{' '}
      {CARBOHYDRATES[account.carbohydrate]}.
    </>
  );
}
