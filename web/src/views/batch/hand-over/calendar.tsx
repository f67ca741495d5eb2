import {
  DndContext,
  type DragEndEvent,
  MouseSensor,
  TouchSensor,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { type ReactNode, useState } from 'react';
import { day, oneDecimal } from '~/lib/format';
import { Notice } from '~/parts/notice';
import { ContainerCard } from '~/views/batch/hand-over/container-card';
import { moveTo, withoutDay } from '~/views/batch/hand-over/move';
import { MoveDialog } from '~/views/batch/hand-over/move-dialog';
import type { HandOverDesk } from '~/views/batch/hand-over/use-hand-over';
import { containerName, fitWords, type Placed, shortDay, type Week } from '~/views/batch/hand-over/words';

type Dragged = { one: Placed } | undefined;

/** The days of one client: what is eaten on each, what thaws on its evening; containers are dragged to other days. */
export function EatingCalendar({ week, desk }: { week: Week; desk: HandOverDesk }) {
  const [open, setOpen] = useState<Placed | null>(null);
  const [dragged, setDragged] = useState<Placed | null>(null);
  // A press that does not move opens a container; a finger that moves at once scrolls.
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
  );
  const slots = [...new Set(week.days.flatMap((one) => one.containers.map((box) => box.slot)))];
  const drop = ({ active, over }: DragEndEvent) => {
    setDragged(null);
    const one = (active.data.current as Dragged)?.one;
    const on = over ? String(over.id) : null;
    if (!one || !on || on === one.eaten_on) return;
    if (on === WAITING) void desk.move([withoutDay(one)], [one], `${containerName(one)} waits for a day`);
    else void moveTo(desk, week, one, on);
  };
  return (
    <DndContext
      sensors={sensors}
      onDragStart={({ active }) => setDragged((active.data.current as Dragged)?.one ?? null)}
      onDragCancel={() => setDragged(null)}
      onDragEnd={drop}
    >
      {week.to_cook_again.map((words) => (
        <div key={words} className="mb-3">
          <Notice tone="alert">{words}</Notice>
        </div>
      ))}
      {week.days.length ? (
        <div className="overflow-x-auto rounded-xl border border-steel">
          <div
            className="grid"
            style={{ gridTemplateColumns: `repeat(${week.days.length}, minmax(9.5rem, 1fr))` }}
          >
            {week.days.map((one) => (
              <DayColumn
                key={one.on}
                on={one.on}
                label={`${day(one.on)}${one.day_type ? `, ${one.day_type} day` : ''}`}
                hint={dragged && dragged.eaten_on !== one.on ? fitWords(dragged, one.on) : ''}
              >
                <h3 className="text-base">{shortDay(one.on)}</h3>
                <p className="min-h-5 text-sm text-muted">
                  {one.day_type ? `${one.day_type}${one.is_assumed ? ', assumed' : ''}` : ''}
                </p>
                {slots.map((slot) => {
                  const here = one.containers.filter((box) => box.slot === slot);
                  return (
                    <div key={slot} className="mt-2">
                      <p className="text-sm text-muted first-letter:uppercase">{slot}</p>
                      <div className="min-h-24 space-y-1.5">
                        {here.map((box) => (
                          <ContainerCard
                            key={`${box.row_id} ${box.number}`}
                            one={box}
                            onOpen={() => setOpen(box)}
                          />
                        ))}
                      </div>
                    </div>
                  );
                })}
                <div className="mt-auto pt-2 text-sm">
                  {one.thaw.length ? (
                    <p>
                      <b>Evening:</b> into the fridge to thaw: {one.thaw.join('; ')}
                    </p>
                  ) : null}
                  <p className="text-muted">{oneDecimal(one.litres)} l in the fridge before it</p>
                  {one.breaks.map((found) => (
                    <p key={found.words} className="text-alert">
                      {found.words}
                    </p>
                  ))}
                </div>
              </DayColumn>
            ))}
          </div>
        </div>
      ) : null}
      <Waiting week={week} onOpen={setOpen} isTarget={dragged !== null && dragged.eaten_on !== null} />
      {open ? <MoveDialog one={open} week={week} desk={desk} onClose={() => setOpen(null)} /> : null}
    </DndContext>
  );
}

const WAITING = 'waiting';

function DayColumn({
  on,
  label,
  hint,
  children,
}: {
  on: string;
  label: string;
  hint: string;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: on });
  return (
    <section
      ref={setNodeRef}
      aria-label={label}
      className={`relative flex flex-col border-l border-steel p-2 first:border-l-0 ${isOver ? 'bg-chosen' : 'bg-bench/40'}`}
    >
      {children}
      {hint ? (
        <p
          aria-hidden
          className="pointer-events-none absolute inset-x-1 top-14 z-20 rounded-md bg-bar px-2 py-1 text-center text-sm text-on-bar"
        >
          {hint}
        </p>
      ) : null}
    </section>
  );
}

/** What has no day, and where a container is dropped that shall have none. */
function Waiting({
  week,
  onOpen,
  isTarget,
}: {
  week: Week;
  onOpen: (one: Placed) => void;
  isTarget: boolean;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: WAITING });
  if (!week.waiting.length && !isTarget) return null;
  return (
    <section
      ref={setNodeRef}
      aria-label="Without a day"
      className={`mt-3 rounded-xl border border-dashed border-edge p-3 ${isOver ? 'bg-chosen' : ''}`}
    >
      <h3 className="mb-2 text-base">Without a day</h3>
      <div className="grid gap-2 sm:grid-cols-3 xl:grid-cols-5">
        {week.waiting.map((one) => (
          <div key={`${one.row_id} ${one.number}`}>
            <p className="text-sm text-muted first-letter:uppercase">{one.slot}</p>
            <ContainerCard one={one} onOpen={() => onOpen(one)} />
          </div>
        ))}
        {week.waiting.length ? null : <p className="text-sm text-muted">Drop it here.</p>}
      </div>
    </section>
  );
}
