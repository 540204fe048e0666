import { useMemo, useState } from 'react';
import type { SessionView } from '@/contracts';
import { numberedMap } from '@/core/delivery';
import { type Change, type SessionState, tracksInOrder } from '@/core/session';
import { acceptEdit, adjustReading, type Adjustment, type TempoReading, writtenEdit } from '@/core/tempo';
import { moveGrid, type SongMapFile } from '@/core/time';
import { tempoInHand, useSession, useSessionStore, useWorkbench, workbench } from '@/ui/client';
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
  /** Changes the map as written; `also` = edits of the same step. */
  write(label: string, change: (file: SongMapFile) => SongMapFile, also?: readonly Change[]): void;
  /** Map and material together: all tracks begin so many whole frames later (earlier: negative). */
  moveAll(label: string, frames: number): void;
  /** The same pulses, said by other points. */
  thin(label: string, change: (file: SongMapFile) => SongMapFile): void;
  /** Makes another reading the session's map: what was tapped or typed. */
  replace(label: string, make: () => TempoReading): void;
  /** Notes that a place was listened to. */
  check(seconds: number, right: boolean): void;
  accept(): void;
  /** Puts the newer detection aside. */
  keepAccepted(): void;
}

/** The edit with another map. */
const withMap = (edit: Change, map: SongMapFile): Change =>
  edit.kind === 'map.replace' ? { ...edit, map } : edit;

/** The edit, with the map as it is. */
const sameMap = (edit: Change, { file }: TempoModel): Change => withMap(edit, file);

/** A reading to draw, with the map as written where it is the session's; bars called as in the package. */
function modelOf(
  reading: TempoReading,
  file: SongMapFile | null,
  session: SessionState,
  style: SessionView['style'],
): TempoModel {
  const model = tempoModel(reading);
  const map = file ?? model.file;
  return { ...model, file: map, map: numberedMap({ ...session, map }, style) ?? model.map };
}

/** What is in hand: the newest detection, or the session's map. */
function inHand(
  { session, tempo, style }: Pick<SessionView, 'session' | 'tempo' | 'style'>,
  putAside: string | null,
) {
  const { reading, found, jobId, isNew, hasAccepted } = tempoInHand({ session, tempo }, putAside);
  const file = isNew ? null : session.map;
  const model = reading && modelOf(reading, file, session, style);
  return {
    found,
    isNew,
    isAccepted: !isNew && hasAccepted,
    isNewer: isNew && hasAccepted,
    model,
    foundBy: isNew ? jobId : (session.mapFacts?.foundBy ?? null),
  };
}

/** The draft of this session's tempo. */
export function useTempoDraft(): TempoDraft {
  const store = useSessionStore();
  const { session, tempo, style } = useSession((s) => s.view);
  const putAside = useWorkbench((w) => w.tempoPutAside);
  const [problem, setProblem] = useState<string | null>(null);
  const now = useMemo(() => inHand({ session, tempo, style }, putAside), [session, tempo, style, putAside]);

  /** Does what is possible, with the session as it is then; what is not is said in words. */
  const attempt = (label: string, make: (view: SessionView) => readonly Change[]): void => {
    store.getState().commit(label, (view) => {
      try {
        const edits = make(view);
        setProblem(null);
        return edits;
      } catch (cause) {
        if (!(cause instanceof RangeError)) throw cause;
        setProblem(cause.message);
        return [];
      }
    });
  };
  const tryOut = (
    label: string,
    make: (
      reading: TempoReading,
      model: TempoModel,
      foundBy: string | null,
      session: SessionState,
    ) => readonly Change[],
  ): void =>
    attempt(label, (view) => {
      const { model, foundBy } = inHand(view, putAside);
      return model ? make(model.reading, model, foundBy, view.session) : [];
    });
  return {
    ...now,
    problem,
    correct: (label, change) =>
      tryOut(label, (r, m, by) => {
        const after = adjustReading(r, change);
        const edit = acceptEdit(after, by);
        // A pin or a number changes no pulse: the points of the map stay as they are.
        return [
          change.kind === 'pin' || change.kind === 'number'
            ? withMap(edit, { ...m.file, meters: after.meters })
            : edit,
        ];
      }),
    write: (label, change, also = []) =>
      tryOut(label, (r, m, by) => [...also, writtenEdit(change(m.file), r, by)]),
    moveAll: (label, frames) =>
      tryOut(label, (r, m, foundBy, own) => {
        const by = frames / (own.sampleRateHz ?? 48_000);
        const moved = {
          ...r,
          beats: r.beats.map((t) => t + by),
          gridOffsetSeconds: r.gridOffsetSeconds === null ? null : r.gridOffsetSeconds + by,
          ...(r.checked ? { checked: r.checked.map((c) => ({ ...c, seconds: c.seconds + by })) } : {}),
        };
        const markers =
          own.markers.length > 0
            ? [
                {
                  kind: 'markers.set',
                  markers: own.markers.map((m2) => ({ ...m2, seconds: m2.seconds + by })),
                } as const,
              ]
            : [];
        return [
          withMap(acceptEdit(moved, foundBy), moveGrid(m.file, by)),
          ...tracksInOrder(own).map((t): Change => ({
            kind: 'track.change',
            id: t.id,
            fields: { startFrames: t.startFrames + frames },
          })),
          ...markers,
        ];
      }),
    thin: (label, change) => tryOut(label, (r, m, by) => [withMap(acceptEdit(r, by), change(m.file))]),
    // Made with the newest detection known: that one does not come up again as news.
    replace: (label, make) => attempt(label, (view) => [acceptEdit(make(), view.tempo?.jobId ?? null)]),
    check: (seconds, right) =>
      tryOut(right ? 'The click is right there' : 'The click is wrong there', (r, m, by) => [
        sameMap(
          acceptEdit(
            {
              ...r,
              checked: [
                ...(r.checked ?? []).filter((c) => Math.abs(c.seconds - seconds) > 1),
                { seconds, right },
              ],
            },
            by,
          ),
          m,
        ),
      ]),
    // Bars go on being called as they were.
    accept: () => {
      if (now.isNew)
        tryOut('Accept the tempo map', (r, _, by, { map }) => {
          const number = map?.meters[0]?.number;
          return [acceptEdit(number === undefined ? r : adjustReading(r, { kind: 'number', number }), by)];
        });
    },
    keepAccepted: () => workbench.setState({ tempoPutAside: tempo?.jobId ?? null }),
  };
}
