import type { ReactNode } from 'react';
import { DndContext, PointerSensor, pointerWithin, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';

/** A browser takes letting go of what was dragged for a click some moments after; a link would be followed by it. */
const AFTER_MS = 50;

const prevent = (event: Event): void => event.preventDefault();
const begin = (): void => window.addEventListener('click', prevent, true);
const end = (): void => void setTimeout(() => window.removeEventListener('click', prevent, true), AFTER_MS);

interface Props {
  ids: readonly string[];
  /** @param to place of the one it was let go over */
  onMove: (id: string, to: number) => void;
  children: ReactNode;
}

/** Things one below the other that are moved by hand. Let go of anywhere but over another, one stays where it was. */
export function SortableList({ ids, onMove, children }: Props) {
  // A press becomes a drag only after some way, so that a click stays a click.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    end();
    if (over) onMove(String(active.id), ids.indexOf(String(over.id)));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragStart={begin} onDragEnd={onDragEnd} onDragCancel={end}>
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

/** One of them. @param disabled whether it stays where it is */
export function useSortableItem(id: string, disabled: boolean) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id, disabled });
  return { ref: setNodeRef, listeners, style: { transform: CSS.Transform.toString(transform), transition }, isDragging };
}

/** Ids with one of them in another's place. @param to place from 0; beyond the ends it is held to them @returns undefined where nothing changes */
export function movedTo(ids: readonly string[], id: string, to: number): string[] | undefined {
  const from = ids.indexOf(id);
  const place = Math.max(0, Math.min(ids.length - 1, to));
  return from < 0 || place === from ? undefined : arrayMove([...ids], from, place);
}
