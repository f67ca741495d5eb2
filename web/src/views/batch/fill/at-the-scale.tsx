import { useState } from 'react';
import { useScale } from '~/devices/use-scale';
import { weight } from '~/lib/format';
import { useDraft } from '~/lib/use-draft';
import { Beside } from '~/views/batch/fill/beside';
import { Controls, useFillKeys } from '~/views/batch/fill/controls';
import { Days, OtherDays } from '~/views/batch/fill/days';
import { Differences } from '~/views/batch/fill/differences';
import { FillLog } from '~/views/batch/fill/log';
import { Options, useFillOptions } from '~/views/batch/fill/options';
import { PotsDialog } from '~/views/batch/fill/pots';
import { RawLines } from '~/views/batch/fill/raw';
import { RowOfBoxes } from '~/views/batch/fill/row-of-boxes';
import { Section } from '~/views/batch/fill/section';
import {
  beside,
  type Cell,
  type Filling,
  inOrder,
  isAt,
  nextToCome,
  type Place,
  placeOf,
} from '~/views/batch/fill/sequence';
import { Asked, Counter, Heading, Reason, Still } from '~/views/batch/fill/still';
import { Missed, NotedTwice } from '~/views/batch/fill/trouble';
import type { useFills } from '~/views/batch/fill/use-fills';
import { type AtPart, usePart } from '~/views/batch/fill/use-part';

const NOTHING_LEFT: readonly string[] = [];

type Props = { batchId: string; filling: Filling; fills: ReturnType<typeof useFills> };
type Opened = 'options' | 'pots' | 'days' | 'log' | 'differences';

/** One part of one container, and how many grams still. */
export function AtTheScale(props: Props) {
  const options = useFillOptions();
  const cells = inOrder(props.filling, options.order);
  const [place, setPlace] = useState<Place | null>(() => {
    const first = nextToCome(cells, null) ?? cells[0];
    return first ? placeOf(first) : null;
  });
  const cell = cells.find((one) => place !== null && isAt(one, place)) ?? nextToCome(cells, null) ?? cells[0];
  if (!cell) return null;
  return (
    <OnePart {...props} options={options} cells={cells} cell={cell} go={(to) => setPlace(placeOf(to))} />
  );
}

