'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { type Change, type KeptMap, MOST_KEPT_MAPS } from '@/core/session';
import {
  copyTempi,
  fewestPoints,
  formatBarPulse,
  formatClock,
  type Meter,
  moveGrid,
  movePoint,
  oneTempo,
  pointsAtBars,
  pulseQuarters,
  RAMP_KEEPS,
  type RampKeeps,
  removePoints,
  scaleTempo,
  setPointTempo,
  setRamp,
  shiftPoint,
  snapQuarters,
  type SongMapFile,
  splitAt,
} from '@/core/time';
import { songSeconds, useSession, useSessionStore } from '@/ui/client';
import {
  Button,
  CheckBox,
  EnteredField,
  Icon,
  keptChoice,
  Line,
  Select,
  TextInput,
  useClock,
} from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { meterOf, MeterOptions } from './meter-options';
import { MapFiles } from './map-files';
import { SnapChoice, useSnap } from './snap-choice';
import { parseClock, type TempoModel } from './tempo-model';
import type { TempoDraft } from './use-tempo-draft';

const ROW_HEIGHT = 30;
const TOLERANCE_MS = 5;

/** The map as written: its points, ways to write others, and maps put by. */
export function PointsPart({ draft }: { readonly draft: TempoDraft }) {
  const { model } = draft;
  if (!model) return <TypedTempo draft={draft} />;
  return (
    <>
      <h2>Points of the map</h2>
      <Density draft={draft} model={model} />
      <PointTable draft={draft} model={model} />
      {draft.problem && (
        <p className="fm-attention" role="alert">
          Not done: {draft.problem}.
        </p>
      )}
      <Rewriting draft={draft} model={model} />
      <Before model={model} />
      <KeptMaps draft={draft} model={model} />
      <MapFiles model={model} />
    </>
  );
}

/** A first map, typed: for what nobody can find or tap. */
function TypedTempo({ draft }: { readonly draft: TempoDraft }) {
  const player = usePlayer();
  const { session, recordings } = useSession((s) => s.view);
  const [bpm, setBpm] = useState('');
  const [meter, setMeter] = useState('4/4');
  const value = Number(bpm.replace(',', '.'));
  const make = (): void => {
    const from = player.state.getState().positionSeconds;
    draft.replace(`${value} from ${formatClock(from, 3)}`, () => {
      const meters = [{ bar: 1, ...meterOf(meter) }];
      const count = Math.min(
        50_000,
        Math.max(8, Math.floor(((songSeconds(session, recordings) - from) * value) / 60) + 1),
      );
      return {
        beats: Array.from({ length: count }, (_, i) => from + (60 * i) / value),
        confidence: new Array<number>(count).fill(1),
        firstDownbeat: 0,
        meters,
        steady: true,
        bpm: value,
        gridOffsetSeconds: from,
        timekeepers: [],
        alternatives: [],
      };
    });
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (value >= 20 && value <= 400) make();
      }}
    >
      <h2>No map yet</h2>
      <p className="fm-faint">
        Find the tempo, tap it, take the map of a MIDI file, or type it: bar 1 then begins where you are.
      </p>
      <Line>
        <TextInput
          isFigure
          inputMode="decimal"
          aria-label="Tempo, BPM"
          placeholder="104"
          value={bpm}
          onChange={(e) => setBpm(e.target.value)}
        />
        <Select isNarrow aria-label="Meter" value={meter} onChange={(e) => setMeter(e.target.value)}>
          <MeterOptions also={undefined} />
        </Select>
        <Button type="submit" disabled={!(value >= 20 && value <= 400)}>
          Make the map
        </Button>
      </Line>
    </form>
  );
}

