import { toast } from 'sonner';
import type { Schemas } from '~/api/client';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';

/** The address of a link, this once. */
export function NewLink({
  made,
}: {
  made: Pick<Schemas['NewLinkView'], 'address' | 'code' | 'is_out_of_reach'>;
}) {
  if (!made.address)
    return (
      <div className="mb-4">
        <Notice tone="caution" title="The link was made, its address got lost on the way">
          Revoke it and make another one: an address is shown once.
        </Notice>
      </div>
    );
  const copy = () =>
    navigator.clipboard.writeText(made.address).then(
      () => toast.success('The link is copied.'),
      () => toast.error('This browser lets nothing be copied here. Mark the link and copy it.'),
    );
  return (
    <section aria-label="The new link" className="mb-4 rounded-xl border border-steel p-4">
      <p className="mb-2">Send it to the client alone, or let their phone scan it. It is shown this once.</p>
      <div className="flex flex-wrap items-center gap-4">
        <img
          alt="The link as a code to scan"
          className="size-40"
          src={`data:image/svg+xml;utf8,${encodeURIComponent(made.code)}`}
        />
        <div className="min-w-0 flex-1">
          <p className="figures mb-2 text-sm break-all" data-testid="link">
            {made.address}
          </p>
          <Button look="main" onClick={() => void copy()}>
            Copy the link
          </Button>
        </div>
      </div>
      {made.is_out_of_reach ? (
        <div className="mt-3">
          <Notice tone="caution">
            Only this computer reaches that address. Start Yantai for the network, and make the link on that
            address.
          </Notice>
        </div>
      ) : null}
    </section>
  );
}
