import { createRandom } from '../units';
import { type NameReading, readNames, toSafeText } from './index';

/** Deliveries in several habits: name → family and part expected. Invented names, words of the trade (common practice, no source). */
const DELIVERIES: readonly string[] = [
  `01_Kick In.wav drums kick|02_Kick Out.wav drums kick|03_Snr Top.wav drums snare|04_Snr Bot.wav drums snare|05_HH.wav drums hihat|06_Rack Tom.wav drums tom|07_Floor Tom.wav drums tom|08_OH L.wav drums overhead|09_OH R.wav drums overhead|10_Room.wav drums room|11_Tamb.wav percussion tambourine|12_Bass DI.wav bass electric-bass|13_Bass Amp.wav bass electric-bass|14_Egtr L.wav guitars electric-guitar|15_Egtr R.wav guitars electric-guitar|16_Agtr.wav guitars acoustic-guitar|17_Pno.wav keys piano|18_B3.wav keys organ|19_LV.wav lead-vocal vocal|20_LV dbl.wav lead-vocal vocal|21_BV 1.wav backing-vocal vocal|22_BV 2.wav backing-vocal vocal|23_FX riser.wav effects riser|24_Rough Mix.wav reference mix|25_Click.wav click click`,
  `harbour-night_KickDrum_t3.wav drums kick|harbour-night_snareTop57.wav drums snare|harbour-night_hiHat.wav drums hihat|harbour-night_overheadsL.wav drums overhead|harbour-night_overheadsR.wav drums overhead|harbour-night_roomFar.wav drums room|harbour-night_crash.wav drums cymbal|harbour-night_ride.wav drums ride|harbour-night_shaker.wav percussion shaker|harbour-night_congas.wav percussion conga|harbour-night_uprightBass.wav bass double-bass|harbour-night_steelString.wav guitars acoustic-guitar|harbour-night_leadGtr.wav guitars electric-guitar|harbour-night_rhodes.wav keys electric-piano|harbour-night_wurly.wav keys electric-piano|harbour-night_stringSection.wav strings strings|harbour-night_trumpet1.wav brass trumpet|harbour-night_trumpet2.wav brass trumpet|harbour-night_tenorSax.wav winds saxophone|harbour-night_leadVox.wav lead-vocal vocal|harbour-night_backingVox.wav backing-vocal vocal|harbour-night_choir.wav backing-vocal choir|harbour-night_talkback.wav reference talkback|harbour-night_audience.wav mains audience`,
  `Grosse Caisse.wav drums kick|Caisse claire haut.wav drums snare|Charley.wav drums hihat|Standtom.wav drums tom|Schellenkranz.wav percussion tambourine|Basse.wav bass electric-bass|Kontrabass.wav bass double-bass|Gitarre links.wav guitars guitar|Gitarre rechts.wav guitars guitar|Akkordeon.wav keys accordion|Klavier.wav keys piano|Orgel.wav keys organ|Geige.wav strings violin|Bratsche.wav strings viola|Posaune.wav brass trombone|Klarinette.wav winds clarinet|Gesang.wav lead-vocal vocal|Chor.wav backing-vocal choir|Mischung.wav reference mix|Metronom.wav click click|Ambiance.wav effects ambience`,
  `BD drums kick|SN drums snare|SD btm drums snare|HH drums hihat|T1 drums tom|T2 drums tom|FT drums tom|OH drums overhead|RM drums room|CYM drums cymbal|PERC percussion percussion|BS bass electric-bass|SYNBASS bass synth-bass|GTR 1 guitars guitar|GTR 2 guitars guitar|AC GTR guitars acoustic-guitar|PNO keys piano|EP keys electric-piano|ORG keys organ|SYN PAD synths pad|STR strings strings|TPT brass trumpet|TBN brass trombone|SAX winds saxophone|LD VOX lead-vocal vocal|BGV backing-vocal vocal|VOX HARM backing-vocal vocal|REF reference mix|CLK click click`,
  `Cajón.wav percussion cajon|Bongos 01.wav percussion bongo|Djembe.wav percussion djembe|Hand Claps.wav percussion clap|Cowbell.wav percussion cowbell|Triangle.wav percussion triangle|Woodblock.wav percussion woodblock|Timpani.wav percussion timpani|Glockenspiel.wav percussion glockenspiel|Steel Drum.wav percussion steel-drum|Claves.wav percussion clave|Wind Chimes.wav percussion chimes|Bodhran.wav percussion bodhran`,
  `Ukulele.wav guitars ukulele|Mandolin 2.wav guitars mandolin|Tenor Banjo.wav guitars banjo|Pedal Steel.wav guitars pedal-steel|Lap Steel.wav guitars lap-steel|Dobro.wav guitars dobro|Nylon Gtr.wav guitars acoustic-guitar|12 String.wav guitars acoustic-guitar|Slide Guitar.wav guitars electric-guitar|Bouzouki.wav guitars bouzouki`,
  `Concertina L.wav keys concertina|Concertina R.wav keys concertina|Harmonium.wav keys harmonium|Clavinet.wav keys clavinet|Harpsichord.wav keys harpsichord|Celesta.wav keys celesta|Keys.wav keys keys|Synth Lead.wav synths synth-lead|Arp.wav synths arp|Pluck.wav synths pluck|Poly Synth.wav synths synth`,
  `Violin 1.wav strings violin|Violin 2.wav strings violin|Viola.wav strings viola|Cello.wav strings cello|Fiddle.wav strings violin|Horn 1.wav brass horn|Horn 2.wav brass horn|Tuba.wav brass tuba|Flugelhorn.wav brass flugelhorn|Brass.wav brass brass|Flute.wav winds flute|Oboe.wav winds oboe|Bassoon.wav winds bassoon|Tin Whistle.wav winds whistle|Recorder.wav winds recorder|Blues Harp.wav winds harmonica`,
  `Main Vocal.wav lead-vocal vocal|Vox Double.wav lead-vocal vocal|Ad Libs.wav lead-vocal vocal|Rap.wav lead-vocal vocal|Spoken.wav lead-vocal vocal|Gang Vox.wav backing-vocal vocal|Harmony hi.wav backing-vocal vocal|Guide Vox.wav reference guide|Scratch Gtr.wav reference guide|Impact.wav effects impact|Noise sweep.wav effects sweep|Reverse cym.wav effects reverse|Drum Loop.wav drums loop|Kick verb.wav drums kick|Snare room.wav drums snare`,
];

