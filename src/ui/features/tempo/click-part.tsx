'use client';
import { Form } from 'react-bootstrap';
import { CLICK_SOUNDS, type ClickSound } from '@/core/render';
import { formatDb, Kbd } from '@/ui/kit';
import { CLICK_BARS, CLICK_PARTS, clickBars, clickParts, clickSound, usePlayer, usePlayerState } from '@/ui/listening';

const SOUNDS: Readonly<Record<ClickSound, string>> = { tone: 'short tone', wood: 'struck wood', tick: 'dry tick' };
const PARTS: Readonly<Record<(typeof CLICK_PARTS)[number], string>> = { 1: 'pulses', 2: 'halves too', 3: 'thirds too', 4: 'quarters too' };

/** How the click sounds while one listens. */
export function ClickPart({ onCounter }: { readonly onCounter: () => void }) {
  const player = usePlayer();
  const sound = clickSound.use();
  const parts = clickParts.use();
  const bars = clickBars.use();
  const clickDb = usePlayerState((s) => s.clickDb);
  return (
    <>
      <h3>Click <Kbd>C</Kbd></h3>
      <div className="d-flex gap-1 mb-1">
        <select className="form-select form-select-sm" aria-label="Sound of the click" value={sound} onChange={(e) => clickSound.set(e.target.value as ClickSound)}>{CLICK_SOUNDS.map((s) => <option key={s} value={s}>{SOUNDS[s]}</option>)}</select>
        <select className="form-select form-select-sm" aria-label="What the click counts" value={parts} onChange={(e) => clickParts.set(e.target.value as typeof parts)}>{CLICK_PARTS.map((p) => <option key={p} value={p}>{PARTS[p]}</option>)}</select>
        <select className="form-select form-select-sm" aria-label="Bars counted in" title="Bars the click counts before the song plays" value={bars} onChange={(e) => clickBars.set(e.target.value as typeof bars)}>{CLICK_BARS.map((b) => <option key={b} value={b}>{b === '0' ? 'no count-in' : b === '1' ? '1 bar in' : `${b} bars in`}</option>)}</select>
      </div>
      <label className="d-flex align-items-center gap-2"><span className="text-nowrap">Level, <span className="num">{formatDb(clickDb)}</span> dB</span><Form.Range min={-30} max={6} step={1} value={clickDb} onChange={(e) => player.setClickSound(sound, Number(e.target.value))} /></label>
      <button type="button" className="fm-button" onClick={onCounter}>Large counter</button>
    </>
  );
}
