'use client';
import { useRouter } from 'next/navigation';
import { Fragment, type ReactNode } from 'react';
import { setWalk, stageStates, type StageState, useSession, useWalk, WALK_STEPS } from '@/ui/client';
import { Button, Icon, Kbd } from '@/ui/kit';

interface Step {
  /** The stage it is about; null = wherever one is. */
  readonly stage: StageState['key'] | null;
  readonly title: string;
  readonly text: ReactNode;
}

const STEPS: readonly Step[] = [
  {
    stage: 'intake',
    title: 'Intake',
    text: (
      <>
        Recordings are measured and compared as they arrive. <Kbd>↓</Kbd> goes through what was found: what it
        means stands on the right, <Kbd>1</Kbd> does it, <Kbd>2</Kbd> puts it aside.
      </>
    ),
  },
  {
    stage: 'sort',
    title: 'Sort',
    text: (
      <>
        The house style proposes names, colours, folders and order. <Kbd>Ctrl ⏎</Kbd> applies what is certain,{' '}
        <Kbd>N</Kbd> walks to what is not, a digit says what it is.
      </>
    ),
  },
  {
    stage: 'tidy',
    title: 'Tidy',
    text: (
      <>
        What can go of each track without a loss is hatched. <Kbd>N</Kbd> walks to what somebody should hear,{' '}
        <Kbd>O</Kbd> plays around the cuts, <Kbd>Ctrl ⏎</Kbd> cuts what is ticked.
      </>
    ),
  },
  {
    stage: 'tempo',
    title: 'Tempo',
    text: (
      <>
        The tempo map is found over all timekeepers. <Kbd>Space</Kbd> plays, <Kbd>C</Kbd> adds the click,{' '}
        <Kbd>Ctrl ⏎</Kbd> accepts the map; <Kbd>H</Kbd> conforms the song to another tempo.
      </>
    ),
  },
  {
    stage: 'sections',
    title: 'Sections',
    text: (
      <>
        Verse, chorus and the rest are found from what all tracks play. <Kbd>Ctrl ⏎</Kbd> uses them,{' '}
        <Kbd>N</Kbd> walks to what is to be checked, a digit says what one is.
      </>
    ),
  },
  {
    stage: 'handover',
    title: 'Handover',
    text: (
      <>
        What the mixer can rely on is checked first. <Kbd>Ctrl ⏎</Kbd> builds the package and reads it back;
        its cover note says what was done and what is doubtful.
      </>
    ),
  },
  {
    stage: null,
    title: 'Back, and all keys',
    text: (
      <>
        Nothing is final: <Kbd>Ctrl Z</Kbd> takes a step back, <Kbd>K</Kbd> shows all of them. <Kbd>?</Kbd>{' '}
        lists every key.
      </>
    ),
  },
];

/** The first walk through a session, a strip above the stage; it can be left at any time, and is called again from Settings. */
export function FirstWalk() {
  const router = useRouter();
  const view = useSession((s) => s.view);
  const at = WALK_STEPS.indexOf(useWalk() as (typeof WALK_STEPS)[number]);
  const step = STEPS[at];
  if (!step) return null;
  const go = (to: number): void => {
    const [key, next] = [WALK_STEPS[to], STEPS[to]];
    setWalk(key ?? 'left');
    if (next?.stage) router.push(`/sessions/${view.id}/${next.stage}`);
  };
  const isDone = (s: Step): boolean =>
    stageStates(view).some((state) => state.key === s.stage && state.state === 'done');
  return (
    <aside className="fm-walk" aria-label="First walk">
      <b className="fm-walk-title">
        {at + 1} of {STEPS.length} · {step.title}
      </b>
      <span className="fm-walk-marks" aria-hidden="true">
        {STEPS.map((s, i) => (
          <Fragment key={s.title}>
            {isDone(s) ? (
              <Icon name="check-lg" />
            ) : (
              <span className={i === at ? 'is-here' : undefined}>·</span>
            )}
          </Fragment>
        ))}
      </span>
      <span className="fm-grow">{step.text}</span>
      {at > 0 && (
        <Button tone="quiet" onClick={() => go(at - 1)}>
          Back
        </Button>
      )}
      <Button onClick={() => go(at + 1)}>{STEPS[at + 1] ? `Next: ${STEPS[at + 1]?.title}` : 'Done'}</Button>
      {at < STEPS.length - 1 && (
        <Button tone="quiet" onClick={() => setWalk('left')}>
          Leave
        </Button>
      )}
    </aside>
  );
}
