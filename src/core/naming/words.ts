import type { Family, Position } from './reading';

/** What a word or phrase means when nothing contradicts it. */
export interface Meaning {
  readonly family: Family;
  readonly part: string | null;
  readonly role?: string;
  readonly position?: Position;
  /** 0–1; below 0.9 the word alone is not enough to be certain. */
  readonly sure?: number;
}

type Row = readonly [family: Family, part: string | null, aliases: string, more?: { role?: string; position?: Position; sure?: number }];

/**
 * Words of the trade, lower case without marks; a space stands between tokens. Longest phrase wins.
 * Common practice of several languages, no source.
 */
const ROWS: readonly Row[] = [
  ['drums', 'kick', 'kick, kik, kck, kic, kdr, kick drum, bass drum, bassdrum, grosse caisse, bombo, cassa, bassdrummel, bd'],
  ['drums', 'kick', 'kd', { sure: 0.75 }],
  ['drums', 'kick', 'kick in, kickin, kik in, k in, kin, bd in, kick inside, kick beater, kick batter, grosse caisse int', { position: 'in' }],
  ['drums', 'kick', 'kick out, kickout, kik out, k out, kout, bd out, kick outside, kick reso, kick front, grosse caisse ext', { position: 'out' }],
  ['drums', 'kick', 'sub kick, subkick, kick sub, ksub, k sub, bd sub', { position: 'sub' }],
  ['drums', 'kick', 'kick trig, ktrig, kick trigger, kick smp, kick sample, kick spl, bd trig', { position: 'trigger' }],
  ['drums', 'snare', 'snare, snr, sna, snare drum, caisse claire, rullante, caja clara, kleine trommel, sidestick, side stick, xstick, x stick, cross stick, rim, rimshot, rim click'],
  ['drums', 'snare', 'sn, sd', { sure: 0.85 }],
  ['drums', 'snare', 'snare top, snr top, sn top, sntop, snt, sd top, sn up, snare up, snare over, snaretop', { position: 'top' }],
  ['drums', 'snare', 'snare bottom, snare bot, snare btm, snr btm, snr bot, sn bot, sn btm, snb, sd bot, sd btm, sn dn, snare under, snare bttm, snarebot, snare bottom', { position: 'bottom' }],
  ['drums', 'snare', 'snare side, snare shell, sn side', { position: 'side' }],
  ['drums', 'snare', 'snare trig, sn trig, snare smp, snare sample, snare trigger', { position: 'trigger' }],
  ['drums', 'hihat', 'hihat, hi hat, hi hats, hihats, hat, hats, hh, ohh, hh open, open hat, chh, hh closed, closed hat, hh pedal, hat ped, charley, charleston'],
  ['drums', 'tom', 'toms, rtom, tom tom, tomtom'],
  ['drums', 'tom', 'rack tom, rack, racktom', { position: 'rack' }],
  ['drums', 'tom', 'tom hi, tom high, hi tom, high tom, tom aigu', { position: 'high' }],
  ['drums', 'tom', 'tom mid, mid tom, tom medium', { position: 'mid' }],
  ['drums', 'tom', 'floor tom, flr tom, fltom, tom floor, standtom, stand tom, floortom, tom lo, tom low, low tom', { position: 'floor' }],
  ['drums', 'tom', 'floor, flr', { position: 'floor', sure: 0.75 }],
  ['drums', 'overhead', 'overheads, overhead, over heads, over head, ohs, oh, ovh, ovhd, oh mono, mono oh'],
  ['drums', 'cymbal', 'cym, cymb, cymbal, cymbals, crash, china, splash, becken'],
  ['drums', 'cymbal', 'cr', { sure: 0.6 }],
  ['drums', 'ride', 'ride, ride bell'],
  ['drums', 'ride', 'rd', { sure: 0.6 }],
  ['drums', 'room', 'drum room, dr room, drum rm, drums room, kit room, mono room, room mono, crush mic, trash mic, dirt mic, knee mic, kit mic, front of kit, fok'],
  ['drums', 'room', 'room near, room close, rooms near', { position: 'near', sure: 0.85 }],
  ['drums', 'room', 'room far, far room, rooms far', { position: 'far', sure: 0.85 }],
  ['drums', 'kit', 'drums, drum, drm, drms, drum kit, kit, drum set, schlagzeug, batterie, bateria, drum bus, drums bus, drum stem, drum sub, drum pad, edrums, e drums, elec drums'],
  ['drums', 'kit', 'dr', { sure: 0.7 }],
  ['drums', 'loop', 'drum loop, drum machine, drumloop'],
  ['drums', 'loop', 'loop, loops, beat', { sure: 0.75 }],
  ['percussion', 'percussion', 'perc, prc, percussion, percs, perkussion'],
  ['percussion', 'hand-drum', 'hand drum, hand drums, handdrum'],
  ['percussion', 'frame-drum', 'frame drum, framedrum'],
  ['percussion', 'shaker', 'shaker, shakers, shk, shkr, maracas, cabasa'],
  ['percussion', 'shaker', 'egg', { sure: 0.8 }],
  ['percussion', 'tambourine', 'tambourine, tamb, tambo, tmb, tambourin, schellenkranz, pandereta'],
  ['percussion', 'tambourine', 'tam', { sure: 0.7 }],
  ['percussion', 'clap', 'clap, claps, clp, hand clap, handclap, hand claps, handclaps, snap, snaps, finger snap, stomp, stomps'],
  ['percussion', 'conga', 'conga, congas, cga'],
  ['percussion', 'bongo', 'bongo, bongos, bng'],
  ['percussion', 'djembe', 'djembe, djm'],
  ['percussion', 'cajon', 'cajon'],
  ['percussion', 'tabla', 'tabla'],
  ['percussion', 'udu', 'udu'],
  ['percussion', 'darbuka', 'darbuka'],
  ['percussion', 'bodhran', 'bodhran'],
  ['percussion', 'cowbell', 'cowbell, cow bell, cwb'],
  ['percussion', 'agogo', 'agogo'],
  ['percussion', 'triangle', 'triangle, trgl'],
  ['percussion', 'chimes', 'chimes, wind chimes, bar chimes'],
  ['percussion', 'bells', 'sleigh bells, bells'],
  ['percussion', 'gong', 'gong'],
  ['percussion', 'woodblock', 'woodblock, wood block, temple block'],
  ['percussion', 'claves', 'claves'],
  ['percussion', 'guiro', 'guiro'],
  ['percussion', 'castanets', 'castanets'],
  ['percussion', 'timpani', 'timpani, timp'],
  ['percussion', 'steel-drum', 'steel drum, steel drums, steel pan, steelpan'],
  ['percussion', 'vibraphone', 'vibes, vibraphone, vib'],
  ['percussion', 'marimba', 'marimba'],
  ['percussion', 'xylophone', 'xylo, xylophone'],
  ['percussion', 'glockenspiel', 'glock, glockenspiel'],
  ['percussion', 'tubular-bells', 'tubular bells'],
  ['bass', 'electric-bass', 'bass, bss, ebass, e bass, el bass, bass gtr, bass guitar, bgtr, bassgtr, basse, basso, bajo'],
  ['bass', 'electric-bass', 'bs', { sure: 0.8 }],
  ['bass', 'electric-bass', 'bass di, bs di, bassdi, bdi, bass line', { position: 'di' }],
  ['bass', 'electric-bass', 'bass amp, bs amp, bass cab, bamp', { position: 'amp' }],
  ['bass', 'electric-bass', 'bass mic, bass mike', { position: 'mic' }],
  ['bass', 'electric-bass', 'bass dist, bass od, bass fuzz, bass grit', { role: 'distorted' }],
  ['bass', 'synth-bass', 'synth bass, syn bass, synbass, sbass, bass synth, sub bass, subbass, bass sub'],
  ['bass', 'synth-bass', '808', { sure: 0.75 }],
  ['bass', 'double-bass', 'upright, upright bass, upr bass, double bass, dbl bass, contrabass, acoustic bass, kontrabass, contrebasse, contrabbasso'],
  ['guitars', 'guitar', 'guitar, guitars, gtr, gtrs, guit, gtar, gitarre, gitarren, guitare, chitarra, guitarra'],
  ['guitars', 'guitar', 'gt, gta, git', { sure: 0.75 }],
  ['guitars', 'guitar', 'lead gtr, ld gtr, gtr lead, lead guitar', { role: 'lead' }],
  ['guitars', 'guitar', 'gtr solo, solo gtr, guitar solo, solo guitar', { role: 'solo' }],
  ['guitars', 'guitar', 'rhy gtr, rhythm gtr, gtr rhy, rtm gtr, rhythm guitar', { role: 'rhythm' }],
  ['guitars', 'guitar', 'gtr clean, cln gtr, clean gtr, clean guitar', { role: 'clean' }],
  ['guitars', 'electric-guitar', 'gtr dist, dist gtr, crunch gtr, hi gain gtr, gtr od', { role: 'distorted' }],
  ['guitars', 'electric-guitar', 'egtr, e gtr, elgtr, el gtr, elec gtr, elec guitar, electric gtr, electric guitar, e guitar, e gitarre'],
  ['guitars', 'electric-guitar', 'eg', { sure: 0.8 }],
  ['guitars', 'electric-guitar', 'el', { sure: 0.6 }],
  ['guitars', 'acoustic-guitar', 'agtr, a gtr, acgtr, ac gtr, aco gtr, acou gtr, acous, acoustic, acoustic gtr, acoustic guitar, steel string, acc gtr, akustikgitarre, a gitarre'],
  ['guitars', 'acoustic-guitar', 'ag, ac', { sure: 0.75 }],
  ['guitars', 'acoustic-guitar', 'ac di, agtr di, ac piezo', { position: 'di' }],
  ['guitars', 'nylon-guitar', 'nylon, nylon gtr, classical gtr, classical guitar, spanish gtr'],
  ['guitars', 'twelve-string-guitar', '12 str, 12 string'],
  ['guitars', 'banjo', 'banjo, bjo, tenor banjo'],
  ['guitars', 'mandolin', 'mandolin, mando, mnd, mandoline'],
  ['guitars', 'ukulele', 'ukulele, uke'],
  ['guitars', 'dobro', 'dobro, resonator'],
  ['guitars', 'lap-steel', 'lap steel, lapsteel'],
  ['guitars', 'pedal-steel', 'pedal steel, psteel, pedalsteel'],
  ['guitars', 'guitar', 'slide gtr, slide guitar', { role: 'slide' }],
  ['guitars', 'baritone-guitar', 'bari gtr, baritone guitar'],
  ['guitars', 'bouzouki', 'bouzouki'],
  ['guitars', 'sitar', 'sitar'],
  ['keys', 'piano', 'piano, pno, pian, grand, grand piano, gpno, upright piano, up pno, klavier, flugel piano'],
  ['keys', 'piano', 'pn', { sure: 0.7 }],
  ['keys', 'piano', 'pno lo, pno low, piano lo, piano low', { position: 'low' }],
  ['keys', 'piano', 'pno hi, pno high, piano hi, piano high', { position: 'high' }],
  ['keys', 'electric-piano', 'epiano, e piano, epno, el piano, elec piano, electric piano, rhodes, rhds, wurli, wurly'],
  ['keys', 'electric-piano', 'ep', { sure: 0.75 }],
  ['keys', 'organ', 'organ, b 3, drawbar organ, orgel, orgue, organo, leslie top, leslie lo, leslie low, org top, org lo, org bot, rotary top'],
  ['keys', 'organ', 'org', { sure: 0.85 }],
  ['keys', 'clavinet', 'clav, clavi, clavinet'],
  ['keys', 'harpsichord', 'harpsichord, hpschd, cembalo'],
  ['keys', 'accordion', 'accordion, accord, acdn, akkordeon, accordeon'],
  ['keys', 'concertina', 'concertina, cncrtna, conc'],
  ['keys', 'celesta', 'celesta'],
  ['keys', 'harmonium', 'harmonium'],
  ['keys', 'keys', 'keys, kys, kbd, keyb, keyboard, keyboards'],
  ['synths', 'synth', 'synth, synths, syn, synt, poly synth'],
  ['synths', 'pad', 'pads, synth pad, syn pad'],
  ['synths', 'synth-lead', 'lead syn, ld syn, syn lead, synth lead, lead synth'],
  ['synths', 'arp', 'arp, arpeggio'],
  ['synths', 'pluck', 'pluck, plk'],
  ['synths', 'synth', 'sequence, seq', { sure: 0.7 }],
  ['strings', 'strings', 'strings, strs, stgs, string section, quartet, streicher, cordes'],
  ['strings', 'strings', 'str', { sure: 0.75 }],
  ['strings', 'violin', 'violin, violins, vln, vlns, fiddle, geige, violon, violine'],
  ['strings', 'violin', 'vn', { sure: 0.8 }],
  ['strings', 'viola', 'viola, violas, vla, bratsche'],
  ['strings', 'viola', 'va', { sure: 0.7 }],
  ['strings', 'cello', 'cello, celli, vlc, violoncello'],
  ['strings', 'cello', 'vc, cel', { sure: 0.7 }],
  ['strings', 'harp', 'hp', { sure: 0.6 }],
  ['strings', 'harp', 'concert harp, pedal harp, harfe, harpe'],
  ['brass', 'brass', 'brass, brs, horns, horn section, hrns, blaser'],
  ['brass', 'trumpet', 'trumpet, trumpets, tpt, tpts, trp, trompete, trompette'],
  ['brass', 'trumpet', 'tp', { sure: 0.7 }],
  ['brass', 'flugelhorn', 'flugel, flugelhorn, flgl'],
  ['brass', 'trombone', 'trombone, tbn, tbns, trb, trom, bone, bones, posaune'],
  ['brass', 'tuba', 'tuba, tba'],
  ['brass', 'horn', 'french horn, fr horn, frhn, horn, waldhorn'],
  ['brass', 'horn', 'hn, fh, hrn', { sure: 0.75 }],
  ['winds', 'saxophone', 'sax, saxes, saxophone, alto sax, asax, tenor sax, tsax, bari sax, bsax, soprano sax, ssax'],
  ['winds', 'flute', 'flute, flt, flote, picc, piccolo'],
  ['winds', 'flute', 'fl', { sure: 0.65 }],
  ['winds', 'clarinet', 'clarinet, clar, klarinette'],
  ['winds', 'oboe', 'oboe'],
  ['winds', 'oboe', 'ob', { sure: 0.6 }],
  ['winds', 'bassoon', 'bassoon, bsn, fagott'],
  ['winds', 'winds', 'woodwinds, ww'],
  ['winds', 'recorder', 'recorder, blockflote'],
  ['winds', 'harmonica', 'harmonica, harmo, hca, blues harp, mouth harp, mundharmonika'],
  ['winds', 'whistle', 'whistle, tin whistle, low whistle'],
  ['lead-vocal', 'vocal', 'lead vocal, lead vocals, lead vox, lead voc, ld vox, ld voc, lvox, lv, ldv, main vox, main vocal, vox lead, vocal lead, voc lead, lead voice, lead singer', { role: 'lead' }],
  ['lead-vocal', 'vocal', 'vox dbl, lv dbl, vox double, lead dbl, ld vox dbl, lead vox dbl, vocal double, vox dt, lead double', { role: 'double' }],
  ['lead-vocal', 'vocal', 'vox, vocal, vocals, voc, vcl, voice, singer, gesang, stimme, voix, chant, voz, voce', { sure: 0.65 }],
  ['lead-vocal', 'vocal', 'vx', { sure: 0.6 }],
  ['lead-vocal', 'vocal', 'adlib, adlibs, ad lib, ad libs, vox adlib', { role: 'adlib' }],
  ['lead-vocal', 'vocal', 'rap', { role: 'rap' }],
  ['lead-vocal', 'vocal', 'spoken, speech, narration, narr, whisper, scream, shout', { role: 'spoken' }],
  ['backing-vocal', 'vocal', 'bv, bvs, bgv, bgvs, bvox, bkv, bvocs, backing, backing vox, backing voc, backing vocal, backing vocals, back vox, bg vox, bg vocal, bg vocals, bg voc, background vocal, background vocals, backing voice, chore'],
  ['backing-vocal', 'vocal', 'harm, harms, hrm, harmony, hi harm, lo harm, vox harm, harmony vox, harmony vocal, vocal harmony, vox harmony', { role: 'harmony' }],
  ['backing-vocal', 'choir', 'choir, chr, chor, coro, choeur'],
  ['backing-vocal', 'vocal', 'gang, gang vox, gang vocals, group vox, crowd vox', { role: 'gang' }],
  ['effects', 'effect', 'fx, sfx, efx, effects, effect, fx return, fx print'],
  ['effects', 'riser', 'riser, uplifter'],
  ['effects', 'impact', 'impact, downlifter, boom'],
  ['effects', 'sweep', 'sweep'],
  ['effects', 'noise', 'noise'],
  ['effects', 'reverse', 'reverse, reverse cym, rev cym'],
  ['effects', 'ambience', 'ambience, ambient, audience, aud, crowd, hall, room tone, roomtone, room noise, atmo, ambiance, raumton'],
  ['effects', 'ambience', 'amb', { sure: 0.8 }],
  ['reference', 'mix', 'reference, rough, rough mix, roughmix, 2 mix, 2 trk, 2 track, mixdown, mstr, master, mix, ref mix, mischung, monitor mix'],
  ['reference', 'mix', 'ref', { sure: 0.85 }],
  ['reference', 'mix', 'print', { sure: 0.6 }],
  ['reference', 'guide', 'guide, gde, scratch, scr vox, guide vox, guide gtr, guide vocal, scratch vox, scratch vocal, pilot'],
  ['reference', 'talkback', 'talkback, talk back, slate, smpte, ltc, timecode, time code'],
  ['click', 'click', 'click, clk, click track, metronome, metro, metronom, klick'],
];

