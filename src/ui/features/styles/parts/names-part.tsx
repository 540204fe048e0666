'use client';
import { asNoun, FAMILIES, type Family } from '@/core/naming';
import { NAME_FIELDS, type NameRules, TEMPLATE } from '@/core/style';
import { CLICK_PARTS, CLICK_SOUNDS, type ClickParts } from '@/core/time';
import { CLICK_PART_NAMES, CLICK_SOUND_NAMES } from '@/ui/listening';
import { Line } from '@/ui/kit';
import { Choice, RowKeys, TextField } from '../fields';
import type { PartProps } from './part';

const NOT_A_TEMPLATE = `fields like {part} {position}, with only spaces and _ - – . · + between; there are ${NAME_FIELDS.map((f) => `{${f}}`).join(' ')}`;
const without = <T,>(record: Readonly<Record<string, T>>, key: string): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([k]) => k !== key));

/** How names in the session and names of files are made. */
export function NamesPart({ style, change }: PartProps) {
  const { names } = style;
  const set = (fields: Partial<NameRules>): void => change({ names: { ...names, ...fields } });
  const template = (text: string, keep: (t: string) => void): string | null => {
    if (!TEMPLATE.test(text)) return NOT_A_TEMPLATE;
    keep(text);
    return null;
  };
  return (
    <>
      <TextField
        label="Names in the session"
        mono
        value={names.template}
        onKeep={(t) => template(t, (x) => set({ template: x }))}
      />
      <p className="fm-faint fm-above-1">
        Fields:{' '}
        {NAME_FIELDS.map((f) => (
          <code key={f} className="fm-chip fm-mono fm-after-1">{`{${f}}`}</code>
        ))}{' '}
        What stands before a field goes with it when it says nothing; {'{group}'} is the family’s word of the
        file names.
      </p>
      <div className="fm-fields">
        <Choice
          label="Letters"
          value={names.case}
          of={[
            ['capitals', 'Each Word'],
            ['lower', 'small'],
            ['upper', 'CAPITALS'],
          ]}
          onChoose={(c) => set({ case: c })}
        />
        <Choice
          label="Numbers"
          value={names.numbers}
          of={[
            ['digits', '1, 2, 3'],
            ['two-digits', '01, 02, 03'],
            ['letters', 'A, B, C'],
          ]}
          onChoose={(numbers) => set({ numbers })}
        />
        <TextField
          label="Longest name"
          value={String(names.longest)}
          onKeep={(t) => {
            const n = Number(t);
            return Number.isInteger(n) && n >= 4 && n <= 200 ? set({ longest: n }) : '4 to 200 characters';
          }}
        />
        <TextField
          label="Characters not allowed"
          mono
          value={names.forbidden}
          placeholder="none"
          onKeep={(t) => set({ forbidden: t.slice(0, 100) })}
        />
      </div>
      <h3>Other templates for single families and parts</h3>
      <table className="fm-table fm-editing">
        <tbody>
          {Object.entries(names.families).map(([family, t]) => (
            <TemplateRow
              key={family}
              name={family}
              value={t}
              onKeep={(text) => template(text, (x) => set({ families: { ...names.families, [family]: x } }))}
              onRemove={() => set({ families: without(names.families as Record<string, string>, family) })}
            />
          ))}
          {Object.entries(names.parts).map(([part, t]) => (
            <TemplateRow
              key={`part ${part}`}
              name={`${part} (part)`}
              value={t}
              onKeep={(text) => template(text, (x) => set({ parts: { ...names.parts, [part]: x } }))}
              onRemove={() => set({ parts: without(names.parts, part) })}
            />
          ))}
        </tbody>
      </table>
      <Line align="start" className="fm-above-2">
        <Choice<Family | ''>
          label="Add a family"
          hidden
          value=""
          of={[
            ['', 'another family …'],
            ...FAMILIES.filter((f) => names.families[f] === undefined).map(
              (f) => [f, f.replaceAll('-', ' ')] as const,
            ),
          ]}
          onChoose={(f) => {
            if (f !== '') set({ families: { ...names.families, [f]: names.template } });
          }}
        />
        <TextField
          key={Object.keys(names.parts).length}
          label="Add a part"
          hidden
          value=""
          placeholder="another part …"
          list={style.partOrder}
          onKeep={(t) => {
            const part = asNoun(t);
            if (part !== '' && names.parts[part] === undefined)
              set({ parts: { ...names.parts, [part]: names.template } });
          }}
        />
      </Line>
      <h3>How things are written</h3>
      <p className="fm-faint fm-below-1">
        A part, role, position or side (<code>side.left</code>) by its noun; <code>lead-vocal.lead</code> only
        in that family. Nothing = it is left out.
      </p>
      <table className="fm-table fm-editing">
        <tbody>
          {Object.entries(names.words).map(([key, text]) => (
            <tr key={key}>
              <td className="fm-mono">{key}</td>
              <td>
                <TextField
                  label={`${key} is written`}
                  hidden
                  value={text}
                  placeholder="left out"
                  onKeep={(t) => set({ words: { ...names.words, [key]: t.slice(0, 60) } })}
                />
              </td>
              <td className="fm-end">
                <RowKeys
                  name={key}
                  index={0}
                  count={1}
                  onRemove={() => set({ words: without(names.words, key) })}
                />
              </td>
            </tr>
          ))}
          <tr>
            <td colSpan={3}>
              <TextField
                key={Object.keys(names.words).length}
                label="Another noun"
                hidden
                value=""
                placeholder="another noun …"
                className="fm-narrow"
                onKeep={(t) => {
                  const key = t.trim().toLowerCase();
                  if (!/^[a-z0-9][a-z0-9.-]{0,79}$/.test(key))
                    return 'a noun like hand-drum, or lead-vocal.lead';
                  if (names.words[key] === undefined) set({ words: { ...names.words, [key]: '' } });
                  return null;
                }}
              />
            </td>
          </tr>
        </tbody>
      </table>
    </>
  );
}

