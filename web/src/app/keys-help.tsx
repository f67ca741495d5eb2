import { useLocation } from '@tanstack/react-router';
import { Dialog } from 'radix-ui';
import { Button } from '~/parts/button';

const EVERYWHERE: [string, string][] = [
  ['/', 'find anything'],
  ['?', 'show these keys'],
  ['Tab', 'next field or button'],
  ['Esc', 'close what is open'],
];

const PLAN: [string, string][] = [
  ['← ↑ → ↓', 'move in the plan'],
  ['0 – 9', 'type grams, a target or a number of containers'],
  ['Enter', 'change the cell; accept what was typed'],
  ['Esc', 'leave the cell as it was'],
  ['P', 'pin the grams of a cell, or free it'],
  ['[ and ]', 'less or more by one step of the scale'],
  ['F', 'fold or unfold the lines of a client'],
  ['Ctrl + Z', 'undo'],
  ['Ctrl + Shift + Z', 'do again'],
];

const RECIPE: [string, string][] = [
  ['Enter', 'after a written line: it is added, and the next can be written'],
  ['Shift + Enter', 'a new line in the same field'],
  ['Enter', 'in a weight: to the next ingredient'],
  ['Ctrl + Z', 'undo, outside of a field'],
];

export function KeysHelp({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const { pathname } = useLocation();
  const inPlan = /^\/batches\/(?!new$)./.test(pathname);
  const inRecipe = /^\/recipes\/./.test(pathname);
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-24 z-40 w-[520px] max-w-[94vw] -translate-x-1/2 rounded-xl border border-edge bg-sheet p-5 shadow-xl"
        >
          <Dialog.Title className="mb-3 text-xl">Keys of this view</Dialog.Title>
          {inPlan ? <KeyTable keys={PLAN} caption="In the plan" /> : null}
          {inRecipe ? <KeyTable keys={RECIPE} caption="In a recipe" /> : null}
          <KeyTable keys={EVERYWHERE} caption="Everywhere" />
          <Dialog.Close asChild>
            <Button>Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function KeyTable({ keys, caption }: { keys: [string, string][]; caption: string }) {
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