/** How many points say it. */
function Density({ draft, model }: { readonly draft: TempoDraft; readonly model: TempoModel }) {
  const [tolerance, setTolerance] = useState(String(TOLERANCE_MS));
  const count = model.map.tempo.points.length;
  const [ramps, setRamps] = useState(false);
  const few = (): void => {
    const ms = Number(tolerance.replace(',', '.'));
    if (ms > 0)
      draft.thin(`Fewest ${ramps ? 'ramps' : 'points'} within ±${ms} ms`, (file) =>
        fewestPoints({ ...file, points: measured() }, ms / 1000, ramps),
      );
  };
  const measured = (): SongMapFile['points'] =>
    model.pulses.map((p) => ({
      quarters: Math.round(model.map.tempo.toQuarters(p.seconds) * 960) / 960,
      seconds: p.seconds,
    }));
  return (
    <div className="fm-below-2">
      <p className="fm-below-1">
        <span className="num">{count}</span> {count === 1 ? 'point' : 'points'}
        {model.reading.steady ? ': one tempo needs no more than two' : ''}
      </p>
      {!model.reading.steady && (
        <Line wraps>
          <Button
            onClick={() => draft.thin('A point at every pulse', (file) => ({ ...file, points: measured() }))}
          >
            Every pulse
          </Button>
          <Button
            onClick={() =>
              draft.thin('A point at every bar', (file) => pointsAtBars({ ...file, points: measured() }))
            }
          >
            Every bar
          </Button>
          <Button onClick={few}>Fewest points within ±</Button>
          <Line as="label" gap={1}>
            <TextInput
              className="fm-figure-field"
              inputMode="decimal"
              aria-label="Tolerance in milliseconds"
              value={tolerance}
              onChange={(e) => setTolerance(e.target.value)}
              onKeyDown={(e) => {
                if (e.key === 'Enter') few();
              }}
            />{' '}
            ms
          </Line>
          <Line as="label" gap={1} title="Between the points the tempo goes evenly instead of in steps">
            <CheckBox checked={ramps} onChange={(e) => setRamps(e.target.checked)} /> with ramps
          </Line>
        </Line>
      )}
    </div>
  );
}

