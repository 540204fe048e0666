'use client';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { type ReactNode, useMemo, useState } from 'react';
import { faultText, type JobView } from '@/contracts';
import { timekeepersOf } from '@/core/tempo';
import {
  formatBarPulse,
  type Meter,
  pulseQuarters,
  pulseTempi,
  setPointTempo,
  shiftPoint,
} from '@/core/time';
import { songSeconds, useGoOn, useHits, useKeptState, useSession, useSessionStore } from '@/ui/client';
import { Button, formatMs, Icon, Kbd, Progress, useShortcuts, type WaveWindow } from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { ConformHalf } from './conform-half';
import { LargeCounter } from './large-counter';
import { TempoPlot } from './tempo-plot';
import { type FoundMode, TEMPO_PARTS, TempoPanel, type TempoPart } from './tempo-panel';
import { doubtfulPlaces, type TempoModel } from './tempo-model';
import { TimekeeperLanes } from './timekeeper-lanes';
import { useLanesWindow } from './use-lanes-window';
import { usePulseInHand } from './use-pulse-in-hand';
import { useTaps } from './use-taps';
import { type TempoDraft, useTempoDraft } from './use-tempo-draft';

/** How much nearer or farther a key goes. */
const KEY_ZOOM = 1.5;

/** The stage in its two halves: the map, and following it to another tempo. */
export function TempoStage() {
  const params = useSearchParams();
  const path = usePathname();
  const router = useRouter();
  const isConform = params.get('half') === 'conform';
  const go = (conform: boolean): void =>
    router.replace(conform ? `${path}?half=conform` : path, { scroll: false });
  useShortcuts([{ key: 'h', run: () => go(!isConform) }]);
  const tabs = (
    <span className="fm-halves" role="group" aria-label="Halves of this stage" title="H: the other half">
      <Button tone="bare" aria-pressed={!isConform} onClick={() => go(false)}>
        The map
      </Button>
      <Button tone="bare" aria-pressed={isConform} onClick={() => go(true)}>
        Conform
      </Button>
    </span>
  );
  return isConform ? <ConformHalf tabs={tabs} /> : <MapHalf tabs={tabs} />;
}

