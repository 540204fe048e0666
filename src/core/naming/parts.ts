import type { Family } from './reading';

/** Parts of each family that the lexicon knows, in its order. Written down, so that a page need not load the lexicon to offer them; a test keeps it so. */
// prettier-ignore
const PARTS: Readonly<Record<Family, string>> = {
  drums: 'kick snare hihat tom overhead ride cymbal room kit loop',
  percussion: 'bass-drum surdo cymbal percussion hand-drum shaker maraca cabasa shekere caxixi ganza tambourine pandeiro riq clap snap stomp tap conga bongo timbale timbal djembe dunun talking-drum sabar kpanlogo ashiko bata bougarabou gankogui kalimba balafon log-drum udu calabash cajon guiro clave castanet cowbell almglocken agogo triangle chimes sleigh-bell bell tubular-bell gong singing-bowl woodblock temple-block ratchet whip vibraslap flexatone anvil bell-tree rainstick thunder-sheet wind-machine lions-roar ocean-drum spring-drum spoon bone washboard bodhran lambeg davul tabla dholak dhol mridangam ghatam kanjira morsing manjira pakhawaj chenda darbuka bendir frame-drum tammorra tombak qraqeb tbel katim repique tamborim cuica zabumba atabaque berimbau tantan candombe bombo-leguero tambora marimbula cununo taiko timpani vibraphone marimba xylophone glockenspiel mallet steel-drum handpan music-box gamelan waterphone body-percussion kokiriko samba-whistle brake-drum junk crotale drum-line jews-harp guacharaca guache alegre caja-vallenata glass-harmonica',
  bass: 'electric-bass synth-bass double-bass guitarron',
  guitars: 'guitar electric-guitar acoustic-guitar pedal-steel lap-steel dobro ukulele mandolin banjo bouzouki cittern balalaika tambura charango cuatro tres tiple vihuela bandurria cavaquinho viola-caipira oud saz lute tar sitar sarod tanpura veena tumbi pipa shamisen ngoni gimbri',
  keys: 'keys piano electric-piano organ clavinet harpsichord clavichord celesta accordion bandoneon concertina harmonium melodica hurdy-gurdy mellotron regal',
  synths: 'synth theremin vocoder sampler pad synth-lead arp pluck',
  strings: 'dulcimer cimbalom santur qanun zither psaltery koto swarmandal kora lyre kantele strings violin viola cello viol harp nyckelharpa erhu kemenche rebab gadulka sarangi crwth musical-saw',
  brass: 'brass trumpet cornet flugelhorn trombone horn tuba mellophone euphonium wagner-tuba cimbasso bugle alphorn conch',
  winds: 'didgeridoo winds saxophone flute recorder clarinet oboe english-horn bassoon whistle harmonica bagpipe panflute quena gaita-colombiana ocarina duduk zurna ney kaval bansuri pungi shakuhachi fujara crumhorn kazoo blown-bottle wind-controller algaita slide-whistle',
  'lead-vocal': 'vocal',
  'backing-vocal': 'vocal choir',
  mains: 'main-pair tree outrigger surround audience hall',
  effects: 'effect riser impact reverse noise ambience sweep',
  unknown: '',
  reference: 'mix guide talkback',
  click: 'click',
};

/** Parts of a family that the lexicon knows, in its order. */
export const partsOf = (family: Family): readonly string[] => PARTS[family].split(' ').filter(Boolean);

/** Text as a noun of our tables: `Hand Drum` → `hand-drum`. */
export const asNoun = (text: string): string =>
  text
    .trim()
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40);
