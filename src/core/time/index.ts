export { createTempoMap, type TempoMap, type TempoPoint, tempoSegments } from './tempo-map';
export {
  createMeterMap,
  type Meter,
  type MeterMap,
  pulseLengths,
  pulseName,
  pulseQuarters,
} from './meter-map';
export {
  CLICK_PARTS,
  CLICK_SOUNDS,
  type ClickBeat,
  type ClickParts,
  type ClickSound,
  type ClickStroke,
  clickStrokes,
} from './click-strokes';
export { type SnapFeel, type SnapGrid, snapPlaces, snapQuarters } from './snap';
export {
  type Distance,
  DISTANCE_UNITS,
  distanceOf,
  type DistanceOrigin,
  type DistanceUnit,
  framesOfDistance,
} from './distances';
export { formatBarPulse, formatClock } from './positions';
export {
  copyTempi,
  fewestPoints,
  moveGrid,
  movePoint,
  oneTempo,
  pointsAtBars,
  RAMP_KEEPS,
  type RampKeeps,
  removePoints,
  scaleTempo,
  setPointTempo,
  setRamp,
  shiftPoint,
  splitAt,
} from './map-edits';
export { type CsvFault, mapFromCsv, mapToCsv } from './map-csv';
export {
  createSongMap,
  pulseTempi,
  type SongMap,
  type SongMapFile,
  songMapFromFile,
  songMapFromMidi,
  songMapToFile,
  songMapToMidi,
} from './song-map';
export {
  MOST_MIDI_BYTES,
  type MidiNote,
  type MidiNoteTrack,
  type MidiSong,
  type MidiRead,
  noteFacts,
  type NoteFacts,
  pitchName,
  readMidi,
  readMidiSong,
} from './midi-song';
export { type MidiPlan, type MidiTrackPlan, writeMidi } from './midi-file';