function PointTable({ draft, model }: { readonly draft: TempoDraft; readonly model: TempoModel }) {
  const clock = useClock();
  const box = useRef<HTMLDivElement>(null);
  const player = usePlayer();
  const position = usePlayerState((s) => Math.round(s.positionSeconds * 10) / 10);
  const loop = usePlayerState((s) => s.loop);
  const songRate = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const { tempo } = model.map;
  const { points } = tempo;
  // Its functions stay here: nothing memoised depends on them.
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    count: points.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const here = points.findLastIndex((p) => p.seconds <= position + 0.001);
  const perPulse = pulseQuarters(model.reading.meters[0] as Meter);
  const snap = useSnap();
  const keeps = rampKeeps.use();
  const placeOf = (index: number): string =>
    formatBarPulse(model.map, (points[index]?.seconds ?? 0) + 0.0005);
  const placeNow = (): number =>
    snapQuarters(model.map.meters, tempo.toQuarters(player.state.getState().positionSeconds), snap);
  /** The point nearest to where one is. */
  const inner =
    points[here + 1] !== undefined &&
    Math.abs((points[here + 1] as { seconds: number }).seconds - position) <
      Math.abs((points[here]?.seconds ?? -Infinity) - position)
      ? here + 1
      : here;
  return (
    <>
      <div className="fm-points-head" aria-hidden="true">
        <span>Place</span>
        <span>At</span>
        <span>Tempo</span>
        <span>then</span>
      </div>
      <div
        ref={box}
        className="fm-points"
        role="table"
        aria-label="Points of the map"
        aria-rowcount={points.length}
      >
        <div style={{ height: rows.getTotalSize(), position: 'relative' }} role="rowgroup">
          {rows.getVirtualItems().map(({ index, start }) => {
            const p = points[index] as (typeof points)[number];
            const place = placeOf(index);
            const isLast = index === points.length - 1;
            return (
              <div
                key={p.quarters}
                role="row"
                aria-rowindex={index + 1}
                className={`fm-point ${index === here ? 'is-here' : ''}`}
                style={{ transform: `translateY(${start}px)`, height: ROW_HEIGHT }}
              >
                <span role="cell">
                  <Button
                    tone="bare"
                    className="fm-unfold fm-mono"
                    title="Go there"
                    onClick={() => player.seek(Math.max(0, p.seconds))}
                  >
                    {place}
                  </Button>
                </span>
                <span role="cell">
                  <EnteredField
                    label={`Moment of ${place}`}
                    value={clock(p.seconds, 3)}
                    onTake={(text) => {
                      const s = parseClock(text);
                      if (s !== null)
                        draft.write(`Point ${place} to ${formatClock(s, 3)}`, (file) =>
                          movePoint(file, index, s),
                        );
                    }}
                  />
                </span>
                <span role="cell">
                  {isLast ? (
                    <span className="fm-mono fm-faint">as before</span>
                  ) : (
                    <EnteredField
                      label={`Tempo from ${place}`}
                      value={(tempo.tempoAt(p.quarters) / perPulse).toFixed(3)}
                      onTake={(text) => {
                        const bpm = Number(text.replace(',', '.'));
                        if (bpm > 0)
                          draft.write(`${bpm} from ${place}`, (file) =>
                            setPointTempo(file, index, bpm * perPulse),
                          );
                      }}
                    />
                  )}
                </span>
                <span role="cell">
                  {index + 2 < points.length && (
                    <Button
                      tone="quiet"
                      aria-pressed={p.ramp !== undefined}
                      title="Whether the tempo holds to the next point or goes there evenly"
                      onClick={() =>
                        draft.write(
                          p.ramp === undefined ? `Ramp from ${place}` : `Jump after ${place}`,
                          (file) => setRamp(file, index, p.ramp === undefined, keeps),
                        )
                      }
                    >
                      {p.ramp === undefined ? 'jump' : 'ramp'}
                    </Button>
                  )}
                </span>
                <span role="cell">
                  {points.length > 2 && (
                    <Button
                      tone="quiet"
                      aria-label={`Remove point ${place}`}
                      onClick={() =>
                        draft.write(`Remove point ${place}`, (file) =>
                          removePoints(file, p.quarters, p.quarters),
                        )
                      }
                    >
                      <Icon name="x-lg" />
                    </Button>
                  )}
                </span>
              </div>
            );
          })}
        </div>
      </div>
      <SnapChoice />
      <RampChoice />
      <Line gap={1} align="start" wraps>
        <Button
          title="Nothing sounds elsewhere by it; a ramp can be bent there"
          onClick={() => draft.write('Add a point', (file) => splitAt(file, placeNow()))}
        >
          Add point at play position
        </Button>
        {inner > 0 && inner < points.length - 1 && (
          <Button
            title="The nearest point moves to the play position; the tempi on both sides stay"
            onClick={() =>
              draft.write(`Point ${placeOf(inner)} to the play position`, (file) =>
                shiftPoint(file, inner, placeNow()),
              )
            }
          >
            Point {placeOf(inner)} to play position
          </Button>
        )}
        {loop && (
          <Button
            onClick={() =>
              draft.write('Remove the points in the loop', (file) =>
                removePoints(
                  file,
                  tempo.toQuarters(loop.startFrames / songRate),
                  tempo.toQuarters(loop.endFrames / songRate),
                ),
              )
            }
          >
            Remove points in the loop
          </Button>
        )}
      </Line>
    </>
  );
}

const RAMP_TEXTS: Readonly<Record<RampKeeps, string>> = { moments: 'all moments', tempi: 'the tempi' };
/** Kept in this browser. */
const rampKeeps = keptChoice<RampKeeps>('fernmoss.ramp-keeps', [...RAMP_KEEPS]);

/** What a ramp put in or taken away leaves as it is. */
function RampChoice() {
  const keeps = rampKeeps.use();
  return (
    <Line
      as="label"
      className="fm-below-1"
      title="All moments: bars stay where they are, the ramp begins with another tempo. The tempi: what follows comes earlier or later"
    >
      <span className="fm-nowrap">A ramp keeps</span>
      <Select
        isNarrow
        aria-label="A ramp keeps"
        value={keeps}
        onChange={(e) => rampKeeps.set(e.target.value as RampKeeps)}
      >
        {RAMP_KEEPS.map((k) => (
          <option key={k} value={k}>
            {RAMP_TEXTS[k]}
          </option>
        ))}
      </Select>
    </Line>
  );
}

