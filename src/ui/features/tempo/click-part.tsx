'use client';
import { useState } from 'react';
import { soundTracks } from '@/core/session';
import { CLICK_PARTS, CLICK_SOUNDS, type ClickSound } from '@/core/time';
import { useSession } from '@/ui/client';
import { Button, formatDb, Icon, Kbd, Line, Select, Slider } from '@/ui/kit';
import {
  CLICK_BARS,
  CLICK_PART_NAMES,
  CLICK_SOUND_NAMES,
  clickBars,
  clickParts,
  clickSound,
  usePlayer,
  usePlayerState,
} from '@/ui/listening';

/** How the click sounds while one listens, and as a file. */
export function ClickPart({ onCounter }: { readonly onCounter: () => void }) {
  const player = usePlayer();
  const sound = clickSound.use();
  const parts = clickParts.use();
  const bars = clickBars.use();
  const clickDb = usePlayerState((s) => s.clickDb);
  const { id, session, conform } = useSession((s) => s.view);
  const [guide, setGuide] = useState('all');
  const tracks = soundTracks(session);
  /** A link cannot say why it gives nothing. */
  const missing =
    session.conform?.heard === 'conformed' && conform ? conform.wanted - conform.ready.length : 0;
  const fileOf = (beside: string): string =>
    `/api/sessions/${id}/click?${new URLSearchParams({ sound, parts, bars, level: String(clickDb), guide: beside }).toString()}`;
  return (
    <>
      <h3>
        Click <Kbd>C</Kbd>
      </h3>
      <Line gap={1} align="start" className="fm-below-1">
        <Select
          aria-label="Sound of the click"
          value={sound}
          onChange={(e) => clickSound.set(e.target.value as ClickSound)}
        >
          {CLICK_SOUNDS.map((s) => (
            <option key={s} value={s}>
              {CLICK_SOUND_NAMES[s]}
            </option>
          ))}
        </Select>
        <Select
          aria-label="What the click counts"
          value={parts}
          onChange={(e) => clickParts.set(e.target.value as typeof parts)}
        >
          {CLICK_PARTS.map((p) => (
            <option key={p} value={p}>
              {CLICK_PART_NAMES[p]}
            </option>
          ))}
        </Select>
      </Line>
      <Line gap={1} align="start" className="fm-below-1">
        <Select
          aria-label="Bars counted in"
          title="Bars the click counts before the song plays"
          value={bars}
          onChange={(e) => clickBars.set(e.target.value as typeof bars)}
        >
          {CLICK_BARS.map((b) => (
            <option key={b} value={b}>
              {b === '0' ? 'no count-in' : b === '1' ? '1 bar in' : `${b} bars in`}
            </option>
          ))}
        </Select>
        <Button className="fm-nowrap" onClick={onCounter}>
          Large counter
        </Button>
      </Line>
      <Line as="label">
        <span className="fm-nowrap">
          Level, <span className="num">{formatDb(clickDb)}</span> dB
        </span>
        <Slider
          min={-30}
          max={6}
          step={1}
          value={clickDb}
          onChange={(e) => player.setClickSound(sound, Number(e.target.value))}
        />
      </Line>
      {session.map && (
        <>
          <h3>Click as a file</h3>
          <p className="fm-faint fm-below-1">
            As set above, at the recordings{' '}
            {session.conform?.heard === 'conformed' ? 'as conformed, which is what you hear' : 'as played'}.
            With too little room for the count-in it begins earlier, and its name says by how much.
          </p>
          <div className="fm-choices">
            <a className="fm-choice" href={fileOf('none')} download>
              <Icon name="download" />
              <span className="fm-grow">The click alone</span>
            </a>
            {missing > 0 ? (
              <p className="fm-attention fm-tight">
                For a guide beside it {missing === 1 ? 'one track is' : `${missing} tracks are`} not conformed
                yet.
              </p>
            ) : (
              tracks.length > 0 && (
                <a className="fm-choice" href={fileOf(guide)} download>
                  <Icon name="download" />
                  <span className="fm-grow">Guide left, click right</span>
                </a>
              )
            )}
          </div>
          {tracks.length > 0 && (
            <Line as="label" className="fm-above-1">
              <span className="fm-nowrap">Guide</span>
              <Select aria-label="Guide" value={guide} onChange={(e) => setGuide(e.target.value)}>
                <option value="all">all that is heard</option>
                {tracks.map((t) => (
                  <option key={t.id} value={t.id}>
                    {t.name}
                  </option>
                ))}
              </Select>
            </Line>
          )}
        </>
      )}
    </>
  );
}
