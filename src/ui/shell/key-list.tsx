'use client';
import { useMemo, useState } from 'react';
import { Check, Dialog, Icon, IconButton, Kbd, setSingleKeys, singleKeysOn, useShortcuts } from '@/ui/kit';

const KEYS: readonly (readonly [keys: string, what: string])[] = [
  ['Space', 'Play, pause'],
  ['C', 'Click on, off'],
  ['L', 'Repeat a stretch, play on'],
  ['D', 'Dim: 20 dB quieter, and back'],
  ['G', 'Selected track: its loudest four seconds'],
  ['F', 'Selected track: its first sound'],
  ['P', 'Selected track: its next phrase'],
  ['Z', 'Look closely at the selected track, and away'],
  ['+ − 0', 'Close look: closer, farther, the whole song; ← → move'],
  ['Ctrl Home', 'Back to the start'],
  ['N', 'Next doubt'],
  ['Y', 'Accept the proposal of the selected track'],
  ['Shift Y', 'Accept what was heard of all tracks whose names say nothing'],
  ['E', 'Sort: what was said of the selected track also of those of the same name'],
  ['Enter', 'Sort: edit the cell one stands on, else the name (F2 as well)'],
  ['Tab', 'While editing: keep, and on to the next row'],
  ['R', 'Sort: names of many at once'],
  ['W', 'Sort: move tracks in time, or lay back what was moved'],
  ['Esc', 'Cancel the edit'],
  ['↑ ↓', 'Move through the rows; with Shift: select up to there'],
  ['Page ↑ ↓', 'Fifteen rows at once; Home, End: first, last; with Shift: select up to there'],
  ['Alt ↑ ↓', 'Move the selected rows; Alt → ← into the folder before them, out of theirs'],
  ['O', 'Tidy: hear around the cuts of the selected track; Shift O: only what goes'],
  ['1 2', 'Tidy: the piece in hand stays, goes'],
  ['← →', 'Tidy: the piece before, the next'],
  [', .', 'Tidy: the beginning of the piece in hand earlier, later; Shift ← →: its end'],
  ['Backspace', 'Tidy: all edges of the selected tracks back'],
  ['T', 'Tidy: split the selected track at the play position'],
  [
    'J V U',
    'Tidy: the piece in hand joined with the next, silenced, copied to the play position (Alt and a click set that)',
  ],
  ['W', 'Tidy: the piece in hand crosses over into the next'],
  ['R', 'Tidy: the place in hand repaired with the sound from the play position on'],
  ['[ ]', 'Tidy: slip the sound of the piece in hand by 1 ms; { }: by 10 ms'],
  [
    'I H',
    'Tidy: beginning, end of the piece in hand to the next hit or silence; with Shift: to the one before',
  ],
  ['← →', 'Sort: fold, unfold a folder; on a track, from cell to cell'],
  ['+ −', 'Sort: the level or pan one stands on a step up, down, of all selected'],
  ['Ctrl ↑ ↓', 'Sort: walk on, the selection stays; Ctrl Space: this row too, or not any more'],
  ['Shift F10', 'Sort: the menu of the row (the menu key as well)'],
  ['X', 'Sort and Tidy: tick or untick what is proposed for the selected'],
  ['S', 'Listen to the selected tracks or folders alone'],
  ['M', 'Mute the selected tracks or folders'],
  ['1 – 9', 'Take that choice of the right panel'],
  ['Ctrl Enter', 'The main button of the stage: apply, accept, build, or on to the next'],
  ['Ctrl A', 'Sort: select all tracks'],
  ['Delete', 'Remove the selected rows; folders are taken apart (Backspace as well)'],
  ['Shift 0 – 9', 'Lenses; with Alt: together with the others'],
  ['/', 'Sort: show only names with these words'],
  ['Alt 1 – 6', 'Stages'],
  ['+ −', 'Tempo: look closer, farther; conform: faster, slower'],
  ['1 2', 'Intake: the remedy of the selected finding; put it aside'],
  ['Q', 'Intake: questions to the sender; Sort: quick assign, the doubtful ones by ear'],
  ['Shift Z', 'Tempo: the plot closer, around what the lanes show; the whole song again'],
  ['H', 'Tempo: the map, or conforming'],
  ['Enter', 'Tidy, balance: type the level of the track in hand, Tab its pan; Shift Enter: its pan'],
  ['← →', 'Tidy, balance: the level of the track in hand half a dB down, up; , . its pan'],
  ['A T', 'Sort and balance: change this one of its group alone; select all of its groups'],
  ['1 – 5', 'Tidy, balance: hear them as they are, by role, as in the rough mix'],
  [
    'B',
    'Sort: tracks, routing, takes; Tidy: cuts, matching, balance; Conform: hear a few bars, as played or conformed',
  ],
  [', .', 'Sort: rows lower, taller; Tempo: the pulse before, the next'],
  ['T', 'Takes: hear the next take in the place of the track; Shift T: the one before; Esc: as put together'],
  ['← →', 'Takes: the phrase before, the next; V: repeat it; Enter: show or hide the takes'],
  ['1 – 9', 'Takes: this take sounds in the phrase in hand'],
  [', .', 'Takes: farther, nearer, around the phrase in hand or the play position'],
  ['[ ]', 'Takes: where takes meet next to the phrase in hand 20 ms earlier, later'],
  ['+ −', 'Takes: the take in hand, or heard, is rated higher, lower'],
  ['M', 'Sections: begin one at the bar line next to the position'],
  ['← →', 'Sections: a bar back, on; with Shift: four bars'],
  [', .', 'Sections: the one in hand begins a bar earlier, later; [ ] it and all after it'],
  ['J', 'Sections: join with the one before (Delete as well); R: repeat it; a digit: call it so'],
  ['Shift ← →', 'Tempo: move the selected pulse by 5 ms'],
  ['I', 'Tempo: pin or unpin the selected pulse'],
  ['X', 'Tempo: the selected pulse to the nearest onset; Intake: copies and silent files out of the session'],
  ['T', 'Sort: select all tracks of its group; Tempo, tapping: a tap (Backspace: the last one goes)'],
  ['A', 'Sort: change this one of its group alone, and together again'],
  ['Ctrl Z', 'Undo; with Shift: redo'],
  ['K', 'History and checkpoints'],
  ['?', 'This list'],
];

/** All keys, under `?`. */
export function KeyList() {
  const [open, setOpen] = useState(false);
  useShortcuts(useMemo(() => [{ key: '?', run: () => setOpen(true) }], []));
  return (
    <>
      <IconButton label="Keys" hint={<Kbd>?</Kbd>} onClick={() => setOpen(true)}>
        <Icon name="keyboard" />
      </IconButton>
      {open && (
        <Dialog title="Keys" isWide onClose={() => setOpen(false)}>
          <dl className="fm-keys">
            {KEYS.map(([keys, what]) => (
              <div key={keys}>
                <dt>
                  {keys
                    .split(' ')
                    .map((k) => (k === '–' ? <span key={k}> – </span> : <Kbd key={k}>{k}</Kbd>))}
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <SingleKeySwitch />
        </Dialog>
      )}
    </>
  );
}

function SingleKeySwitch() {
  const [on, setOn] = useState(singleKeysOn);
  return (
    <Check
      kind="switch"
      id="single-keys"
      className="fm-above-3"
      label="Keys of a single letter, digit or Space"
      checked={on}
      onChange={(e) => {
        setSingleKeys(e.target.checked);
        setOn(e.target.checked);
      }}
    />
  );
}
