'use client';
import { kindWord } from '@/core/sections';
import { Button, EnteredField, Kbd, Line } from '@/ui/kit';
import { KIND_KEYS } from './kind-keys';
import type { Sections, SectionTools } from './use-sections';

/** What is done to the section in hand, and to all. */
export function SectionsPanel({
  sections,
  tools,
}: {
  readonly sections: Sections;
  readonly tools: SectionTools;
}) {
  const { current, isProposed, rows } = sections;
  return (
    <aside className="fm-panel" aria-label="Section">
      {current ? (
        <>
          <h2>{current.name}</h2>
          {current.doubt !== null && <p className="fm-attention">{current.doubt}</p>}
          <EnteredField label="Name of the section" value={current.name} onTake={tools.rename} />
          <h3>Call it</h3>
          <div className="fm-choices" role="group" aria-label="Kind of the section">
            {KIND_KEYS.map(([key, kind]) => (
              <Button key={kind} tone="choice" isOn={current.kind === kind} onClick={() => tools.call(kind)}>
                <Kbd>{key}</Kbd> <span className="fm-grow">{kindWord(kind)}</span>
              </Button>
            ))}
          </div>
          <h3>Where it begins</h3>
          <Line>
            <Button onClick={() => tools.begin(-1)}>
              <Kbd>,</Kbd> A bar earlier
            </Button>
            <Button onClick={() => tools.begin(1)}>
              <Kbd>.</Kbd> A bar later
            </Button>
          </Line>
          <Line>
            <Button title="It and all after it, by a bar" onClick={() => tools.shift(-1)}>
              <Kbd>[</Kbd> Rest earlier
            </Button>
            <Button title="It and all after it, by a bar" onClick={() => tools.shift(1)}>
              <Kbd>]</Kbd> Rest later
            </Button>
          </Line>
          <Line>
            <Button onClick={tools.repeat}>
              <Kbd>R</Kbd> Repeat it
            </Button>
          </Line>
          <Line>
            <Button onClick={tools.join}>
              <Kbd>J</Kbd> Join with the one before
            </Button>
          </Line>
        </>
      ) : (
        <>
          <h2>Section</h2>
          <p className="fm-faint">
            <Kbd>↓</Kbd> takes the first one in hand: what can be done to it stands here then.
          </p>
        </>
      )}
      <h3>By ear</h3>
      <p className="fm-faint">
        <Kbd>←</Kbd> <Kbd>→</Kbd> go a bar, with <Kbd>Shift</Kbd> four; <Kbd>M</Kbd> begins a section at the
        bar line next to the position.
      </p>
      <Line>
        <Button onClick={tools.drop}>
          <Kbd>M</Kbd> Begin one here
        </Button>
        {!isProposed && rows.length > 0 && (
          <Button
            tone="quiet"
            title="Every section and named place of the list; Ctrl Z brings them back"
            onClick={tools.clear}
          >
            Remove all
          </Button>
        )}
      </Line>
    </aside>
  );
}
