import { EVERYWHERE, type Key, useListed, useListedKeys } from '~/lib/keys';
import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';

const BROWSER: Key[] = [
  ['Tab', 'next field or button'],
  ['Esc', 'close what is open'],
];

/** Every key that works on the page as it is. */
export function KeysHelp({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  useListed(EVERYWHERE, BROWSER);
  const groups = useListedKeys();
  return (
    <Overlaid open={open} onOpenChange={onOpenChange} title="Keys of this view">
      {groups.map(({ caption, keys }) => (
        <KeyTable key={caption} keys={keys} caption={caption} />
      ))}
      <Close>
        <Button>Close</Button>
      </Close>
    </Overlaid>
  );
}

function KeyTable({ keys, caption }: { keys: Key[]; caption: string }) {
  return (
    <table className="mb-4 w-full">
      <caption className="pb-1 text-left font-medium text-muted">{caption}</caption>
      <tbody>
        {keys.map(([key, what]) => (
          <tr key={key + what} className="border-t border-steel">
            <th scope="row" className="figures w-44 py-1.5 text-left font-semibold">
              {key}
            </th>
            <td>{what}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
