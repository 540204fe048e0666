'use client';
import { useRef } from 'react';
import type { RecordingView } from '@/contracts';
import { useGoOn, useSession } from '@/ui/client';
import { Button, FileInput, Kbd, Menu, useShortcuts } from '@/ui/kit';
import { useOpenUploads } from './uploads-strip';

const haveArrived = (recordings: readonly Pick<RecordingView, 'state'>[]): boolean =>
  recordings.length > 0 && recordings.every((r) => r.state !== 'waiting' && r.state !== 'arriving');

/** The ways to add recordings; once they are there, going on, and those in a menu. */
export function AddRecordings({
  onFiles,
  onInPlace,
}: {
  readonly onFiles: (files: readonly File[]) => void;
  readonly onInPlace: () => void;
}) {
  const { id, recordings } = useSession((s) => s.view);
  const isAllThere = useOpenUploads(id).length === 0 && haveArrived(recordings);
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  return (
    <>
      <Ways
        isAllThere={isAllThere}
        onAdd={() => files.current?.click()}
        onFolder={() => folder.current?.click()}
        onInPlace={onInPlace}
      />
      <FileInput
        ref={files}
        multiple
        accept=".wav,.wave,.bwf,.rf64,.w64,.aif,.aiff,.aifc,.caf,.flac,.mid,.zip,audio/*"
        aria-label="Recordings"
        data-testid="files"
        onChange={(e) => {
          onFiles([...(e.target.files ?? [])]);
          e.target.value = '';
        }}
      />
      <FileInput
        ref={folder}
        multiple
        aria-label="Folder of recordings"
        {...{ webkitdirectory: '' }}
        onChange={(e) => {
          onFiles([...(e.target.files ?? [])]);
          e.target.value = '';
        }}
      />
    </>
  );
}

/** Buttons while something is to be added; a menu once all is there, and going on. */
function Ways({
  isAllThere,
  onAdd,
  onFolder,
  onInPlace,
}: Readonly<Record<'onAdd' | 'onFolder' | 'onInPlace', () => void>> & { readonly isAllThere: boolean }) {
  const goOn = useGoOn('sort');
  useShortcuts([{ key: 'enter', mod: true, run: isAllThere ? goOn : onAdd }]);
  const ways = [
    { label: 'Use in place', title: 'Files on this machine, without copying them', run: onInPlace },
    { label: 'Add a folder', title: 'All that lies in a folder', run: onFolder },
  ];
  return (
    <>
      {isAllThere ? (
        <Menu
          label="Add more"
          className="fm-button"
          items={[{ label: 'Add recordings', run: onAdd }, ...ways.reverse()]}
        />
      ) : (
        ways.map((w) => (
          <Button key={w.label} title={w.title} onClick={w.run}>
            {w.label}
          </Button>
        ))
      )}
      <Button tone="main" onClick={isAllThere ? goOn : onAdd}>
        {isAllThere ? 'On to Sort' : 'Add recordings'} <Kbd>Ctrl ⏎</Kbd>
      </Button>
    </>
  );
}
