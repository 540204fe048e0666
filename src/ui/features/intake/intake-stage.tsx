'use client';
import { useMemo, useRef, useState, type DragEvent } from 'react';
import { Dropdown, ProgressBar } from 'react-bootstrap';
import { useStore } from 'zustand';
import { isRefused, uncomparedOf } from '@/contracts';
import { type Finding, type FindingCode, questionsToSender } from '@/core/findings';
import { needless, type NeedlessRecording, takeOutEdits } from '@/core/session';
import {
  findingsOf,
  selectOnly,
  startUploads,
  uploadsStore,
  useGoOn,
  useSession,
  useSessionStore,
  workbench,
  type UploadItem,
} from '@/ui/client';
import {
  Button,
  differingPath,
  FileInput,
  formatBytes,
  formatPercent,
  Icon,
  Kbd,
  useShortcuts,
} from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { filesOfDrop } from './files-of-drop';
import { FindingPanel } from './finding-panel';
import { FindingRow } from './finding-row';
import { InPlaceDialog } from './in-place-dialog';
import { InPlaceStrip } from './in-place-strip';
import { QuestionsDialog } from './questions-dialog';
import { RecordingPanel } from './recording-panel';
import { RateChoices } from './rate-choices';
import { OtherFiles } from './other-files';
import { marksOf, RecordingRow } from './recording-row';
import { SaidFacts } from './said-facts';
import { SongsDialog } from './songs-dialog';
import { songsOf } from './songs-of';

/** A finding, by its code and whether it is put aside; or a recording, by its id. */
type Choice = { readonly code: FindingCode; readonly aside: boolean } | string | null;

const lastPart = (name: string): string => name.split('/').at(-1) ?? name;

