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
  ['drums', 'kick', 'kick, kik, kck, kic, kdr, kick drum, bass drum, bassdrum, grosse caisse, bombo, cassa, bassdrummel, bd, kickdrum, kicks, grosse trommel, basstrommel, bumbo, grancassa, gran cassa, bastrumma'],
  ['drums', 'kick', 'kd', { sure: 0.75 }],
  ['drums', 'kick', 'kick in, kickin, kik in, k in, kin, bd in, kick inside, kick beater, kick batter, grosse caisse int', { position: 'in' }],
  ['drums', 'kick', 'kick out, kickout, kik out, k out, kout, bd out, kick outside, kick reso, kick front, grosse caisse ext', { position: 'out' }],
  ['drums', 'kick', 'sub kick, subkick, kick sub, ksub, k sub, bd sub', { position: 'sub' }],
  ['drums', 'kick', 'kick trig, ktrig, kick trigger, kick smp, kick sample, kick spl, bd trig', { position: 'trigger' }],
  ['drums', 'snare', 'snare, snr, sna, snare drum, caisse claire, rullante, caja clara, kleine trommel, sidestick, side stick, xstick, x stick, cross stick, rim, rimshot, rim click, snares, snaredrum, caja, caixa, piccolo snare, rims, sidesticks, brushes, brush snare, virveltrumma, virvel, virveltromme, skarptromme, lilletromme, kleine trom'],
  ['drums', 'snare', 'sn, sd', { sure: 0.85 }],
  ['drums', 'snare', 'snare top, snr top, sn top, sntop, snt, sd top, sn up, snare up, snare over, snaretop', { position: 'top' }],
  ['drums', 'snare', 'snare bottom, snare bot, snare btm, snr btm, snr bot, sn bot, sn btm, snb, sd bot, sd btm, sn dn, snare under, snare bttm, snarebot, snare bottom', { position: 'bottom' }],
  ['drums', 'snare', 'snare side, snare shell, sn side', { position: 'side' }],
  ['drums', 'snare', 'snare trig, sn trig, snare smp, snare sample, snare trigger', { position: 'trigger' }],
  ['drums', 'hihat', 'hihat, hi hat, hi hats, hihats, hat, hats, hh, ohh, hh open, open hat, chh, hh closed, closed hat, hh pedal, hat ped, charley, charleston, hihat closed, hihat open, hats closed, hats open, closed hats, open hats, pedal hat'],
  ['drums', 'tom', 'toms, rtom, tom tom, tomtom, tomtoms, roto tom, roto toms, octoban, octobans, puka, pukor'],
  ['drums', 'tom', 'rack tom, rack, racktom', { position: 'rack' }],
  ['drums', 'tom', 'tom hi, tom high, hi tom, high tom, tom aigu, tom aereo, tom alto, tom medio', { position: 'high' }],
  ['drums', 'tom', 'tom mid, mid tom, tom medium', { position: 'mid' }],
  ['drums', 'tom', 'floor tom, flr tom, fltom, tom floor, standtom, stand tom, floortom, tom lo, tom low, low tom, tom base, tom goliath, tom basse, surdo tom', { position: 'floor' }],
  ['drums', 'tom', 'floor, flr', { position: 'floor', sure: 0.75 }],
  ['drums', 'hihat', 'charles', { sure: 0.75 }],
  ['drums', 'tom', 'timpano, goliath, chao', { sure: 0.72 }],
  ['drums', 'overhead', 'aereos, aereo, oberkopf, uberkopf, panoramici, panoramico, ambiente bateria', { sure: 0.8 }],
  ['drums', 'overhead', 'overheads, overhead, over heads, over head, ohs, oh, ovh, ovhd, oh mono, mono oh, ovr, ovhds, overh, kit overheads'],
  ['drums', 'cymbal', 'cym, cymb, cymbal, cymbals, crash, china, splash, becken, crashes, platillos, piatti, piatto, cymbale, cymbales, pratos, cymbal swell, sus cym, susp cym, suspended cymbal, cymbaler, bekkens, bekken, crashbekken'],
  ['drums', 'cymbal', 'cr', { sure: 0.6 }],
  ['drums', 'ride', 'ride, ride bell, rides, rde, ride cymbal, ride cym'],
  ['drums', 'ride', 'rd', { sure: 0.6 }],
  ['drums', 'room', 'drum room, dr room, drum rm, drums room, kit room, mono room, room mono, crush mic, trash mic, dirt mic, knee mic, kit mic, front of kit, fok, sala bateria, salle batterie, stanza batteria, drumroom, kit rm, drum ambience, drum amb, drums ambience, drums amb'],
  ['drums', 'room', 'room near, room close, rooms near', { position: 'near', sure: 0.85 }],
  ['drums', 'room', 'room far, far room, rooms far', { position: 'far', sure: 0.85 }],
  ['drums', 'kit', 'drums, drum, drm, drms, drum kit, kit, drum set, schlagzeug, batterie, bateria, drum bus, drums bus, drum stem, drum sub, drum pad, edrums, e drums, elec drums, trommeln, drumset, batteria, batteri, trummor, parallel drums, drum parallel, drum crush, drum overdub'],
  ['drums', 'kit', 'dr', { sure: 0.7 }],
  ['drums', 'loop', 'drum loop, drum machine, drumloop, top loop, toploop, drum loops, drum top loop'],
  ['drums', 'loop', 'loop, loops, beat, beats, breakbeat, groove', { sure: 0.75 }],
  ['percussion', 'percussion', 'pc', { sure: 0.72 }],
  ['percussion', 'percussion', 'perc, prc, percussion, percs, perkussion, percussions, percusion, percussioni, percussao, slagwerk, slagverk, small perc'],
  ['percussion', 'hand-drum', 'hand drum, hand drums, handdrum'],
  ['percussion', 'frame-drum', 'frame drum, framedrum'],
  ['percussion', 'shaker', 'shaker, shakers, shk, shkr, maracas, cabasa, eggs, egg shaker, caxixi, maraca, ganza, afuche'],
  ['percussion', 'shaker', 'egg', { sure: 0.8 }],
  ['percussion', 'tambourine', 'tambourine, tamb, tambo, tmb, tambourin, schellenkranz, pandereta, tambs, tamburin, tamburello, pandero'],
  ['percussion', 'tambourine', 'tam', { sure: 0.7 }],
  ['percussion', 'clap', 'clap, claps, clp, hand clap, handclap, hand claps, handclaps, snap, snaps, finger snap, stomp, stomps, palmas, foot stomp, foot stomps, stomp clap, stomps claps, klatschen, finger clicks, foot tap, foot taps, feet, foot, footstomp, finger snaps, fingersnaps, fingersnap, handklapp, klapp, handeklap'],
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
  ['percussion', 'chimes', 'chimes, wind chimes, bar chimes, mark tree, windchimes, barchimes'],
  ['percussion', 'bells', 'sleigh bells, bells, sleigh, sleighbells, jingle bells, jingles, bell tree, hand bells, handbells'],
  ['percussion', 'gong', 'gong, gongs, tam tam'],
  ['percussion', 'timbales', 'timbale, timbales'],
  ['percussion', 'surdo', 'surdo'],
  ['percussion', 'pandeiro', 'pandeiro'],
  ['percussion', 'cuica', 'cuica'],
  ['percussion', 'taiko', 'taiko, taikos'],
  ['percussion', 'kalimba', 'kalimba, thumb piano, mbira'],
  ['percussion', 'handpan', 'handpan, hand pan, hang drum, tongue drum'],
  ['percussion', 'vibraslap', 'vibraslap'],
  ['percussion', 'ratchet', 'ratchet'],
  ['percussion', 'rainstick', 'rainstick, rain stick'],
  ['percussion', 'spoons', 'spoons'],
  ['percussion', 'washboard', 'washboard'],
  ['percussion', 'finger-cymbals', 'finger cymbals, finger cymbal'],
  ['percussion', 'dulcimer', 'hammered dulcimer, hammer dulcimer, hackbrett, cimbalom'],
  ['percussion', 'woodblock', 'woodblock, wood block, temple block, woodblocks, jam block, jamblock, temple blocks, log drum'],
  ['percussion', 'claves', 'claves'],
  ['percussion', 'guiro', 'guiro'],
  ['percussion', 'castanets', 'castanets'],
  ['percussion', 'timpani', 'timpani, timp, timps, kettle drums, pauken'],
  ['percussion', 'steel-drum', 'steel drum, steel drums, steel pan, steelpan'],
  ['percussion', 'vibraphone', 'vibes, vibraphone, vib'],
  ['percussion', 'marimba', 'marimba'],
  ['percussion', 'xylophone', 'xylo, xylophone'],
  ['percussion', 'glockenspiel', 'glock, glockenspiel'],
  ['percussion', 'tubular-bells', 'tubular bells'],
  ['bass', 'electric-bass', 'bass, bss, ebass, e bass, el bass, bass gtr, bass guitar, bgtr, bassgtr, basse, basso, bajo, elec bass, electric bass, fretless, fretless bass, bassgitarre, e bas, baixo eletrico, bass pick, basgitaar, bajo linea, bajo electrico'],
  ['bass', 'electric-bass', 'bs', { sure: 0.8 }],
  ['bass', 'electric-bass', 'bass di, bs di, bassdi, bdi, bass line, bass direct, bas di', { position: 'di' }],
  ['bass', 'electric-bass', 'bass amp, bs amp, bass cab, bamp, bas amp', { position: 'amp' }],
  ['bass', 'electric-bass', 'bass mic, bass mike', { position: 'mic' }],
  ['bass', 'electric-bass', 'bass dist, bass od, bass fuzz, bass grit', { role: 'distorted' }],
  ['bass', 'synth-bass', 'synth bass, syn bass, synbass, sbass, bass synth, sub bass, subbass, bass sub, synthbass, acid bass, keys bass, key bass'],
  ['bass', 'synth-bass', '808', { sure: 0.75 }],
  ['bass', 'double-bass', 'upright, upright bass, upr bass, double bass, dbl bass, contrabass, acoustic bass, kontrabass, contrebasse, contrabbasso, contrabasses, string bass, bass fiddle, contrabajo, kontrabas, basses arco, bass arco, contrabas'],
  ['guitars', 'guitar', 'rhy, rtm, rhythm, rhythms', { role: 'rhythm', sure: 0.75 }],
  ['guitars', 'guitar', 'guitar, guitars, gtr, gtrs, guit, gtar, gitarre, gitarren, guitare, chitarra, guitarra, guits, gitaar, gitarr, gitarra, chitarre, guitares, guitarras, quitar, gtr muted, muted gtr, gtr line, tenor gtr, tenor guitar, gtr loop'],
  ['guitars', 'guitar', 'gt, gta, git', { sure: 0.75 }],
  ['guitars', 'guitar', 'lead gtr, ld gtr, gtr lead, lead guitar', { role: 'lead' }],
  ['guitars', 'guitar', 'gtr solo, solo gtr, guitar solo, solo guitar', { role: 'solo' }],
  ['guitars', 'guitar', 'rhy gtr, rhythm gtr, gtr rhy, rtm gtr, rhythm guitar', { role: 'rhythm' }],
  ['guitars', 'guitar', 'gtr clean, cln gtr, clean gtr, clean guitar', { role: 'clean' }],
  ['guitars', 'electric-guitar', 'gtr dist, dist gtr, crunch gtr, hi gain gtr, gtr od', { role: 'distorted' }],
  ['guitars', 'electric-guitar', 'egtr, e gtr, elgtr, el gtr, elec gtr, elec guitar, electric gtr, electric guitar, e guitar, e gitarre, elec, electric, egtrs, elec gtrs, electric guitars, guitare electrique, guitarra electrica, chitarra elettrica, elgitarre, elgitarr, e gitarren, e guit, el guit, elektrische gitaar, elguitar, elgitar, guitarra elec, hollowbody, hollow body, semi hollow, egt, e gt'],
  ['guitars', 'electric-guitar', 'eg', { sure: 0.8 }],
  ['guitars', 'electric-guitar', 'el', { sure: 0.6 }],
  ['guitars', 'acoustic-guitar', 'agtr, a gtr, acgtr, ac gtr, aco gtr, acou gtr, acous, acoustic, acoustic gtr, acoustic guitar, steel string, acc gtr, akustikgitarre, a gitarre, acoustics, acoustic guitars, acoustic gtrs, ac guitar, ac gtrs, acgt, acst gtr, acst guitar, guitare acoustique, guitare seche, guitarra acustica, chitarra acustica, violao, akgtr, ak gtr, westerngitarre, a guit, acoustic strum, akustisk gitarr, akustisk gitar, akustisk guitar, akoestische gitaar, violao aco, stalstrangad'],
  ['guitars', 'acoustic-guitar', 'ag, ac', { sure: 0.75 }],
  ['guitars', 'acoustic-guitar', 'ac di, agtr di, ac piezo', { position: 'di' }],
  ['guitars', 'nylon-guitar', 'nylon, nylon gtr, classical gtr, classical guitar, spanish gtr, nylon guitar, classical, konzertgitarre, nylon string, flamenco gtr, flamenco guitar, guitarra espanola, guitarra clasica, spanish guitar, guitare classique, chitarra classica'],
  ['guitars', 'twelve-string-guitar', '12 str, 12 string, twelve string, 12 str gtr, 12 string gtr'],
  ['guitars', 'autoharp', 'autoharp, auto harp'],
  ['guitars', 'zither', 'zither, zitter'],
  ['guitars', 'oud', 'oud'],
  ['guitars', 'lute', 'lute, laute'],
  ['guitars', 'charango', 'charango'],
  ['guitars', 'balalaika', 'balalaika'],
  ['guitars', 'dulcimer', 'dulcimer, mountain dulcimer'],
  ['guitars', 'banjo', 'banjo, bjo, tenor banjo'],
  ['guitars', 'mandolin', 'mandolin, mando, mnd, mandoline, mandos, mandolins'],
  ['guitars', 'ukulele', 'ukulele, uke'],
  ['guitars', 'dobro', 'dobro, resonator'],
  ['guitars', 'lap-steel', 'lap steel, lapsteel'],
  ['guitars', 'pedal-steel', 'pedal steel, psteel, pedalsteel'],
  ['guitars', 'guitar', 'slide gtr, slide guitar', { role: 'slide' }],
  ['guitars', 'baritone-guitar', 'bari gtr, baritone guitar, bari guitar, baritone gtr'],
  ['guitars', 'bouzouki', 'bouzouki'],
  ['guitars', 'sitar', 'sitar'],
  ['guitars', 'mandola', 'mandola, octave mandolin, oct mando'],
  ['guitars', 'cittern', 'cittern'],
  ['guitars', 'cavaquinho', 'cavaquinho, cavaco'],
  ['guitars', 'cuatro', 'cuatro'],
  ['guitars', 'tres', 'tres cubano'],
  ['keys', 'piano', 'piano, pno, pian, grand, grand piano, gpno, upright piano, up pno, klavier, flugel piano, pianos, pianoforte, tack piano, felt piano, toy piano, prepared piano, honky tonk, piano felt, upright pno, upr piano, baby grand, flygel, vleugel, klaver'],
  ['keys', 'piano', 'pn', { sure: 0.7 }],
  ['keys', 'piano', 'pno lo, pno low, piano lo, piano low', { position: 'low' }],
  ['keys', 'piano', 'pno hi, pno high, piano hi, piano high', { position: 'high' }],
  ['keys', 'electric-piano', 'epiano, e piano, epno, el piano, elec piano, electric piano, rhodes, rhds, wurli, wurly'],
  ['keys', 'electric-piano', 'ep', { sure: 0.75 }],
  ['keys', 'organ', 'organ, b 3, drawbar organ, orgel, orgue, organo, leslie top, leslie lo, leslie low, org top, org lo, org bot, rotary top, organs, church organ, pipe organ, kirchenorgel, rotary, leslie, rotary lo, rotary low, b 3 hi, b 3 lo, orgao'],
  ['keys', 'organ', 'org', { sure: 0.85 }],
  ['keys', 'clavinet', 'clav, clavi, clavinet'],
  ['keys', 'harpsichord', 'harpsichord, hpschd, cembalo'],
  ['keys', 'accordion', 'accordion, accord, acdn, akkordeon, accordeon, dragspel, trekkspill, trekharmonica, acordeon, acordeao, fisarmonica, bandoneon, musette'],
  ['keys', 'concertina', 'concertina, cncrtna, conc'],
  ['keys', 'celesta', 'celesta, celeste'],
  ['keys', 'harmonium', 'harmonium, pump organ, reed organ'],
  ['keys', 'melodica', 'melodica'],
  ['keys', 'keys', 'keys, kys, kbd, keyb, keyboard, keyboards, clavier, claviers, teclado, teclados, tastiere, tastiera, toetsen, klaviatur, kb, kbs'],
  ['synths', 'synth', 'synth, synths, syn, synt, poly synth, synthe, sintetizador, modular, modular synth, analog synth, sawtooth, saw lead synth, synth stab, synth stabs, stabs synth, synth brass, synth strings, synth chords'],
  ['synths', 'pad', 'pads, synth pad, syn pad'],
  ['synths', 'synth-lead', 'lead syn, ld syn, syn lead, synth lead, lead synth'],
  ['synths', 'arp', 'arp, arpeggio, arps, arpeggiator, arpeggios'],
  ['synths', 'pluck', 'pluck, plk, plucks, synth pluck, pluck synth, pluck lead'],
  ['synths', 'synth', 'sequence, seq, saw, supersaw, bloops, bleeps, stabs', { sure: 0.75 }],
  ['synths', 'synth', 'drone', { sure: 0.7 }],
  ['strings', 'strings', 'strings, strs, stgs, string section, quartet, streicher, cordes, string ens, string ensemble, string tree, archi, cuerdas, stryk, strykers, strgs, streichquartett'],
  ['strings', 'strings', 'str', { sure: 0.75 }],
  ['strings', 'violin', 'violin, violins, vln, vlns, fiddle, geige, violon, violine, fiddles, viool, violino, violini, violines, violons, fidl, fiol, fela, fele, rabeca'],
  ['strings', 'violin', 'vn', { sure: 0.8 }],
  ['strings', 'viola', 'viola, violas, vla, bratsche, vlas, altviool, viole, viola da gamba, gamba'],
  ['strings', 'viola', 'va', { sure: 0.7 }],
  ['strings', 'cello', 'cello, celli, vlc, violoncello, cellos, violoncelle, violonchelo, violoncelli, vlcs'],
  ['strings', 'cello', 'vc, cel', { sure: 0.7 }],
  ['strings', 'harp', 'hp', { sure: 0.6 }],
  ['strings', 'hurdy-gurdy', 'hurdy gurdy, hurdygurdy'],
  ['strings', 'nyckelharpa', 'nyckelharpa'],
  ['strings', 'harp', 'concert harp, pedal harp, harfe, harpe'],
  ['brass', 'brass', 'brass, brs, horns, horn section, hrns, blaser, cuivres, metales, ottoni, metais, brass section, hornsection, brass ens, low brass'],
  ['brass', 'trumpet', 'trumpet, trumpets, tpt, tpts, trp, trompete, trompette, trompeta, tromba, trombe, trompet, trmpt, trpt'],
  ['brass', 'trumpet', 'tp', { sure: 0.7 }],
  ['brass', 'flugelhorn', 'flugel, flugelhorn, flgl'],
  ['brass', 'trombone', 'trombone, tbn, tbns, trb, trom, bone, bones, posaune, trombones, trombon, bass trombone, b tbn, btbn, bass tbn, tromb, trombon bas, basun'],
  ['brass', 'tuba', 'tuba, tba'],
  ['brass', 'horn', 'french horn, fr horn, frhn, horn, waldhorn, french horns, cor, corno, corni, f horn, f horns, f hn'],
  ['brass', 'horn', 'hn, fh, hrn', { sure: 0.75 }],
  ['winds', 'saxophone', 'sax, saxes, saxophone, alto sax, asax, tenor sax, tsax, bari sax, bsax, soprano sax, ssax, saxo, saxofon, alto saxophone, tenor saxophone, baritone saxophone, baritone sax, soprano saxophone, altsax, tenorsax, barisax, t sax, a sax, b sax, s sax, saxo tenor, saxo alto, sax tenor, sax alto, sax bari, sax baritono, sax section'],
  ['winds', 'saxophone', 'ts, sx tenor', { sure: 0.6 }],
  ['winds', 'flute', 'flute, flt, flote, picc, piccolo, flutes, querflote, flauta, flauto, flauti, fluit, alto flute, bass flute, pan flute, panflute, fls, tvarflojt, flojt, floyte, dwarsfluit, blokfluit'],
  ['winds', 'flute', 'fl', { sure: 0.65 }],
  ['winds', 'clarinet', 'clarinet, clar, klarinette, clarinets, clarinete, clarinetto, clarinette, bass clarinet, bcl, b cl, clt, klar, klarinett, klarinet'],
  ['winds', 'oboe', 'oboe, oboes, hautbois'],
  ['winds', 'english-horn', 'english horn, cor anglais, englischhorn'],
  ['winds', 'bagpipes', 'bagpipes, bagpipe, uilleann pipes, uilleann, pipes, smallpipes, dudelsack'],
  ['winds', 'ocarina', 'ocarina'],
  ['winds', 'didgeridoo', 'didgeridoo, didge'],
  ['winds', 'kazoo', 'kazoo'],
  ['winds', 'duduk', 'duduk'],
  ['winds', 'oboe', 'ob', { sure: 0.6 }],
  ['winds', 'bassoon', 'bassoon, bsn, fagott, bassoons, fagot, fagotto, contrabassoon, bassons'],
  ['winds', 'winds', 'woodwinds, ww, winds, woodwind, bois, fiati, maderas, holzblaser, wind section'],
  ['winds', 'recorder', 'recorder, blockflote'],
  ['winds', 'harmonica', 'harmonica, harmo, hca, blues harp, mouth harp, mundharmonika, armonica, blues harp amp'],
  ['winds', 'whistle', 'whistle, tin whistle, low whistle, whistles, whistling, pennywhistle, penny whistle, irish whistle'],
  ['lead-vocal', 'vocal', 'lead vocal, lead vocals, lead vox, lead voc, ld vox, ld voc, lvox, lv, ldv, main vox, main vocal, vox lead, vocal lead, voc lead, lead voice, lead singer, leadvocal, leadvox, leadvoc, hauptstimme, leadgesang, lead gesang, voz principal, voce principale, voix principale, hauptgesang, main voice, main voc, lead vocals comp, lead comp, ld vocal, ld vocals, zang lead, leadsang, huvudsang, hovedvokal, leadzang, hoofdzang, voz lead, growl, growls, growl lead', { role: 'lead' }],
  ['lead-vocal', 'vocal', 'vox dbl, lv dbl, vox double, lead dbl, ld vox dbl, lead vox dbl, vocal double, vox dt, lead double, lead vocal double, lead vocal dbl, lead voc dbl, vocal dbl, lv double, lead vox double, vox doubles, lv doubles, vox dbls', { role: 'double' }],
  ['lead-vocal', 'vocal', 'vox, vocal, vocals, voc, vcl, voice, singer, gesang, stimme, voix, chant, voz, voce, vokal, canto, zang, sang, voc comp, voices, singing', { sure: 0.65 }],
  ['lead-vocal', 'vocal', 'vx', { sure: 0.6 }],
  ['lead-vocal', 'vocal', 'adlib, adlibs, ad lib, ad libs, vox adlib', { role: 'adlib' }],
  ['lead-vocal', 'vocal', 'rap', { role: 'rap' }],
  ['lead-vocal', 'vocal', 'spoken, speech, narration, narr, whisper, scream, shout, spoken word, whispers, screams, shouts', { role: 'spoken' }],
  ['backing-vocal', 'vocal', 'bv, bvs, bgv, bgvs, bvox, bkv, bvocs, backing, backing vox, backing voc, backing vocal, backing vocals, back vox, bg vox, bg vocal, bg vocals, bg voc, background vocal, background vocals, backing voice, chore, backings, backgrounds, background, backgr, bckg vox, bck vox, bck voc, bkg vox, bkgd vox, bkgv, bgvox, bgvoc, coros, cori, hintergrund, hintergrundgesang, koortje, chorstimmen, oohs, oos, oohs aahs, aahs, ahs, whoas, heys, hums, humming, la las, lalas, doo wops, back voc, backvox, vocals bg, voc bg, vox bg, vox bgv, vocal bg, all singing, all vox, group sing, singalong, crowd singing, segunda voz, segundas voces, voces, vozes, chorus vox bg'],
  ['backing-vocal', 'vocal', 'ooh, oo, aah, ah, whoa, hey, yeahs', { sure: 0.8 }],
  ['backing-vocal', 'vocal', 'harm, harms, hrm, harmony, hi harm, lo harm, vox harm, harmony vox, harmony vocal, vocal harmony, vox harmony, harmonies, harmony voc, harmony vocals, harmonies vox, harmony low, harmony high, 2 stimme, zweitstimme, vox harmonies, harmony voice', { role: 'harmony' }],
  ['backing-vocal', 'choir', 'choir, chr, chor, coro, choeur, choirs, choeurs, kids choir, childrens choir, koor, kor, chorus choir, gospel choir'],
  ['backing-vocal', 'vocal', 'gang, gang vox, gang vocals, group vox, crowd vox, gang shout, gang shouts, gang voc, gangs, group vocals, group voc, group shout, crowd shout', { role: 'gang' }],
  ['effects', 'effect', 'fx, sfx, efx, effects, effect, fx return, fx print'],
  ['effects', 'riser', 'riser, uplifter, risers, uplift, build up fx, swell fx'],
  ['effects', 'impact', 'impact, downlifter, boom, impacts, sub drop, subdrop, bass drop, downer, downers, hit fx, boom fx, drop fx'],
  ['effects', 'sweep', 'sweep'],
  ['effects', 'noise', 'noise, white noise, vinyl, hiss, crackle'],
  ['effects', 'reverse', 'reverse, reverse cym, rev cym, reversed, rvs cym, revcym, rvs, reverse crash, rev crash, reverse vox'],
  ['effects', 'ambience', 'ambience, ambient, audience, aud, crowd, hall, room tone, roomtone, room noise, atmo, ambiance, raumton, ambiences, atmos, atmosphere, field recording, field rec, seagulls, birds, rain, thunder, street, harbour, applause, publikum, public, aud mics, audience mics, crowd mics, waves'],
  ['effects', 'ambience', 'amb', { sure: 0.8 }],
  ['reference', 'mix', 'reference, rough, rough mix, roughmix, 2 mix, 2 trk, 2 track, mixdown, mstr, master, mix, ref mix, mischung, monitor mix, ruff, ruff mix, roughs, premix, pre mix, board mix, desk mix, stereo mix, foh, foh mix, foh rec, mix ref, two mix, two track, instrumental, instr mix, demo mix, mix print, print mix, premaster, rohmix, monmix'],
  ['reference', 'mix', 'ref', { sure: 0.85 }],
  ['reference', 'mix', 'print', { sure: 0.6 }],
  ['reference', 'mix', 'rf', { sure: 0.72 }],
  ['reference', 'mix', 'demo, playback, playbacks, backing track, pb', { sure: 0.75 }],
  ['reference', 'guide', 'guide, gde, scratch, scr vox, guide vox, guide gtr, guide vocal, scratch vox, scratch vocal, pilot, guides, scr, temoin, voix temoin, guia, voz guia, guide track, scratch gtr, scratch guitar, guide guitar, guide piano, gde vox, gde gtr, guidevox, leitspur, vox scr, vox scratch, vox guide, vocal guide, vocal scratch, gtr scratch, gtr scr'],
  ['reference', 'talkback', 'talkback, talk back, slate, smpte, ltc, timecode, time code, md talk, talk, tb mic, talkback mic, talk mic, md mic, cue talk, count in talk, count talk, count off, countoff, chatter, studio chatter, comms, shout mic'],
  ['click', 'click', 'ck', { sure: 0.72 }],
  ['click', 'click', 'click, clk, click track, metronome, metro, metronom, klick, clicks, clicktrack, klik, metronomo, metronome click, claqueta, clic, klick track, clicktrk, clave click'],
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

