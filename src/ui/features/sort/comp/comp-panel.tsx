'use client';
import { useState } from 'react';
import { compInUse, type Phrase } from '@/core/comp';
import { type Lane, type Track, TAKE_RATINGS } from '@/core/session';
import { useSession } from '@/ui/client';
import {
  Button,
  Check,
  Clock,
  EnteredField,
  IconButton,
  Icon,
  Kbd,
  Labelled,
  Line,
  Notice,
  RadioButton,
  Select,
  Tabs,
} from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { UnpackButton } from '../lanes-field';
import { compHand, useCompHand } from './comp-hand';
import { soundingNumber, soundingPieces, takeTitle } from './comp-rows';
import { type Comp, ratingLabel } from './use-comp';

/** The packed track in hand: hearing its takes, what sounds in the phrase in hand, what is said of a take, versions. */
export function CompPanel({ comp, track }: { readonly comp: Comp; readonly track: Track }) {
  const refused = useCompHand((h) => h.refused);
  return (
    <aside className="fm-panel" aria-label="Takes of the track">
      <h2>{track.name}</h2>
      <Hearing comp={comp} track={track} />
      {refused !== null && (
        <Notice tone="warning" className="fm-tight" onClose={() => compHand.setState({ refused: null })}>
          {refused}
        </Notice>
      )}
      <PhraseInHand comp={comp} track={track} />
      <AllOfIt comp={comp} track={track} />
      {comp.lane && <TakeInHand comp={comp} lane={comp.lane} />}
      <Versions comp={comp} track={track} />
      <UnpackButton trackId={track.id} />
    </aside>
  );
}

function Hearing({ comp, track }: { readonly comp: Comp; readonly track: Track }) {
  const player = usePlayer();
  const isAlone = usePlayerState((s) => s.soloIds.has(track.id));
  return (
    <>
      <h3>Heard: {comp.heard ? `take ${comp.heard.takeNumber}` : 'as it is put together'}</h3>
      <Line wraps>
        <Button onClick={() => comp.stepHeard(1)}>
          Next take <Kbd>T</Kbd>
        </Button>
        {comp.heard && (
          <Button tone="quiet" onClick={() => comp.hear(null)}>
            Put together <Kbd>Esc</Kbd>
          </Button>
        )}
        <Check
          kind="switch"
          id="take-alone"
          label="Alone"
          checked={isAlone}
          onChange={() => player.toggleSolo(new Set([track.id]))}
        />
      </Line>
      {comp.unheard.length > 0 && (
        <p className="fm-faint fm-tight">
          {comp.unheard.length === 1 ? 'Take' : 'Takes'} {comp.unheard.map((l) => l.takeNumber).join(', ')}{' '}
          cannot be heard now: a take is conformed once it sounds somewhere. At Tempo, listen as played.
        </p>
      )}
    </>
  );
}

function PhraseInHand({ comp, track }: { readonly comp: Comp; readonly track: Track }) {
  const by = useCompHand((h) => h.by);
  const hasSections = useSession((s) => s.view.session.markers.length > 0);
  const { phrase, phrases } = comp;
  const count = phrases?.phrases.length ?? 0;
  return (
    <section aria-label="Phrase in hand">
      <Line wraps>
        <h3>{by === 'section' && hasSections ? 'Section' : 'Phrase'} in hand</h3>
        {hasSections && (
          <Tabs
            label="Put together by"
            tabs={[
              { key: 'phrase', label: 'Phrases' },
              { key: 'section', label: 'Sections' },
            ]}
            chosen={by}
            onChoose={(key) => compHand.setState({ by: key })}
          />
        )}
      </Line>
      {phrase ? (
        <PhraseChoice comp={comp} track={track} phrase={phrase} />
      ) : (
        <p className="fm-faint">
          {!phrases
            ? 'The takes are being looked at.'
            : count === 0
              ? 'Nothing sounds in these takes.'
              : `${count} in this track. Click into one, or take the first with `}
          {count > 0 && <Kbd>→</Kbd>}
        </p>
      )}
    </section>
  );
}

/** Which take sounds in the phrase in hand. */
function PhraseChoice({
  comp,
  track,
  phrase,
}: {
  readonly comp: Comp;
  readonly track: Track;
  readonly phrase: Phrase;
}) {
  const recordings = useSession((s) => s.view.recordings);
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const pieces = soundingPieces(track, new Map(recordings.map((r) => [r.id, r.sessionFrames ?? 0])));
  const middle = Math.round(((phrase.fromSeconds + phrase.toSeconds) / 2) * rateHz);
  const sounds = soundingNumber(track, pieces, middle);
  const all = comp.phrases?.phrases ?? [];
  return (
    <>
      <p className="fm-tight">
        {all.indexOf(phrase) + 1} of {all.length}: <Clock seconds={phrase.fromSeconds} decimals={1} />–
        <Clock seconds={phrase.toSeconds} decimals={1} />.{' '}
        {sounds === null ? 'Nothing sounds here.' : `Take ${sounds} sounds.`}
      </p>
      <Line wraps>
        {comp.lanes.map((lane) => (
          <Button
            key={lane.id}
            isOn={lane.takeNumber === sounds}
            title={takeTitle(lane)}
            aria-label={`Take ${lane.takeNumber} sounds here`}
            onClick={() => comp.choose(lane)}
          >
            {lane.takeNumber}
          </Button>
        ))}
        <Button tone="quiet" onClick={comp.loopPhrase}>
          Repeat it <Kbd>V</Kbd>
        </Button>
      </Line>
      <p className="fm-faint fm-tight">
        A digit chooses too. Draw over a take, or double-click it, and it sounds there.
      </p>
    </>
  );
}

