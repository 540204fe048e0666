export { SettingsPage } from './settings-page';
