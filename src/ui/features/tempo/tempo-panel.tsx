'use client';
import type { PlayedHits } from '@/contracts';
import { soundTracks } from '@/core/session';
import { useSession } from '@/ui/client';
import { usePlayer } from '@/ui/listening';
import { Button } from '@/ui/kit';
import { FoundPart } from './found-part';
import { PointsPart } from './points-part';
import { PulsePart } from './pulse-part';
import { SpotCheck } from './spot-check';
import { TapPart } from './tap-part';
import { type DoubtfulPlace, hitsNear } from './tempo-model';
import { TimingPart } from './timing-part';
import type { Taps } from './use-taps';
import type { TempoDraft } from './use-tempo-draft';

/** What the first part is for just now: looking at what was found, a spot check, tapping. */
export type FoundMode = 'look' | 'check' | 'tap';
/** Parts of the panel. */
export const TEMPO_PARTS = ['found', 'pulse', 'timing', 'points'] as const;
export type TempoPart = (typeof TEMPO_PARTS)[number];
const PARTS: readonly { readonly part: TempoPart; readonly name: string }[] = [
  { part: 'found', name: 'Found' },
  { part: 'pulse', name: 'Pulse' },
  { part: 'timing', name: 'Timing' },
  { part: 'points', name: 'Points' },
];

/** What was found, the pulse in hand, how players stand to the grid, and the map as written. */
export function TempoPanel({
  draft,
  taps,
  doubts,
  hits,
  hand,
  divided,
  onDivided,
  part,
  onPart,
  mode,
  onMode,
  onStep,
  onCounter,
}: {
  readonly draft: TempoDraft;
  readonly taps: Taps;
  readonly doubts: readonly DoubtfulPlace[];
  readonly hits: ReadonlyMap<string, PlayedHits>;
  readonly hand: number;
  readonly divided: number;
  readonly onDivided: (parts: number) => void;
  readonly part: TempoPart;
  readonly onPart: (part: TempoPart) => void;
  readonly mode: FoundMode;
  readonly onMode: (mode: FoundMode) => void;
  readonly onStep: (by: 1 | -1) => void;
  readonly onCounter: () => void;
}) {
  const player = usePlayer();
  const session = useSession((s) => s.view.session);
  const { model } = draft;
  const found = new Map((model?.reading.timekeepers ?? []).map((t) => [t.id, t]));
  const chosenIds = soundTracks(session)
    .filter((t) => session.timekeepers?.includes(t.id) ?? found.get(t.id)?.chosen ?? false)
    .map((t) => t.id);
  const listen = (ids: readonly string[], at: number): void => {
    player.setSolo(new Set(ids));
    player.seek(Math.max(0, at));
    if (session.map && !player.state.getState().clickOn) player.toggleClick();
    void player.play();
  };
  return (
    <aside key={part} className="fm-panel" aria-label="Details of the tempo">
      <div className="fm-halves fm-panel-parts" role="group" aria-label="Parts of this panel">
        {PARTS.map((p) => (
          <Button tone="bare" key={p.part} aria-pressed={part === p.part} onClick={() => onPart(p.part)}>
            {p.name}
          </Button>
        ))}
      </div>
      {part === 'found' &&
        (mode === 'check' && model ? (
          <SpotCheck draft={draft} model={model} onEnd={() => onMode('look')} />
        ) : mode === 'tap' ? (
          <TapPart draft={draft} taps={taps} hits={hits} keepers={chosenIds} onEnd={() => onMode('look')} />
        ) : (
          <FoundPart
            draft={draft}
            doubts={doubts}
            listen={listen}
            chosenIds={chosenIds}
            onCheck={() => {
              player.setSolo(new Set(chosenIds));
              onMode('check');
            }}
            onTap={() => onMode('tap')}
            onCounter={onCounter}
          />
        ))}
      {part === 'pulse' && (
        <PulsePart
          draft={draft}
          hand={hand}
          near={model ? hitsNear(model.pulses, hand, hits.values()) : []}
          onStep={onStep}
        />
      )}
      {part === 'timing' && (
        <TimingPart model={model} hits={hits} keepers={chosenIds} parts={divided} onParts={onDivided} />
      )}
      {part === 'points' && <PointsPart draft={draft} />}
    </aside>
  );
}
