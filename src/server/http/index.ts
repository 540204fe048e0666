export { isOwnRequest } from './own-request';
export { bodyOf, handle, readBody, RequestFault } from './handle';
