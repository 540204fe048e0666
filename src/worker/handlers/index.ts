import type { JobHandlers } from '@/server/jobs';
import { arrive } from './arrive';
import { findBalance } from './balance';
import { conformAudition, conformRender } from './conform';
import { convert } from './convert';
import { detect } from './detect';
import { join } from './join';
import { listen } from './listen';
import { measureLoudness } from './measure';
import { makeDemo } from './make-demo';
import { packageBuild } from './package-build';
import { packageCopy } from './package-copy';
import { copyIn, findPlaces } from './places';
import { relate } from './relate';
import { sectionsFind } from './sections';
import { takesFind } from './takes';

/** What this worker can do. */
export const HANDLERS: JobHandlers = {
  'recording.arrive': arrive,
  'recording.listen': listen,
  'recording.convert': convert,
  'pair.join': join,
  'session.relate': relate,
  'places.find': findPlaces,
  'places.copy-in': copyIn,
  'tempo.detect': detect,
  'balance.find': findBalance,
  'sections.find': sectionsFind,
  'takes.find': takesFind,
  'loudness.measure': measureLoudness,
  'conform.render': conformRender,
  'conform.audition': conformAudition,
  'package.build': packageBuild,
  'package.copy': packageCopy,
  'demo.make': makeDemo,
};

export { plantDemo } from './make-demo';
