'use client';
import { useId, useState } from 'react';
import { hexOf, lchOf } from '@/core/style';
import { Panel, Slider } from '@/ui/kit';
import { TextField } from './fields';

const HEX = /^#[0-9a-f]{6}$/i;
/** Most chroma that the slider goes to; what a screen cannot show is brought nearer. */
const MOST_CHROMA = 0.2;

/** A colour by lightness, chroma and hue as the eye takes them (OKLCH), or as #rrggbb; seen on both grounds. */
export function ColorField({
  label,
  value,
  onKeep,
}: {
  readonly label: string;
  readonly value: string;
  readonly onKeep: (color: string) => void;
}) {
  const id = useId();
  // While it is drawn, lightness and hue hold even where chroma makes them vanish.
  const [draft, setDraft] = useState<ReturnType<typeof lchOf> | null>(null);
  const lch = draft ?? lchOf(value);
  const shown = draft ? hexOf(draft) : value;
  const keep = (): void => {
    if (draft) onKeep(hexOf(draft));
    setDraft(null);
  };
  const slider = (
    name: string,
    key: 'lightness' | 'chroma' | 'hue',
    max: number,
    step: number,
    text: string,
  ) => (
    <div className="fm-slider">
      <label htmlFor={`${id}-${key}`}>{name}</label>
      <Slider
        id={`${id}-${key}`}
        min={0}
        max={max}
        step={step}
        value={lch[key]}
        onChange={(e) => setDraft({ ...lch, [key]: Number(e.target.value) })}
        onPointerUp={keep}
        onKeyUp={keep}
        onBlur={keep}
      />
      <span className="num">{text}</span>
    </div>
  );
  return (
    <Panel
      label={`${label}: ${value}`}
      buttonClass="fm-button fm-color"
      className="fm-color-menu"
      onClose={keep}
      button={
        <>
          <span className="fm-swatch" style={{ background: shown }} aria-hidden="true" />{' '}
          <span className="fm-mono">{shown}</span>
        </>
      }
    >
      {slider('Lightness', 'lightness', 1, 0.01, `${Math.round(lch.lightness * 100)} %`)}
      {slider('Chroma', 'chroma', MOST_CHROMA, 0.005, lch.chroma.toFixed(3))}
      {slider('Hue', 'hue', 360, 1, `${Math.round(lch.hue)}°`)}
      <TextField
        label={`${label} as #rrggbb`}
        mono
        value={shown}
        onKeep={(t) => (HEX.test(t.trim()) ? onKeep(t.trim().toLowerCase()) : 'a colour like #8a6cb4')}
      />
      <div className="fm-grounds" aria-hidden="true">
        <span className="fm-on-paper" style={{ color: shown }}>
          ▁▃▆▇▅▂ paper
        </span>
        <span className="fm-on-dusk" style={{ color: shown }}>
          ▁▃▆▇▅▂ dusk
        </span>
      </div>
    </Panel>
  );
}