/** Taking recordings in: choose or drop, progress per file, what each turned out to be. */
export function IntakeStage() {
  const view = useSession((s) => s.view);
  const store = useSessionStore();
  const used = new Set(
    Object.values(view.session.nodes).flatMap((n) => (n.kind === 'track' ? [n.recordingId] : [])),
  );
  const items = useStore(uploadsStore, (s) => s.items);
  const uploads = items.filter(
    (i) => i.sessionId === view.id && i.state !== 'sent' && i.state !== 'cancelled',
  );
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [skipped, setSkipped] = useState(0);
  const [choice, setChoice] = useState<Choice>(null);
  const [showAside, setShowAside] = useState(false);
  const [asking, setAsking] = useState(false);
  const [browsing, setBrowsing] = useState(false);
  const [songs, setSongs] = useState<{
    readonly found: NonNullable<ReturnType<typeof songsOf>>;
    readonly all: readonly File[];
  } | null>(null);
  const player = usePlayer();
  const importFiles = (list: readonly File[]): void => {
    const wanted = list.filter(
      (f) => !/(^|\/)(\.|thumbs\.db$|desktop\.ini$)/i.test(f.webkitRelativePath || f.name),
    );
    setSkipped(list.length - wanted.length);
    const several = songsOf(wanted);
    if (several) setSongs({ found: several, all: wanted });
    else startUploads(view.id, wanted);
  };
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void filesOfDrop(event.dataTransfer).then(importFiles);
  };
  const { open, dismissed } = findingsOf(view);
  const listed = [
    ...open.map((finding) => ({ finding, aside: false })),
    ...(showAside ? dismissed.map((finding) => ({ finding, aside: true })) : []),
  ];
  const chosen =
    typeof choice === 'object' && choice !== null
      ? (listed.find((l) => l.finding.code === choice.code && l.aside === choice.aside) ?? null)
      : null;
  const recording =
    typeof choice === 'string'
      ? view.recordings.find((r) => r.id === choice && r.state === 'ready')
      : undefined;
  const nameOf = (id: string): string =>
    lastPart(view.recordings.find((r) => r.id === id)?.receivedName ?? '');
  const lines: Choice[] = [
    ...listed.map(({ finding, aside }) => ({ code: finding.code, aside })),
    ...view.recordings.filter((r) => r.state === 'ready').map((r) => r.id),
  ];
  const about = useMemo(() => {
    const map = new Map<string, Finding[]>();
    for (const f of open)
      for (const id of new Set(f.files.flatMap((p) => (p.other === null ? [p.id] : [p.id, p.other]))))
        map.set(id, [...(map.get(id) ?? []), f]);
    return map;
  }, [open]);
  const rowActions = useMemo(
    () => ({
      onSelect: (id: string): void => {
        setChoice(id);
        selectOnly(
          Object.values(store.getState().view.session.nodes).find(
            (n) => n.kind === 'track' && n.recordingId === id,
          )?.id ?? null,
        );
      },
      onRetry: (id: string): void => void store.getState().call(`/api/recordings/${id}/retry`),
      onDismiss: (id: string): void =>
        void store.getState().call(`/api/recordings/${id}`, undefined, 'DELETE'),
    }),
    [store],
  );
  const choose = (next: Choice): void => {
    if (typeof next === 'string') return rowActions.onSelect(next);
    setChoice(next);
    selectOnly(null);
  };
  const step = (by: number): void => {
    const at = lines.findIndex((l) => JSON.stringify(l) === JSON.stringify(choice));
    const next = lines[Math.max(0, Math.min(lines.length - 1, at < 0 ? 0 : at + by))];
    if (next) choose(next);
  };
  useShortcuts([
    { key: 'arrowdown', run: () => step(1) },
    { key: 'arrowup', run: () => step(-1) },
    { key: 'escape', run: () => choose(null) },
    { key: 'q', run: () => setAsking(true) },
    {
      key: 's',
      run: () => {
        const { current } = workbench.getState();
        if (current) player.toggleSolo(new Set([current]));
      },
    },
  ]);
  const shownName = useMemo(
    () => differingPath(view.recordings.map((r) => r.receivedName)),
    [view.recordings],
  );
  const isAllThere = uploads.length === 0 && haveArrived(view.recordings);
  const failed = view.recordings.filter(isRefused).length;
  const ready = view.recordings.filter((r) => r.state === 'ready').length;
  return (
    <section
      className={`fm-split fm-intake ${over ? 'is-over' : ''}`}
      aria-label="Intake"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => {
        if (e.currentTarget === e.target) setOver(false);
      }}
      onDrop={drop}
    >
      <div className="fm-pane">
        <header className="fm-stage-head">
          <h1>Intake</h1>
          <span>
            <b>{ready}</b> {ready === 1 ? 'recording' : 'recordings'}
          </span>
          {failed > 0 && (
            <span className="fm-attention">
              <b>{failed}</b> not taken
            </span>
          )}
          {open.length > 0 && (
            <span className={open.some((f) => f.severity !== 'note') ? 'fm-attention' : undefined}>
              <b>{open.length}</b> {open.length === 1 ? 'thing' : 'things'} found
            </span>
          )}
          <StillComparing />
          {dismissed.length > 0 && (
            <Button tone="quiet" aria-pressed={showAside} onClick={() => setShowAside(!showAside)}>
              {dismissed.length} put aside
            </Button>
          )}
          <span className="fm-top-spring" />
          {ready > 0 && (
            <Button tone="quiet" onClick={() => setAsking(true)}>
              Questions <Kbd>Q</Kbd>
            </Button>
          )}
          <MainButton
            isAllThere={isAllThere}
            onAdd={() => files.current?.click()}
            onFolder={() => folder.current?.click()}
            onInPlace={() => setBrowsing(true)}
          />
          <FileInput
            ref={files}
            multiple
            accept=".wav,.wave,.bwf,.rf64,.w64,.aif,.aiff,.aifc,.caf,.flac,.mid,.zip,audio/*"
            aria-label="Recordings"
            data-testid="files"
            onChange={(e) => {
              importFiles([...(e.target.files ?? [])]);
              e.target.value = '';
            }}
          />
          <FileInput
            ref={folder}
            multiple
            aria-label="Folder of recordings"
            {...{ webkitdirectory: '' }}
            onChange={(e) => {
              importFiles([...(e.target.files ?? [])]);
              e.target.value = '';
            }}
          />
        </header>
        <Uploads items={uploads} />
        <InPlaceStrip />
        <Needless open={open} nameOf={nameOf} />
        {skipped > 0 && (
          <p className="fm-faint fm-sides-3 fm-below-1">
            {skipped} hidden system {skipped === 1 ? 'file was' : 'files were'} left out.
          </p>
        )}
        {view.recordings.length === 0 && uploads.length === 0 ? (
          <div className="fm-empty fm-dropzone">
            <Icon name="box-arrow-in-down" />
            <p>Drop the recordings of the song here, or a whole folder.</p>
            <p className="fm-faint">
              WAV, AIFF, FLAC and other sound files of up to 32 channels, MIDI files, also in ZIP archives.
              What lies on this machine can be used in place. All begin at the same zero; the files you send
              are never changed.
            </p>
          </div>
        ) : (
          <div className="fm-scroll">
            {listed.length > 0 && (
              <div className="fm-findings" role="group" aria-label="What was found">
                {listed.map(({ finding, aside }) => (
                  <FindingRow
                    key={`${finding.code} ${aside}`}
                    finding={finding}
                    here={chosen !== null && chosen.finding.code === finding.code && chosen.aside === aside}
                    nameOf={nameOf}
                    onSelect={() => choose({ code: finding.code, aside })}
                  />
                ))}
              </div>
            )}
            <OtherFiles />
            <table className="fm-table fm-recordings">
              <thead>
                <tr>
                  <th>As received</th>
                  <th>State</th>
                  <th className="num">Rate</th>
                  <th className="num">Depth</th>
                  <th>Channels</th>
                  <th className="num">Length</th>
                  <th className="num">Peak dBFS</th>
                  <th className="num">LUFS</th>
                  <th className="num">Size</th>
                </tr>
              </thead>
              <tbody>
                {view.recordings
                  .filter((r) => r.fault?.code !== 'file.no_recording')
                  .map((r) => (
                    <RecordingRow
                      key={r.id}
                      recording={r}
                      job={
                        view.jobs.find(
                          (j) =>
                            (j.state === 'running' || j.state === 'queued') && j.subject === r.receivedName,
                        ) ?? null
                      }
                      sessionRateHz={view.session.sampleRateHz}
                      inSession={used.has(r.id)}
                      marks={marksOf(about.get(r.id) ?? [])}
                      {...shownName(r.receivedName)}
                      here={chosen === null && recording?.id === r.id}
                      {...rowActions}
                    />
                  ))}
              </tbody>
            </table>
          </div>
        )}
      </div>
      <aside className="fm-panel" aria-label="Details">
        {chosen ? (
          <FindingPanel
            key={`${chosen.finding.code} ${chosen.aside}`}
            finding={chosen.finding}
            aside={chosen.aside}
            nameOf={nameOf}
          />
        ) : recording ? (
          <RecordingPanel recording={recording} findings={open} />
        ) : (
          <IntakeHelp findings={open.length} recordings={ready} />
        )}
      </aside>
      {songs && (
        <SongsDialog
          found={songs.found}
          onHide={() => setSongs(null)}
          onTogether={() => {
            startUploads(view.id, songs.all);
            setSongs(null);
          }}
        />
      )}
      {browsing && <InPlaceDialog sessionId={view.id} onHide={() => setBrowsing(false)} />}
      {asking && (
        <QuestionsDialog
          draft={questionsToSender(open, nameOf, view.session.name)}
          onHide={() => setAsking(false)}
        />
      )}
    </section>
  );
}

