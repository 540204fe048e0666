'use client';
import { useEffect } from 'react';
import { answerEarlyInput } from './early-input';

/** Stands last in the page: once it is there, all before it is, and what was given to the page is done. */
export function EarlyInputAnswered() {
  useEffect(() => void answerEarlyInput(), []);
  return null;
}
