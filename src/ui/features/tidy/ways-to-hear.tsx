'use client';
import { Button, Kbd, Line } from '@/ui/kit';

/** Something that can be listened to in the place of the song, and its key. */
export interface WayToHear<Way extends string> {
  readonly way: Way;
  readonly words: string;
  readonly keyCap: string;
}

/** One against another: a button each, and the way back to the song. */
export function WaysToHear<Way extends string>({
  ways,
  heard,
  isOff = false,
  onToggle,
  onStop,
}: {
  readonly ways: readonly WayToHear<Way>[];
  /** Null = the song. */
  readonly heard: Way | null;
  /** There is nothing to be heard. */
  readonly isOff?: boolean;
  readonly onToggle: (way: Way) => void;
  readonly onStop: () => void;
}) {
  return (
    <>
      <div className="fm-choices">
        {ways.map(({ way, words, keyCap }) => (
          <Button
            key={way}
            tone="choice"
            disabled={isOff && heard === null}
            isOn={heard === way}
            onClick={() => onToggle(way)}
          >
            <Kbd>{keyCap}</Kbd>
            <span className="fm-grow">{words}</span>
          </Button>
        ))}
      </div>
      {heard !== null && (
        <Line as="p" align="start">
          <Button onClick={onStop}>Back to the song</Button>
        </Line>
      )}
    </>
  );
}
