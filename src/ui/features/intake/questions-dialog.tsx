'use client';
import { useState } from 'react';
import { Button, CopyButton, Dialog, Labelled, TextInput } from '@/ui/kit';

/** A message to the sender out of what was found, to edit and copy. */
export function QuestionsDialog({ draft, onHide }: { readonly draft: string; readonly onHide: () => void }) {
  const [text, setText] = useState(draft);
  return (
    <Dialog
      title="Questions to the sender"
      isWide
      onClose={onHide}
      footer={
        <>
          {draft !== '' && text !== draft && (
            <Button tone="quiet" onClick={() => setText(draft)}>
              As proposed
            </Button>
          )}
          {draft !== '' && <CopyButton text={text}>Copy the message</CopyButton>}
          <Button onClick={onHide}>Close</Button>
        </>
      }
    >
      {draft === '' ? (
        <p className="fm-tight">Nothing was found that only the sender could answer.</p>
      ) : (
        <Labelled
          id="questions"
          label="From what was found and not put aside. Edit it as you like; nothing is sent from here."
        >
          <TextInput rows={16} value={text} onChange={(e) => setText(e.target.value)} />
        </Labelled>
      )}
    </Dialog>
  );
}
