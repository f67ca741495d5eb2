import type { Control } from 'react-hook-form';
import { Button } from '~/parts/button';
import { TextField } from '~/parts/form-fields';
import type { RecipeDraft } from '~/views/recipes/draft';
import { InFields, Reads, useOpened } from '~/views/recipes/opened';
import { recipeWords } from '~/views/recipes/reading';

const OWN = ['name', 'note', 'serves', 'groups'];

/** What the recipe is as a whole, below its name. A new one is written in fields. */
export function RecipeHead({
  control,
  draft,
  isNew,
}: {
  control: Control<RecipeDraft>;
  draft: RecipeDraft;
  isNew: boolean;
}) {
  const part = useOpened(control, 'recipe', '', (field) => OWN.includes(field));
  if (!part.isOpen && !isNew)
    return (
      <p className="relative -mx-2 -mt-3 rounded-lg px-2 py-1 hover:bg-bench">
        <Reads part={part} className="min-h-6 text-left text-muted after:absolute after:inset-0">
          {recipeWords(draft)}
          <span className="sr-only">, its name, note and groups</span>
        </Reads>
        {draft.note ? <span className="block max-w-4xl">{draft.note}</span> : null}
      </p>
    );
  return (
    <InFields
      part={part}
      className={`grid items-end gap-4 ${isNew ? 'sm:grid-cols-[2fr_3fr_1fr_2fr]' : 'sm:grid-cols-[2fr_3fr_1fr_2fr_auto]'}`}
    >
      <TextField control={control} name="name" label="Name" autoFocus={part.isChosen} />
      <TextField control={control} name="note" label="Note" />
      <TextField control={control} name="serves" label="Serves" inputMode="numeric" />
      <TextField control={control} name="groups" label="Groups" placeholder="1 grain, 2 vegetables" />
      {isNew ? null : <Button onClick={part.close}>Done</Button>}
    </InFields>
  );
}
