import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useScale } from '~/devices/use-scale';
import { exactGrams, weight } from '~/lib/format';
import { useShortcut } from '~/lib/keys';
import { readNumber } from '~/lib/numbers';
import { massInGrams, massUnit } from '~/lib/units';
import { useDraft } from '~/lib/use-draft';
import { useStored } from '~/lib/use-stored';
import { Button } from '~/parts/button';
import { BigButton } from '~/views/batch/cook/timers';
import { Beside } from '~/views/batch/fill/beside';
import { Days, OtherDays } from '~/views/batch/fill/days';
import { Differences } from '~/views/batch/fill/differences';
import { figureOf } from '~/views/batch/fill/figure';
import { FillLog } from '~/views/batch/fill/log';
import { Options, useFillOptions } from '~/views/batch/fill/options';
import { PotsDialog } from '~/views/batch/fill/pots';
import { triedQuery } from '~/views/batch/fill/queries';
import { lineAt, RawLines } from '~/views/batch/fill/raw';
import { RowOfBoxes } from '~/views/batch/fill/row-of-boxes';
import { allowTones, say, tone } from '~/views/batch/fill/say';
import { Section } from '~/views/batch/fill/section';
import {
  beside,
  type Cell,
  type Filling,
  inOrder,
  isAt,
  isToCome,
  nextToCome,
  type Place,
  placeOf,
} from '~/views/batch/fill/sequence';
import { Missed, NotedTwice } from '~/views/batch/fill/trouble';
import { Tube } from '~/views/batch/fill/tube';
import { useBench } from '~/views/batch/fill/use-bench';
import type { useFills } from '~/views/batch/fill/use-fills';
import { slipWords } from '~/views/batch/fill/watch';
import {
  canMeasure,
  countStep,
  countWords,
  isCounted,
  nearestCount,
  oneOf,
  UNSURE,
  usualWay,
  type Way,
} from '~/views/batch/fill/ways';
import { containersQuery, type Kind } from '~/views/containers/queries';

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

const GOES_ON_AFTER_MS = 1000;
const NO_KINDS: Kind[] = [];
const NOTHING_LEFT: readonly string[] = [];

type Props = { batchId: string; filling: Filling; fills: ReturnType<typeof useFills> };