const cases = DELIVERIES.map((d) =>
  d.split('|').map((c) => {
    const parts = c.split(' ');
    return {
      name: parts.slice(0, -2).join(' '),
      family: parts.at(-2) as string,
      part: parts.at(-1) as string,
    };
  }),
);

describe('families and parts', () => {
  const all = cases.flatMap((delivery) =>
    readNames(delivery.map((c) => c.name)).map((r, i) => ({
      r,
      want: delivery[i] as (typeof delivery)[number],
    })),
  );
  it('knows the family of at least 95 % of 150 or more names', () => {
    expect(all.length).toBeGreaterThanOrEqual(150);
    const wrong = all
      .filter((x) => x.r.family !== x.want.family)
      .map((x) => `${x.want.name}: ${x.r.family}, not ${x.want.family}`);
    expect(wrong.length / all.length).toBeLessThanOrEqual(0.05);
    expect(wrong).toEqual([]);
  });
  it('knows the part as well', () => {
    expect(
      all
        .filter((x) => x.r.part !== x.want.part)
        .map((x) => `${x.want.name}: ${x.r.part}, not ${x.want.part}`),
    ).toEqual([]);
  });
  it('is sure where it may be: at least nine in ten', () => {
    expect(all.filter((x) => x.r.confidence >= 0.7).length / all.length).toBeGreaterThan(0.9);
  });
  it('says of a name it cannot read only what its pieces could mean', () => {
    const { family, evidence } = readNames(['rec0011 t2.wav', 'Kick', 'Snare', 'OH L'])[0] as NameReading;
    expect(family).toBe('unknown');
    const means = evidence.map((e) => e.means);
    expect(means).toContainEqual(expect.stringMatching(/^could mean .*tom/));
    expect(means.filter((m) => /^drums/.test(m))).toEqual([]);
  });
  it('reads the open hat of a drum machine beside its closed one, and pairs by their last letter', () => {
    const kinds = (...names: string[]): (string | null)[] => readNames(names).map((r) => r.part);
    expect(kinds('BoxA out1 BD', 'BoxA out2 OH', 'BoxA out3 CH', 'BoxA out4 CP')).toEqual([
      'kick',
      'hihat',
      'hihat',
      'clap',
    ]);
    expect(kinds('BD', 'SN', 'OH', 'HH')[2]).toBe('overhead');
    expect(readNames(['ShakeL.wav', 'ShakeR.wav', 'Kick.wav']).map((r) => r.side ?? null)).toEqual([
      'left',
      'right',
      null,
    ]);
  });
  it('is sure of a name that is one word with one meaning', () => {
    const names = [
      'LV.wav',
      'KICK in_03.wav',
      'Sn top.wav',
      'OH_L.wav',
      'OH_R.wav',
      'Bass DI.wav',
      'rec0011 t2.wav',
    ];
    expect(first(...names)).toMatchObject({ family: 'lead-vocal', part: 'vocal' });
    expect(first(...names).confidence).toBeGreaterThanOrEqual(0.7);
  });
  it('gives evidence for every conclusion', () => {
    for (const { r } of all) expect(r.evidence.length).toBeGreaterThan(0);
  });
});

