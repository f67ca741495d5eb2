import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { type Schemas, toProblem } from '~/api/client';
import { today } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { FileButton } from '~/parts/file-button';
import { Notice } from '~/parts/notice';
import { batchesQuery } from '~/views/batches/queries';
import { clientsQuery } from '~/views/clients/queries';
import { recipesQuery } from '~/views/recipes/queries';

/** Takes an open plan document in as a batch. */
export function useOpenPlan() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) =>
      write(
        call('post', '/api/v1/batches/import', {
          body: { text: await file.text(), cook_on: today() },
        }),
        { about: 'batches', words: [`Plan document ${file.name}`], href: '/batches' },
      ),
    onSuccess: () => {
      for (const { queryKey } of [batchesQuery, clientsQuery, recipesQuery])
        void queries.invalidateQueries({ queryKey });
    },
  });
}

type Opening = ReturnType<typeof useOpenPlan>;

export function OpenPlan({ opening }: { opening: Opening }) {
  return (
    <FileButton
      label="Open a plan document"
      field="Plan document"
      accept=".json"
      busy={opening.isPending}
      onFile={(file) => opening.mutate(file)}
    />
  );
}

/** What became of the document: the batch and what to know of it, or every fault with its place. */
export function OpenedPlan({ opening }: { opening: Opening }) {
  if (opening.isError) {
    const problem = toProblem(opening.error);
    return (
      <div className="mb-4">
        <Notice tone="alert" title="This document cannot be planned">
          {problem.errors?.length ? <Faults faults={problem.errors} /> : problem.detail}
        </Notice>
      </div>
    );
  }
  if (!opening.data) return null;
  return (
    <div className="mb-4">
      <Notice tone={opening.data.notes.length ? 'caution' : 'plain'} title={`${opening.data.name} is here`}>
        {opening.data.notes.map((note) => (
          <p key={note}>{note}</p>
        ))}
        <p>
          It is cooked today; its brief changes that.{' '}
          <Link
            to="/batches/$batchId"
            params={{ batchId: opening.data.batch_id }}
            className="inline-flex min-h-9 items-center font-medium underline"
          >
            Open its plan
          </Link>
        </p>
      </Notice>
    </div>
  );
}

function Faults({ faults }: { faults: Schemas['Problem']['errors'] }) {
  return (
    <ul className="list-disc pl-5">
      {faults?.map((fault) => (
        <li key={fault.pointer + fault.message}>
          <span className="figures">{fault.pointer || 'the file'}</span>: {fault.message}
        </li>
      ))}
    </ul>
  );
}
