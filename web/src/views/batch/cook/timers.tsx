import { useEffect, useRef } from 'react';
import type { Schemas } from '~/api/client';
import { timeOfDay } from '~/views/batch/cook/clock';
import { ring } from '~/views/batch/cook/ring';

type Timer = Schemas['TimerView'];

const AGAIN_MS = 2500;

/** "3:40" left, "−0:20" over, "1:02:10" for more than an hour. */
export function countdown(seconds: number): string {
  const left = Math.abs(Math.trunc(seconds));
  const [h, m, s] = [Math.floor(left / 3600), Math.floor(left / 60) % 60, left % 60];
  const two = (value: number) => String(value).padStart(2, '0');
  return `${seconds < 0 && left ? '−' : ''}${h ? `${h}:${two(m)}` : m}:${two(s)}`;
}

type Props = {
  timers: Timer[];
  /** The clock of the kitchen [s from midnight]. */
  nowS: number;
  /** Those that somebody has heard. */
  heard: ReadonlySet<string>;
  onHeard: (timer: Timer) => void;
  onLonger: (timer: Timer) => void;
  onDone: (timer: Timer) => void;
};

/** Every timer, named by what it is for: it rings, louder and louder, until somebody has heard it. */
export function Timers({ timers, nowS, heard, onHeard, onLonger, onDone }: Props) {
  const left = (timer: Timer) => timer.at_min * 60 - nowS;
  const ringing = timers.filter((one) => left(one) <= 0 && !heard.has(one.key));
  const longestS = Math.max(0, ...ringing.map((one) => -left(one)));
  const isRinging = ringing.length > 0;
  const loud = useRef(longestS);
  loud.current = longestS;
  useEffect(() => {
    if (!isRinging) return;
    ring(loud.current);
    const again = setInterval(() => ring(loud.current), AGAIN_MS);
    return () => clearInterval(again);
  }, [isRinging]);
  const names = ringing.map(({ name }) => name).join(', ');
  useEffect(() => {
    if (!names) return;
    const before = document.title;
    document.title = `Now: ${names}`;
    return () => {
      document.title = before;
    };
  }, [names]);
  if (timers.length === 0) return null;
  return (
    <ul aria-label="Timers" className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-3">
      {timers
        .toSorted((one, other) => one.at_min - other.at_min)
        .map((timer) => {
          const isOver = left(timer) <= 0;
          const rings = isOver && !heard.has(timer.key);
          return (
            <li
              key={timer.key}
              aria-label={`Timer: ${timer.name}`}
              className={`rounded-xl border bg-sheet p-3 ${rings ? 'border-2 border-alert' : 'border-steel'}`}
            >
              <div className="flex items-baseline justify-between gap-2">
                <span className="min-w-0 font-semibold">{timer.name}</span>
                <span className={`figures text-3xl font-semibold ${isOver ? 'text-alert' : ''}`} role="timer">
                  {countdown(left(timer))}
                </span>
              </div>
              <p className="text-sm text-muted">
                {timer.says === timer.name || !timer.says ? '' : `${timer.says.replace(/\.$/, '')}, `}at{' '}
                {timeOfDay(timer.at_min)}
              </p>
              <div className="mt-2 flex gap-2">
                {rings ? (
                  <BigButton onClick={() => onHeard(timer)} isAlert>
                    Heard
                  </BigButton>
                ) : null}
                <BigButton onClick={() => onLonger(timer)}>+1 min</BigButton>
                {timer.is_own ? <BigButton onClick={() => onDone(timer)}>Done</BigButton> : null}
              </div>
            </li>
          );
        })}
    </ul>
  );
}

/** A button for wet hands. */
export function BigButton({
  isMain = false,
  isAlert = false,
  ...rest
}: React.ComponentProps<'button'> & { isMain?: boolean; isAlert?: boolean }) {
  const look = isMain
    ? 'border-ink bg-ink text-sheet text-lg font-semibold'
    : isAlert
      ? 'border-alert bg-sheet text-alert font-semibold'
      : 'border-edge bg-sheet text-ink font-medium';
  return (
    <button
      type="button"
      className={`inline-flex min-h-16 flex-1 items-center justify-center gap-2 rounded-lg border-2 px-3 disabled:opacity-45 ${look}`}
      {...rest}
    />
  );
}
