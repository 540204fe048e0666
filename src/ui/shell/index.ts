export { SessionFrame } from './session-frame';
