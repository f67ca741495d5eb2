import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { LoadFailed, Loading } from '~/parts/notice';

/** A dialog that tells what was filled, once it is known and there is something to tell. */
export function Told<View>({
  title,
  what,
  found,
  isEmpty,
  onClose,
  children,
}: {
  title: string;
  /** What is loaded, in words. */
  what: string;
  found: UseQueryResult<View>;
  isEmpty: (view: View) => boolean;
  onClose: () => void;
  children: (view: View) => ReactNode;
}) {
  return (
    <Overlaid open onOpenChange={onClose} wide="page" title={title}>
      {found.isError ? (
        <LoadFailed error={found.error} retry={() => void found.refetch()} />
      ) : !found.data ? (
        <Loading what={what} />
      ) : isEmpty(found.data) ? (
        <p className="text-muted">Nothing is filled yet.</p>
      ) : (
        children(found.data)
      )}
      <div className="mt-4 flex justify-end">
        <Close>
          <Button look="main">Done</Button>
        </Close>
      </div>
    </Overlaid>
  );
}
