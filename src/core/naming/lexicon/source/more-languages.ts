/** Common sources in languages of which the lexicon knows less: Danish and Norwegian, South Slavic, Polish, Czech, Turkish, Finnish. Handbook vocabulary, from memory. */
export const MORE_LANGUAGES = `
drums/kick {band} | no: stortromme, basstromme, bastromme | sh: bas bubanj, bas bubanja | pl: stopa, centrala, bęben basowy | cs: kopák, velký buben, šlapák | tr: kik davul, bas davul | fi: bassorumpu, basari
drums/snare {band} | no: skarptromme, lilletromme | sh: doboš, dobos | pl: werbel | cs: virbl, malý buben, rytmičák | tr: trampet | fi: virveli, pikkurumpu, virvelirumpu
drums/hihat {band} | sh: fus, činele, !kontra, fus činela | pl: hajhet, hi hat | cs: hajtka, hihat | fi: hihat, haitsu
drums/tom {band} | sh: timpan, tomovi, prelaz, prelazi, kotel | pl: tomy, kocioł floor, kocioł, kotły tom, przejście | cs: přechod, přechody | fi: tomit, lattiatomi, räkkitomi
drums/cymbal {band} | no: bekken, cymbaler | sh: činela | pl: talerze, blacha, blachy | cs: činel, činely | tr: zil, ziller | fi: pelti, pellit, symbaali
drums/overhead {band} | no: overheng | sh: overhedi, nadglavni | pl: overy | cs: overheady | fi: overheadit, yläpellit, yläpelti, ylämikit
drums/kit {band} | no: trommer, trommesett, slagtøy | sh: bubanj, bubnjevi, bubnji | pl: bębny, perkusja zestaw | cs: bicí | tr: davul seti, bateri | fi: rummut
drums/room {band} | no: trommerom | pl: pokój bębny | fi: rumpuhuone
percussion/percussion | no: slagverk, perkusjon | sh: perkusije, udaraljke | pl: perkusja, perkusjonalia | cs: perkuse, bicí nástroje | tr: vurmalı, vurmalılar, perküsyon | fi: lyömäsoittimet, perkussiot
percussion/tambourine | no: tamburin | sh: daire, def | pl: tamburyn | cs: tamburína | tr: tef, def, zilli def | fi: tamburiini
percussion/shaker | no: rasle | sh: šejker | pl: szejker, grzechotka | fi: helistin
percussion/clap | no: klapp, håndklapp | sh: pljesak | pl: klaskanie, klaski | cs: tleskání | tr: alkış el | fi: taputus, taputukset
percussion/triangle | pl: trójkąt | cs: triangl | tr: üçgen | fi: triangeli
percussion/timpani {orch} | no: pauker | sh: timpani | pl: kotły | cs: tympány | tr: timpani | fi: patarummut
percussion/darbuka {arab} | xx: darbuka, darabuka, darbouka, dumbek, doumbek, tarabuka | tr: darbuka, dümbelek
percussion/bendir {arab} | tr: bendir | xx: bendir
percussion/cajon | xx: kahon
bass/electric-bass {band} | no: el bass, elbass | sh: bas, bas gitara | pl: bas, gitara basowa | cs: basa, baskytara, basová kytara | tr: bas, bas gitar | fi: basso, bassokitara, basso kitara
bass/double-bass {orch} | no: kontrabass, ståbass | sh: kontrabas, berde, begeš, beges, bas berda | pl: kontrabas | cs: kontrabas | tr: kontrbas | fi: kontrabasso
bass/synth-bass {elec} | sh: sint bas | pl: bas syntezator | fi: syntikkabasso
guitars/guitar {band} | no: gitar, gitarer | sh: gitara, gitare | pl: gitara, gitary | cs: kytara, kytary | tr: gitar, gitarlar | fi: kitara, kitarat
guitars/electric-guitar {band} | no: elgitar, el gitar | sh: električna gitara, el gitara | pl: gitara elektryczna, elektryk | cs: elektrická kytara, el kytara | tr: elektro gitar, elektrik gitar | fi: sähkökitara
guitars/acoustic-guitar {band} | no: kassegitar, akustisk gitar | sh: akustična gitara, akustika | pl: gitara akustyczna, akustyk, gitara klasyczna | cs: akustická kytara, španělka | tr: akustik gitar, klasik gitar | fi: akustinen kitara
guitars/tambura {folk} | sh: tambura, tamburica, tamburice, prim, brač, bugarija, bisernica, čelo tamburica, begeš tambura
guitars/saz {arab} | tr: saz, bağlama, baglama, cura, divan, kopuz | xx: baglama, saz
guitars/oud {arab} | tr: ud | xx: ud
strings/qanun {arab} | tr: kanun | xx: kanun, qanun, kanoun
strings/kemenche {arab} | tr: kemençe, kemence, klasik kemençe, kabak kemane | xx: kemenche, kemence
keys/piano {band} | no: flygel, klaver | sh: klavir | pl: fortepian, pianino | cs: klavír | tr: piyano | fi: flyygeli
keys/electric-piano {band} | no: el piano | pl: pianino elektryczne | fi: sähköpiano
keys/organ {band} | no: orgel | sh: orgulje | pl: organy | cs: varhany | tr: org | fi: urut
keys/keys {band} | no: tangenter | sh: klavijature | pl: klawisze, klawisz | cs: klávesy | tr: klavye | fi: koskettimet
keys/accordion {folk} | no: trekkspill | sh: harmonika, harmonike | pl: akordeon | cs: akordeon, harmonika | tr: akordeon, garmon | fi: haitari, harmonikka
synths/synth {elec} | sh: sintisajzer, sint | pl: syntezator, syntezatory | cs: syntezátor | tr: sint | fi: syntetisaattori, syntikka
strings/strings {orch} | no: strykere | sh: gudači, gudaci | pl: smyczki | cs: smyčce | tr: yaylılar, yaylilar, yaylı | fi: jouset
strings/violin {orch} | no: fiolin, fiolinar, fele | sh: violina, violine | pl: skrzypce | cs: housle | tr: keman, kemanlar | fi: viulu, viulut
strings/viola {orch} | no: bratsj | sh: viola | pl: altówka | cs: viola | fi: alttoviulu
strings/cello {orch} | sh: violončelo, čelo | pl: wiolonczela | cs: violoncello | tr: çello, viyolonsel | fi: sello
strings/harp {orch} | no: harpe | sh: harfa | pl: harfa | cs: harfa | tr: arp | fi: harppu
brass/brass {big} | no: messing, blåsere | sh: duvači, limeni | pl: dęte, blaszane, !blacha, sekcja dęta, dęciaki | cs: žestě, !dechy, dechová sekce, žesťová sekce | tr: bakır nefesliler, bakir | fi: vaskit
brass/trumpet {big} | no: trompet | sh: truba, trube | pl: trąbka, trąbki | cs: trubka, trumpeta | tr: trompet, boru | fi: trumpetti
brass/trombone {big} | no: trombone, basun | sh: trombon | pl: puzon, puzony | cs: pozoun, trombon | tr: trombon | fi: pasuuna
brass/horn {orch} | no: valthorn | sh: rog, horna | pl: waltornia, róg | cs: lesní roh | tr: korno | fi: käyrätorvi
brass/tuba {orch} | xx: helikon, helicon, heligonka bas | sh: bas truba | pl: tuba | fi: tuuba
brass/euphonium {orch} | sh: tenorhorn, tenorhorni, tenor truba
winds/winds {orch} | no: treblåsere, blås | sh: drveni duvači | pl: drewniane, dęte drewniane | cs: dřeva, dechy | tr: nefesliler, nefesli | fi: puupuhaltimet
winds/saxophone {big} | no: saksofon, saks | sh: saksofon, saks | pl: saksofon, saks | cs: saxofon, saxík | tr: saksafon, saksofon, saks | fi: saksofoni
winds/clarinet {orch} | no: klarinett | sh: klarinet | pl: klarnet | cs: klarinet | tr: klarnet, klarinet | fi: klarinetti
winds/flute {orch} | no: fløyte, tverrfløyte | sh: flauta, frula | pl: flet | cs: flétna | tr: flüt, yan flüt | fi: huilu
winds/oboe {orch} | sh: oboa | pl: obój | cs: hoboj | tr: obua | fi: oboe
winds/bassoon {orch} | no: fagott | sh: fagot | pl: fagot | cs: fagot | tr: fagot | fi: fagotti
winds/harmonica {folk} | no: munnspill | sh: usna harmonika | pl: harmonijka, harmonijka ustna | cs: foukací harmonika | tr: mızıka, armonika | fi: huuliharppu
winds/bagpipe {folk} | sh: gajde, gajda | pl: dudy | cs: dudy | tr: gayda, tulum | fi: säkkipilli
winds/zurna {arab} | tr: zurna | sh: zurla, zurle
voice/vocal;open=voice {voice} | no: sang, stemme, vokal | sh: vokal, vokali, !glas, !glasovi, pjevač, pevač, pevanje | pl: wokal, wokale, głos, śpiew | cs: zpěv, hlas | tr: vokal, vokaller, ses, şarkı | fi: laulu, ääni
lead-vocal/vocal;role=lead {voice} | no: hovedvokal, ledevokal, solosang | sh: glavni vokal, vokal glavni, prvi glas | pl: wokal główny, główny wokal | cs: hlavní zpěv, hlavní vokál | tr: ana vokal, solist, solo vokal, assolist | fi: päälaulu
lead-vocal/vocal;role=spoken {speech} | no: tale, fortelle, forteller | sh: govor, narator | pl: mowa, lektor | cs: mluvené slovo | tr: konuşma, anlatıcı | fi: puhe
backing-vocal/vocal {voice} | no: koring, !kor | sh: prateći vokali, prateci vokali, vokal prateci, vokali prateci, prateći vokal, bek vokali, bek vokal | pl: chórki, chorki, wokal wspierający | cs: vokály, sbory | tr: geri vokal, back vokal, arka vokal | fi: taustalaulu, taustat, stemmat
backing-vocal/choir {choir} | no: kor | sh: hor, zbor | pl: chór | cs: sbor | tr: koro | fi: kuoro
mains/audience {live} | no: publikum | sh: publika | pl: publiczność, publika | cs: publikum, diváci | tr: seyirci, izleyici | fi: yleisö
mains/hall {orch} | no: sal | sh: dvorana, sala | pl: sala | cs: sál | tr: salon | fi: sali
effects/effect {elec} | no: effekter, effekt | sh: efekti, efekat | pl: efekty, efekt | cs: efekty | tr: efekt, efektler | fi: efektit, tehosteet
effects/noise {elec} | no: støy | sh: šum | pl: szum | cs: šum | tr: gürültü | fi: kohina
effects/ambience {film} | sh: ambijent | pl: atmosfera, tło | cs: ruchy, atmosféra | tr: ortam | fi: atmosfääri
reference/mix {ref} | no: grovmiks, miks | sh: miks, grubi miks | pl: miks, zgranie | cs: hrubý mix, hrubý mixu | tr: kaba miks, miks | fi: raakamiksaus, miksaus
reference/guide {ref} | no: guide, hjelpespor | sh: vodič, probni vokal | pl: pilot, prowadzący | cs: pilot, nahrubo | tr: kılavuz, rehber | fi: opas, ohjuri
reference/talkback {ref} | no: kommando | sh: komanda | pl: zapowiedź | tr: konuşma hattı | fi: ohjaamo
click/click {ref} | no: klikk, metronom | sh: klik, klik trak, metronom | pl: klik, metronom | cs: klik, metronom | tr: klik, metronom | fi: klikki, metronomi
@side
left | no: venstre | sh: lijevo, levo, lijevi, levi | pl: lewy, lewa, lewo | cs: levý, levá, vlevo | tr: sol taraf, solda | fi: vasen
right | no: høyre, højre | sh: desno, desni | pl: prawy, prawa, prawo | cs: pravý, pravá, vpravo | tr: sağ, sağda | fi: oikea
@position
in | no: inni, inne | sh: unutra | pl: wewnątrz | tr: iç, içi | fi: sisä
out | no: ute, utenfor | sh: vani, spolja | pl: zewnątrz | tr: dış, dışı | fi: ulko
top | no: oppe, over, topp | sh: gore, gornji | pl: góra, górny | cs: nahoře, vrchní | tr: üst, ust | fi: ylä, päällä
bottom | no: under, nede, bunn | sh: dole, donji | pl: dół, dolny | cs: dole, spodní | tr: alt taraf | fi: ala, alla
near | no: nær | sh: blizu | pl: blisko, bliski | cs: blízko | tr: yakın | fi: lähi
far | no: fjern | sh: daleko | pl: daleko, daleki | cs: daleko | tr: uzak | fi: kauko
high | no: høy, høye | sh: visoki, visoko | pl: wysoki, wysokie | cs: vysoký | tr: tiz | fi: korkea
low | no: lav, lave, dyp | sh: niski, duboki | pl: niski, niskie | cs: nízký | tr: pes | fi: matala
room | no: rom | sh: soba, prostor | pl: pokój | cs: místnost | tr: oda | fi: huone
mic | no: mikrofon | sh: mikrofon | pl: mikrofon | cs: mikrofon | tr: mikrofon | fi: mikki, mikrofoni
@role
lead | no: lede | sh: glavni, glavna | pl: główny, główna | cs: hlavní | tr: ana | fi: pää
rhythm | no: komp, rytme | sh: ritam | pl: rytm, rytmiczna | cs: rytmus, doprovod | tr: ritim, ritm | fi: rytmi, komppi
solo | no: solo | sh: solo | pl: solo | cs: sólo | tr: solo | fi: soolo
double | no: dobling, dubbing | sh: dupli, duplirani | pl: dubel, dublowany | cs: dvojitý | tr: çift | fi: tupla
distorted | no: vreng | pl: przester | cs: zkreslený | tr: distorsiyon | fi: särö
clean | no: ren | sh: čist, čista | pl: czysta, czysty | cs: čistá | tr: temiz | fi: puhdas
@section
section | no: vers, refreng, bro, mellomspill | sh: strofa, refren, most | pl: zwrotka, refren, mostek | cs: sloka, refrén, mezihra | tr: nakarat, kıta, köprü | fi: säkeistö, kertosäe, välike
@junk
junk | no: spor, opptak, sang nr | sh: snimak, kanal, pesma, pjesma, traka | pl: ścieżka, nagranie, utwór | cs: stopa, nahrávka, píseň | tr: parça, parca, kayıt, kanal, grup | fi: raita, äänitys, kappale
`;