function OnePart({
  batchId,
  filling,
  fills,
  options,
  cells,
  cell,
  go,
}: Props & {
  options: ReturnType<typeof useFillOptions>;
  cells: Cell[];
  cell: Cell;
  go: (to: Cell) => void;
}) {
  const { box } = cell;
  const [opened, setOpened] = useState<Opened | null>(null);
  const close = () => setOpened(null);
  /** The container that something went into last, and those whose misses stay as they are. */
  const [filledBefore, setFilledBefore] = useState('');
  const [leftSo, setLeftSo] = useDraft<readonly string[]>(`fill/left-so/${batchId}`, NOTHING_LEFT);
  const scale = useScale();
  const onFilled = (into: Cell['box']) => setFilledBefore(boxKey(into));
  const at = usePart({ batchId, filling, fills, options, scale, cells, cell, go, onFilled });
  const goTo = (there: Cell | null | undefined) => (there ? go(there) : undefined);
  useFillKeys(at, {
    parts: (steps) => goTo(beside(cells, at.place, steps)),
    boxes: (steps) => {
      const boxes = [...new Set(cells.map((one) => one.box))];
      const there = boxes[boxes.indexOf(box) + steps];
      goTo(cells.find((one) => one.box === there));
    },
  });
  const toMend = toMendNow(filling.containers, box, filledBefore, leftSo);
  return (
    <>
      <div className="grid min-h-0 flex-1 gap-x-5 gap-y-3 px-5 lg:grid-cols-[230px_minmax(0,1fr)_240px] lg:grid-rows-[minmax(0,1fr)]">
        <div className="min-h-0 max-lg:order-2 max-lg:h-96">
          <Section box={box} at={at.place} net={at.total} />
        </div>
        <div className="flex min-h-0 min-w-0 flex-col gap-1.5 overflow-y-auto px-1 text-center">
          <Heading at={at} withDish={filling.containers.some((other) => other.dish_id !== box.dish_id)} />
          <Still
            at={at}
            isLost={scale.isLost}
            isBig={options.big === 'on'}
            isTight={toMend !== null || at.asked}
          />
          <Counter at={at} />
          <Asked at={at} />
          <Reason at={at} />
          <Controls
            at={at}
            canUndo={fills.last !== undefined}
            scaleName={scale.instrument?.name ?? null}
            onChoose={() => setOpened('options')}
          />
        </div>
        <Beside
          filling={filling}
          cell={cell}
          order={options.order}
          place={at.place}
          toHandIn={fills.toHandIn}
          onPots={() => setOpened('pots')}
          ingredients={at.isByHand ? null : <RawLines part={cell.part} now={at.line} />}
          others={<OtherDays batchId={batchId} filling={filling} onOpen={() => setOpened('days')} />}
        />
      </div>
      <div className="space-y-2 px-5 pb-2 empty:hidden">
        <Doubled cells={cells} fills={fills} />
        {toMend ? (
          <ToMend
            key={boxKey(toMend)}
            box={toMend}
            cells={cells}
            at={at}
            fills={fills}
            go={go}
            onLeave={() => setLeftSo((now) => [...now, boxKey(toMend)])}
          />
        ) : null}
      </div>
      <RowOfBoxes filling={filling} cells={cells} place={at.place} onGo={go} />
      {opened === 'differences' ? (
        <Differences batchId={batchId} facts={filling.facts} onClose={close} />
      ) : null}
      {opened === 'log' ? <FillLog batchId={batchId} facts={filling.facts} onClose={close} /> : null}
      {opened === 'days' ? <Days batchId={batchId} filling={filling} fills={fills} onClose={close} /> : null}
      {opened === 'pots' ? (
        <PotsDialog filling={filling} scale={scale} note={fills.note} onClose={close} />
      ) : null}
      {opened === 'options' ? (
        <Options
          options={options}
          scale={scale}
          partName={cell.part.name}
          way={at.way}
          can={at.can}
          onWay={at.setWay}
          onNear={() => setOpened('differences')}
          onLog={() => setOpened('log')}
          onClose={close}
        />
      ) : null}
    </>
  );
}

/** Parts of which two notes did not know of each other, and which of them is right. */
function Doubled({ cells, fills }: { cells: Cell[]; fills: Props['fills'] }) {
  return (
    <NotedTwice
      cells={cells}
      onDecide={({ box, part }, grams) =>
        fills.note(
          {
            event: 'decided',
            row_id: box.row_id,
            container: box.number,
            component_id: part.component_id,
            after: part.filled?.fact_id ?? null,
            grams,
          },
          `${part.name}, ${box.client} ${box.number} of ${box.of}: ${weight(grams)} is right`,
        )
      }
    />
  );
}

/** The miss that is spoken of, and its ways out: one part brought to what makes it good, or the others. */
function ToMend({
  box,
  cells,
  at,
  fills,
  go,
  onLeave,
}: {
  box: Cell['box'];
  cells: Cell[];
  at: AtPart;
  fills: Props['fills'];
  go: (to: Cell) => void;
  onLeave: () => void;
}) {
  return (
    <Missed
      box={box}
      onLeave={onLeave}
      onMend={(mend) => {
        const of = cells.find((one) => one.box === box && one.part.component_id === mend.component_id);
        if (!of?.part.filled) return;
        const there = placeOf(of);
        at.bench.move(there);
        go(of);
        at.correct(there, Math.max(of.part.filled.grams + mend.grams, 0));
      }}
      onEven={() =>
        fills.note(
          { event: 'evened out', row_id: box.row_id, container: box.number },
          `${box.client} ${box.number} of ${box.of}: evened out over the others`,
        )
      }
    />
  );
}

/**
 * The miss that is spoken of: of the container that is filled now, or of the one before it, until somebody leaves it so.
 * All others are marked in the row of containers, and say it when one goes to them.
 */
const toMendNow = (boxes: Cell['box'][], here: Cell['box'], before: string, leftSo: readonly string[]) =>
  [here, ...boxes.filter((box) => boxKey(box) === before)].find(
    (box) => box.missed.length > 0 && !leftSo.includes(boxKey(box)),
  ) ?? null;

const boxKey = (box: Cell['box']) => `${box.row_id} ${box.number}`;