/** Changes of more than one point. */
function Rewriting({ draft, model }: { readonly draft: TempoDraft; readonly model: TempoModel }) {
  const clock = useClock();
  const player = usePlayer();
  const songRate = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const perPulse = pulseQuarters(model.reading.meters[0] as Meter);
  const [bpm, setBpm] = useState('');
  const [shift, setShift] = useState('');
  const [percent, setPercent] = useState('');
  const [first, setFirst] = useState('');
  const [called, setCalled] = useState('');
  const snap = useSnap();
  const number = (text: string): number => Number(text.replace(',', '.').replace('−', '-'));
  const { map, mapFacts, keptMaps } = useSession((s) => s.view.session);
  /** A played map is put by before one tempo takes its place, so that it can be had back at any time. */
  const putBy = (): Change[] =>
    !map ||
    model.reading.steady ||
    keptMaps.length >= MOST_KEPT_MAPS ||
    keptMaps.some((k) => JSON.stringify(k.map) === JSON.stringify(map))
      ? []
      : [
          {
            kind: 'maps.keep',
            maps: [
              ...keptMaps,
              { id: crypto.randomUUID(), name: `Before ${number(bpm)}`, map, facts: mapFacts },
            ],
          },
        ];
  const { tempo } = model.map;
  const mean = useMemo(() => {
    const [a, b] = [tempo.points[0], tempo.points.at(-1)];
    return a && b ? (60 * (b.quarters - a.quarters)) / (b.seconds - a.seconds) / perPulse : 0;
  }, [tempo, perPulse]);
  const scale = (): void => {
    const factor = 1 + number(percent) / 100;
    const { loop } = player.state.getState();
    const rate = songRate;
    const at = (frames: number): number =>
      snapQuarters(model.map.meters, tempo.toQuarters(frames / rate), snap);
    const [from, to] = loop
      ? [at(loop.startFrames), at(loop.endFrames)]
      : [tempo.points[0]?.quarters ?? 0, tempo.points.at(-1)?.quarters ?? 0];
    if (percent.trim() !== '' && Number.isFinite(factor))
      draft.write(`Tempo ${percent} % ${loop ? 'within the loop' : 'throughout'}`, (file) =>
        scaleTempo(file, from, to, factor),
      );
  };
  return (
    <>
      <h3>Rewrite the map</h3>
      <div className="fm-choices">
        <form
          className="fm-choice"
          onSubmit={(e) => {
            e.preventDefault();
            if (number(bpm) > 0)
              draft.write(
                `${number(bpm)} throughout`,
                (file) => oneTempo(file, number(bpm) * perPulse),
                putBy(),
              );
          }}
        >
          <span className="fm-grow">One tempo for all</span>
          <TextInput
            isFigure
            inputMode="decimal"
            aria-label="One tempo for all"
            placeholder={mean.toFixed(1)}
            value={bpm}
            onChange={(e) => setBpm(e.target.value)}
          />
          <Button type="submit">Set</Button>
        </form>
        <form
          className="fm-choice"
          title="The recordings stay, the grid moves"
          onSubmit={(e) => {
            e.preventDefault();
            if (number(shift))
              draft.write(`Grid ${shift} ms`, (file) => moveGrid(file, number(shift) / 1000));
          }}
        >
          <span className="fm-grow">Move the grid, ms</span>
          <TextInput
            isFigure
            inputMode="decimal"
            aria-label="Move the grid by milliseconds"
            placeholder="+10"
            value={shift}
            onChange={(e) => setShift(e.target.value)}
          />
          <Button type="submit">Move</Button>
        </form>
        <form
          className="fm-choice"
          title="All tracks and markers move with the grid, by whole frames; nothing moves relative to anything else"
          onSubmit={(e) => {
            e.preventDefault();
            const to = parseClock(first);
            if (to !== null)
              draft.moveAll(
                `Everything so that the first bar begins at ${formatClock(to, 3)}`,
                Math.round((to - tempo.toSeconds(0)) * songRate),
              );
            setFirst('');
          }}
        >
          <span className="fm-grow">First bar at, all moves</span>
          <TextInput
            isFigure
            aria-label="First bar begins at, everything moves"
            placeholder={clock(tempo.toSeconds(0), 2)}
            value={first}
            onChange={(e) => setFirst(e.target.value)}
          />
          <Button type="submit">Move</Button>
        </form>
        <form
          className="fm-choice"
          title="What the bar of the first downbeat is called. With nothing in the box: as in the package, where the bars that lead in count, too"
          onSubmit={(e) => {
            e.preventDefault();
            if (called.trim() === '') {
              if (model.file.meters[0]?.number !== undefined)
                draft.correct('Bars are called as in the package', { kind: 'number', number: null });
            } else if (Number.isInteger(number(called)))
              draft.correct(`The first bar is called ${number(called)}`, {
                kind: 'number',
                number: number(called),
              });
            setCalled('');
          }}
        >
          <span className="fm-grow">Number of the first bar</span>
          <TextInput
            isFigure
            inputMode="numeric"
            aria-label="Number of the first bar"
            placeholder={String(model.map.meters.numberOf(1))}
            value={called}
            onChange={(e) => setCalled(e.target.value)}
          />
          <Button type="submit">Set</Button>
        </form>
        <form
          className="fm-choice"
          title="Within the loop, or throughout when there is none"
          onSubmit={(e) => {
            e.preventDefault();
            scale();
          }}
        >
          <span className="fm-grow">Faster by, % (in the loop)</span>
          <TextInput
            isFigure
            inputMode="decimal"
            aria-label="Faster by percent"
            placeholder="+2"
            value={percent}
            onChange={(e) => setPercent(e.target.value)}
          />
          <Button type="submit">Scale</Button>
        </form>
      </div>
      <p className="fm-faint fm-below-1">
        What was played stays where it is, but for the third; bars and click move. To stretch the playing, use
        Conform.
      </p>
    </>
  );
}

