import { warningText } from '@/contracts';
import type { ArrivalFacts } from '@/core/analysis';
import type { WavHeader } from '@/core/audio';

/** Something noticed about one file. */
export interface FileFinding {
  readonly code: string;
  readonly severity: 'note' | 'check' | 'problem';
  readonly text: string;
  readonly [fact: string]: unknown;
}

/** What the first look says about a file. */
export function findingsOf(header: WavHeader, facts: ArrivalFacts): FileFinding[] {
  const out: FileFinding[] = [];
  for (const w of header.warnings) out.push({ ...w, code: w.code.replace(/[._]/g, '-'), severity: 'check', text: warningText(w) });
  if (facts.peakDbfs === null) out.push({ code: 'silent', severity: 'check', text: 'nothing but digital silence' });
  else if (facts.firstSoundSeconds === null) out.push({ code: 'nearly-silent', severity: 'check', text: 'nothing above −60 dBFS', peakDbfs: facts.peakDbfs });
  if (facts.clippedRuns > 0) out.push({ code: 'clipped', severity: 'check', text: 'three or more samples in a row at full scale', runs: facts.clippedRuns });
  if (facts.dcOffset > 0.005) out.push({ code: 'dc-offset', severity: 'note', text: 'the waveform is off centre', dcOffset: facts.dcOffset });
  if (facts.dualMono) out.push({ code: 'dual-mono', severity: 'note', text: 'left and right are the same: really mono' });
  return out;
}
