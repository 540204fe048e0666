'use client';
import { useState } from 'react';
import { asNoun, FAMILIES, type Family, type OwnWord, partsOf, tokenise } from '@/core/naming';
import { Button, Icon, Line, TextInput } from '@/ui/kit';
import { changedAt, Choice, RowKeys, TextField } from '../fields';
import type { PartProps } from './part';

/** A phrase as names are compared; null if it is none. */
function asPhrase(text: string): string | null {
  const words = tokenise(text).map((t) => t.text);
  return words.length === 0 || words.length > 4 ? null : words.join(' ');
}

const NOT_A_PHRASE = 'one to four words without punctuation';
const FAMILY_CHOICES = FAMILIES.map((f) => [f, f.replaceAll('-', ' ')] as const);

/** What words of names mean in this house, and words that say nothing. */
export function WordsPart({ style, change }: PartProps) {
  const [junk, setJunk] = useState('');
  const set = (words: readonly OwnWord[]): void => change({ words });
  const add = (text: string): string | null => {
    const phrase = asPhrase(text);
    if (phrase === null) return NOT_A_PHRASE;
    if (style.words.some((w) => w.text === phrase)) return 'this word is there already';
    set([{ text: phrase, family: 'percussion', part: null }, ...style.words]);
    return null;
  };
  const addJunk = (): void => {
    const phrase = asPhrase(junk);
    if (phrase !== null && !style.junk.includes(phrase)) change({ junk: [...style.junk, phrase] });
    setJunk('');
  };
  return (
    <>
      <p className="fm-faint">Some 1,500 words of the trade are known. What stands here goes before them.</p>
      <TextField
        key={style.words.length}
        label="A word or phrase, as it stands in names"
        value=""
        placeholder="cajón"
        className="fm-narrow"
        onKeep={add}
      />
      <table className="fm-table fm-editing fm-above-2">
        <thead>
          <tr>
            <th>Word</th>
            <th>Family</th>
            <th>Part</th>
            <th>
              <span className="fm-unseen">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {style.words.length === 0 && (
            <tr>
              <td colSpan={4} className="fm-faint">
                None yet. A word is also learned at Sort, by setting one track right.
              </td>
            </tr>
          )}
          {style.words.map((w, i) => (
            <tr key={w.text}>
              <td>
                <TextField
                  label={`Word ${i + 1}`}
                  hidden
                  mono
                  value={w.text}
                  onKeep={(text) => {
                    const phrase = asPhrase(text);
                    return phrase === null
                      ? NOT_A_PHRASE
                      : set(changedAt(style.words, i, { ...w, text: phrase }));
                  }}
                />
              </td>
              <td>
                <Choice
                  label={`Family of ${w.text}`}
                  hidden
                  value={w.family}
                  of={FAMILY_CHOICES}
                  onChoose={(family: Family) => set(changedAt(style.words, i, { ...w, family }))}
                />
              </td>
              <td>
                <TextField
                  label={`Part of ${w.text}`}
                  hidden
                  value={w.part?.replaceAll('-', ' ') ?? ''}
                  placeholder="not said"
                  list={partsOf(w.family).map((p) => p.replaceAll('-', ' '))}
                  onKeep={(text) => set(changedAt(style.words, i, { ...w, part: asNoun(text) || null }))}
                />
              </td>
              <td className="fm-end">
                <RowKeys
                  name={w.text}
                  index={i}
                  count={style.words.length}
                  onRemove={() => set(style.words.filter((_, k) => k !== i))}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <h3>Words that say nothing here</h3>
      <p className="fm-faint fm-below-2">
        Prefixes of a studio, names of a room: they are passed by as if they were not there.
      </p>
      <Line wraps>
        {style.junk.map((j) => (
          <span key={j} className="fm-chip fm-mono">
            {j}{' '}
            <Button
              tone="link"
              aria-label={`${j}: remove`}
              onClick={() => change({ junk: style.junk.filter((x) => x !== j) })}
            >
              <Icon name="x" />
            </Button>
          </span>
        ))}
        <form
          onSubmit={(e) => {
            e.preventDefault();
            addJunk();
          }}
        >
          <TextInput
            className="fm-mono"
            value={junk}
            placeholder="studio b"
            aria-label="Another word that says nothing"
            onChange={(e) => setJunk(e.target.value)}
            onBlur={addJunk}
          />
        </form>
      </Line>
    </>
  );
}
