import { useMutation } from '@tanstack/react-query';
import { useRef } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas, toProblem } from '~/lib/api';
import { Button } from '~/parts/button';

/** Open a recipe file: schema.org JSON-LD, a page that holds it, CSV or plain text. Nothing is saved yet. */
export function OpenFile({ onOpened }: { onOpened: (found: Schemas['IntakeView']) => void }) {
  const field = useRef<HTMLInputElement>(null);
  const read = useMutation({
    mutationFn: async (file: File) =>
      ask(api.POST('/api/v1/recipes/read', { body: { text: await file.text() } })),
    onSuccess: onOpened,
    onError: (error) => toast.error(toProblem(error).detail),
  });
  return (
    <>
      <input
        ref={field}
        type="file"
        hidden
        aria-label="Recipe file"
        accept=".json,.jsonld,.csv,.txt,.html,.htm"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) read.mutate(file);
          event.target.value = '';
        }}
      />
      <Button disabled={read.isPending} onClick={() => field.current?.click()}>
        {read.isPending ? 'Reading …' : 'Open a file'}
      </Button>
    </>
  );
}