const haveArrived = (recordings: readonly { readonly state: string }[]): boolean =>
  recordings.length > 0 && recordings.every((r) => r.state !== 'waiting' && r.state !== 'arriving');

/** The ways to add recordings; once they are there, going on, and those in a menu. */
function MainButton({
  isAllThere,
  onAdd,
  onFolder,
  onInPlace,
}: Readonly<Record<'onAdd' | 'onFolder' | 'onInPlace', () => void>> & { readonly isAllThere: boolean }) {
  const goOn = useGoOn('sort');
  useShortcuts([{ key: 'enter', mod: true, run: isAllThere ? goOn : onAdd }]);
  const ways = [
    { text: 'Use in place', title: 'Files on this machine, without copying them', run: onInPlace },
    { text: 'Add a folder', title: 'All that lies in a folder', run: onFolder },
  ];
  return isAllThere ? (
    <>
      <Dropdown align="end">
        <Dropdown.Toggle as="button" type="button" className="fm-button">
          Add more
        </Dropdown.Toggle>
        <Dropdown.Menu>
          {[{ text: 'Add recordings', title: 'Single files', run: onAdd }, ...ways.reverse()].map((w) => (
            <Dropdown.Item key={w.text} title={w.title} onClick={w.run}>
              {w.text}
            </Dropdown.Item>
          ))}
        </Dropdown.Menu>
      </Dropdown>
      <Button tone="main" onClick={goOn}>
        On to Sort <Kbd>Ctrl ⏎</Kbd>
      </Button>
    </>
  ) : (
    <>
      {ways.map((w) => (
        <Button key={w.text} title={w.title} onClick={w.run}>
          {w.text}
        </Button>
      ))}
      <Button tone="main" onClick={onAdd}>
        Add recordings <Kbd>Ctrl ⏎</Kbd>
      </Button>
    </>
  );
}

