export { createTempoMap, type TempoMap, type TempoPoint, tempoSegments } from './tempo-map';
export { createMeterMap, type Meter, type MeterMap, pulseQuarters } from './meter-map';
export { formatBarPulse, formatClock } from './positions';
export { createSongMap, type SongMap, type SongMapFile, songMapFromFile, songMapFromMidi, songMapToFile, songMapToMidi } from './song-map';
export { type MidiNote, type MidiNoteTrack, type MidiSong, noteFacts, type NoteFacts, pitchName, readMidiSong } from './midi-notes';
export { type MidiPlan, type MidiRead, type MidiTrackPlan, readMidi, writeMidi } from './midi-file';