/** Every phrase and its meaning. Throws at load if one phrase is given twice. */
export const WORDS: ReadonlyMap<string, Meaning> = (() => {
  const map = new Map<string, Meaning>();
  for (const [family, part, aliases, more] of ROWS)
    for (const alias of new Set(aliases.split(', '))) {
      if (map.has(alias)) throw new RangeError(`the word “${alias}” is listed twice`);
      map.set(alias, { family, part, ...more });
    }
  return map;
})();

/** Tokens of the longest phrase. */
export const LONGEST_PHRASE = Math.max(...[...WORDS.keys()].map((k) => k.split(' ').length));

/** Words for sides. */
export const SIDES: Readonly<Record<string, 'left' | 'right'>> = {
  l: 'left', lft: 'left', left: 'left', li: 'left', links: 'left', gauche: 'left',
  r: 'right', rgt: 'right', right: 'right', re: 'right', rechts: 'right', droite: 'right',
};

/** Words for microphone places and pick-ups. */
export const POSITIONS: Readonly<Record<string, Position>> = {
  in: 'in', inside: 'in', int: 'in', out: 'out', outside: 'out', ext: 'out',
  top: 'top', up: 'top', over: 'top', haut: 'top', oben: 'top', bot: 'bottom', btm: 'bottom', bottom: 'bottom', dn: 'bottom', under: 'bottom', bas: 'bottom', unten: 'bottom',
  near: 'near', close: 'close', far: 'far', hi: 'high', high: 'high', lo: 'low', low: 'low', front: 'front', rear: 'rear',
  di: 'di', line: 'di', direct: 'di', amp: 'amp', cab: 'amp', mic: 'mic', mike: 'mic', sub: 'sub', trig: 'trigger', trigger: 'trigger', smp: 'trigger',
  room: 'room', rm: 'room', floor: 'floor', rack: 'rack',
};