/** Finding, checking by eye and ear, correcting and accepting the tempo map. */
function MapHalf({ tabs }: { readonly tabs: ReactNode }) {
  const store = useSessionStore();
  const player = usePlayer();
  const view = useSession((s) => s.view);
  const { session, jobs, recordings } = view;
  const draft = useTempoDraft();
  const { model, found } = draft;
  const job = jobs.find((j) => j.kind === 'tempo.detect' && (j.state === 'running' || j.state === 'queued'));
  const unheard = recordings.filter((r) => r.state === 'ready' && !r.listened).length;
  const listening =
    unheard > 0 &&
    jobs.some((j) => j.kind === 'recording.listen' && (j.state === 'running' || j.state === 'queued'));
  const length = Math.max(1, songSeconds(session, recordings));
  const position = usePlayerState((s) => Math.round(s.positionSeconds * 30) / 30);
  const sight = useLanesWindow(view.id, length, position);
  const span = sight.window.to - sight.window.from;
  const chosen = useMemo(() => timekeepersOf(session, found?.timekeepers ?? null), [session, found]);

  const hits = useHits();
  const [part, setPart] = useKeptState<TempoPart>(`fernmoss-tempo-part-${view.id}`, TEMPO_PARTS);
  const [divided, setDivided] = useState(2);
  const [mode, setMode] = useState<FoundMode>('look');
  const [counting, setCounting] = useState(false);
  const taps = useTaps();
  const tapping = part === 'found' && mode === 'tap' && taps.seconds.length > 0;
  const { hand, choose } = usePulseInHand(model, position, () => {
    if (part === 'found') setPart('pulse');
  });
  const move = (pulse: number, seconds: number): void => {
    const from = model?.pulses[pulse]?.seconds;
    if (model && from !== undefined)
      draft.correct(`Pulse ${formatBarPulse(model.map, from + 0.002)} ${formatMs(seconds - from)}`, {
        kind: 'move',
        pulse,
        seconds,
      });
  };
  /** What is taken hold of: pulses, or taps that are no map yet. */
  const grips = tapping
    ? taps
    : { marks: model?.pulses ?? [], hand, choose, move, step: (by: 1 | -1) => choose(hand + by) };
  const detect = (): void =>
    void store.getState().call(`/api/sessions/${view.id}/tempo`, { timekeepers: session.timekeepers });
  const goOn = useGoOn('sections');
  const noTracks = Object.keys(session.nodes).length === 0;
  const canDetect = !noTracks && job === undefined && !listening;
  const main = mainOf(draft, { goOn, detect: canDetect ? detect : null });
  useShortcuts([
    // While one taps, it makes the map of the taps.
    ...(part === 'found' && mode === 'tap' ? [] : [{ key: 'enter', mod: true, run: main }]),
    { key: '+', run: () => sight.zoom(1 / KEY_ZOOM) },
    { key: '=', run: () => sight.zoom(1 / KEY_ZOOM) },
    { key: '-', run: () => sight.zoom(KEY_ZOOM) },
    { key: ',', run: () => grips.step(-1) },
    { key: '.', run: () => grips.step(1) },
    { key: 'arrowright', shift: false, run: () => player.seek(Math.min(length, position + span / 4)) },
    { key: 'arrowleft', shift: false, run: () => player.seek(position - span / 4) },
  ]);
  const lanes = (
    <TimekeeperLanes
      model={model}
      tracks={chosen}
      hits={hits}
      divided={divided}
      sight={sight}
      marks={grips.marks}
      hand={grips.hand}
      onHand={grips.choose}
      onMove={grips.move}
      onSeek={(s) => player.seek(s)}
    />
  );
  const doubts = model ? doubtfulPlaces(model) : [];
  return (
    <section className="fm-split" aria-label="Tempo">
      <div className="fm-pane">
        <header className="fm-stage-head">
          <h1>Tempo</h1>
          {tabs}
          {model && <TempoFacts model={model} isShort={draft.isNewer || draft.isAccepted} />}
          {doubts.length > 0 && (
            <span className="fm-attention">
              <b>{doubts.length}</b> to check
            </span>
          )}
          <span className="fm-top-spring" />
          <StageButtons draft={draft} canDetect={canDetect} onDetect={detect} onMain={main} />
        </header>
        <ConformedNotice />
        <Detection job={job} />
        {model ? (
          <>
            <MapPlot draft={draft} model={model} length={length} lanes={sight.window} />
            {lanes}
          </>
        ) : tapping ? (
          lanes
        ) : (
          <NoTempoYet hasTracks={!noTracks} unheard={unheard} />
        )}
      </div>
      <TempoPanel
        draft={draft}
        taps={taps}
        doubts={doubts}
        hits={hits}
        hand={hand}
        divided={divided}
        onDivided={setDivided}
        part={part}
        onPart={setPart}
        mode={mode}
        onMode={setMode}
        onStep={(by) => choose(hand + by)}
        onCounter={() => setCounting(true)}
      />
      {counting && model && <LargeCounter model={model} onClose={() => setCounting(false)} />}
    </section>
  );
}

/** The plot of a map, whose points are changed there. */
function MapPlot({
  draft,
  model,
  length,
  lanes,
}: {
  readonly draft: TempoDraft;
  readonly model: TempoModel;
  readonly length: number;
  readonly lanes: WaveWindow;
}) {
  const player = usePlayer();
  return (
    <TempoPlot
      model={model}
      length={length}
      lanes={lanes}
      onSeek={(s) => player.seek(s)}
      onTempo={(index, bpm) =>
        draft.write(`${bpm.toFixed(2)} from ${pointPlace(model, index)}`, (file) =>
          setPointTempo(file, index, bpm * pulseQuarters(model.reading.meters[0] as Meter)),
        )
      }
      onPlace={(index, quarters) =>
        draft.write(
          `The change at ${pointPlace(model, index)} comes at ${formatBarPulse(model.map, model.map.tempo.toSeconds(quarters) + 0.0005)}`,
          (file) => shiftPoint(file, index, quarters),
        )
      }
    />
  );
}

/** What the main button and its key do: find, use what was found, or go on. */
const mainOf = (
  { model, isAccepted, accept }: TempoDraft,
  does: { readonly goOn: () => void; readonly detect: (() => void) | null },
): (() => void) => (isAccepted ? does.goOn : model ? accept : (does.detect ?? ((): void => undefined)));

