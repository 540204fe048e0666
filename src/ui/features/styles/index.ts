export { StylesPage } from './styles-page';
export { StyleEditor } from './style-editor';
