export { CloseLook } from './close-look';
