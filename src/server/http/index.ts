export { isOwnRequest } from './own-request';
export { RequestFault } from './fault';
export { bodyOf, handle } from './handle';
export { knownRevision } from './known-revision';
export { readBody, readBodyWithList } from './read-body';
