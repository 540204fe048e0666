export { isOwnRequest } from './own-request';
export { handle, readBody, RequestFault } from './handle';
