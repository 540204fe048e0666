import type { MouseEvent } from 'react';
import { selectOnly, workbench } from '@/ui/client';

/** Selects all from where the selection began to this one, which becomes the current. */
export function selectThrough(ids: readonly string[], id: string): void {
  const { anchor, current } = workbench.getState();
  const [a, b] = [ids.indexOf(anchor ?? current ?? id), ids.indexOf(id)];
  workbench.setState({
    current: id,
    selected: new Set(ids.slice(Math.max(0, Math.min(a, b)), Math.max(a, b) + 1)),
  });
}

/** A click on a row: alone; with Shift all up to it, with Ctrl or Cmd one more or one less. */
export function chooseRow(
  ids: readonly string[],
  { shiftKey, ctrlKey, metaKey }: Pick<MouseEvent, 'shiftKey' | 'ctrlKey' | 'metaKey'>,
  id: string,
): void {
  if (shiftKey) return selectThrough(ids, id);
  if (!ctrlKey && !metaKey) return selectOnly(id);
  const next = new Set(workbench.getState().selected);
  if (!next.delete(id)) next.add(id);
  workbench.setState({ current: id, anchor: id, selected: next });
}

/** Something of a row is taken hold of: where the row is one of several selected, they stay so. */
export function takeHold(id: string): void {
  if (workbench.getState().selected.has(id)) workbench.setState({ current: id });
  else selectOnly(id);
}
