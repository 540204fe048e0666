export { createTempoMap, type TempoMap, type TempoPoint, tempoSegments } from './tempo-map';
export { createMeterMap, type Meter, type MeterMap, pulseLengths, pulseQuarters } from './meter-map';
export { CLICK_PARTS, CLICK_SOUNDS, type ClickBeat, type ClickParts, type ClickSound, type ClickStroke, clickStrokes } from './click-strokes';
export { formatBarPulse, formatClock } from './positions';
export { fewestPoints, moveGrid, movePoint, oneTempo, pointsAtBars, removePoints, scaleTempo, setPointTempo, setRamp, splitAt } from './map-edits';
export { type CsvFault, mapFromCsv, mapToCsv } from './map-csv';
export { createSongMap, type SongMap, type SongMapFile, songMapFromFile, songMapFromMidi, songMapToFile, songMapToMidi } from './song-map';
export { MOST_MIDI_BYTES, type MidiNote, type MidiNoteTrack, type MidiSong, type MidiRead, noteFacts, type NoteFacts, pitchName, readMidi, readMidiSong } from './midi-song';
export { type MidiPlan, type MidiTrackPlan, writeMidi } from './midi-file';
