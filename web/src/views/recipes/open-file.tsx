import { useMutation } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';
import { FileButton } from '~/parts/file-button';
import { showProblem } from '~/parts/show-problem';

/** Open a recipe file: schema.org JSON-LD, a page that holds it, CSV or plain text. Nothing is saved yet. */
export function OpenFile({ onOpened }: { onOpened: (found: Schemas['IntakeView']) => void }) {
  const read = useMutation({
    mutationFn: async (file: File) =>
      ask(api.POST('/api/v1/recipes/read', { body: { text: await file.text() } })),
    onSuccess: onOpened,
    onError: showProblem,
  });
  return (
    <FileButton
      label="Open a file"
      field="Recipe file"
      accept=".json,.jsonld,.csv,.txt,.html,.htm"
      busy={read.isPending}
      onFile={(file) => read.mutate(file)}
    />
  );
}
