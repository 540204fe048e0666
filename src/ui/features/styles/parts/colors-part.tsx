'use client';
import { FAMILIES, type Family } from '@/core/naming';
import { type ColorDoubt, doubtsOfColors, spreadColors } from '@/core/style';
import { Pictogram } from '@/ui/kit';
import { ColorField } from '../color-field';
import { asNoun, RowKeys, TextField } from '../fields';
import type { PartProps } from './part';

/** Not told apart by hue: what makes no music of its own. */
const GREY: ReadonlySet<Family> = new Set(['effects', 'unknown', 'reference', 'click']);
const SIGHT_WORDS = { all: '', deuter: ' to those who see green weakly', prot: ' to those who see red weakly', trit: ' to those who see blue weakly' } as const;
const name = (key: string): string => key.replaceAll('-', ' ');

function doubtText(d: ColorDoubt): string {
  return d.kind === 'contrast' ? `stands out too little from the ${d.ground === 'paper' ? 'light' : 'dark'} ground (${d.ratio.toFixed(1)} : 1, wanted 3 : 1)` : `looks like ${name(d.other)}${SIGHT_WORDS[d.sight]}`;
}

/** Colours of families and single parts, checked against both grounds and against what stands beside them. */
export function ColorsPart({ style, change }: PartProps) {
  // Neighbours in the session: families in the order of the folders.
  const order = [...new Set([...style.folders.flatMap((f) => f.families), ...FAMILIES])];
  const doubts = doubtsOfColors(order.map((key) => ({ key, color: style.colors[key] })));
  const spread = (): void => {
    const hued = order.filter((f) => !GREY.has(f));
    const colors = spreadColors(hued.length);
    change({ colors: { ...style.colors, ...Object.fromEntries(hued.map((f, i) => [f, colors[i] as string])) } });
  };
  return (
    <>
      <div className="d-flex align-items-center gap-3 mb-2"><p className="fm-faint mb-0">Folders take the colour of their first family, tracks that of their part or family; “Folders, sums” can shade them.</p><button type="button" className="fm-button" onClick={spread}>Spread the hues evenly</button></div>
      <table className="fm-table fm-editing">
        <thead><tr><th>Family</th><th>Colour</th><th>Seen by the eye</th></tr></thead>
        <tbody>
          {order.map((f) => {
            const own = doubts.filter((d) => d.key === f);
            return <tr key={f}><td><Pictogram of={f} /> {name(f)}</td><td><ColorField label={`Colour of ${name(f)}`} value={style.colors[f]} onKeep={(color) => change({ colors: { ...style.colors, [f]: color } })} /></td><td>{own.length === 0 ? <span className="fm-good"><i className="bi bi-check-lg" aria-hidden="true" /> clear</span> : own.map((d) => <div key={doubtText(d)} className={d.kind === 'contrast' ? 'fm-attention' : undefined}>{doubtText(d)}</div>)}</td></tr>;
          })}
        </tbody>
      </table>
      <h3>Colours of single parts</h3>
      <table className="fm-table fm-editing">
        <tbody>
          {Object.entries(style.partColors).map(([part, color]) => <tr key={part}><td>{name(part)}</td><td><ColorField label={`Colour of ${name(part)}`} value={color} onKeep={(c) => change({ partColors: { ...style.partColors, [part]: c } })} /></td><td className="text-end"><RowKeys name={part} index={0} count={1} onRemove={() => change({ partColors: Object.fromEntries(Object.entries(style.partColors).filter(([k]) => k !== part)) })} /></td></tr>)}
          <tr><td colSpan={3}><TextField key={Object.keys(style.partColors).length} label="Another part" hidden value="" placeholder="another part: kick" className="fm-narrow" list={style.partOrder} onKeep={(t) => { const part = asNoun(t); if (part !== '' && style.partColors[part] === undefined) change({ partColors: { ...style.partColors, [part]: style.colors.drums } }); }} /></td></tr>
        </tbody>
      </table>
    </>
  );
}