function AllOfIt({ comp, track }: { readonly comp: Comp; readonly track: Track }) {
  const sounding = new Set(track.clips.filter((c) => !c.off).map((c) => c.laneId));
  const [only] = sounding.size === 1 ? sounding : [''];
  return (
    <section aria-label="The whole track">
      <h3>The whole track</h3>
      <Labelled id="whole-take" label="Sounds throughout">
        <Select
          isNarrow
          value={only ?? ''}
          onChange={(e) => {
            const lane = comp.lanes.find((l) => l.id === e.target.value);
            if (lane) comp.edits.whole(lane);
          }}
        >
          {(only === '' || !comp.lanes.some((l) => l.id === only)) && (
            <option value={only}>several takes</option>
          )}
          {comp.lanes.map((l) => (
            <option key={l.id} value={l.id}>
              {l.takeNumber}: {takeTitle(l)}
            </option>
          ))}
        </Select>
      </Labelled>
      <Line wraps>
        <Button disabled={!comp.phrases} onClick={comp.edits.roughPass}>
          Rough pass
        </Button>
        <span className="fm-faint">The best take, gaps filled from the next.</span>
      </Line>
    </section>
  );
}

const RATING_LABELS = { keep: 'Keep', maybe: 'Maybe', no: 'No' } as const;

function TakeInHand({ comp, lane }: { readonly comp: Comp; readonly lane: Lane }) {
  const { edits } = comp;
  return (
    <section aria-label={`Take ${lane.takeNumber}`}>
      <h3>Take {lane.takeNumber}</h3>
      <p className="fm-mono fm-break fm-faint fm-tight">{lane.receivedName}</p>
      <Line wraps>
        {TAKE_RATINGS.map((rating) => (
          <Button
            key={rating}
            isOn={lane.takeRating === rating}
            onClick={() => {
              const to = lane.takeRating === rating ? null : rating;
              edits.changeTake(lane, ratingLabel(lane, to), { takeRating: to });
            }}
          >
            {RATING_LABELS[rating]}
          </Button>
        ))}
        <span className="fm-faint">
          <Kbd>+</Kbd> <Kbd>−</Kbd>
        </span>
      </Line>
      <div className="fm-field">
        <span className="fm-label">Name</span>
        <EnteredField
          label={`Name of take ${lane.takeNumber}`}
          value={lane.takeName ?? ''}
          onTake={(text) =>
            edits.changeTake(lane, `Call take ${lane.takeNumber} ${text || 'by its file'}`, {
              takeName: text.trim() === '' ? null : text.trim().slice(0, 200),
            })
          }
        />
      </div>
      <div className="fm-field">
        <span className="fm-label">Note</span>
        <EnteredField
          label={`Note on take ${lane.takeNumber}`}
          value={lane.takeNote}
          onTake={(text) =>
            edits.changeTake(lane, `Note on take ${lane.takeNumber}`, { takeNote: text.slice(0, 2000) })
          }
        />
      </div>
      <Check
        kind="checkbox"
        id="take-aside"
        label="Put aside"
        checked={lane.takeAside}
        onChange={(e) =>
          edits.changeTake(
            lane,
            e.target.checked
              ? `Put take ${lane.takeNumber} aside`
              : `Take ${lane.takeNumber} back among the others`,
            { takeAside: e.target.checked },
          )
        }
      />
    </section>
  );
}

function Versions({ comp, track }: { readonly comp: Comp; readonly track: Track }) {
  const { edits } = comp;
  const [renaming, setRenaming] = useState<string | null>(null);
  const inUse = compInUse(track);
  return (
    <section aria-label="Versions">
      <h3>Versions</h3>
      {track.comps.length === 0 && (
        <p className="fm-faint fm-tight">Keep what sounds as a version and try another way beside it.</p>
      )}
      {track.comps.map((c) => (
        <div key={c.id} className="fm-lane-choice">
          <RadioButton
            name={`version-${track.id}`}
            aria-label={`${c.name} sounds`}
            checked={c.id === inUse?.id}
            onChange={() => edits.switchTo(c.id, c.name)}
          />
          {renaming === c.id ? (
            <EnteredField
              label={`Name of ${c.name}`}
              value={c.name}
              onTake={(text) => {
                if (text.trim() !== '') edits.renameVersion(c.id, text.trim().slice(0, 120));
                setRenaming(null);
              }}
            />
          ) : (
            <Button tone="link" title="Rename" onClick={() => setRenaming(c.id)}>
              {c.name}
            </Button>
          )}
          {(c.id !== inUse?.id || track.comps.length === 1) && (
            <IconButton label={`Remove ${c.name}`} onClick={() => edits.removeVersion(c.id, c.name)}>
              <Icon name="x" />
            </IconButton>
          )}
        </div>
      ))}
      <Button className="fm-above-2" onClick={edits.newVersion}>
        {track.comps.length === 0 ? 'Keep this, try another' : 'Another version'}
      </Button>
    </section>
  );
}
