import type { EditSummary } from '@/core/session';

const MOST_NAMES = 4;
const many = (n: number, one: string, more: string): string => `${n} ${n === 1 ? one : more}`;

/** What a way back would do, line by line. */
export function summaryLines(s: EditSummary): string[] {
  const names = s.renamed
    .slice(0, MOST_NAMES)
    .map((r) => `${r.from} → ${r.to}`)
    .join(', ');
  const rest = s.renamed.length > MOST_NAMES ? ` and ${s.renamed.length - MOST_NAMES} more` : '';
  return [
    s.renamed.length > 0 ? `${many(s.renamed.length, 'name changes', 'names change')}: ${names}${rest}` : '',
    s.changed > 0
      ? `${many(s.changed, 'row changes', 'rows change')} in name, family, colour, routing, level or mute`
      : '',
    s.moved > 0 ? `${many(s.moved, 'row moves', 'rows move')}` : '',
    s.tracksAdded > 0 ? `${many(s.tracksAdded, 'track comes', 'tracks come')} back` : '',
    s.tracksRemoved > 0
      ? `${many(s.tracksRemoved, 'track leaves', 'tracks leave')} the list; the recording stays`
      : '',
    s.foldersAdded > 0 ? `${many(s.foldersAdded, 'folder comes', 'folders come')} back` : '',
    s.foldersRemoved > 0 ? `${many(s.foldersRemoved, 'folder goes', 'folders go')}` : '',
    s.busesAdded > 0 ? `${many(s.busesAdded, 'bus comes', 'buses come')} back` : '',
    s.busesRemoved > 0 ? `${many(s.busesRemoved, 'bus goes', 'buses go')}` : '',
    s.map === 'removed' ? 'the tempo map goes' : s.map === 'set' ? 'another tempo map holds' : '',
    s.keptMaps === null
      ? ''
      : s.keptMaps === 0
        ? 'the saved maps go'
        : `${many(s.keptMaps, 'saved map is there', 'saved maps are there')}`,
    s.conform === 'removed'
      ? 'conforming is off: the recordings are heard as played'
      : s.conform === 'set'
        ? 'other settings of conforming hold'
        : '',
    s.words === null
      ? ''
      : s.words === 0
        ? 'the words of the delivery go'
        : `${many(s.words, 'word of the delivery holds', 'words of the delivery hold')}`,
    s.markers === null
      ? ''
      : s.markers === 0
        ? 'the markers go'
        : `${many(s.markers, 'marker holds', 'markers hold')}`,
    ...(
      [
        [s.groups, 'the groups change'],
        [s.style, 'another house style, or another version of it, holds'],
        [s.cut, 'what is handed over begins elsewhere'],
        [s.rate, 'the sample rate of the session changes'],
        [s.described, 'name, artist, key or notes of the song change'],
      ] as const
    ).map(([is, line]) => (is ? line : '')),
  ].filter((line) => line !== '');
}
