'use client';
import { useMemo } from 'react';
import { soundTracks } from '@/core/session';
import type { Adjustment, AlternativeReading, TempoReading, TimekeeperChoice } from '@/core/tempo';
import { type SongMap, songMapToFile } from '@/core/time';
import { besideMap, saidOf, saidWhere, useSession, useSessionStore } from '@/ui/client';
import { Button, CheckBox, Clock, formatMs, Icon, Kbd, Line, Select, useShortcuts } from '@/ui/kit';
import { midiFileName, MidiOffer } from '@/ui/notes';
import { usePlayer } from '@/ui/listening';
import { ClickPart } from './click-part';
import { meterOf, MeterOptions, meterText } from './meter-options';
import { type DoubtfulPlace } from './tempo-model';
import type { TempoDraft } from './use-tempo-draft';

const REASONS: Readonly<Record<TimekeeperChoice['reason'], string>> = {
  click: 'a click',
  steady: 'steady',
  clear: 'clear attacks',
  chosen: 'chosen by hand',
  unclear: 'less clear than others',
  between: 'plays between the pulses',
  sparse: 'plays too seldom',
  silent: 'silent',
  'not-rhythmic': 'does not keep the time',
  duplicate: 'the same recording again',
};

interface Choice {
  readonly text: string;
  readonly change: Adjustment;
  readonly confidence: number | null;
}
const TEXTS: Readonly<Record<Exclude<AlternativeReading['reading'], 'as-found' | 'meter'>, string>> = {
  double: 'Twice as fast',
  half: 'Half as fast',
  'three-halves': 'Three for two: faster',
  'two-thirds': 'Two for three: slower',
  between: 'Half a pulse later',
  'beat-later': 'Bars one beat later',
};
/** Less likely ones are not worth a line. */
const LEAST = 0.005;
/** Always at hand, however unlikely. */
const USUAL = ['double', 'half', 'beat-later'] as const;

/** Other readings, the likeliest first, then the usual ones and the way back. */
function choicesOf(alternatives: TempoReading['alternatives']): Choice[] {
  const found = alternatives.flatMap((a): Choice[] => {
    if (a.reading === 'as-found' || a.confidence < LEAST) return [];
    if (a.reading === 'meter')
      return a.meter
        ? [
            {
              text: `Bars of ${meterText({ bar: 1, ...a.meter })}`,
              change: { kind: 'meter', ...a.meter },
              confidence: a.confidence,
            },
          ]
        : [];
    return [{ text: TEXTS[a.reading], change: { kind: a.reading }, confidence: a.confidence }];
  });
  const rest = USUAL.filter((u) => !found.some((f) => f.change.kind === u)).map((u): Choice => ({
    text: TEXTS[u],
    change: { kind: u },
    confidence: null,
  }));
  return [
    ...found,
    ...rest,
    { text: 'Bars one beat earlier', change: { kind: 'beat-earlier' }, confidence: null },
  ];
}

