import { writeMidi } from '../time';
import type { PackagePlan } from './plan';

/** Ticks a quarter of all we write. */
export const PPQ = 960;

/** Tempo map, meters and markers of a plan as a Standard MIDI File; tick 0 is package time 0. */
export const tempoMidi = (plan: PackagePlan): Uint8Array => writeMidi({ name: plan.folderName, ppq: PPQ, anchors: plan.anchors, meters: plan.meters, markers: plan.markers });
