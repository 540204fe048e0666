import type { NamesAnswers, NamesQuestion } from '@/contracts';
import { readNames, siblingsOf } from '@/core/naming';
import { lessonsOf } from '@/core/style';

/** Answers a question about names: a thousand names take a second. */
export function answerNames(question: NamesQuestion): NamesAnswers[keyof NamesAnswers] {
  switch (question.kind) {
    case 'read':
      return readNames(question.names, question.own, question.junk);
    case 'siblings':
      return siblingsOf(question.names, question.at, question.own, question.junk);
    case 'lessons':
      return lessonsOf(question);
  }
}