/** Words for how a part is used. */
export const ROLES: Readonly<Record<string, string>> = {
  lead: 'lead', ld: 'lead', rhythm: 'rhythm', rhy: 'rhythm', rtm: 'rhythm', strum: 'rhythm', solo: 'solo', dbl: 'double', double: 'double', dt: 'double', dup: 'double',
  harm: 'harmony', harmony: 'harmony', adlib: 'adlib', clean: 'clean', cln: 'clean', dist: 'distorted', crunch: 'distorted', slide: 'slide', gang: 'gang', rap: 'rap',
};

/** Words that say what was done to a source; the track stays with its source. */
export const TREATMENTS: ReadonlySet<string> = new Set(['verb', 'vrb', 'reverb', 'dly', 'delay', 'echo', 'plate', 'dry', 'wet', 'raw', 'proc', 'comp', 'eq', 'fx', 'print']);

/** Words without meaning for what a track is. */
export const JUNK: ReadonlySet<string> = new Set([
  'audio', 'track', 'trk', 'spur', 'rec', 'file', 'new', 'neu', 'old', 'alt', 'fix', 'edit', 'cons', 'final', 'ok', 'bounce', 'bounced', 'copy', 'dupe', 'render', 'export', 'stem', 'bip', 'mono', 'st', 'stereo', 'c', 'ctr', 'dub', 'the', 'a', 'of', 'and', 'raw', 'v',
]);

/** Words of a song's form, never an instrument. */
export const SONG_PARTS: ReadonlySet<string> = new Set(['vs', 'vrs', 'verse', 'cho', 'chorus', 'pre', 'brg', 'bridge', 'intro', 'outro', 'refrain', 'hook']);