function TemplateRow({
  name,
  value,
  onKeep,
  onRemove,
}: {
  readonly name: string;
  readonly value: string;
  readonly onKeep: (text: string) => string | null;
  readonly onRemove: () => void;
}) {
  return (
    <tr>
      <td>{name.replaceAll('-', ' ')}</td>
      <td>
        <TextField label={`Template of ${name}`} hidden mono value={value} onKeep={onKeep} />
      </td>
      <td className="fm-end">
        <RowKeys name={name} index={0} count={1} onRemove={onRemove} />
      </td>
    </tr>
  );
}

/** Names of delivered files, and what a package begins with. */
export function DeliveryPart({ style, change }: PartProps) {
  const whole = (t: string, least: number, most: number, keep: (n: number) => void): string | null => {
    const n = Number(t);
    if (!Number.isInteger(n) || n < least || n > most) return `a whole number from ${least} to ${most}`;
    keep(n);
    return null;
  };
  return (
    <>
      <p className="fm-faint">
        Names of files hold letters without accents, digits, _ and - only, so that every system takes them.
        The order in the session stands before, the family’s word too, unless the name begins with it.
      </p>
      <div className="fm-fields">
        <Choice
          label="Between words"
          value={style.fileJoin}
          of={[
            ['', 'nothing: KickIn'],
            ['_', 'underscore: Kick_In'],
            ['-', 'hyphen: Kick-In'],
          ]}
          onChoose={(fileJoin) => change({ fileJoin })}
        />
        <TextField
          label="Longest name, without extension"
          value={String(style.maxFileNameLength)}
          onKeep={(t) => whole(t, 8, 64, (n) => change({ maxFileNameLength: n }))}
        />
        <TextField
          label="Whole bars before the first downbeat"
          value={String(style.leadInBars)}
          onKeep={(t) => whole(t, 1, 8, (n) => change({ leadInBars: n }))}
        />
        <Choice
          label="Sound of the click"
          value={style.click.sound}
          of={CLICK_SOUNDS.map((s) => [s, CLICK_SOUND_NAMES[s]])}
          onChoose={(sound) => change({ click: { ...style.click, sound } })}
        />
        <Choice
          label="What the click counts"
          value={String(style.click.parts)}
          of={CLICK_PARTS.map((p) => [String(p), CLICK_PART_NAMES[p]])}
          onChoose={(p) => change({ click: { ...style.click, parts: Number(p) as ClickParts } })}
        />
        <Choice
          label="Takes of a track"
          value={style.takes}
          of={[
            ['none', 'left out'],
            ['all', 'beside its file'],
          ]}
          onChoose={(takes) => change({ takes })}
        />
      </div>
      <h3>The family’s word</h3>
      <div className="fm-fields">
        {FAMILIES.map((f) => (
          <TextField
            key={f}
            label={f.replaceAll('-', ' ')}
            mono
            value={style.fileWords[f]}
            onKeep={(t) =>
              /^[A-Za-z0-9_-]{1,16}$/.test(t)
                ? change({ fileWords: { ...style.fileWords, [f]: t } })
                : 'one word of up to 16 letters, digits, _ and -'
            }
          />
        ))}
      </div>
    </>
  );
}
