import { useQuery } from '@tanstack/react-query';
import { exactWeight } from '~/lib/format';
import { settingsQuery } from '~/views/kitchen/queries';

/** The kitchen's own pans, lids and foils by name: a tap takes one off, several add up, a second tap puts it back. */
export function KnownVessels({
  chosen,
  onPick,
}: {
  chosen: string[];
  onPick: (names: string[], emptyGrams: number) => void;
}) {
  const settings = useQuery(settingsQuery);
  const vessels = settings.data?.vessels ?? [];
  // The room of a line is kept while they come: what is below must not move away from under a finger.
  if (settings.isPending) return <p aria-hidden className="mb-2 min-h-16" />;
  if (vessels.length === 0) return null;
  return (
    <p className="mb-2 flex flex-wrap gap-1">
      {vessels.map((one) => (
        <button
          key={one.id}
          type="button"
          aria-pressed={chosen.includes(one.name)}
          onClick={() => {
            const names = chosen.includes(one.name)
              ? chosen.filter((name) => name !== one.name)
              : [...chosen, one.name];
            const off = vessels.filter(({ name }) => names.includes(name));
            onPick(
              names,
              off.reduce((sum, { empty_g }) => sum + empty_g, 0),
            );
          }}
          className="min-h-16 rounded-lg border border-steel bg-sheet px-2 text-sm hover:border-edge aria-pressed:border-2 aria-pressed:border-ink aria-pressed:font-bold"
        >
          {one.name} <span className="figures text-muted">{exactWeight(one.empty_g)}</span>
        </button>
      ))}
    </p>
  );
}