/** First name of a delivery, read in the company of the others. */
const first = (...names: string[]) => readNames(names)[0] as ReturnType<typeof readNames>[number];
const kind = (...names: string[]): string => {
  const r = first(...names);
  return `${r.family} ${r.part ?? '-'}`;
};
const KIT = ['Kick', 'Snare', 'OH L'];

describe('words that mean different things in different company', () => {
  it.each<[string, string, string[]]>([
    ['Tom beside Tom 2', 'drums tom', ['Tom 1', 'Tom 2']],
    ['Tom with a voice is a player', 'lead-vocal vocal', ['Tom Vox', ...KIT]],
    ['Tom with a guitar is a player', 'guitars guitar', ['Tom Gtr', ...KIT]],
    ['Bass Drum is no bass', 'drums kick', ['Bass Drum']],
    ['Bass is one', 'bass electric-bass', ['Bass']],
    ['Vox Gtr: the last names the source', 'guitars guitar', ['Vox Gtr']],
    ['Gtr Vox: the last names the source', 'lead-vocal vocal', ['Gtr Vox']],
    ['Keys', 'keys keys', ['Keys']],
    ['Key of G is none', 'unknown -', ['Key of G']],
    ['Hat', 'drums hihat', ['Hat']],
    ['OD with a guitar: overdrive', 'guitars electric-guitar', ['Gtr OD']],
    ['OD with a voice: overdub', 'lead-vocal vocal', ['LV OD 2']],
    ['BD', 'drums kick', ['BD']],
    ['DB', 'bass double-bass', ['DB di']],
    ['3dB is no bass', 'drums snare', ['Snare -3dB', ...KIT]],
    ['SN', 'drums snare', ['SN top']],
    ['SD', 'drums snare', ['SD']],
    ['FT among drums', 'drums tom', ['FT', ...KIT]],
    ['feat.', 'lead-vocal vocal', ['LV ft Marla']],
    ['RT alone among drums', 'drums tom', ['RT', ...KIT]],
    ['RT as a side', 'drums overhead', ['OH RT']],
    ['HT alone', 'drums hihat', ['HT', ...KIT]],
    ['HT beside a hat', 'drums tom', ['HT', 'HH', ...KIT]],
    ['T1 among drums', 'drums tom', ['T1', 'T2', ...KIT]],
    ['T1 as a take', 'bass electric-bass', ['Bass T1']],
    ['CB among percussion', 'percussion cowbell', ['CB', 'Congas', ...KIT]],
    ['CB among strings', 'bass double-bass', ['CB', 'Violin', 'Cello']],
    ['BG with others', 'backing-vocal vocal', ['BG 1', 'BG 2', 'Bass']],
    ['BG once in a band without a bass', 'bass electric-bass', ['BG', ...KIT, 'Gtr']],
    ['SUB with a kick', 'drums kick', ['Kick Sub']],
    ['SUB with a bass', 'bass synth-bass', ['Sub Bass']],
    ['SUB of the drums', 'drums kit', ['Drum Sub']],
    ['AC', 'guitars acoustic-guitar', ['AC']],
    ['EP', 'keys electric-piano', ['EP']],
    ['ACC alone', 'keys accordion', ['ACC']],
    ['ACC with a guitar', 'guitars acoustic-guitar', ['Acc Gtr']],
    ['TB', 'reference talkback', ['TB', ...KIT]],
    ['TB among brass', 'brass trombone', ['TB', 'Trumpet', 'Horn']],
    ['TC', 'reference talkback', ['TC']],
    ['HARP among strings', 'strings harp', ['Harp', 'Violin', 'Flute']],
    ['HARP of the blues', 'winds harmonica', ['Blues Harp', ...KIT]],
    ['CH as a channel', 'drums kick', ['Kick CH 4']],
    ['CH as a chorus', 'lead-vocal vocal', ['LV ch']],
    ['DRUM LOOP is no microphone', 'drums loop', ['Drum Loop']],
    ['PAD of a synth', 'synths pad', ['Pad']],
    ['PAD of the drums', 'drums kit', ['Drum Pad']],
    ['LEAD alone', 'lead-vocal vocal', ['Lead']],
    ['LEAD guitar', 'guitars electric-guitar', ['Lead Gtr']],
    ['LEAD synth', 'synths synth-lead', ['Lead Syn']],
    ['ROOM of the drums', 'drums room', ['Room', ...KIT]],
    ['ROOM of a voice', 'lead-vocal vocal', ['LV Room']],
    ['ROOM without drums', 'mains hall', ['Room', 'Gtr', 'LV']],
    ['BUS of the drums', 'drums kit', ['Drum Bus', ...KIT]],
  ])('%s', (_what, want, names) => expect(kind(...names)).toBe(want));

  it('letters that resemble nothing do not make a guess unknown', () => {
    const read = first('cncrtna l.wav', 'Kick', 'OH L', 'fiddle tune B');
    expect([read.family, read.part]).toEqual(['keys', 'concertina']);
    expect(read.confidence).toBeLessThan(0.7);
  });
  it('Chat is no hat', () => expect(first('Chat').confidence).toBeLessThan(0.5));
  it('admits doubt where a word could mean something else', () => {
    for (const names of [
      ['Vox Gtr'],
      ['HT', ...KIT],
      ['CB'],
      ['ACC'],
      ['Lead'],
      ['Tom'],
      ['Harp'],
      ['Key'],
      ['Sub'],
      ['BG', ...KIT, 'Gtr'],
    ])
      expect(first(...names).confidence).toBeLessThan(0.7);
  });
  it('takes umlauts in both Unicode forms alike', () => {
    expect(kind('Flöte'.normalize('NFD'))).toBe(kind('Flöte'.normalize('NFC')));
  });
});