/** Which tracks keep the time, other readings of the beat, and the places to listen to. */
export function FoundPart({
  draft,
  doubts,
  listen,
  chosenIds,
  onCheck,
  onTap,
  onCounter,
}: {
  readonly draft: TempoDraft;
  readonly doubts: readonly DoubtfulPlace[];
  readonly listen: (ids: readonly string[], at: number) => void;
  readonly chosenIds: readonly string[];
  readonly onCheck: () => void;
  readonly onTap: () => void;
  readonly onCounter: () => void;
}) {
  const reading = draft.model?.reading ?? null;
  const store = useSessionStore();
  const player = usePlayer();
  const session = useSession((s) => s.view.session);
  const tracks = soundTracks(session);
  const found = new Map((reading?.timekeepers ?? []).map((t) => [t.id, t]));
  const isChosen = (id: string): boolean =>
    session.timekeepers?.includes(id) ?? found.get(id)?.chosen ?? false;
  const choose = (id: string, on: boolean): void => {
    const now = tracks.filter((t) => isChosen(t.id)).map((t) => t.id);
    store
      .getState()
      .commit('Choose timekeepers', [
        { kind: 'timekeepers.choose', trackIds: on ? [...now, id] : now.filter((x) => x !== id) },
      ]);
  };
  const order = [...tracks].sort(
    (a, b) =>
      Number(isChosen(b.id)) - Number(isChosen(a.id)) ||
      (found.get(b.id)?.weight ?? 0) - (found.get(a.id)?.weight ?? 0),
  );
  const choices = reading ? choicesOf(reading.alternatives) : [];
  useShortcuts(choices.map((r, i) => ({ key: String(i + 1), run: () => draft.correct(r.text, r.change) })));
  return (
    <>
      <h2>Timekeepers</h2>
      <p className="fm-faint fm-below-1">
        {session.timekeepers
          ? 'Chosen by hand: their attacks alone decide the grid.'
          : 'Each with its share in what is heard at the pulses. Tick your own, and they alone decide.'}
      </p>
      <div className="fm-keepers">
        {order.map((t) => {
          const info = found.get(t.id);
          return (
            <label key={t.id} className={`fm-keeper ${isChosen(t.id) ? '' : 'fm-faint'}`}>
              <CheckBox checked={isChosen(t.id)} onChange={(e) => choose(t.id, e.target.checked)} />
              <span className="fm-keeper-name">
                <b>{t.name}</b> {info ? REASONS[info.reason] : ''}
              </span>
              <span className="num">{info && info.weight > 0 ? info.weight.toFixed(2) : '–'}</span>
            </label>
          );
        })}
      </div>
      {session.timekeepers && (
        <Button
          tone="quiet"
          onClick={() =>
            store
              .getState()
              .commit('Let it choose timekeepers', [{ kind: 'timekeepers.choose', trackIds: null }])
          }
        >
          Let it choose again
        </Button>
      )}
      {session.timekeepers && reading && <p className="fm-faint fm-tight">“Find again” uses your choice.</p>}
      <EndError reading={reading} />
      <Claims map={draft.model?.map ?? null} />
      <MidiFiles />
      <Button tone="choice" className="fm-wide" onClick={onTap}>
        <Icon name="hand-index" />
        <span className="fm-grow">Tap it yourself</span>
      </Button>
      {reading && (
        <>
          <h3>Other readings</h3>
          <div className="fm-choices">
            {choices.map((r, i) => (
              <Button key={r.text} tone="choice" onClick={() => draft.correct(r.text, r.change)}>
                <Kbd>{String(i + 1)}</Kbd>
                <span className="fm-grow">{r.text}</span>
                {r.confidence !== null && <span className="fm-mono">{r.confidence.toFixed(2)}</span>}
              </Button>
            ))}
            <label className="fm-choice">
              <span className="fm-grow">Meter</span>
              <Select
                isNarrow
                aria-label="Meter"
                value={meterText(reading.meters[0])}
                onChange={(e) =>
                  draft.correct(`Meter ${e.target.value}`, { kind: 'meter', ...meterOf(e.target.value) })
                }
              >
                <MeterOptions also={reading.meters[0]} />
              </Select>
            </label>
          </div>
        </>
      )}
      {reading && (
        <>
          <h3>{doubts.length > 0 ? 'Least certain places' : 'Checking'}</h3>
          <div className="fm-choices">
            {doubts.map((d) => (
              <Button key={d.seconds} tone="choice" onClick={() => listen(chosenIds, d.seconds - 2)}>
                <Icon name="exclamation-triangle" className="fm-attention" />
                <span className="fm-mono">{d.place}</span>
                <span className="fm-grow">
                  {reading.checked?.some((c) => !c.right && Math.abs(c.seconds - d.seconds) < 4)
                    ? 'found wrong'
                    : d.isBarLine
                      ? 'is this a bar line?'
                      : 'listen here'}
                </span>
                <span className="fm-mono">{d.confidence.toFixed(2)}</span>
              </Button>
            ))}
            <Button tone="choice" onClick={onCheck}>
              <Icon name="headphones" />
              <span className="fm-grow">Spot check: six places, two bars each</span>
            </Button>
          </div>
          {(reading.checked?.length ?? 0) > 0 && (
            <p className="fm-faint fm-tight">
              Listened to so far: {reading.checked?.filter((c) => c.right).length} right,{' '}
              {reading.checked?.filter((c) => !c.right).length} wrong.
            </p>
          )}
        </>
      )}
      {reading?.loose && (
        <>
          <h3>Hardly kept to the pulse</h3>
          <p className="fm-faint fm-below-1">
            Played freely, or too little to hear: the pulses there are guesses.
          </p>
          <div className="fm-choices">
            {reading.loose.map((p) => (
              <Button key={p.from} tone="choice" onClick={() => listen([], p.from)}>
                <Icon name="play" />
                <span className="fm-mono fm-grow">
                  <Clock seconds={p.from} decimals={0} /> – <Clock seconds={p.to} decimals={0} />
                </span>
              </Button>
            ))}
          </div>
        </>
      )}
      {reading && (
        <Line align="start" wraps className="fm-above-2">
          <Button onClick={() => listen(chosenIds, player.state.getState().positionSeconds)}>
            Timekeepers alone
          </Button>
          <Button onClick={() => listen([], player.state.getState().positionSeconds)}>Everything</Button>
        </Line>
      )}
      {reading && <ClickPart onCounter={onCounter} />}
    </>
  );
}

/** What one tempo may be off is not said more finely, s. */
const LEAST_OFF = 1e-4;

/** How well one tempo is known. */
const EndError = ({ reading }: { readonly reading: TempoReading | null }) =>
  reading?.bpm == null || reading.endErrorSeconds === undefined ? null : (
    <p className="fm-faint fm-below-1">
      One tempo, <span className="num">{reading.bpm.toFixed(2)}</span>: at the song’s end the grid may be{' '}
      {reading.endErrorSeconds < LEAST_OFF ? 'less than 0.1 ms' : formatMs(reading.endErrorSeconds).slice(1)}{' '}
      off.
    </p>
  );

/** Tempi that names and files claim, beside what was found: compared, never trusted. */
function Claims({ map }: { readonly map: SongMap | null }) {
  const view = useSession((s) => s.view);
  const claims = useMemo(() => saidOf(view).filter((f) => f.kind === 'tempo'), [view]);
  if (claims.length === 0) return null;
  const file = map && songMapToFile(map);
  return (
    <ul className="fm-near">
      {claims.map((c) => (
        <li key={c.value}>
          <span className="fm-keeper-name">
            <b className="fm-mono">{c.value}</b>{' '}
            <span className="fm-faint">
              {saidWhere(c)}
              {besideMap(Number(c.value), file)}
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** MIDI files that came in, with the maps they bring. */
function MidiFiles() {
  const recordings = useSession((s) => s.view.recordings);
  const files = [
    ...new Map(
      recordings.flatMap((r) =>
        r.container === 'midi' && r.state === 'ready' && r.metadata.tempoClaims.length > 0
          ? [[r.sha256, r] as const]
          : [],
      ),
    ).values(),
  ];
  if (files.length === 0) return null;
  return (
    <>
      <h3>Brought by MIDI files</h3>
      {files.map((r) => (
        <div key={r.id}>
          <p className="fm-mono fm-break fm-tight">{midiFileName(r)}</p>
          <MidiOffer recording={r} />
        </div>
      ))}
    </>
  );
}
