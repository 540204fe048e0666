'use client';
import { useState, type KeyboardEvent } from 'react';
import { isTrack } from '@/core/session';
import { selectOnly, useSessionStore } from '@/ui/client';
import { TextInput } from '@/ui/kit';

/** Edits a name in its place: Enter keeps, Tab keeps and goes on to the next, Escape gives up. */
export function NameEditor({
  id,
  value,
  kind,
  nextId,
  onEdit,
}: {
  readonly id: string;
  readonly value: string;
  readonly kind: 'track' | 'folder';
  readonly nextId: string | null;
  readonly onEdit: (id: string | null) => void;
}) {
  const store = useSessionStore();
  const [text, setText] = useState(value);
  const keep = (): void => {
    const name = text.trim();
    const node = store.getState().view.session.nodes[id];
    if (name === '' || name === value || !node) return;
    store.getState().commit(`Rename ${name}`, [
      kind === 'folder'
        ? { kind: 'folder.change', id, fields: { name } }
        : {
            kind: 'track.change',
            id,
            fields: { name, byHand: [...new Set([...(isTrack(node) ? node.byHand : []), 'name'])] },
          },
    ]);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    event.stopPropagation();
    if (event.key === 'Escape') onEdit(null);
    else if (event.key === 'Enter') {
      keep();
      onEdit(null);
    } else if (event.key === 'Tab') {
      event.preventDefault();
      keep();
      onEdit(nextId);
      selectOnly(nextId);
    }
  };
  return (
    <TextInput
      className="fm-name-input"
      value={text}
      maxLength={200}
      autoFocus
      aria-label="Name"
      onFocus={(e) => e.target.select()}
      onChange={(e) => setText(e.target.value)}
      onKeyDown={onKeyDown}
      onBlur={() => {
        keep();
        onEdit(null);
      }}
      onClick={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
    />
  );
}