/** Parts of a family that the words of the trade know, in the order of the table. */
export const partsOf = (family: Family): readonly string[] => [...new Set(ROWS.flatMap(([f, part]) => (f === family && part !== null ? [part] : [])))];

/** Tokens of the longest phrase. */
export const LONGEST_PHRASE = Math.max(...[...WORDS.keys()].map((k) => k.split(' ').length));

/** A table without anything inherited: a name may hold any word. */
const table = <T>(entries: Readonly<Record<string, T>>): Readonly<Record<string, T>> => Object.assign(Object.create(null) as Record<string, T>, entries);

/** Words for sides. */
export const SIDES: Readonly<Record<string, 'left' | 'right'>> = table({
  l: 'left', lft: 'left', sl: 'left', izq: 'left', sx: 'left', lh: 'left', left: 'left', li: 'left', links: 'left', gauche: 'left',
  r: 'right', rgt: 'right', sr: 'right', der: 'right', dx: 'right', rh: 'right', right: 'right', re: 'right', rechts: 'right', droite: 'right',
});

/** Words for microphone places and pick-ups. */
export const POSITIONS: Readonly<Record<string, Position>> = table({
  dentro: 'in', fuera: 'out', fora: 'out', fuori: 'out', arriba: 'top', sopra: 'top', cima: 'top', abajo: 'bottom', sotto: 'bottom', baixo: 'bottom', dessus: 'top', dessous: 'bottom', boven: 'top', onder: 'bottom', binnen: 'in', buiten: 'out', in: 'in', inside: 'in', int: 'in', innen: 'in', beater: 'in', aussen: 'out', resonant: 'out', reso: 'out', out: 'out', outside: 'out', ext: 'out',
  top: 'top', up: 'top', over: 'top', haut: 'top', oben: 'top', bot: 'bottom', btm: 'bottom', bottom: 'bottom', dn: 'bottom', under: 'bottom', bas: 'bottom', unten: 'bottom',
  near: 'near', close: 'close', spot: 'close', nah: 'near', fern: 'far', tree: 'far', far: 'far', hi: 'high', high: 'high', lo: 'low', low: 'low', front: 'front', rear: 'rear',
  di: 'di', line: 'di', direct: 'di', amp: 'amp', amplifier: 'amp', cab: 'amp', verstarker: 'amp', mic: 'mic', mike: 'mic', sub: 'sub', trig: 'trigger', trigger: 'trigger', smp: 'trigger',
  room: 'room', rm: 'room', floor: 'floor', rack: 'rack',
});

