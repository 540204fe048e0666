'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { faultText, newSessionSchema } from '@/contracts';
import { api, ApiFault, startUploads, useSession } from '@/ui/client';
import { Button, Check, Dialog, Labelled, Notice, TextInput } from '@/ui/kit';
import type { songsOf } from './songs-of';

type Songs = NonNullable<ReturnType<typeof songsOf>>;

/** A delivery of several songs: a session each, together under one project, or all into this one. */
export function SongsDialog({
  found,
  onTogether,
  onHide,
}: {
  readonly found: Songs;
  readonly onTogether: () => void;
  readonly onHide: () => void;
}) {
  const router = useRouter();
  const { artist } = useSession((s) => s.view.session);
  const [project, setProject] = useState(found.project);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [message, setMessage] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const wanted = found.songs.filter((_, i) => !left.has(i));
  const make = async (): Promise<void> => {
    setBusy(true);
    try {
      for (const song of wanted) {
        const { id } = await api<{ id: string }>(
          '/api/sessions',
          'POST',
          await newSessionSchema.validate({ name: song.name.slice(0, 120), artist, project }),
        );
        startUploads(id, song.files);
      }
      router.push('/');
    } catch (cause) {
      setMessage(cause instanceof ApiFault ? faultText(cause.fault) : 'Something went wrong; try again.');
      setBusy(false);
    }
  };
  return (
    <Dialog
      title={<>{found.songs.length} songs?</>}
      onClose={onHide}
      footer={
        <>
          <Button onClick={onTogether}>All into this session</Button>
          <Button tone="main" disabled={busy || wanted.length === 0} onClick={() => void make()}>
            Make {wanted.length} {wanted.length === 1 ? 'session' : 'sessions'}
          </Button>
        </>
      }
    >
      {message && <Notice tone="danger">{message}</Notice>}
      <p>Each of these folders looks like a song of its own.</p>
      {found.songs.map((song, i) => (
        <Check
          key={song.name}

          id={`song-${i}`}
          checked={!left.has(i)}
          label={`${song.name}, ${song.files.length} files`}
          onChange={(e) => {
            const next = new Set(left);
            if (e.target.checked) next.delete(i);
            else next.add(i);
            setLeft(next);
          }}
        />
      ))}
      <Labelled id="project" className="fm-above-3" label="They stand together as">
        <TextInput
          value={project}
          maxLength={120}
          placeholder="name of the project"
          onChange={(e) => setProject(e.target.value)}
        />
      </Labelled>
      <p className="fm-faint fm-above-2 fm-tight">
        Keep this page open until all files are sent; the list of sessions shows how far each is.
      </p>
    </Dialog>
  );
}
