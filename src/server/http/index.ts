export { isOwnRequest } from './own-request';
export { handle, pcmResponse, readBody, RequestFault } from './handle';