describe('places, sides, numbers, takes', () => {
  it.each([
    ['KICK in_03.wav', { position: 'in', take: 3, number: null }],
    ['OH_L_03.wav', { side: 'left', take: 3 }],
    ['Gitarre re 2.wav', { side: 'right', number: 2 }],
    ['Sn top (57)_03.wav', { position: 'top', number: null }],
    ['hn2 slip.take4.wav', { number: 2, take: 4 }],
    ['bassDiEdit3.wav', { position: 'di', number: null }],
    ['07 Tom 2.wav', { number: 2 }],
    ['BV_t4-bounce.WAV', { take: 4, number: null }],
  ])('%s', (name, want) => expect(first(name)).toMatchObject(want));
  it('learns nothing from a name without meaning', () =>
    expect(first('rec0011 t2.wav', ...KIT)).toMatchObject({
      family: 'unknown',
      part: null,
      take: 2,
    }));
  it('leaves out what all names share', () =>
    expect(
      readNames(['Piano Song - Kick', 'Piano Song - Snare', 'Piano Song - Vox']).map((r) => r.part),
    ).toEqual(['kick', 'snare', 'vocal']));
  it('takes the only voice as lead, and doubts when there are more', () => {
    expect(first('Vox.wav', 'Kick', 'Bass').confidence).toBeGreaterThanOrEqual(0.7);
    expect(first('Vox.wav', 'Vox 2.wav').confidence).toBeLessThan(0.7);
  });
});

