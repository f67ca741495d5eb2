import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { api, ask } from '~/api/client';
import { buttonClass } from '~/parts/button';
import { LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';

/** The container whose code was read off its label: whose it is, until when, what is in it, how it is warmed up. */
export function ContainerPage() {
  const { code } = useParams({ from: '/inside/c/$code' });
  const found = useQuery({
    queryKey: ['plans', 'labelled', code],
    queryFn: () => ask(api.GET('/api/v1/labelled/{code}', { params: { path: { code } } })),
  });
  if (found.isError) return <LoadFailed error={found.error} retry={() => void found.refetch()} />;
  if (!found.data) return <Loading what="the container" />;
  const one = found.data;
  return (
    <Page
      title={one.client}
      detail={`${one.meal}. ${one.dish}, ${one.container}`}
      actions={
        <Link
          to="/batches/$batchId/hand-over"
          params={{ batchId: one.batch_id }}
          search={{}}
          className={buttonClass()}
        >
          {one.batch}
        </Link>
      }
    >
      <div className="max-w-2xl space-y-4 rounded-xl border border-steel bg-sheet p-5">
        <p className="text-lg">
          {one.use_by_words} <b className="figures block text-4xl">{one.use_by}</b>
        </p>
        <p>
          <b>{one.keep}</b>
          {one.thaw ? `. ${one.thaw}` : ''}. Cooked {one.cooked}.
        </p>
        <p className="figures flex flex-wrap justify-between gap-x-6 border-y border-steel py-2 text-lg font-bold">
          {one.figures.map((figure) => (
            <span key={figure}>{figure}</span>
          ))}
        </p>
        {one.is_planned ? <p className="font-bold">Planned, not weighed.</p> : null}
        <ul>
          {one.parts.map((part) => (
            <li key={part}>{part}</li>
          ))}
        </ul>
        <p>
          {one.allergens.length ? (
            <>
              Contains <b>{one.allergens.join(', ').toUpperCase()}</b>
            </>
          ) : (
            'No allergen is stated for what is in it.'
          )}
        </p>
        {one.also.map((words) => (
          <p key={words}>{words}</p>
        ))}
        <p>{one.reheat}</p>
      </div>
    </Page>
  );
}