/** Finding, keeping and using a map; the main one is what comes next. */
function StageButtons({
  draft: { model, isAccepted, isNewer, keepAccepted },
  canDetect,
  onDetect,
  onMain,
}: {
  readonly draft: TempoDraft;
  readonly canDetect: boolean;
  readonly onDetect: () => void;
  readonly onMain: () => void;
}) {
  return (
    <>
      {isAccepted && (
        <span className="fm-good">
          <Icon name="check-lg" /> accepted
        </span>
      )}
      <Button tone={model ? 'plain' : 'main'} disabled={!canDetect} onClick={onDetect}>
        {model ? 'Find again' : 'Find the tempo'} {!model && <Kbd>Ctrl ⏎</Kbd>}
      </Button>
      {isNewer && <Button onClick={keepAccepted}>Keep current map</Button>}
      {model && (
        <Button tone="main" onClick={onMain}>
          {isAccepted ? 'On to Sections' : 'Use this map'} <Kbd>Ctrl ⏎</Kbd>
        </Button>
      )}
    </>
  );
}

/** What a change of the map costs where recordings follow it. */
function ConformedNotice() {
  const { session, conform } = useSession((s) => s.view);
  if (!session.conform) return null;
  const count = conform?.wanted ?? 0;
  return (
    <p className="fm-over-hand" role="note">
      Conformed to {session.conform.bpm}: whatever changes the map makes the {count} conformed{' '}
      {count === 1 ? 'recording' : 'recordings'} anew.
    </p>
  );
}

/** How far the search for the tempo is, or why there is nothing to see of it. */
function Detection({ job }: { readonly job: JobView | undefined }) {
  const store = useSessionStore();
  const fault = useSession((s) => s.view.jobs.find((j) => j.kind === 'tempo.detect')?.fault ?? null);
  if (job)
    return (
      <div className="fm-stage-job">
        <Progress
          label="Listening for the beat over all timekeepers"
          share={job.progress}
          onCancel={() => void store.getState().call(`/api/jobs/${job.id}/cancel`)}
        />
      </div>
    );
  return fault && fault.code !== 'job.cancelled' ? (
    <p className="fm-attention fm-sides-3 fm-inside-2 fm-tight">{faultText(fault)}</p>
  ) : null;
}

const pointPlace = ({ map }: TempoModel, index: number): string =>
  formatBarPulse(map, (map.tempo.points[index]?.seconds ?? 0) + 0.0005);

function NoTempoYet({ hasTracks, unheard }: { readonly hasTracks: boolean; readonly unheard: number }) {
  return (
    <div className="fm-empty">
      <p>{hasTracks ? 'No tempo yet.' : 'No recordings yet.'}</p>
      <p className="fm-faint">
        {!hasTracks
          ? 'Add them at Intake; then the tempo can be found.'
          : unheard > 0
            ? `Still listening to ${unheard} ${unheard === 1 ? 'recording' : 'recordings'}: a moment.`
            : 'The beat is found over several tracks together, as one performance. Which tracks keep the time is chosen by family and by what they play; you can choose yourself at the right, tap it, or type a tempo under Points.'}
      </p>
    </div>
  );
}

function TempoFacts({ model, isShort }: { readonly model: TempoModel; readonly isShort: boolean }) {
  const { reading, map, pulses } = model;
  const tempi = pulseTempi(map).sort((a, b) => a - b);
  const low = tempi[Math.floor(tempi.length * 0.03)] ?? 0;
  const high = tempi[Math.floor(tempi.length * 0.97)] ?? 0;
  const last = pulses.at(-1)?.seconds ?? map.tempo.points.at(-1)?.seconds ?? 0;
  return (
    <>
      {reading.steady && reading.bpm !== null ? (
        <span>
          <b>{reading.bpm.toFixed(2)}</b> steady
        </span>
      ) : (
        <span>
          <b>
            {low.toFixed(1)} – {high.toFixed(1)}
          </b>{' '}
          not steady
        </span>
      )}
      {!isShort && (
        <span>
          <b>{map.meters.toBar(map.tempo.toQuarters(last)).bar}</b> bars
        </span>
      )}
    </>
  );
}