/** What becomes of the sound before the first bar when the song is handed over. */
function Before({ model }: { readonly model: TempoModel }) {
  const store = useSessionStore();
  const { cutBars, map } = useSession((s) => s.view.session);
  const { tempo, meters } = model.map;
  const first = tempo.toSeconds(0);
  const from = cutBars === null ? null : first - cutBars * (tempo.toSeconds(meters.barToQuarters(2)) - first);
  if (!map) return null;
  return (
    <>
      <h3>Before the first bar</h3>
      <Line as="label" className="fm-below-1">
        <span className="fm-nowrap">When handed over</span>
        <Select
          aria-label="When handed over"
          value={cutBars ?? 'all'}
          onChange={(e) => {
            const bars = e.target.value === 'all' ? null : Number(e.target.value);
            store
              .getState()
              .commit(
                bars === null
                  ? 'Nothing is cut before the first bar'
                  : `Cut what comes before the first bar${bars > 0 ? `, but ${bars === 1 ? 'one bar' : `${bars} bars`}` : ''}`,
                [{ kind: 'session.cut', bars }],
              );
          }}
        >
          <option value="all">nothing is cut</option>
          <option value={0}>cut to the first bar</option>
          <option value={1}>cut, one bar stays</option>
          <option value={2}>cut, two bars stay</option>
          {cutBars !== null && cutBars > 2 && <option value={cutBars}>cut, {cutBars} bars stay</option>}
        </Select>
      </Line>
      {from !== null && (
        <p className="fm-faint fm-below-1">
          {from > 0
            ? `The first ${from.toFixed(2)} s of every recording, talk and noises, will not be in the package. Here they stay, and can be had back.`
            : 'There is no sound so early: silence leads up to the first bar.'}
        </p>
      )}
    </>
  );
}