/** Takes copies and silent recordings out of the session, all in one step. */
function Needless({
  open,
  nameOf,
}: {
  readonly open: readonly Finding[];
  readonly nameOf: (id: string) => string;
}) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const without = needless(open);
  const text = needlessText(without);
  const removeTracks = (): void => {
    if (without.length > 0) store.getState().commit(`Take out ${text}`, takeOutEdits(session, without));
  };
  useShortcuts([{ key: 'x', run: removeTracks }]);
  return without.length === 0 ? null : (
    <p className="fm-over-hand" role="note">
      Nothing is lost without {text}:{' '}
      <span className="fm-mono">{without.map((w) => nameOf(w.id)).join(', ')}</span>.{' '}
      <Button title="Out of the session; one step to undo" onClick={removeTracks}>
        Take out <Kbd>X</Kbd>
      </Button>
    </p>
  );
}

/** How many copies and silent files, in words. */
function needlessText(without: readonly NeedlessRecording[]): string {
  const silent = without.filter((w) => w.code === 'silent').length;
  const copies = without.length - silent;
  return [
    ...(copies > 0 ? [`${copies} ${copies === 1 ? 'copy' : 'copies'}`] : []),
    ...(silent > 0 ? [`${silent} silent ${silent === 1 ? 'recording' : 'recordings'}`] : []),
  ].join(' and ');
}

/** What to do next, when nothing is chosen. */
function IntakeHelp({ findings, recordings }: { readonly findings: number; readonly recordings: number }) {
  return (
    <>
      <h2>What came in</h2>
      {recordings === 0 ? (
        <p className="fm-faint">
          As recordings arrive they are measured and compared; what is odd about them is listed here, worst
          first.
        </p>
      ) : findings === 0 ? (
        <p className="fm-faint">
          Nothing odd was found. Choose a recording to see and hear it; <Kbd>Alt</Kbd> <Kbd>2</Kbd> goes on to
          Sort.
        </p>
      ) : (
        <p className="fm-faint">
          Choose a line with the mouse or <Kbd>↑</Kbd> <Kbd>↓</Kbd>: what it means, what can be done.{' '}
          <Kbd>1</Kbd> does it, <Kbd>2</Kbd> puts it aside. <Kbd>Q</Kbd> makes a message to the sender of what
          is left.
        </p>
      )}
      <SaidFacts />
      <RateChoices />
    </>
  );
}

