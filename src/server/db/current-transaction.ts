import { AsyncLocalStorage } from 'node:async_hooks';
import type { Transaction } from 'sequelize';

const storage = new AsyncLocalStorage<Map<string, unknown>>();

/**
 * Sequelize's "namespace" over Node's own store: every statement made while a transaction's work runs belongs to it,
 * whether it names it or not. Work that took a second connection inside a transaction could wait for itself.
 */
export const transactionNamespace = {
  get: (key: string): unknown => {
    const value = storage.getStore()?.get(key);
    // What a transaction's work left behind (a timer, say) outlives it.
    return (value as { finished?: string } | null | undefined)?.finished === undefined ? value : undefined;
  },
  set: (key: string, value: unknown): unknown => {
    storage.getStore()?.set(key, value);
    return value;
  },
  run: (work: (context: object) => unknown): object => {
    const context = new Map(storage.getStore());
    storage.run(context, () => work(context));
    return context;
  },
  bind: <T>(work: T): T => work,
};

/** The transaction whose work is running; null outside any. */
export const currentTransaction = (): Transaction | null =>
  (transactionNamespace.get('transaction') as Transaction | null | undefined) ?? null;
