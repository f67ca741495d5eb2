import { useQuery } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { Command } from 'cmdk';
import { useDeferredValue, useState } from 'react';
import type { Schemas } from '~/api/client';
import { findQuery } from '~/app/queries';
import { useFirstSelected } from '~/lib/first-selected';
import { Overlaid } from '~/parts/dialog';

/** Views, and what can be made. */
const PLACES = [
  { to: '/', title: 'Today' },
  { to: '/clients', title: 'Clients' },
  { to: '/pantry', title: 'Pantry' },
  { to: '/recipes', title: 'Recipes' },
  { to: '/batches', title: 'Batches' },
  { to: '/yields', title: 'Yields' },
  { to: '/settings', title: 'Settings' },
  { to: '/house', title: 'In the house' },
  { to: '/containers', title: 'Containers' },
  { to: '/recipes/who-can-eat', title: 'Who can eat what' },
  { to: '/batches/new', title: 'Plan a batch' },
  { to: '/clients/new', title: 'New client' },
  { to: '/recipes/new', title: 'New recipe' },
  { to: '/pantry/new', title: 'New food' },
  { to: '/pantry/import', title: 'Import foods' },
] as const;

/** Each word that was typed begins a word of the title. */
const fits = (title: string, typed: string) => {
  const words = title.toLowerCase().split(' ');
  return typed
    .toLowerCase()
    .trim()
    .split(/\s+/)
    .every((part) => words.some((word) => word.startsWith(part)));
};

/** One field that finds clients, recipes, batches, foods and pages. */
export function FindAnything({
  open,
  onOpenChange,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const [text, setText] = useState('');
  const wanted = useDeferredValue(text);
  const found = useQuery(findQuery(wanted));
  const navigate = useNavigate();

  const go = (hit: Schemas['Found']) => {
    onOpenChange(false);
    setText('');
    if (hit.kind === 'client') void navigate({ to: '/clients/$clientId', params: { clientId: hit.id } });
    else if (hit.kind === 'recipe') void navigate({ to: '/recipes/$recipeId', params: { recipeId: hit.id } });
    else if (hit.kind === 'batch') void navigate({ to: '/batches/$batchId', params: { batchId: hit.id } });
    else void navigate({ to: '/pantry', search: { food: hit.id, text: hit.title } });
  };

  const places = wanted.trim() ? PLACES.filter((place) => fits(place.title, wanted)) : [];
  const visit = (to: string) => {
    onOpenChange(false);
    setText('');
    void navigate({ to });
  };

  // Never the hits of what was typed before: Enter would open the wrong thing.
  const current = wanted === text && !found.isPlaceholderData;
  const hits = wanted.trim() && current ? (found.data ?? []) : [];
  const selection = useFirstSelected([
    ...places.map((place) => place.to),
    ...hits.map((hit) => hit.kind + hit.id),
  ]);
  return (
    <Overlaid open={open} onOpenChange={onOpenChange} title="Find anything" hideTitle wide>
      <Command shouldFilter={false} label="Find anything" {...selection}>
        <Command.Input
          value={text}
          onValueChange={setText}
          placeholder="A client, recipe, batch, food or page"
          className="min-h-14 w-full rounded-t-xl border-b border-steel bg-sheet px-4 text-lg placeholder:text-muted"
        />
        <Command.List className="max-h-96 min-h-24 overflow-y-auto p-1">
          {places.map((place) => (
            <Command.Item
              key={place.to}
              value={place.to}
              onSelect={() => visit(place.to)}
              className="flex min-h-11 items-center justify-between gap-4 rounded-lg px-3 data-[selected=true]:bg-chosen"
            >
              <span className="font-medium">{place.title}</span>
              <span className="text-sm text-muted">page</span>
            </Command.Item>
          ))}
          {hits.map((hit) => (
            <Command.Item
              key={hit.kind + hit.id}
              value={hit.kind + hit.id}
              onSelect={() => go(hit)}
              className="flex min-h-11 items-center justify-between gap-4 rounded-lg px-3 data-[selected=true]:bg-chosen"
            >
              <span className="font-medium">{hit.title}</span>
              <span className="text-sm text-muted">
                {hit.kind === 'food' ? `food, ${hit.detail}` : hit.kind}
              </span>
            </Command.Item>
          ))}
          {wanted.trim() && found.data?.length === 0 && places.length === 0 ? (
            <p className="p-4 text-muted">Nothing fits “{wanted}”. Try fewer letters.</p>
          ) : null}
        </Command.List>
      </Command>
    </Overlaid>
  );
}
