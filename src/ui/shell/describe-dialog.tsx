'use client';
import { yupResolver } from '@hookform/resolvers/yup';
import { useForm, useWatch } from 'react-hook-form';
import { describeSchema } from '@/contracts';
import { factsInText } from '@/core/naming';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Dialog } from '@/ui/kit';
import { FormField } from '@/ui/kit/form-field';

/** Name, artist, key and notes of the song. */
export function DescribeDialog({ onClose }: { readonly onClose: () => void }) {
  const store = useSessionStore();
  const { name, artist, key, notes } = useSession((s) => s.view.session);
  const { control, handleSubmit, setValue } = useForm({
    defaultValues: { name, artist, key, notes },
    resolver: yupResolver(describeSchema),
  });
  const [typedKey, typedNotes] = useWatch({ control, name: ['key', 'notes'] });
  const keyInNotes = factsInText(typedNotes ?? '').find((f) => f.kind === 'key')?.value;
  const save = handleSubmit((said) => {
    store.getState().commit('Describe the song', [{ kind: 'session.describe', ...said }]);
    onClose();
  });
  return (
    <Dialog
      title="The song"
      stacked
      onClose={onClose}
      onSubmit={(e) => void save(e)}
      footer={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button tone="main" type="submit">
            Save
          </Button>
        </>
      }
    >
      <FormField control={control} name="name" id="song-name" label="Song" maxLength={120} autoFocus />
      <FormField control={control} name="artist" id="song-artist" label="Artist" maxLength={120} />
      <FormField
        control={control}
        name="key"
        id="song-key"
        label="Key"
        maxLength={40}
        placeholder="G minor"
      />
      {keyInNotes !== undefined && keyInNotes !== typedKey && (
        <p className="fm-faint fm-tight">
          The notes say {keyInNotes}.{' '}
          <Button tone="link" onClick={() => setValue('key', keyInNotes, { shouldDirty: true })}>
            Take it over
          </Button>
        </p>
      )}
      <FormField
        control={control}
        name="notes"
        id="song-notes"
        label="Notes from the sender"
        rows={4}
        maxLength={4000}
      />
    </Dialog>
  );
}
