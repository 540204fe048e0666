export { midiFileName, MidiOffer } from './midi-offer';
export { NotesPicture } from './notes-picture';
export { PlacesOffer } from './places-offer';
export { useNotes } from './use-notes';
