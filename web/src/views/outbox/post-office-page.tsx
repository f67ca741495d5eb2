import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { moment, plural } from '~/lib/format';
import { Button, buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { postOfficeQuery } from '~/views/outbox/queries';

/** The simulated post office: what arrived there, as its receivers would read it. */
export function PostOfficePage() {
  const arrived = useQuery(postOfficeQuery);
  if (arrived.isError) return <LoadFailed error={arrived.error} retry={() => void arrived.refetch()} />;
  if (!arrived.data) return <Loading what="the post office" />;
  return (
    <Page
      title="Post office"
      detail={`simulated: it delivers nothing; ${plural(arrived.data.length, 'message')} arrived`}
      actions={
        <>
          <Link to="/outbox" className={buttonClass()}>
            Outbox
          </Link>
          <Button onClick={() => void arrived.refetch()}>Look again</Button>
        </>
      }
    >
      {arrived.data.length ? (
        <ul className="space-y-3" aria-label="Arrived">
          {arrived.data.map((one, place) => (
            // Each is one arrival: the same message twice would be two of them.
            // biome-ignore lint/suspicious/noArrayIndexKey: they have no other name
            <li key={place} className="rounded-xl border border-steel bg-sheet p-4">
              <p className="text-sm text-muted">
                To {one.to}, from {one.sender}
                {one.at ? `, ${moment(one.at)}` : ''}
              </p>
              <h2 className="mt-1 text-base">{one.subject}</h2>
              <p className="mt-2 max-w-prose whitespace-pre-wrap break-words">{one.body}</p>
            </li>
          ))}
        </ul>
      ) : (
        <Empty title="Nothing arrived yet">
          <p>What is sent from the outbox arrives here, as long as no mail server is set.</p>
        </Empty>
      )}
    </Page>
  );
}
