'use client';
import { asNoun, FAMILIES, type Family } from '@/core/naming';
import {
  type ColorDoubt,
  doubtsOfColors,
  type HouseStyle,
  MORE_PICTURES,
  type Picture,
  spreadColors,
} from '@/core/style';
import { Button, Icon, Line, Pictogram } from '@/ui/kit';
import { ColorField } from '../color-field';
import { Choice, RowKeys, TextField } from '../fields';
import type { PartProps } from './part';

/** Not told apart by hue: what makes no music of its own. */
const GREY: ReadonlySet<Family> = new Set(['effects', 'unknown', 'reference', 'click']);
const SIGHT_WORDS = {
  all: '',
  deuter: ' to those who see green weakly',
  prot: ' to those who see red weakly',
  trit: ' to those who see blue weakly',
} as const;
const name = (key: string): string => key.replaceAll('-', ' ');

const ROWS = [
  ['return', 'returns'],
  ['mix-bus', 'the mix bus'],
  ['section', 'sections'],
] as const;
const PICTURES: readonly Picture[] = [...FAMILIES, ...MORE_PICTURES];
const withPicture = (style: HouseStyle, of: string, picture: Picture | null): HouseStyle['pictures'] => ({
  ...Object.fromEntries(Object.entries(style.pictures).filter(([k]) => k !== of)),
  ...(picture === null ? {} : { [of]: picture }),
});

/** The drawing of a family or part, and the choice of another. */
function Drawing({
  label,
  value,
  onChoose,
}: {
  readonly label: string;
  readonly value: Picture;
  readonly onChoose: (picture: Picture) => void;
}) {
  return (
    <span className="fm-drawing">
      <Pictogram of={value} />
      <Choice
        label={`Drawing of ${label}`}
        hidden
        value={value}
        of={PICTURES.map((p) => [p, name(p)] as const)}
        onChoose={onChoose}
      />
    </span>
  );
}

function doubtText(d: ColorDoubt): string {
  return d.kind === 'contrast'
    ? `stands out too little from the ${d.ground === 'paper' ? 'light' : 'dark'} ground (${d.ratio.toFixed(1)} : 1, wanted 3 : 1)`
    : `looks like ${name(d.other)}${SIGHT_WORDS[d.sight]}`;
}

/** Colours of families and single parts, checked against both grounds and against what stands beside them. */
export function ColorsPart({ style, change }: PartProps) {
  // Neighbours in the session: families in the order of the folders.
  const order = [...new Set([...style.folders.flatMap((f) => f.families), ...FAMILIES])];
  const doubts = doubtsOfColors(order.map((key) => ({ key, color: style.colors[key] })));
  const spread = (): void => {
    const hued = order.filter((f) => !GREY.has(f));
    const colors = spreadColors(hued.length);
    change({
      colors: { ...style.colors, ...Object.fromEntries(hued.map((f, i) => [f, colors[i] as string])) },
    });
  };
  return (
    <>
      <Line gap={3} className="fm-below-2">
        <p className="fm-faint fm-tight">
          Folders take the colour of their first family, tracks that of their part or family; “Folders, sums”
          can shade them.
        </p>
        <Button onClick={spread}>Spread the hues evenly</Button>
      </Line>
      <table className="fm-table fm-editing">
        <thead>
          <tr>
            <th>Family</th>
            <th>Drawing</th>
            <th>Colour</th>
            <th>Seen by the eye</th>
          </tr>
        </thead>
        <tbody>
          {order.map((f) => {
            const own = doubts.filter((d) => d.key === f);
            return (
              <tr key={f}>
                <td>{name(f)}</td>
                <td>
                  <Drawing
                    label={name(f)}
                    value={style.pictures[f] ?? f}
                    onChoose={(p) => change({ pictures: withPicture(style, f, p === f ? null : p) })}
                  />
                </td>
                <td>
                  <ColorField
                    label={`Colour of ${name(f)}`}
                    value={style.colors[f]}
                    onKeep={(color) => change({ colors: { ...style.colors, [f]: color } })}
                  />
                </td>
                <td>
                  {own.length === 0 ? (
                    <span className="fm-good">
                      <Icon name="check-lg" /> clear
                    </span>
                  ) : (
                    own.map((d) => (
                      <div key={doubtText(d)} className={d.kind === 'contrast' ? 'fm-attention' : undefined}>
                        {doubtText(d)}
                      </div>
                    ))
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <h3>Rows that are no tracks</h3>
      <p className="fm-faint">
        A rule can give one of them a colour of its own: <q>row is a section, name has chorus</q>.
      </p>
      <table className="fm-table fm-editing">
        <tbody>
          {ROWS.map(([row, label]) => (
            <tr key={row}>
              <td>{label}</td>
              <td>
                <ColorField
                  label={`Colour of ${label}`}
                  value={style.rowColors[row]}
                  onKeep={(c) => change({ rowColors: { ...style.rowColors, [row]: c } })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <h3>Drawings of single parts</h3>
      <table className="fm-table fm-editing">
        <tbody>
          {Object.entries(style.pictures)
            .filter(([of]) => !(FAMILIES as readonly string[]).includes(of))
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([of, picture]) => (
              <tr key={of}>
                <td>{name(of)}</td>
                <td>
                  <Drawing
                    label={name(of)}
                    value={picture}
                    onChoose={(p) => change({ pictures: withPicture(style, of, p) })}
                  />
                </td>
                <td className="fm-end">
                  <RowKeys
                    name={`Drawing of ${name(of)}`}
                    index={0}
                    count={1}
                    onRemove={() => change({ pictures: withPicture(style, of, null) })}
                  />
                </td>
              </tr>
            ))}
          <tr>
            <td colSpan={3}>
              <TextField
                key={Object.keys(style.pictures).length}
                label="Drawing of another part"
                hidden
                value=""
                placeholder="another part: shaker"
                className="fm-narrow"
                list={style.partOrder}
                onKeep={(t) => {
                  const part = asNoun(t);
                  if (part !== '' && style.pictures[part] === undefined)
                    change({ pictures: withPicture(style, part, 'note') });
                }}
              />
            </td>
          </tr>
        </tbody>
      </table>
      <h3>Colours of single parts</h3>
      <table className="fm-table fm-editing">
        <tbody>
          {Object.entries(style.partColors).map(([part, color]) => (
            <tr key={part}>
              <td>{name(part)}</td>
              <td>
                <ColorField
                  label={`Colour of ${name(part)}`}
                  value={color}
                  onKeep={(c) => change({ partColors: { ...style.partColors, [part]: c } })}
                />
              </td>
              <td className="fm-end">
                <RowKeys
                  name={part}
                  index={0}
                  count={1}
                  onRemove={() =>
                    change({
                      partColors: Object.fromEntries(
                        Object.entries(style.partColors).filter(([k]) => k !== part),
                      ),
                    })
                  }
                />
              </td>
            </tr>
          ))}
          <tr>
            <td colSpan={3}>
              <TextField
                key={Object.keys(style.partColors).length}
                label="Another part"
                hidden
                value=""
                placeholder="another part: kick"
                className="fm-narrow"
                list={style.partOrder}
                onKeep={(t) => {
                  const part = asNoun(t);
                  if (part !== '' && style.partColors[part] === undefined)
                    change({ partColors: { ...style.partColors, [part]: style.colors.drums } });
                }}
              />
            </td>
          </tr>
        </tbody>
      </table>
    </>
  );
}
