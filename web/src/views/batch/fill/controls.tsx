import type { ReactNode } from 'react';
import { weight } from '~/lib/format';
import { useShortcut } from '~/lib/keys';
import { Button } from '~/parts/button';
import { BigButton } from '~/views/batch/cook/timers';
import type { AtPart } from '~/views/batch/fill/use-part';

const CAPTION = 'Fill';
const KEYS = {
  next: { caption: CAPTION, key: ' ', words: 'accept what is in, and go on' },
  tare: { caption: CAPTION, key: 't', words: 'tare: what is on the scale now is the container' },
  undo: { caption: CAPTION, key: 'z', words: 'take back what was noted here last' },
  eye: { caption: CAPTION, key: 'e', words: 'by eye: it looks the same' },
  right: { caption: CAPTION, key: 'arrowright', words: 'the next part, without noting anything' },
  left: { caption: CAPTION, key: 'arrowleft', words: 'the part before' },
  down: { caption: CAPTION, key: 'arrowdown', words: 'the next container' },
  up: { caption: CAPTION, key: 'arrowup', words: 'the container before' },
};

/** The keys of the view; the arrows go on and back along the parts and the containers. */
export function useFillKeys(
  at: AtPart,
  along: { parts: (steps: number) => void; boxes: (steps: number) => void },
) {
  useShortcut(KEYS.next, at.next);
  useShortcut(KEYS.tare, at.bench.tare);
  useShortcut(KEYS.undo, at.undo);
  useShortcut(KEYS.eye, at.byEye);
  useShortcut(KEYS.right, () => along.parts(1));
  useShortcut(KEYS.left, () => along.parts(-1));
  useShortcut(KEYS.down, () => along.boxes(1));
  useShortcut(KEYS.up, () => along.boxes(-1));
}

/** What the hand does with the part: whatever is said above, the buttons stay where it knows them. */
export function Controls({
  at,
  canUndo,
  scaleName,
  onChoose,
}: {
  at: AtPart;
  canUndo: boolean;
  scaleName: string | null;
  onChoose: () => void;
}) {
  const { total, way } = at;
  const { filled } = at.cell.part;
  const typedWords =
    way === 'running total'
      ? 'Type what the scale shows'
      : filled
        ? 'Type what it holds in all'
        : 'Type what went in';
  const isAccepting = at.asked && at.isOutside && total !== null && (!filled || at.isCorrecting);
  return (
    <div className="sticky bottom-0 mt-auto space-y-1.5 bg-paper pt-1">
      <div className="flex gap-3 max-sm:grid max-sm:grid-cols-2">
        <BigButton isMain onClick={at.next} disabled={total === null && !filled}>
          {isAccepting ? `Accept ${weight(total)}` : 'Next'} <Kbd>Space</Kbd>
        </BigButton>
        <BigButton onClick={at.bench.tare} disabled={!at.isLive}>
          Tare <Kbd>T</Kbd>
        </BigButton>
        <BigButton onClick={at.undo} disabled={!canUndo}>
          Undo <Kbd>Z</Kbd>
        </BigButton>
        <BigButton onClick={at.byEye} disabled={filled !== null}>
          By eye <Kbd>E</Kbd>
        </BigButton>
      </div>
      <form
        className="flex flex-wrap items-end gap-3 text-left lg:flex-nowrap"
        onSubmit={(event) => {
          event.preventDefault();
          at.next();
        }}
      >
        <label className="min-w-0 flex-1 text-sm text-muted">
          <span className="sr-only">{typedWords}</span>
          <input
            inputMode="decimal"
            placeholder={way === 'running total' ? 'scale shows' : filled ? 'in all' : 'or type'}
            className="figures block min-h-16 w-full rounded-lg border border-edge bg-sheet px-3 text-2xl text-ink"
            value={at.typed.text}
            onChange={(event) => at.typed.set(event.target.value)}
          />
        </label>
        <Button className="min-h-16" disabled={filled !== null} onClick={at.leaveOut}>
          Leave it out
        </Button>
        <Button
          className="min-h-16"
          disabled={filled === null}
          onClick={() => at.correct(at.place, filled?.grams ?? 0)}
        >
          Correct it
        </Button>
        <Button className="min-h-16" onClick={onChoose}>
          {scaleName ? `Scale: ${scaleName}` : 'No scale'}
        </Button>
      </form>
      {at.typed.fault ? <p className="text-left text-sm font-bold text-alert">{at.typed.fault}</p> : null}
    </div>
  );
}

const Kbd = ({ children }: { children: ReactNode }) => (
  <kbd className="figures rounded border border-current px-1.5 text-xs font-normal">{children}</kbd>
);
