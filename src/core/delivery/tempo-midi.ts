import { writeMidi } from '../time';
import { markersInQuarters, type PackagePlan, PPQ } from './plan';

/** Tempo map, meters and markers of a plan as a Standard MIDI File; tick 0 is package time 0. */
export const tempoMidi = (plan: PackagePlan): Uint8Array =>
  writeMidi({
    name: plan.folderName,
    ppq: PPQ,
    anchors: plan.anchors,
    meters: plan.meters,
    markers: markersInQuarters(plan),
  });