/** Files on their way: all together, with one move for all, and each. */
function Uploads({ items }: { readonly items: readonly UploadItem[] }) {
  if (items.length === 0) return null;
  const going = items.filter((u) => u.state === 'sending' || u.state === 'waiting');
  const held = items.filter((u) => u.state === 'paused' || u.state === 'failed');
  const total = items.reduce((a, u) => a + u.sizeBytes, 0);
  const sent = items.reduce((a, u) => a + u.sentBytes, 0);
  const rate = items.filter((u) => u.state === 'sending').reduce((a, u) => a + u.bytesPerSecond, 0);
  return (
    <div className="fm-uploads" aria-live="polite">
      <div className="fm-uploads-sum">
        <span>
          {going.length > 0
            ? `Sending ${going.length} ${going.length === 1 ? 'file' : 'files'}`
            : `${held.length} waiting for you`}{' '}
          · {formatBytes(sent)} of {formatBytes(total)}
          {rate > 0 ? ` · ${formatBytes(rate)}/s · ${timeLeft((total - sent) / rate)}` : ''}
        </span>
        <span className="fm-top-spring" />
        {going.length > 0 && (
          <Button tone="quiet" onClick={() => going.forEach((u) => u.pause())}>
            Pause all
          </Button>
        )}
        {held.length > 0 && (
          <Button tone="quiet" onClick={() => held.forEach((u) => u.resume())}>
            Go on with all
          </Button>
        )}
        {items.length > 1 && (
          <Button tone="quiet" onClick={() => items.forEach((u) => u.cancel())}>
            Cancel all
          </Button>
        )}
      </div>
      {items.map((u) => (
        <UploadRow key={u.key} item={u} />
      ))}
    </div>
  );
}

const timeLeft = (seconds: number): string =>
  seconds < 60 ? `${Math.max(1, Math.round(seconds))} s left` : `${Math.round(seconds / 60)} min left`;

function UploadRow({ item }: { readonly item: UploadItem }) {
  const share = item.sizeBytes > 0 ? item.sentBytes / item.sizeBytes : 0;
  return (
    <div className="fm-upload">
      <span className="fm-mono fm-truncate fm-grow">{item.name}</span>
      <ProgressBar now={share * 100} className="fm-upload-bar" aria-label={`Sending ${item.name}`} />
      <span className="num">{formatPercent(share)}</span>
      <span className={item.state === 'failed' ? 'fm-attention' : 'fm-faint'}>
        {item.message ??
          {
            waiting: 'waiting',
            sending: `${formatBytes(item.bytesPerSecond)}/s`,
            paused: 'paused',
            failed: 'broke off',
            sent: 'sent',
            cancelled: 'cancelled',
          }[item.state]}
      </span>
      {item.state === 'sending' && (
        <Button tone="quiet" onClick={() => item.pause()}>
          Pause
        </Button>
      )}
      {(item.state === 'paused' || item.state === 'failed') && (
        <Button tone="quiet" onClick={() => item.resume()}>
          {item.state === 'failed' ? 'Try again' : 'Go on'}
        </Button>
      )}
      <Button tone="quiet" onClick={() => item.cancel()}>
        Cancel
      </Button>
    </div>
  );
}

/** What is found so far may not be all. */
function StillComparing() {
  const view = useSession((s) => s.view);
  const { count, isUnderWay } = uncomparedOf(view);
  if (count === 0) return null;
  const recordings = count === 1 ? '1 recording' : `${count} recordings`;
  return (
    <span className={isUnderWay ? 'fm-faint' : 'fm-attention'} role="status">
      {isUnderWay
        ? `${recordings} still being listened to and compared`
        : `${recordings} not listened to: finding the tempo asks for it again`}
    </span>
  );
}
