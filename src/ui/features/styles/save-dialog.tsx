'use client';
import { useState } from 'react';
import type { StyleDifference } from '@/core/style';
import { Button, Check, Dialog, Labelled, TextInput } from '@/ui/kit';
import { DifferenceTable } from './compare-dialog';

/** What a new version changes, before it is kept. */
export function SaveDialog({
  name,
  version,
  differences,
  session,
  onSave,
  onHide,
}: {
  readonly name: string;
  readonly version: number;
  readonly differences: readonly StyleDifference[];
  readonly session: string | null;
  readonly onSave: (note: string, follow: boolean) => void;
  readonly onHide: () => void;
}) {
  const [note, setNote] = useState('');
  const [follow, setFollow] = useState(true);
  return (
    <Dialog
      title={
        <>
          Save {name} as v{version}
        </>
      }
      isWide
      scrolls
      onClose={onHide}
      onSubmit={(e) => {
        e.preventDefault();
        onSave(note.trim(), follow);
      }}
      footer={
        <>
          <span className="fm-faint fm-push">Sessions stay with the version they follow.</span>
          <Button tone="quiet" onClick={onHide}>
            Cancel
          </Button>
          <Button type="submit" tone="main">
            Save as v{version}
          </Button>
        </>
      }
    >
      <div className="fm-save-list" tabIndex={0} role="group" aria-label="What changes">
        <DifferenceTable differences={differences} />
      </div>
      <Labelled id="style-note" className="fm-above-2" label="Why, in a few words (may be empty)">
        <TextInput autoFocus maxLength={200} value={note} onChange={(e) => setNote(e.target.value)} />
      </Labelled>
      {session !== null && (
        <Check
          className="fm-above-2"
          id="style-follow"
          label={`${session} follows v${version} from now on; nothing is applied yet`}
          checked={follow}
          onChange={(e) => setFollow(e.target.checked)}
        />
      )}
    </Dialog>
  );
}
