import { Kbd } from '@/ui/kit';
import { RateChoices } from './rate-choices';
import { SaidFacts } from './said-facts';

/** What to do next, when nothing is chosen. */
export function IntakeHelp({
  findings,
  recordings,
}: {
  readonly findings: number;
  readonly recordings: number;
}) {
  return (
    <>
      <h2>What came in</h2>
      {recordings === 0 ? (
        <p className="fm-faint">
          As recordings arrive they are measured and compared; what is odd about them is listed here, worst
          first.
        </p>
      ) : findings === 0 ? (
        <p className="fm-faint">
          Nothing odd was found. Choose a recording to see and hear it; <Kbd>Alt</Kbd> <Kbd>2</Kbd> goes on to
          Sort.
        </p>
      ) : (
        <p className="fm-faint">
          Choose a line with the mouse or <Kbd>↑</Kbd> <Kbd>↓</Kbd>: what it means, what can be done.{' '}
          <Kbd>1</Kbd> does it, <Kbd>2</Kbd> puts it aside. <Kbd>Q</Kbd> makes a message to the sender of what
          is left.
        </p>
      )}
      <SaidFacts />
      <RateChoices />
    </>
  );
}