/** One part of one container, and how many grams still. */
export function AtTheScale({ batchId, filling, fills }: Props) {
  const options = useFillOptions();
  const cells = inOrder(filling, options.order);
  const [place, setPlace] = useState<Place | null>(() => {
    const first = nextToCome(cells, null) ?? cells[0];
    return first ? placeOf(first) : null;
  });
  const cell = cells.find((one) => place !== null && isAt(one, place)) ?? nextToCome(cells, null) ?? cells[0];
  if (!cell) return null;
  return (
    <OnePart
      batchId={batchId}
      filling={filling}
      fills={fills}
      options={options}
      cells={cells}
      cell={cell}
      go={(to) => setPlace(placeOf(to))}
    />
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
  const { box, part } = cell;
  const place = placeOf(cell);
  const placeKey = `${place.row} ${place.number} ${place.part}`;
  const [isChoosing, setIsChoosing] = useState(false);
  const [isAtPots, setIsAtPots] = useState(false);
  const [isAtDays, setIsAtDays] = useState(false);
  const [isAtLog, setIsAtLog] = useState(false);
  const [isNear, setIsNear] = useState(false);
  const [typed, setTyped] = useState('');
  const [count, setCount] = useState<number | null>(null);
  const [asked, setAsked] = useState(false);
  /** The container that something went into last, and those whose misses stay as they are. */
  const [filledBefore, setFilledBefore] = useState('');
  const [leftSo, setLeftSo] = useDraft<readonly string[]>(`fill/left-so/${batchId}`, NOTHING_LEFT);
  /** What a part that is in already is brought to: something is taken out of it, or put on top. */
  const [to, setTo] = useState<{ key: string; grams: number } | null>(null);
  const [reason, setReason] = useState('');
  const since = useRef(performance.now());
  const scale = useScale();
  const [chosenWay, setWay] = useStored<Way | ''>(`yantai/fill/way/${batchId}/${part.component_id}`, '');
  const pot = filling.pots.find((one) => one.component_id === part.component_id);
  const scoopG = pot?.scoop_g ?? null;
  const way = chosenWay && canMeasure(chosenWay, part, scoopG) ? chosenWay : usualWay(part);
  const step = scale.instrument?.step_g ?? filling.step_g;
  const one = isCounted(way) ? oneOf(way, part, scoopG) : null;
  const inAlready = part.filled?.grams ?? 0;
  const target = to?.key === placeKey ? to.grams : part.filled ? part.filled.grams : part.grams;
  const usualCount = one === null ? 0 : nearestCount(way, part, target / one);
  const isByHand = one !== null || way === 'by eye' || way === 'typed';
  const kinds = useQuery(containersQuery);
  const bench = useBench(
    scale,
    isByHand ? null : cell,
    Math.abs(target - inAlready),
    step,
    way === 'minus reading',
    kinds.data ?? NO_KINDS,
  );
  const typedGrams = readNumber(typed);
  const isLive = scale.instrument !== undefined && !scale.isLost && !isByHand;

  // A new place begins anew.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the place is what counts
  useEffect(() => {
    setTyped('');
    setCount(null);
    setAsked(false);
    setReason('');
    since.current = performance.now();
    if (options.speech === 'on' && isToCome(cell))
      say(`${part.name}, ${Math.round(part.grams)} ${massUnit() === 'g' ? 'grams' : massUnit()}`);
  }, [placeKey]);

  const measured =
    typedGrams.value !== null
      ? massInGrams(typedGrams.value)
      : one !== null
        ? (count ?? usualCount) * one
        : way === 'by eye'
          ? target - inAlready
          : isLive
            ? bench.net
            : null;
  // What is typed in the way of the running total is what the scale shows by then.
  const before = runningBefore(cell);
  // What is typed to correct a part is what it holds in all.
  const less = way === 'running total' ? before : part.filled ? inAlready : 0;
  const net = measured === null || typedGrams.value === null ? measured : measured - less;
  const total = net === null ? null : Math.max(inAlready + net, 0);
  const figure = figureOf(part, target, total ?? inAlready, step);
  const isOutside = total !== null && figure.state !== 'inside';
  const steadyOutside = isOutside && (bench.isSteady || typedGrams.value !== null || isByHand);
  const tried = useQuery(
    triedQuery(batchId, asked && steadyOutside ? place : null, asked ? total : null, filling.facts),
  );

  const noteWords = (grams: number) =>
    `${part.name}, ${box.client} ${box.number} of ${box.of}: ${weight(grams)}`;
  const accept = (grams: number, by: Way) => {
    allowTones();
    fills.note(
      {
        event: box.is_closed ? 'corrected' : 'filled',
        row_id: box.row_id,
        container: box.number,
        component_id: part.component_id,
        grams: Math.round(grams * 10) / 10,
        way: by,
        after: part.filled?.fact_id ?? null,
        asked_g: target,
        units: one !== null && count !== null ? count : null,
        took_s: Math.round((performance.now() - since.current) / 100) / 10,
        text: reason,
      },
      noteWords(grams),
    );
    setTo(null);
    setFilledBefore(boxKey(box));
    onward();
  };
  const onward = () => {
    const next = nextToCome(cells, place);
    if (next) {
      bench.move(placeOf(next));
      go(next);
    } else {
      setTyped('');
      setCount(null);
      setAsked(false);
      if (options.speech === 'on') say('All containers are closed');
    }
  };
  const next = () => {
    if (part.filled && to?.key !== placeKey) {
      onward();
      return;
    }
    if (total === null) return;
    if (box.is_closed && !reason.trim()) return;
    if (isOutside && !asked) {
      setAsked(true);
      if (options.sound === 'on') tone('over');
      return;
    }
    if (options.sound === 'on') tone('done');
    accept(total, typedGrams.value !== null && way !== 'running total' ? 'typed' : way);
  };
  const byEye = () => {
    if (part.filled) return;
    accept(part.grams, 'by eye');
  };
  const undo = () => {
    if (fills.last) fills.takeBack(fills.last);
  };
  const step1 = (steps: number) => {
    const there = beside(cells, place, steps);
    if (there) go(there);
  };
  const toBox = (steps: number) => {
    const boxes = [...new Set(cells.map((one) => one.box))];
    const there = boxes[boxes.indexOf(box) + steps];
    const first = cells.find((one) => one.box === there);
    if (first) go(first);
  };
  useShortcut(KEYS.next, next);
  useShortcut(KEYS.tare, bench.tare);
  useShortcut(KEYS.undo, undo);
  useShortcut(KEYS.eye, byEye);
  useShortcut(KEYS.right, () => step1(1));
  useShortcut(KEYS.left, () => step1(-1));
  useShortcut(KEYS.down, () => toBox(1));
  useShortcut(KEYS.up, () => toBox(-1));

  // Inside the band and standing still for a second: it goes on by itself, where that is set.
  const isDone = isLive && figure.state === 'inside' && bench.isSteady && total !== null && !part.filled;
  const latest = useRef(next);
  latest.current = next;
  useEffect(() => {
    if (!isDone || options.auto === 'off') return;
    const going = setTimeout(() => latest.current(), GOES_ON_AFTER_MS);
    return () => clearTimeout(going);
  }, [isDone, options.auto]);
  const wasDone = useRef(false);
  useEffect(() => {
    if (isDone && !wasDone.current && options.sound === 'on') tone('done');
    wasDone.current = isDone;
  }, [isDone, options.sound]);

  // What is built raw is built ingredient by ingredient: the figure is of the one that goes in next.
  const line = part.filled || isByHand || part.lines.length < 2 ? null : lineAt(part.lines, total ?? 0, step);
  const left = total === null ? target - inAlready : figure.still;
  const shown = line ? line.up_to_g - (total ?? 0) : left;
  const stateWord = wordOf(part.filled !== null && to?.key !== placeKey, total, figure.state);
  const slip = isLive && bench.slip ? slipWords(bench.slip, weight) : '';
  const isSlip = bench.slip !== null && bench.slip.kind !== 'put on';
  const typedWords =
    way === 'running total'
      ? 'Type what the scale shows'
      : part.filled
        ? 'Type what it holds in all'
        : 'Type what went in';
  const toMend = toMendNow(filling.containers, box, filledBefore, leftSo);
  const digits = onScale(Math.abs(shown), step);
  return (
    <>
      <div className="grid min-h-0 flex-1 gap-x-5 gap-y-3 px-5 lg:grid-cols-[230px_minmax(0,1fr)_240px] lg:grid-rows-[minmax(0,1fr)]">
        <div className="min-h-0 max-lg:order-2 max-lg:h-96">
          <Section box={box} at={place} net={total} />
        </div>
        <div className="flex min-h-0 min-w-0 flex-col gap-1.5 overflow-y-auto px-1 text-center">
          <div>
            <h2 className="text-[28px] leading-tight">{part.name}</h2>
            <p className="text-muted">
              {box.client}, {box.slot}, {box.number} of {box.of}
              {filling.containers.some((other) => other.dish_id !== box.dish_id) ? `, ${box.dish}` : ''}
              {part.place === 'beside' ? ', in the tub beside it' : ''}
            </p>
            {line ? <p className="text-xl font-bold">{line.name}</p> : null}
            {box.kept_out.length ? (
              <p className="text-sm font-bold">{box.kept_out.join(', ')}: clean hands, spoon and board.</p>
            ) : null}
          </div>
          <p
            className={`figures my-auto flex items-baseline justify-center gap-3 leading-[1.25] font-bold ${figure.state === 'over' && total !== null ? 'text-alert' : ''}`}
          >
            <span
              data-testid="still"
              className={sizeOf(digits, options.big === 'on', toMend !== null || asked)}
            >
              {digits}
            </span>
            <span className="text-left text-2xl leading-tight">
              {massUnit()}
              <br />
              {shown >= -step / 2 ? 'still' : figure.state === 'over' ? 'too much' : 'over'}
            </span>
          </p>
          <Tube
            net={total ?? inAlready}
            target={target}
            figure={figure}
            says={`${part.name}: ${exactGrams(total ?? inAlready)} of ${weight(target)}, ${stateWord}`}
          />
          <p className="figures text-muted">
            {onScale(total ?? inAlready, step)} of {onScale(target, step)} {massUnit()}, stop{' '}
            {onScale(figure.low, step)} to {onScale(figure.high, step)}
            {way === 'running total' ? `; the scale then shows ${onScale(before + target, step)}` : ''}
          </p>
          <p
            role="status"
            className={`min-h-7 font-bold ${figure.state === 'inside' && total !== null ? 'mx-auto w-fit rounded-full bg-band px-4' : ''}`}
          >
            {stateWord}
            {one !== null ? `: ${countWords(way, count ?? usualCount, one)}` : ''}
            {UNSURE[way] && total !== null ? ` (${UNSURE[way]})` : ''}
          </p>
          <p role="status" className={`min-h-6 text-sm ${isSlip ? 'font-bold text-alert' : 'text-muted'}`}>
            {scale.isLost
              ? 'The scale says nothing: type the weight, it goes on by itself when it is back.'
              : slip}
          </p>
          {one !== null && !part.filled ? (
            <div className="flex justify-center gap-3">
              <Button
                className="min-h-16 min-w-16 text-2xl"
                aria-label="One less"
                onClick={() => setCount(Math.max((count ?? usualCount) - countStep(way, part), 0))}
              >
                −
              </Button>
              <Button
                className="min-h-16 min-w-16 text-2xl"
                aria-label="One more"
                onClick={() => setCount((count ?? usualCount) + countStep(way, part))}
              >
                +
              </Button>
            </div>
          ) : null}
          {asked && isOutside && total !== null ? (
            <section className="rounded-lg border border-l-4 border-steel border-l-alert bg-sheet p-3 text-left">
              <p className="font-bold">
                {weight(Math.abs(figure.still))} {figure.still < 0 ? 'too much' : 'too little'}
                {tried.data
                  ? tried.data.missed.length
                    ? `: then ${tried.data.missed.join(', ')}, whatever comes after.`
                    : ': the rest of the container makes it good.'
                  : ''}
              </p>
              {tried.data?.overfull ? (
                <p className="font-bold text-alert">The container is too small: {tried.data.overfull}.</p>
              ) : null}
              <p className="text-sm text-muted">
                {figure.still < 0 ? 'Take some out' : 'Put more in'}, or accept it with Next.
              </p>
            </section>
          ) : null}
          {box.is_closed && to?.key === placeKey ? (
            <label className="block text-left text-sm">
              This container is closed. Why is it corrected?
              <input
                className="mt-1 block min-h-11 w-full rounded-lg border border-edge bg-sheet px-3 text-base"
                value={reason}
                onChange={(event) => setReason(event.target.value)}
              />
            </label>
          ) : null}
          {/* Whatever is said above, the buttons stay where the hand knows them. */}
          <div className="sticky bottom-0 mt-auto space-y-1.5 bg-paper pt-1">
            <div className="flex gap-3 max-sm:grid max-sm:grid-cols-2">
              <BigButton isMain onClick={next} disabled={total === null && !part.filled}>
                {part.filled && to?.key !== placeKey
                  ? 'Next'
                  : asked && isOutside && total !== null
                    ? `Accept ${weight(total)}`
                    : 'Next'}{' '}
                <Kbd>Space</Kbd>
              </BigButton>
              <BigButton onClick={bench.tare} disabled={!isLive}>
                Tare <Kbd>T</Kbd>
              </BigButton>
              <BigButton onClick={undo} disabled={!fills.last}>
                Undo <Kbd>Z</Kbd>
              </BigButton>
              <BigButton onClick={byEye} disabled={part.filled !== null}>
                By eye <Kbd>E</Kbd>
              </BigButton>
            </div>
            <form
              className="flex flex-wrap items-end gap-3 text-left lg:flex-nowrap"
              onSubmit={(event) => {
                event.preventDefault();
                next();
              }}
            >
              <label className="min-w-0 flex-1 text-sm text-muted">
                <span className="sr-only">{typedWords}</span>
                <input
                  inputMode="decimal"
                  placeholder={way === 'running total' ? 'scale shows' : part.filled ? 'in all' : 'or type'}
                  className="figures block min-h-16 w-full rounded-lg border border-edge bg-sheet px-3 text-2xl text-ink"
                  value={typed}
                  onChange={(event) => {
                    setTyped(event.target.value);
                    setAsked(false);
                  }}
                />
              </label>
              <Button
                className="min-h-16"
                disabled={part.filled !== null}
                onClick={() => {
                  fills.note(
                    {
                      event: 'left out',
                      row_id: box.row_id,
                      container: box.number,
                      component_id: part.component_id,
                      asked_g: target,
                    },
                    `${part.name}, ${box.client} ${box.number} of ${box.of}: left out`,
                  );
                  onward();
                }}
              >
                Leave it out
              </Button>
              <Button
                className="min-h-16"
                disabled={part.filled === null}
                onClick={() => setTo({ key: placeKey, grams: part.filled?.grams ?? 0 })}
              >
                Correct it
              </Button>
              <Button className="min-h-16" onClick={() => setIsChoosing(true)}>
                {scale.instrument ? `Scale: ${scale.instrument.name}` : 'No scale'}
              </Button>
            </form>
          </div>
          {typedGrams.fault ? (
            <p className="text-left text-sm font-bold text-alert">{typedGrams.fault}</p>
          ) : null}
        </div>
        <Beside
          filling={filling}
          cell={cell}
          order={options.order}
          place={place}
          toHandIn={fills.toHandIn}
          onPots={() => setIsAtPots(true)}
          ingredients={isByHand ? null : <RawLines part={part} now={line} />}
          others={<OtherDays batchId={batchId} filling={filling} onOpen={() => setIsAtDays(true)} />}
        />
      </div>
      <div className="space-y-2 px-5 pb-2 empty:hidden">
        <NotedTwice
          cells={cells}
          onDecide={(of, grams) =>
            fills.note(
              {
                event: 'decided',
                row_id: of.box.row_id,
                container: of.box.number,
                component_id: of.part.component_id,
                after: of.part.filled?.fact_id ?? null,
                grams,
              },
              `${of.part.name}, ${of.box.client} ${of.box.number} of ${of.box.of}: ${weight(grams)} is right`,
            )
          }
        />
        {toMend ? (
          <Missed
            key={boxKey(toMend)}
            box={toMend}
            onLeave={() => setLeftSo((now) => [...now, boxKey(toMend)])}
            onMend={(mend) => {
              const of = cells.find(
                (one) => one.box === toMend && one.part.component_id === mend.component_id,
              );
              if (!of?.part.filled) return;
              const there = placeOf(of);
              bench.move(there);
              go(of);
              setTo({
                key: `${there.row} ${there.number} ${there.part}`,
                grams: Math.max(of.part.filled.grams + mend.grams, 0),
              });
            }}
            onEven={() =>
              fills.note(
                { event: 'evened out', row_id: toMend.row_id, container: toMend.number },
                `${toMend.client} ${toMend.number} of ${toMend.of}: evened out over the others`,
              )
            }
          />
        ) : null}
      </div>
      <RowOfBoxes filling={filling} cells={cells} place={place} onGo={go} />
      {isNear ? (
        <Differences batchId={batchId} facts={filling.facts} onClose={() => setIsNear(false)} />
      ) : null}
      {isAtLog ? <FillLog batchId={batchId} facts={filling.facts} onClose={() => setIsAtLog(false)} /> : null}
      {isAtDays ? (
        <Days batchId={batchId} filling={filling} fills={fills} onClose={() => setIsAtDays(false)} />
      ) : null}
      {isAtPots ? (
        <PotsDialog filling={filling} scale={scale} note={fills.note} onClose={() => setIsAtPots(false)} />
      ) : null}
      {isChoosing ? (
        <Options
          options={options}
          scale={scale}
          partName={part.name}
          way={way}
          can={(one) => canMeasure(one, part, scoopG)}
          onWay={setWay}
          onNear={() => {
            setIsChoosing(false);
            setIsNear(true);
          }}
          onLog={() => {
            setIsChoosing(false);
            setIsAtLog(true);
          }}
          onClose={() => setIsChoosing(false)}
        />
      ) : null}
    </>
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

/** A weight as the scale can show it. */
const onScale = (grams: number, step: number) => exactGrams(step >= 1 ? Math.round(grams) : grams);

/** Readable at two metres, whatever its length; a little less where something has to be said below it. */
function sizeOf(digits: string, isBig: boolean, isTight: boolean): string {
  if (isTight) return 'text-[72px] sm:text-[96px]';
  if (digits.length > 4) return isBig ? 'text-[80px] sm:text-[130px]' : 'text-[72px] sm:text-[100px]';
  return isBig ? 'text-[130px] sm:text-[190px]' : 'text-[110px] sm:text-[140px]';
}

/** What the container holds before this part, where nobody tares in between. */
function runningBefore({ box, part }: Cell): number {
  const at = box.parts.indexOf(part);
  return box.parts
    .slice(0, at)
    .filter((one) => one.place === part.place)
    .reduce((sum, one) => sum + (one.filled?.grams ?? one.grams), 0);
}

function wordOf(isIn: boolean, total: number | null, state: 'under' | 'inside' | 'over'): string {
  if (isIn) return 'in already';
  if (total === null) return 'to go in';
  return state === 'inside' ? 'enough: stop' : state === 'over' ? 'too much' : 'not yet';
}

const Kbd = ({ children }: { children: string }) => (
  <kbd className="figures rounded border border-current px-1.5 text-xs font-normal">{children}</kbd>
);
