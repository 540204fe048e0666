import { selectOnly, workbench } from '@/ui/client';
import { type Shortcut, useShortcuts } from '@/ui/kit';
import { setTicks } from './tidy-hand';
import { type TidyRow, togetherWith } from './tidy-rows';
import type { HeardPart } from './use-hearing';
import type { HandTools } from './use-hand-tools';
import { selectThrough } from './choose-rows';

/** Rows that one key passes. */
const PAGE = 15;

/** Keys of Tidy. */
export function useTidyKeys({
  rows,
  ...on
}: {
  readonly rows: readonly TidyRow[];
  readonly onMain: () => void;
  readonly onHear: (part: HeardPart) => void;
  readonly onWhole: () => void;
  readonly onDecide: (keeps: boolean) => void;
  readonly onStep: (by: -1 | 1) => void;
  /** Moves the beginning or the end of the piece in hand by steps. */
  readonly onEdge: (isEnd: boolean, by: -1 | 1) => void;
  readonly isHearing: boolean;
  readonly onStop: () => void;
  readonly onView: () => void;
  readonly tools: HandTools;
}): void {
  const tick = (): void => {
    const { selected } = workbench.getState();
    const chosen = rows.filter((r) => selected.has(r.track.id) && r.ticked !== null);
    const isOn = chosen.some((r) => r.ticked === false);
    setTicks(
      togetherWith(
        rows,
        chosen.map((r) => r.track.id),
      ),
      isOn,
    );
  };
  useShortcuts([
    ...walkKeys(rows.map((r) => r.track.id)),
    ...toolKeys(on.tools),
    { key: 'enter', mod: true, run: on.onMain },
    { key: 'o', shift: false, run: () => on.onHear('around') },
    { key: 'o', shift: true, run: () => on.onHear('gone') },
    { key: '1', run: () => on.onDecide(true) },
    { key: '2', run: () => on.onDecide(false) },
    { key: 'b', run: on.onView },
    { key: 'x', run: tick },
    { key: 'backspace', run: on.onWhole },
    { key: 'arrowleft', shift: false, run: () => on.onStep(-1) },
    { key: 'arrowright', shift: false, run: () => on.onStep(1) },
    { key: 'arrowleft', shift: true, run: () => on.onEdge(true, -1) },
    { key: 'arrowright', shift: true, run: () => on.onEdge(true, 1) },
    { key: ',', run: () => on.onEdge(false, -1) },
    { key: '.', run: () => on.onEdge(false, 1) },
    {
      key: 'a',
      mod: true,
      run: () => workbench.setState({ selected: new Set(rows.map((r) => r.track.id)) }),
    },
    { key: 'escape', run: on.isHearing ? on.onStop : () => selectOnly(null) },
  ]);
}

/** A slip by a key, s; with Shift. */
const [SLIP_SECONDS, FAR_SLIP_SECONDS] = [0.001, 0.01];

/** Work on pieces by hand. */
const toolKeys = (tools: HandTools): Shortcut[] => [
  { key: 't', run: tools.split },
  { key: 'j', run: tools.join },
  { key: 'v', run: tools.silence },
  { key: 'u', run: tools.copy },
  { key: 'w', run: () => tools.cross() },
  { key: 'r', run: () => tools.repair() },
  { key: '[', run: () => tools.slip(-SLIP_SECONDS) },
  { key: ']', run: () => tools.slip(SLIP_SECONDS) },
  { key: '{', run: () => tools.slip(-FAR_SLIP_SECONDS) },
  { key: '}', run: () => tools.slip(FAR_SLIP_SECONDS) },
  ...(['begin', 'end'] as const).flatMap((edge): Shortcut[] => {
    const key = edge === 'begin' ? 'i' : 'h';
    return [
      { key, shift: false, run: () => tools.toPlace(edge, 1) },
      { key, shift: true, run: () => tools.toPlace(edge, -1) },
    ];
  }),
];

/** Up and down the rows; with Shift the selection grows. */
export function walkKeys(ids: readonly string[]): Shortcut[] {
  const goTo = (index: number, extend: boolean): void => {
    const id = ids[Math.max(0, Math.min(ids.length - 1, index))];
    if (id === undefined) return;
    if (!extend) return selectOnly(id);
    selectThrough(ids, id);
  };
  const at = (): number => ids.indexOf(workbench.getState().current ?? '');
  const steps: readonly (readonly [key: string, to: () => number])[] = [
    ['arrowdown', () => at() + 1],
    ['arrowup', () => (at() < 0 ? ids.length - 1 : at() - 1)],
    ['pagedown', () => at() + PAGE],
    ['pageup', () => at() - PAGE],
    ['home', () => 0],
    ['end', () => ids.length - 1],
  ];
  return steps.flatMap(([key, to]) => [
    { key, shift: false, run: () => goTo(to(), false) },
    { key, shift: true, run: () => goTo(to(), true) },
  ]);
}
