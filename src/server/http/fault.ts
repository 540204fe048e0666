import type { Fault } from '@/contracts';

/** A fault on its way to the page. */
export class RequestFault extends Error {
  constructor(readonly fault: Fault) {
    super(fault.code);
    this.name = 'RequestFault';
  }
}
