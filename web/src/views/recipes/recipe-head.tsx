import type { Control } from 'react-hook-form';
import { Button } from '~/parts/button';
import { TextField } from '~/parts/form-fields';
import type { RecipeDraft } from '~/views/recipes/draft';
import { leaveOn, useOpened } from '~/views/recipes/opened';
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
  const { isOpen, isChosen, isLeft, open, close } = useOpened(control, 'recipe', '', (field) =>
    OWN.includes(field),
  );
  if (!isOpen && !isNew)
    return (
      <p className="relative -mx-2 -mt-3 rounded-lg px-2 py-1 hover:bg-bench">
        <button
          type="button"
          // biome-ignore lint/a11y/noAutofocus: whoever left its fields goes on from here
          autoFocus={isLeft}
          onClick={open}
          className="min-h-6 text-left text-muted after:absolute after:inset-0"
        >
          {recipeWords(draft)}
          <span className="sr-only">: change it, the name, the note and the groups</span>
        </button>
        {draft.note ? <span className="block max-w-4xl">{draft.note}</span> : null}
      </p>
    );
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: Escape leaves the fields inside
    <div
      onKeyDown={leaveOn(close)}
      className={`grid items-end gap-4 ${isNew ? 'sm:grid-cols-[2fr_3fr_1fr_2fr]' : 'sm:grid-cols-[2fr_3fr_1fr_2fr_auto]'}`}
    >
      <TextField control={control} name="name" label="Name" autoFocus={isChosen} />
      <TextField control={control} name="note" label="Note" />
      <TextField control={control} name="serves" label="Serves" inputMode="numeric" />
      <TextField control={control} name="groups" label="Groups" placeholder="1 grain, 2 vegetables" />
      {isNew ? null : <Button onClick={close}>Done</Button>}
    </div>
  );
}
