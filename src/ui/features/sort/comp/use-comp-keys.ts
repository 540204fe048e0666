import { type Shortcut, useShortcuts } from '@/ui/kit';
import { selectOnly, workbench } from '@/ui/client';
import { type Comp, turnFold, walkRows } from './use-comp';

/** A key moves where takes meet by so much, s. */
const EDGE_SECONDS = 0.02;

/** Keys of the view Takes, beside those of Sort. */
export function useCompKeys(comp: Comp): void {
  const { rows, track, lanes } = comp;
  const walk = (by: number): void => walkRows(rows, workbench.getState().current, by);
  const walking: Shortcut[] = [
    { key: 'arrowdown', run: () => walk(1) },
    { key: 'arrowup', run: () => walk(-1) },
    { key: 'home', run: () => walk(-Infinity) },
    { key: 'end', run: () => walk(Infinity) },
  ];
  const choosing: Shortcut[] = lanes.flatMap((lane): Shortcut[] =>
    lane.takeNumber <= 9 ? [{ key: String(lane.takeNumber), run: () => comp.choose(lane) }] : [],
  );
  useShortcuts(
    track
      ? [
          ...walking,
          ...choosing,
          { key: 'enter', run: () => turnFold(track) },
          { key: 'arrowleft', run: () => comp.stepPhrase(-1) },
          { key: 'arrowright', run: () => comp.stepPhrase(1) },
          { key: 't', shift: false, run: () => comp.stepHeard(1) },
          { key: 't', shift: true, run: () => comp.stepHeard(-1) },
          { key: 'v', run: comp.loopPhrase },
          { key: '[', run: () => comp.nudgeEdge(-EDGE_SECONDS) },
          { key: ']', run: () => comp.nudgeEdge(EDGE_SECONDS) },
          { key: '+', run: () => comp.rate(1) },
          { key: '-', run: () => comp.rate(-1) },
          { key: 'escape', run: () => (comp.heard ? comp.hear(null) : selectOnly(null)) },
        ]
      : [...walking, { key: 'escape', run: () => selectOnly(null) }],
  );
}
