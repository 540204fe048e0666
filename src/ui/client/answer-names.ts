import { readNames, siblingsOf } from '@/core/naming';
import { lessonsOf } from '@/core/style';
import type { NamesAnswers, NamesQuestion } from './names-messages';

/** Answers a question about names. Loads the lexicon: only for the worker, and tests. */
export function answerNames(question: NamesQuestion): NamesAnswers[keyof NamesAnswers] {
  switch (question.kind) {
    case 'read':
      return readNames(question.names, question.own, question.junk);
    case 'siblings':
      return siblingsOf(question.names, question.at, question.own, question.junk);
    case 'lessons':
      return lessonsOf(question.session, question.style, question.trackId);
  }
}