/** Saved maps, to compare and to go back to. */
function KeptMaps({ draft, model }: { readonly draft: TempoDraft; readonly model: TempoModel }) {
  const store = useSessionStore();
  const loop = usePlayerState((l) => l.loop);
  const songRate = useSession((l) => l.view.session.sampleRateHz) ?? 48_000;
  const snap = useSnap();
  const { map, mapFacts, keptMaps } = useSession((s) => s.view.session);
  const [name, setName] = useState('');
  const keep = (label: string, change: (maps: readonly KeptMap[]) => readonly KeptMap[]): void =>
    void store
      .getState()
      .commit(label, ({ session }) => [{ kind: 'maps.keep', maps: change(session.keptMaps) }]);
  const placeOf = (frames: number): number =>
    snapQuarters(model.map.meters, model.map.tempo.toQuarters(frames / songRate), snap);
  const put = (): void => {
    if (!map) return;
    const own = name.trim() || `Map ${keptMaps.length + 1}`;
    keep(`Save the map as ${own}`, (maps) => [
      ...maps,
      { id: crypto.randomUUID(), name: own, map, facts: mapFacts },
    ]);
    setName('');
  };
  return (
    <>
      <h3>Saved maps</h3>
      {keptMaps.length === 0 ? (
        <p className="fm-faint fm-below-1">
          None. Save the map before you try another; it can be used again at any time.
        </p>
      ) : (
        <ul className="fm-near">
          {keptMaps.map((k) => {
            const isHere = JSON.stringify(k.map) === JSON.stringify(map);
            return (
              <li key={k.id}>
                <span className="fm-keeper-name">
                  <b>{k.name}</b>{' '}
                  <span className="fm-faint">
                    {k.facts?.steady && k.facts.bpm !== null
                      ? `${k.facts.bpm.toFixed(2)} steady`
                      : `${k.map.points.length} points`}
                  </span>
                </span>
                {isHere ? (
                  <span className="fm-good">
                    <Icon name="check-lg" /> in use
                  </span>
                ) : (
                  <Button
                    tone="quiet"
                    onClick={() =>
                      store
                        .getState()
                        .commit(`Use the map ${k.name}`, [
                          { kind: 'map.replace', map: k.map, facts: k.facts },
                        ])
                    }
                  >
                    use
                  </Button>
                )}
                {!isHere && loop && (
                  <Button
                    tone="quiet"
                    className="fm-nowrap"
                    title="Its tempi for the stretch that is repeated"
                    onClick={() =>
                      draft.write(`The tempi of ${k.name} within the loop`, (file) =>
                        copyTempi(file, k.map, placeOf(loop.startFrames), placeOf(loop.endFrames)),
                      )
                    }
                  >
                    in loop
                  </Button>
                )}
                <Button
                  tone="quiet"
                  aria-pressed={k.played ?? false}
                  aria-label={`${k.name} is how it was played`}
                  title="How it was played: one map may be marked so"
                  onClick={() =>
                    keep(
                      k.played ? `${k.name} is no longer marked as played` : `${k.name} is how it was played`,
                      (maps) =>
                        maps.map(({ played: _, ...m }) =>
                          m.id === k.id && !k.played ? { ...m, played: true } : m,
                        ),
                    )
                  }
                >
                  {k.played ? (
                    <span className="fm-good fm-nowrap">as played</span>
                  ) : (
                    <Icon name="person-check" />
                  )}
                </Button>
                <Button
                  tone="quiet"
                  aria-label={`Forget ${k.name}`}
                  onClick={() =>
                    keep(`Delete the saved map ${k.name}`, (maps) => maps.filter((m) => m.id !== k.id))
                  }
                >
                  <Icon name="x-lg" />
                </Button>
              </li>
            );
          })}
        </ul>
      )}
      {map && keptMaps.length < MOST_KEPT_MAPS && (
        <Line
          as="form"
          align="start"
          className="fm-below-2"
          onSubmit={(e) => {
            e.preventDefault();
            put();
          }}
        >
          <TextInput
            aria-label="Name of the map"
            placeholder="Name, e.g. as played"
            maxLength={120}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <Button type="submit" className="fm-nowrap">
            Save this map
          </Button>
        </Line>
      )}
    </>
  );
}
