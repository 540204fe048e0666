'use client';
import { yupResolver } from '@hookform/resolvers/yup';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { type Fault, faultText, newSessionSchema } from '@/contracts';
import { api, faultOf } from '@/ui/client';
import { Button, Dialog, Notice } from '@/ui/kit';
import { FormField } from '@/ui/kit/form-field';

/** Name, artist, notes of a new session. */
export function NewSessionDialog({
  onClose,
  onMade,
}: {
  readonly onClose: () => void;
  readonly onMade: (id: string) => void;
}) {
  const [fault, setFault] = useState<Fault | null>(null);
  const { control, handleSubmit, formState } = useForm({
    defaultValues: { name: '', artist: '', notes: '' },
    resolver: yupResolver(newSessionSchema.pick(['name', 'artist', 'notes'])),
  });
  const make = handleSubmit(async (said) => {
    try {
      onMade((await api<{ id: string }>('/api/sessions', 'POST', said)).id);
    } catch (cause) {
      setFault(faultOf(cause));
    }
  });
  return (
    <Dialog
      title="New session"
      stacked
      onClose={onClose}
      onSubmit={(e) => void make(e)}
      footer={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button tone="main" type="submit" disabled={formState.isSubmitting}>
            Make session
          </Button>
        </>
      }
    >
      {fault && (
        <Notice tone="danger" className="fm-tight">
          {faultText(fault)}
        </Notice>
      )}
      <FormField control={control} name="name" id="new-name" label="Song" maxLength={120} autoFocus />
      <FormField control={control} name="artist" id="new-artist" label="Artist" maxLength={120} />
      <FormField
        control={control}
        name="notes"
        id="new-notes"
        label="Notes from the sender"
        rows={3}
        maxLength={4000}
      />
    </Dialog>
  );
}
