import type { DragEndEvent, DragMoveEvent, DragStartEvent } from '@dnd-kit/core';
import { useRef, useState, type RefObject } from 'react';
import { useSession, useSessionStore, useWorkbench } from '@/ui/client';
import { dropEdits } from './moves';
import type { SheetRow } from './rows';

/** Rows that are dragged to another place of the sheet: how many, which row they would land at, and what the drag tells. */
export function useRowDrag({
  rows,
  height,
  scroller,
  isSorted,
}: {
  readonly rows: readonly SheetRow[];
  /** Of a row, CSS px. */
  readonly height: number;
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly isSorted: boolean;
}) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const selected = useWorkbench((w) => w.selected);
  const [count, setCount] = useState(0);
  const [over, setOver] = useState<string | null>(null);
  const grabbedAt = useRef(0);
  /** The row under the pointer. Rows are all as high: none needs to be a target of its own, which would cost a drawing of all for each that scrolls into sight. */
  const rowUnder = ({ activatorEvent, delta }: DragMoveEvent): SheetRow | null => {
    const box = scroller.current?.getBoundingClientRect();
    if (!box || !(activatorEvent instanceof PointerEvent)) return null;
    const y = activatorEvent.clientY - box.top + grabbedAt.current + delta.y;
    const inside = y - (scroller.current?.scrollTop ?? 0);
    return inside < 0 || inside > box.height ? null : (rows[Math.floor(y / height)] ?? null);
  };
  const end = (): void => {
    setCount(0);
    setOver(null);
  };
  const onDragEnd = (event: DragEndEvent): void => {
    const { active } = event;
    const target = rowUnder(event);
    end();
    // Only where rows stand as they are is there a place to put one.
    if (isSorted || !target || target.id === active.id) return;
    const ids = selected.has(String(active.id)) ? [...selected] : [String(active.id)];
    const edits = dropEdits(session, ids, { id: target.id, into: target.kind === 'folder' });
    if (edits.length > 0)
      store.getState().commit(ids.length > 1 ? `Move ${ids.length} rows` : 'Move a row', edits);
  };
  return {
    count,
    over,
    handlers: {
      onDragStart: ({ active }: DragStartEvent): void => {
        grabbedAt.current = scroller.current?.scrollTop ?? 0;
        setCount(selected.has(String(active.id)) ? selected.size : 1);
      },
      onDragMove: (e: DragMoveEvent): void => setOver(rowUnder(e)?.id ?? null),
      onDragEnd,
      onDragCancel: end,
    },
  };
}
