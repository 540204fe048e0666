export { InWaste } from './in-waste';
export { SessionsPage } from './sessions-page';
