import { setTimeout } from 'node:timers/promises';
import {
  type NamesAnswers,
  namesAskedBy,
  type NamesQuestion,
  type ReadList,
  type SessionView,
} from '@/contracts';
import { runTask } from '@/engine';
import { readConfig } from '../config';

type Answer = NamesAnswers[keyof NamesAnswers];

/** Answers that are remembered. */
const MOST_KEPT = 50;
/** How long a page waits for the names of its session before it is drawn without them, ms. */
const PATIENCE_MS = 1500;

const kept = new Map<string, Promise<Answer>>();
let last: Promise<unknown> = Promise.resolve();

/** Answers a question about names, in a thread and one after the other: many pages asking at once start no more threads. */
export function answerNames<K extends NamesQuestion['kind']>(
  question: Extract<NamesQuestion, { kind: K }>,
): Promise<NamesAnswers[K]> {
  const key = JSON.stringify(question);
  let answer = kept.get(key);
  if (!answer) {
    answer = last.then(() => runTask('names', question, { threadPath: readConfig().threadPath }));
    last = answer.catch(() => kept.delete(key));
  }
  kept.delete(key);
  kept.set(key, answer);
  for (const oldest of kept.keys()) if (kept.size > MOST_KEPT) kept.delete(oldest);
  return answer as Promise<NamesAnswers[K]>;
}

/** The names of a session with their readings, for its page; none where reading takes too long, or fails: the page asks for itself then. */
export async function namesOf(view: SessionView): Promise<readonly ReadList[]> {
  const lists = namesAskedBy(view).map(async (asked) => ({
    ...asked,
    readings: await answerNames<'read'>({ kind: 'read', ...asked }),
  }));
  const read = Promise.all(lists).catch(() => []);
  return Promise.race([read, setTimeout(PATIENCE_MS, [], { ref: false })]);
}
