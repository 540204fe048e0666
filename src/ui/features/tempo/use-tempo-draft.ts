import { useMemo, useState } from 'react';
import { type Edit, tracksInOrder } from '@/core/session';
import { acceptEdit, acceptedReading, adjustReading, type Adjustment, type TempoReading, writtenEdit } from '@/core/tempo';
import { createSongMap, moveGrid, type SongMapFile, songMapToFile } from '@/core/time';
import { useSession, useSessionStore } from '@/ui/client';
import { tempoModel, type TempoModel } from './tempo-model';

/** The map in hand: a new detection, or the session's map. Whatever is done to it makes it the session's, as one step that can be undone. */
export interface TempoDraft {
  /** Null before anything was found. */
  readonly model: TempoModel | null;
  /** The newest detection, untouched. */
  readonly found: TempoReading | null;
  /** What is shown is the session's map. */
  readonly isAccepted: boolean;
  /** A newer detection is shown instead of the accepted map. */
  readonly isNewer: boolean;
  /** Why the last thing asked for could not be done; null = it could. */
  readonly problem: string | null;
  /** Corrects pulses and bars. */
  correct(label: string, change: Adjustment): void;
  /** Changes the map as written. */
  write(label: string, change: (file: SongMapFile) => SongMapFile): void;
  /** Map and material together: all tracks begin so many whole frames later (earlier: negative). */
  moveAll(label: string, frames: number): void;
  /** The same pulses, said by other points. */
  thin(label: string, change: (file: SongMapFile) => SongMapFile): void;
  /** Makes another reading the session's map: what was tapped or typed. */
  take(label: string, make: () => TempoReading): void;
  /** Notes that a place was listened to. */
  check(seconds: number, right: boolean): void;
  accept(): void;
  /** Puts the newer detection aside. */
  keepAccepted(): void;
}

/** The edit, with the map as it is. */
const sameMap = (edit: Edit, { map }: TempoModel): Edit => (edit.kind === 'map.replace' ? { ...edit, map: songMapToFile(map) } : edit);

/** The draft of this session's tempo. */
export function useTempoDraft(): TempoDraft {
  const store = useSessionStore();
  const { session, tempo } = useSession((s) => s.view);
  const [putAside, setPutAside] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const jobId = tempo?.jobId ?? '';
  const found = tempo ? (tempo.result as TempoReading) : null;
  const accepted = useMemo(() => acceptedReading(session, found), [session, found]);
  const isNew = found !== null && (accepted === null || (session.mapFacts?.foundBy !== jobId && putAside !== jobId));
  const reading = isNew ? found : accepted;
  const file = isNew ? null : session.map;
  const model = useMemo(() => (reading ? { ...tempoModel(reading), ...(file ? { map: createSongMap(file.points, file.meters) } : {}) } : null), [reading, file]);
  const foundBy = isNew ? jobId : (session.mapFacts?.foundBy ?? null);

  /** Does what is possible; what is not is said in words. */
  const attempt = (label: string, make: () => Edit): void => {
    try {
      const edit = make();
      setProblem(null);
      store.getState().commit(label, [edit]);
    } catch (cause) {
      if (!(cause instanceof RangeError)) throw cause;
      setProblem(cause.message);
    }
  };
  const tryOut = (label: string, make: (reading: TempoReading, model: TempoModel) => Edit): void => { if (model) attempt(label, () => make(model.reading, model)); };
  return {
    model, found, problem, isAccepted: !isNew && accepted !== null, isNewer: isNew && accepted !== null,
    // A pin changes no pulse: the points of the map stay as they are.
    correct: (label, change) => tryOut(label, (r, m) => (change.kind === 'pin' ? sameMap(acceptEdit(adjustReading(r, change), foundBy), m) : acceptEdit(adjustReading(r, change), foundBy))),
    write: (label, change) => tryOut(label, (r, m) => writtenEdit(change(songMapToFile(m.map)), r, foundBy)),
    moveAll: (label, frames) => {
      if (!model) return;
      const by = frames / (session.sampleRateHz ?? 48_000);
      const r = model.reading;
      const moved = { ...r, beats: r.beats.map((t) => t + by), gridOffsetSeconds: r.gridOffsetSeconds === null ? null : r.gridOffsetSeconds + by, ...(r.checked ? { checked: r.checked.map((c) => ({ ...c, seconds: c.seconds + by })) } : {}) };
      const edit = acceptEdit(moved, foundBy);
      const map = edit.kind === 'map.replace' ? { ...edit, map: moveGrid(songMapToFile(model.map), by) } : edit;
      const markers = session.markers.length > 0 ? [{ kind: 'markers.set', markers: session.markers.map((m) => ({ ...m, seconds: m.seconds + by })) } as const] : [];
      store.getState().commit(label, [map, ...tracksInOrder(session).map((t): Edit => ({ kind: 'track.change', id: t.id, fields: { startFrames: t.startFrames + frames } })), ...markers]);
    },
    thin: (label, change) => tryOut(label, (r, m) => { const edit = acceptEdit(r, foundBy); return edit.kind === 'map.replace' ? { ...edit, map: change(songMapToFile(m.map)) } : edit; }),
    // Made with the newest detection known: that one does not come up again as news.
    take: (label, make) => attempt(label, () => acceptEdit(make(), tempo?.jobId ?? null)),
    check: (seconds, right) => tryOut(right ? 'The click is right there' : 'The click is wrong there', (r, m) => sameMap(acceptEdit({ ...r, checked: [...(r.checked ?? []).filter((c) => Math.abs(c.seconds - seconds) > 1), { seconds, right }] }, foundBy), m)),
    accept: () => { if (isNew) tryOut('Accept the tempo map', (r) => acceptEdit(r, foundBy)); },
    keepAccepted: () => setPutAside(jobId),
  };
}