/** Words for how a part is used. */
export const ROLES: Readonly<Record<string, string>> = table({
  lead: 'lead', ld: 'lead', doubles: 'double', dbls: 'double', tpl: 'double', solos: 'solo', picked: 'picked', picking: 'picked', rhythm: 'rhythm', rhy: 'rhythm', rtm: 'rhythm', strum: 'rhythm', solo: 'solo', dbl: 'double', double: 'double', dt: 'double', dup: 'double',
  harm: 'harmony', harmony: 'harmony', adlib: 'adlib', clean: 'clean', cln: 'clean', dist: 'distorted', crunch: 'distorted', slide: 'slide', gang: 'gang', rap: 'rap',
});

/** Words that say what was done to a source; the track stays with its source. */
export const TREATMENTS: ReadonlySet<string> = new Set(['verb', 'vrb', 'reverb', 'dly', 'delay', 'echo', 'plate', 'dry', 'wet', 'raw', 'proc', 'comp', 'eq', 'fx', 'print', 'spring', 'hall', 'throw', 'throws', 'crush', 'parallel', 'sat', 'tape', 'gate', 'gated', 'trem', 'wah', 'filtered']);

/** Words without meaning for what a track is. */
export const JUNK: ReadonlySet<string> = new Set([
  'audio', 'track', 'trk', 'spur', 'rec', 'file', 'new', 'neu', 'old', 'alt', 'fix', 'edit', 'cons', 'final', 'ok', 'bounce', 'bounced', 'copy', 'dupe', 'render', 'export', 'stem', 'bip', 'mono', 'st', 'stereo', 'c', 'ctr', 'dub', 'the', 'a', 'of', 'and', 'raw', 'v',
]);

/** Words of a song's form, never an instrument. */
export const SONG_PARTS: ReadonlySet<string> = new Set(['vs', 'vrs', 'verse', 'cho', 'chorus', 'pre', 'brg', 'bridge', 'intro', 'outro', 'refrain', 'hook']);
