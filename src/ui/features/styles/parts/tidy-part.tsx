'use client';
import { MATCH_LIMITS, MATCH_MEASURES, MATCH_UNITS, MATCH_WORDS, type MatchRules } from '@/core/matching';
import { FAMILIES, type Family } from '@/core/naming';
import type { CutDefaults, HouseStyle } from '@/core/style';
import { TIDY_LIMITS, type TidySettings } from '@/core/tidy';
import { Button, Check, Icon, Line, NumberField, Table } from '@/ui/kit';
import { Choice, Several } from '../fields';
import type { PartProps } from './part';

/** A target where there was none, LUFS. */
const FIRST_LUFS = -26;

const plain = (slug: string): string => slug.replaceAll('-', ' ');

/** How tracks are cut and matched as long as nobody says otherwise. */
export function TidyPart({ style, change }: PartProps) {
  return (
    <>
      <h2 className="fm-part-head">Cuts</h2>
      <Cuts style={style} onChange={(cuts) => change({ cuts })} />
      <h2 className="fm-part-head">Matching</h2>
      <Matching matching={style.matching} onChange={(matching) => change({ matching })} />
    </>
  );
}

const TIMES: readonly (readonly [key: Exclude<keyof TidySettings, 'thresholdDb'>, label: string])[] = [
  ['shortestSeconds', 'Shortest silence, ms'],
  ['beforeSeconds', 'Stays before, ms'],
  ['afterSeconds', 'Stays after, ms'],
  ['fadeSeconds', 'Fades, ms'],
];
/** A threshold that is set for the first time, dBFS. */
const FIRST_THRESHOLD_DB = -50;

function Cuts({
  style,
  onChange,
}: {
  readonly style: HouseStyle;
  readonly onChange: (cuts: CutDefaults) => void;
}) {
  const { all, families } = style.cuts;
  const own = FAMILIES.filter((f) => families[f] !== undefined);
  const setFamily = (family: Family, settings: Partial<TidySettings>): void =>
    onChange({ all, families: { ...families, [family]: settings } });
  return (
    <>
      <p className="fm-faint">
        What Tidy proposes begins with this; every track can be set otherwise there. A family of its own here
        keeps what was set for it.
      </p>
      <CutRow
        name="All tracks"
        settings={all}
        onChange={(next) => onChange({ all: { ...all, ...next }, families })}
      />
      {own.map((family) => (
        <CutRow
          key={family}
          name={plain(family)}
          settings={{ ...all, ...families[family] }}
          onChange={(next) => setFamily(family, { ...families[family], ...next })}
        />
      ))}
      <Line align="start">
        <span>Families set otherwise:</span>
        <Several
          label="Families set otherwise"
          value={own}
          of={FAMILIES}
          none="none"
          onChoose={(chosen) =>
            onChange({
              all,
              families: Object.fromEntries(chosen.map((f) => [f, families[f] ?? { ...all }])),
            })
          }
        />
      </Line>
    </>
  );
}

function CutRow({
  name,
  settings,
  onChange,
}: {
  readonly name: string;
  readonly settings: TidySettings;
  readonly onChange: (change: Partial<TidySettings>) => void;
}) {
  const { thresholdDb } = settings;
  const [min, max] = TIDY_LIMITS.thresholdDb;
  return (
    <fieldset className="fm-rule fm-cut-defaults">
      <legend>{name}</legend>
      <Check
        id={`by-floor-${name}`}
        kind="switch"
        label="Sound told by its own floor"
        checked={thresholdDb === null}
        onChange={(e) => onChange({ thresholdDb: e.target.checked ? null : FIRST_THRESHOLD_DB })}
      />
      <div className="fm-cut-fields">
        {thresholdDb !== null && (
          <NumberField
            label="Threshold, dBFS"
            value={thresholdDb}
            step={1}
            min={min}
            max={max}
            onKeep={(db) => onChange({ thresholdDb: db })}
          />
        )}
        {TIMES.map(([key, label]) => (
          <NumberField
            key={key}
            label={label}
            value={Math.round(1000 * settings[key])}
            step={10}
            min={1000 * TIDY_LIMITS[key][0]}
            max={1000 * TIDY_LIMITS[key][1]}
            onKeep={(ms) => onChange({ [key]: ms / 1000 })}
          />
        ))}
      </div>
    </fieldset>
  );
}

function Matching({
  matching,
  onChange,
}: {
  readonly matching: MatchRules;
  readonly onChange: (matching: MatchRules) => void;
}) {
  const set = (change: Partial<MatchRules>): void => onChange({ ...matching, ...change });
  const setLufs = (family: Family, lufs: number | null): void =>
    set({ lufs: { ...matching.lufs, [family]: lufs } });
  return (
    <>
      <div className="fm-cut-fields">
        <Choice
          label="Matched by"
          value={matching.by}
          of={MATCH_MEASURES.map((m) => [m, MATCH_WORDS[m]])}
          onChoose={(by) => set({ by })}
        />
        <Choice
          label="What gets a gain of its own"
          value={matching.each}
          of={MATCH_UNITS.map((u) => [u, MATCH_WORDS[u]])}
          onChoose={(each) => set({ each })}
        />
        <NumberField
          label="Highest peak, dBFS"
          value={matching.peakDb}
          step={1}
          {...MATCH_LIMITS.peakDb}
          onKeep={(peakDb) => set({ peakDb })}
        />
        <NumberField
          label="Highest true peak, dBTP"
          value={matching.ceilingDbtp}
          step={1}
          {...MATCH_LIMITS.peakDb}
          onKeep={(ceilingDbtp) => set({ ceilingDbtp })}
        />
      </div>
      <Check
        id="gains-in-files"
        kind="switch"
        label="A handover writes the gains of pieces into its files"
        checked={matching.inFiles}
        onChange={(e) => set({ inFiles: e.target.checked })}
      />
      <p className="fm-faint">
        {matching.inFiles
          ? 'Files are at the level they were brought to.'
          : 'Files are at the level they were recorded at; the gain stands with the level of the track. A track whose pieces differ has them in its file all the same: a level cannot say that.'}
      </p>
      <h3>Loudness each family is brought to, as far as peaks allow</h3>
      <Table>
        <thead>
          <tr>
            <th scope="col">Family</th>
            <th scope="col" className="num">
              LUFS
            </th>
            <th scope="col">
              <span className="fm-unseen">Leave it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {FAMILIES.map((family) => {
            const lufs = matching.lufs[family];
            return (
              <tr key={family}>
                <th scope="row">{plain(family)}</th>
                <td className="num">
                  {lufs === null ? (
                    <span className="fm-faint">as it is</span>
                  ) : (
                    <div className="fm-lufs-field">
                      <NumberField
                        label={`LUFS of ${plain(family)}`}
                        hidden
                        value={lufs}
                        step={1}
                        {...MATCH_LIMITS.lufs}
                        onKeep={(to) => setLufs(family, to)}
                      />
                    </div>
                  )}
                </td>
                <td>
                  <Button
                    tone="quiet"
                    aria-label={`${plain(family)}: ${lufs === null ? 'set a loudness' : 'leave as it is'}`}
                    title={lufs === null ? 'Set a loudness' : 'Leave as it is'}
                    onClick={() => setLufs(family, lufs === null ? FIRST_LUFS : null)}
                  >
                    <Icon name={lufs === null ? 'plus' : 'x-lg'} />
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </>
  );
}
