import type { Schemas } from '~/api/client';
import { MACRO_KEYS, type MacroKey, MINOR, type NutrientKey } from '~/food/nutrients';
import { energy, oneDecimal } from '~/lib/format';
import { energyUnit } from '~/lib/units';

export type Amounts = Schemas['AmountsView'];

/** Each macro by its word and texture; energy has none. */
export const MACROS: Record<MacroKey, { word: string; short: string; unit: string; texture: string | null }> =
  {
    protein_g: { word: 'protein', short: 'Protein', unit: 'g', texture: 'texture-solid' },
    carbohydrate_g: { word: 'carbohydrate', short: 'Carbs', unit: 'g', texture: 'texture-hatched' },
    fat_g: { word: 'fat', short: 'Fat', unit: 'g', texture: 'texture-dotted' },
    kcal: { word: 'energy', short: 'kcal', unit: 'kcal', texture: null },
  };

const SWATCH =
  'inline-block size-2.5 shrink-0 border border-ink align-baseline print:[print-color-adjust:exact]';

/** A macro by its texture and its short word; energy in the person's unit. */
export function MacroName({ of, word }: { of: MacroKey; word?: string }) {
  const { texture, short } = MACROS[of];
  return (
    <span className="inline-flex items-baseline gap-1 whitespace-nowrap text-ink">
      {texture ? <span aria-hidden className={`${SWATCH} ${texture}`} /> : null}
      {word ?? (of === 'kcal' ? energyUnit() : short)}
    </span>
  );
}

const figure = (key: NutrientKey, value: number) => {
  if (key === 'kcal') return energy(value);
  return key.endsWith('_mg') ? String(Math.round(value)) : oneDecimal(value);
};

/** One nutrient as a figure, marked where it is a lower bound. */
export const macroFigure = (amounts: Amounts, key: NutrientKey) => {
  const value = figure(key, amounts[key]);
  return amounts.at_least.includes(key) ? `≥ ${value}` : value;
};

/** The least and the most that rounded labels leave open, where that matters. */
export function Between({ amounts, of }: { amounts: Amounts; of: NutrientKey }) {
  const range = amounts.ranges[of];
  if (!range) return null;
  return (
    <span className="block text-xs font-normal text-muted" title="Rounded labels leave this open">
      {figure(of, range.low)} to {figure(of, range.high)}
    </span>
  );
}

/** The head of a table of macros; `first` names its first column. */
export function MacroHead({ first, wide = false }: { first: string; wide?: boolean }) {
  return (
    <thead>
      <tr className="text-right text-xs">
        <th scope="col" className={`py-1 text-left font-medium text-muted ${wide ? 'w-2/5' : ''}`}>
          {first}
        </th>
        {MACRO_KEYS.map((key) => (
          <th key={key} scope="col" className="py-1 font-semibold">
            <MacroName of={key} />
          </th>
        ))}
      </tr>
    </thead>
  );
}

/** Four macros in one line. */
export function MacroLine({ amounts }: { amounts: Amounts }) {
  return (
    <span className="flex flex-wrap gap-x-3">
      {MACRO_KEYS.map((key) => (
        <span key={key} className="whitespace-nowrap">
          <span className="figures font-semibold">{macroFigure(amounts, key)}</span>{' '}
          <span className="text-sm">
            <MacroName of={key} word={key === 'kcal' ? energyUnit() : MACROS[key].short.toLowerCase()} />
          </span>
        </span>
      ))}
    </span>
  );
}

/** All eight nutrients as a table. A figure with ≥ holds ingredients whose source does not state it. */
export function Composition({ amounts, caption }: { amounts: Amounts; caption: string }) {
  const unknown = amounts.at_least.length > 0;
  return (
    <table className="w-full text-sm">
      <caption className="mb-1 text-left font-medium text-muted">{caption}</caption>
      <tbody>
        {MACRO_KEYS.map((key) => (
          <tr key={key} className="border-t border-steel">
            <th scope="row" className="py-1 text-left font-medium">
              <MacroName
                of={key}
                word={key === 'kcal' ? 'Energy' : MACROS[key].word.replace(/^./, (c) => c.toUpperCase())}
              />
            </th>
            <td className="figures text-right font-semibold">
              {macroFigure(amounts, key)} {key === 'kcal' ? energyUnit() : MACROS[key].unit}
              <Between amounts={amounts} of={key} />
            </td>
          </tr>
        ))}
        {MINOR.map(({ key, name: word, unit }) => (
          <tr key={key} className="border-t border-steel">
            <th
              scope="row"
              className={`py-1 text-left font-normal ${key === 'fibre_g' ? 'text-ink' : 'text-muted'}`}
            >
              {key === 'fibre_g' ? <span aria-hidden className={`${SWATCH} texture-outlined mr-1`} /> : null}
              {word}
            </th>
            <td className="figures text-right">
              {macroFigure(amounts, key)} {unit}
              <Between amounts={amounts} of={key} />
            </td>
          </tr>
        ))}
      </tbody>
      {unknown ? (
        <tfoot>
          <tr>
            <td colSpan={2} className="pt-1 text-muted">
              ≥ at least: the source of an ingredient does not state it
            </td>
          </tr>
        </tfoot>
      ) : null}
    </table>
  );
}
