import { useEffect, useState, useSyncExternalStore } from 'react';
import type { AskedNames, NamesAnswers, NamesQuestion, ReadList } from '@/contracts';
import type { NameReading, ReadNames } from '@/core/naming';
import { api } from './api';

/** Who answers questions about names. */
export type AnswerNames = <K extends NamesQuestion['kind']>(
  question: Extract<NamesQuestion, { kind: K }>,
) => Promise<NamesAnswers[K]>;

/** A list of names with what is known of it. */
interface Kept extends AskedNames {
  readings: readonly NameReading[];
  state: 'reading' | 'read' | 'failed';
}

/** Lists that are remembered: a session's, a bench's, each with the words of a few styles. */
const MOST_KEPT = 12;

/** What could not be read is asked for again so much later. */
const RETRY_MS = 5000;

const same = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a === b || (a.length === b.length && a.every((x, i) => x === b[i]));

/** Before a name is read. */
const unread = (input: string): NameReading => ({
  input,
  family: 'unknown',
  part: null,
  role: null,
  position: null,
  side: null,
  number: null,
  take: null,
  confidence: 0,
  evidence: [],
  isSilent: false,
});

/** Whether nobody has read this name yet. */
export const isUnread = (r: NameReading): boolean => r.confidence === 0 && r.evidence.length === 0;

/** What the page knows of names: read by the server, remembered here. */
export class KnownNames {
  readonly #answer: AnswerNames;
  readonly #listeners = new Set<() => void>();
  #kept: Kept[] = [];
  #version = 0;
  #isReading = false;
  /** What was asked for last: the next to be read. What was asked before it is asked again if it still matters. */
  #next: Kept | null = null;

  constructor(answer: AnswerNames) {
    this.#answer = answer;
  }

  /** Grows whenever names were read. */
  readonly version = (): number => this.#version;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** What is known now, the same list until more is; what is not read yet is asked for, and is meanwhile as it was last read in other company, or unknown. */
  readonly read: ReadNames = (names, own = [], junk = []) => this.#of({ names, own, junk }).readings;

  /** Whether names are read, being read, or cannot be. */
  stateOf(...[names, own = [], junk = []]: Parameters<ReadNames>): Kept['state'] {
    return this.#of({ names, own, junk }).state;
  }

  /** Once names are read: for what is done with them at once. */
  async whenRead(...asked: Parameters<ReadNames>): Promise<void> {
    while (this.stateOf(...asked) === 'reading')
      await new Promise<void>((resolve) => {
        const stop = this.subscribe(() => {
          stop();
          resolve();
        });
      });
  }

  /** Takes what was read elsewhere: of a page, by who drew it first. */
  know({ readings, ...asked }: ReadList): void {
    const before = this.#find(asked);
    if (before?.state === 'read') return;
    this.#kept = [
      { ...asked, readings, state: 'read' as const },
      ...this.#kept.filter((k) => k !== before),
    ].slice(0, MOST_KEPT);
  }

  /** Asks what is worked out only once. */
  readonly ask: AnswerNames = (question) => this.#answer(question);

  #of(asked: AskedNames): Kept {
    const known = this.#find(asked);
    if (known) {
      // What is asked for stays; what nobody asks for any more goes first.
      if (known !== this.#kept[0]) this.#kept = [known, ...this.#kept.filter((k) => k !== known)];
      this.#want(known);
      return known;
    }
    const before = new Map(this.#kept.flatMap((k) => k.readings.map((r) => [r.input, r] as const)).reverse());
    const kept: Kept = {
      ...asked,
      readings: asked.names.map((n) => before.get(n) ?? unread(n)),
      state: asked.names.length === 0 ? 'read' : 'reading',
    };
    this.#kept = [kept, ...this.#kept].slice(0, MOST_KEPT);
    this.#want(kept);
    return kept;
  }

  #find(asked: AskedNames): Kept | undefined {
    return this.#kept.find(
      (k) => same(k.own, asked.own) && same(k.junk, asked.junk) && same(k.names, asked.names),
    );
  }

  #want(kept: Kept): void {
    if (kept.state !== 'reading' || !CAN_ASK()) return;
    this.#next = kept;
    if (!this.#isReading) void this.#readNext();
  }

  async #readNext(): Promise<void> {
    this.#isReading = true;
    for (let kept = this.#next; kept; kept = this.#next) {
      this.#next = null;
      // Asked again while it was being read, it is read by now.
      if (kept.state === 'reading') await this.#readAll(kept);
    }
    this.#isReading = false;
  }

  async #readAll(kept: Kept): Promise<void> {
    try {
      const { names, own, junk } = kept;
      kept.readings = await this.#answer({ kind: 'read', names, own, junk });
      kept.state = 'read';
    } catch {
      kept.state = 'failed';
      setTimeout(() => {
        this.#kept = this.#kept.filter((k) => k !== kept);
        this.#tell();
      }, RETRY_MS);
    }
    this.#tell();
  }

  #tell(): void {
    this.#version++;
    for (const listener of this.#listeners) listener();
  }
}

/** On the server, where a page is drawn first, nobody reads. */
const CAN_ASK = (): boolean => typeof window !== 'undefined';

const askServer: AnswerNames = (question) => api('/api/names', 'POST', question);
let known = new KnownNames(askServer);

/** The names this page knows. */
export const knownNames = (): KnownNames => known;

/** What the server read for a page is known from its first drawing on. On the server nothing else is: what it knows for others, this page's browser does not, and would draw otherwise. */
export function useFirstNames(lists: readonly ReadList[]): void {
  useState(() => {
    if (!CAN_ASK()) known = new KnownNames(askServer);
    for (const list of lists) known.know(list);
  });
}

/** Has questions answered otherwise: for tests. */
export function answerNamesWith(answer: AnswerNames): void {
  known = new KnownNames(answer);
}

/** Draws anew when names were read; the version. */
export const useNamesRead = (): number =>
  useSyncExternalStore(
    (listener) => known.subscribe(listener),
    () => known.version(),
    () => 0,
  );

/** The answer to a question, null until it is there; null asks nothing. `key` tells questions apart: of values and of objects that live on, never of lists made at each drawing. */
export function useNamesAnswer<K extends 'siblings' | 'lessons'>(
  question: () => Extract<NamesQuestion, { kind: K }> | null,
  key: readonly unknown[],
): NamesAnswers[K] | null {
  const [found, setFound] = useState<{ key: readonly unknown[]; answer: NamesAnswers[K] } | null>(null);
  useEffect(() => {
    let isWanted = true;
    const asked = question();
    if (asked)
      void known.ask<K>(asked).then(
        (answer) => isWanted && setFound({ key, answer }),
        () => undefined,
      );
    return () => {
      isWanted = false;
    };
    // The question is made of what the key holds.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, key);
  return found && same(found.key, key) ? found.answer : null;
}