describe('display', () => {
  it('reads places', () => {
    expect(first('DB di bright')).toMatchObject({ position: 'di' });
  });
  it('makes any name safe to show: control characters, overrides, 300 characters, emoji (seed 4)', () => {
    expect(toSafeText('a\u0000b\u202ec\n\td')).toBe('a b c d');
    expect(Array.from(toSafeText('🎺'.repeat(300)))).toHaveLength(200);
    const random = createRandom(4);
    for (let i = 0; i < 3000; i++) {
      const name = Array.from({ length: Math.floor(random() * 40) }, () =>
        String.fromCodePoint(Math.floor(random() * 0x2fff)),
      ).join('');
      const [r] = readNames([name]);
      expect(r?.confidence).toBeGreaterThan(0);
    }
  });
});

it('what only looks like another source says nothing of how the first is used', () => {
  const names = ['hn1 slip.take4.wav', 'hn2 slip.take4.wav', 'hand drum dub2.wav', 'Kick.wav'];
  expect(readNames(names).map((r) => [r.part, r.role])).toEqual([
    ['horn', null],
    ['horn', null],
    ['hand-drum', 'double'],
    ['kick', null],
  ]);
});

it('words that every object inherits are words like others', () => {
  const [kick, alone] = readNames(['Kick constructor toString.wav', '__proto__ hasOwnProperty.wav']);
  expect(kick).toMatchObject({ family: 'drums', part: 'kick', side: null, position: null, role: null });
  expect(alone).toMatchObject({ side: null, role: null });
  expect(alone?.confidence).toBeLessThan(0.7);
});

describe('what a delivery writes short', () => {
  const read = (...names: string[]) =>
    readNames(names).map((r) =>
      [r.family, r.part, r.position, r.side, r.number].map((x) => x ?? '').join(' '),
    );

  it('rate, depth, tempo and key are no numbers of an instrument', () => {
    for (const name of [
      'Kick 48k 24b',
      'Kick_24bit_48kHz',
      'Kick 16-44',
      'Kick 44.1',
      'Kick 44k1',
      'Kick 24-bit 96 kHz',
      'Kick 12 bpm120'.replace('12 ', ''),
      'Kick F#m',
      'Kick Bb minor 104.5bpm',
    ])
      expect([name, read(name)[0]?.trimEnd()]).toEqual([name, 'drums kick']);
    // A number beside them still is one.
    expect(read('Tom 2 24bit 48k', 'Tom 1 24bit 48k')).toEqual(['drums tom   2', 'drums tom   1']);
    // What is nothing but a claim is no empty name.
    expect(readNames(['48k.wav', '24bit.wav']).map((r) => r.family)).toEqual(['unknown', 'unknown']);
  });

  it('a letter behind a drum is the place of its microphone', () => {
    expect(read('SD t', 'SD b', 'BD i', 'BD o')).toEqual([
      'drums snare top  ',
      'drums snare bottom  ',
      'drums kick in  ',
      'drums kick out  ',
    ]);
    expect(read('BD', 'ST', 'SB', 'HH')).toEqual([
      'drums kick   ',
      'drums snare top  ',
      'drums snare bottom  ',
      'drums hihat   ',
    ]);
    // Without its companion it is doubtful, among other things nothing.
    expect(readNames(['Kick', 'HH', 'SB']).at(-1)?.confidence).toBeLessThan(0.7);
    expect(readNames(['Violin 1', 'Viola', 'ST']).at(-1)).not.toMatchObject({ family: 'drums' });
  });

  it('a word of the song’s title is no instrument', () => {
    const song = ['Kick', 'Bass', 'Vox', 'Organ'].map((n) => `Guitar Weather - ${n}`);
    expect(read(...song).map((r) => r.split(' ')[1])).toEqual(['kick', 'electric-bass', 'vocal', 'organ']);
    // Words of the trade alone are no title, and neither is what leaves nothing behind.
    expect(read('Vox Harm 1', 'Vox Harm 2', 'Vox Harm 3', 'Vox Harm 4')[0]).toContain('vocal vocal');
    expect(read('Choir Night 1', 'Choir Night 2', 'Choir Night 3', 'Choir Night 4')[0]).toContain('choir');
    for (const [word, is] of [
      ['Gtr', 'guitars'],
      ['BV', 'backing-vocal'],
      ['Take 3 Snare', 'drums'],
    ] as const)
      expect(
        new Set(
          read(...Array.from({ length: 12 }, (_, i) => `${word} ${i + 1}.wav`)).map((r) => r.split(' ')[0]),
        ),
      ).toEqual(new Set([is]));
  });
});
