// The reader of names with its lexicon, beside the page: a thousand names take a second.
import { answerNames } from './answer-names';
import type { NamesAnswer, NamesQuestion } from './names-messages';

const page = globalThis as unknown as {
  onmessage: (event: MessageEvent<{ readonly id: number; readonly question: NamesQuestion }>) => void;
  postMessage(answer: NamesAnswer): void;
};
page.onmessage = ({ data: { id, question } }) => {
  try {
    page.postMessage({ id, answer: answerNames(question) });
  } catch (cause) {
    page.postMessage({ id, failed: cause instanceof Error ? cause.message : String(cause) });
  }
};
