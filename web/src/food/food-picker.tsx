import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { Popover } from 'radix-ui';
import { useDeferredValue, useState } from 'react';
import type { Schemas } from '~/api/client';
import { MacroLine } from '~/food/macros';
import { foodsQuery } from '~/food/queries';
import { useFirstSelected } from '~/lib/first-selected';
import { buttonClass } from '~/parts/button';

/** Finds a food by a few letters and hands it over. */
export function FoodPicker({
  label,
  onPick,
}: {
  label: string;
  onPick: (food: Schemas['FoodBrief']) => void;
}) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const wanted = useDeferredValue(text);
  const found = useQuery({ ...foodsQuery({ text: wanted, limit: 12 }), enabled: open });
  // Never the foods of what was typed before: Enter would take the wrong one.
  const current = wanted === text && !found.isPlaceholderData;
  const foods = current ? (found.data?.foods ?? []) : [];
  const selection = useFirstSelected(foods.map((food) => food.id));
  const pick = (food: Schemas['FoodBrief']) => {
    setOpen(false);
    setText('');
    onPick(food);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className={buttonClass('plain')}>{label}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label={label}
          className="z-30 w-[440px] max-w-[92vw] rounded-xl border border-edge bg-sheet shadow-lg"
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <Command shouldFilter={false} label={label} {...selection}>
            <Command.Input
              value={text}
              onValueChange={setText}
              placeholder="Type a food: turkey mince, bulgur, courgette"
              className="min-h-12 w-full rounded-t-xl border-b border-steel bg-sheet px-4 placeholder:text-muted"
            />
            <Command.List className="h-80 overflow-y-auto p-1">
              {foods.map((food) => (
                <Command.Item
                  key={food.id}
                  value={food.id}
                  onSelect={() => pick(food)}
                  className="rounded-lg px-3 py-2 data-[selected=true]:bg-chosen"
                >
                  <span className="flex justify-between gap-3">
                    <span className="font-medium">{food.name}</span>
                    <span className="text-sm text-muted">
                      {food.state}
                      {food.method ? `, ${food.method}` : ''}
                    </span>
                  </span>
                  <span className="text-sm">
                    <MacroLine amounts={food.per_100g} />
                  </span>
                </Command.Item>
              ))}
              {current && found.data?.foods.length === 0 ? (
                <p className="p-4 text-muted">No food fits “{wanted}”. Try fewer letters or another name.</p>
              ) : null}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
