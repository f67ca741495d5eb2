import { useDraggable } from '@dnd-kit/core';
import { containerName, type Placed, storeWords } from '~/views/batch/hand-over/words';

/**
 * A container on its day: what it is, where it waits, what is out of order. It is dragged by the pointer; pressed, it
 * opens, where it is moved by the keyboard too.
 */
export function ContainerCard({ one, onOpen }: { one: Placed; onOpen: () => void }) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: `${one.row_id} ${one.number}`,
    data: { one },
  });
  const worst = one.breaks.some((found) => found.is_unsafe)
    ? 'border-l-alert'
    : one.breaks.length
      ? 'border-l-ochre'
      : 'border-l-steel';
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...listeners}
      onClick={onOpen}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={`relative block w-full touch-manipulation rounded-lg border border-l-4 border-steel bg-sheet px-2 py-1.5 text-left leading-snug ${worst} ${
        isDragging ? 'z-30 shadow-lg' : ''
      }`}
    >
      <span className="block font-semibold">{one.dish}</span>
      <span className="block text-sm text-muted">
        {[one.of > 1 ? `${one.number} of ${one.of}` : '', storeWords(one), one.by_hand ? 'set by hand' : '']
          .filter(Boolean)
          .join(', ')}
      </span>
      {one.told ? (
        <span className="block text-sm font-semibold">
          {one.told === 'left' ? `left ${one.left}` : 'eaten'}
        </span>
      ) : null}
      {one.beside.length ? (
        <span className="block text-sm text-muted">beside it: {one.beside.join(', ')}</span>
      ) : null}
      {one.fresh.length ? (
        <span className="block text-sm text-muted">on the day: {one.fresh.join(', ')}</span>
      ) : null}
      {one.breaks.map((found) => (
        <span
          key={found.words}
          className={`mt-0.5 block text-sm ${found.is_unsafe ? 'text-alert' : 'text-ochre-text'}`}
        >
          {found.words}
        </span>
      ))}
      <span className="sr-only">{containerName(one)}: move it</span>
    </button>
  );
}
