/** Drums and percussion. Common practice, no source; written as docs/names.md says. */
export const DRUMS_AND_PERCUSSION = `
drums/kick {band} | xx: kick, kik, kck, kic, kdr, kicks, kickdrum, kick drum, bass drum, bassdrum, !bd, !kd, ?k, kd drum, kk, bdr, bdrum, bass drm, bassdrm, bs drm, b drum, bass drums, !thump, kick thump | de: !Grosse Trommel, Basstrommel, Fusstrommel | es: bombo, bombo bateria | fr: grosse caisse, !gc, grosse-caisse, !pied | it: cassa, grancassa, gran cassa, cassa batteria | pt: bumbo, bumbo bateria | nl: basdrum, bassdrum, grote trom, bas drum | sv: bastrumma, baskagge, kagge, kicktrumma
drums/kick;position=in {band} | xx: kick in, kik in, k in, kin, bd in, kickin, kick inside, kick beater, kick batter, kick click, beater, kd in, kick innen, ?ki
drums/kick;position=out {band} | xx: kick out, kik out, k out, kout, bd out, kickout, kick outside, kick reso, kick front, kick hole, kick port, kick resonant, kd out, kick shell, ?ko
drums/kick;position=sub {band} | xx: sub kick, subkick, kick sub, ksub, k sub, kicksub, bd sub, speaker kick, kick speaker
drums/kick;position=trigger {band} | xx: kick trig, ktrig, kick trigger, kick smp, kick sample, kick spl, kick samp, bd trig, kick one shot, ktrg
percussion/bass-drum {orch} | xx: !bass drum, !bassdrum, !bd, orchestral bass drum, concert bass drum, orch bass drum, orch bd, concert bd, symphonic bass drum | de: Grosse Trommel, gr tr, grtr, gr trommel, Konzerttrommel | fr: grosse caisse d orchestre, !grosse caisse, !gc | it: !gran cassa, !grancassa, cassa sinfonica, !gr cassa | es: bombo sinfonico, bombo de concierto, bombo legüero, bombo leguero | pt: bumbo sinfonico | nl: !grote trom | sv: orkesterbastrumma
percussion/surdo {latin} | xx: surdo, surdos, surdo primeira, surdo segunda, surdo terceira, surdu | pt: surdo de terceira
drums/snare {band} | xx: snare, snr, sna, snre, snare drum, snaredrum, !sn, !sd, snares, sdr, snar, sdrum, piccolo snare, snare 2, marching snare, snare roll, snr drum, snare march, field drum, military drum, ?s | de: kleine Trommel, Snaretrommel, Wirbeltrommel, Rührtrommel, kl Trommel, kl tr | fr: caisse claire, !cc, tambour militaire, !caisse | es: caja, redoblante, tarola, caja clara, tambor militar | it: rullante, cassa chiara, tamburo rullante, tamburo, !rullo | pt: caixa, caixa clara, tarol | nl: kleine trom, snaartrom | sv: virveltrumma, virvel
drums/snare;position=top {band} | xx: snare top, snr top, sn top, sntop, snt, sd top, sn up, snare up, snare over, snaretop, snare oben, stop, ?st | de: Snare oben | es: caja arriba, caja top | fr: cc dessus, caisse claire dessus | it: rullante sopra | pt: caixa cima, caixa top, caixa pele | sv: virvel topp
drums/snare;position=bottom {band} | xx: snare bottom, snare bot, snare btm, snr btm, sn bot, sn btm, snb, sd bot, sn dn, snare under, snare bttm, snare btom, sn under, sbot, snare wires, ?sb, ?su | de: Snare unten, Snareteppich, Snare Teppich | es: caja abajo, bordonera, caja bordona | fr: cc dessous, caisse claire dessous, timbre | it: rullante sotto, cordiera | pt: caixa baixo, esteira, caixa esteira | nl: snare onder | sv: virvel botten
drums/snare;position=side {band} | xx: snare side, snare shell, sn side, snare port
drums/snare;position=trigger {band} | xx: snare trig, sn trig, snare smp, snare sample, snr smp, snare samp, snr trig, sntrig, snare spl
drums/snare {band} | xx: sidestick, side stick, side stk, sidestk, sstick, s stick, xstick, x stick, cross stick, crossstick, !rim, rimshot, rim shot, rim click, rimclick, xstk, brushes, snare brushes, snare ghost, ghost snare, e snare, snare rim, snare fx, flam, snare flam | es: aro, golpe de aro | de: Besen, Rand
drums/hihat {band} | xx: hihat, hi hat, hi hats, hihats, hat, hats, hh, !ht, highhat, high hat, hhat, ohh, hh open, open hat, chh, hh closed, closed hat, hh pedal, hat ped, pedal hat, ohat, hi hat closed, hi hat open, hhc, hho, hats closed, hats open, hat loop, phh, hihat foot, foot hat, hi h, hht, hhs, ?h | de: Hihat, Hi-Hat | fr: charley, charleston, charlé, !ch, charl | es: contratiempo, charles, contra tiempos, jaijat | it: charleston, ciarli, charli | pt: chimbal, contratempo, prato de choque, xipo, ximbal, chimbau | nl: hihat | sv: hihat, hi hatt
drums/tom {band} | xx: !tom, toms, !tm, !t1, !t2, !t3, !t4, tom tom, tomtom, tomtoms, tt, concert tom, roto tom, rototom, rototoms, concert toms, tm hi, tm lo, octoban, octobans, gong tom | de: Tomtom | es: tones, timbal de aire | fr: tom alto, tom medium, tom aigu | it: tom timpano | pt: tom aereo, tons | nl: hangtom | sv: hängpuka, hängpukor, !puka, !pukor
drums/tom;position=rack {band} | xx: rack tom, rack toms, rack, !rk, rtom, !rt, racktom, tom rack, rack t, ?tr | de: Hängetom, Hänge, Haengetom | es: tom aereo, tom de aire | pt: tom aereo
drums/tom;position=high {band} | xx: !ht, high tom, hi tom, hitom, tom hi, tom high
drums/tom;position=mid {band} | xx: !mt, mid tom, midtom, tom mid
drums/tom;position=low {band} | xx: !lt, low tom, lo tom, lotom, tom lo, tom low
drums/tom;position=floor {band} | xx: floor tom, !floor, !flr, !fl, flt tom, flr tom, fltom, !ft, tom floor, floortom, floor t, ftom, flrtom, fl tom, flor tom, tom flr, floors, ?tf | de: Standtom, Stand Tom, !Stand, Stand 1, Stand 2 | es: tom de piso, goliat, tom piso, timbal base, goliath, piso, tom base, timbal | fr: tom basse, tom bass | it: !timpano, timpano batteria, tom a terra | pt: surdo bateria, tom de chao, tom chao | nl: vloertom, staande tom | sv: golvpuka, golvtom
drums/overhead {band} | xx: overheads, overhead, over heads, ohs, oh, ovh, ovhd, overhd, over head, ovhds, ovrhd, ovrhds, o h, ohead, oheads, drum overheads, dr oh, drum oh, kit oh, overs, cymbal mics, oh mono, mono oh, cymbal overhead, ovheads, ohd | de: Overhead, Overheads, Ueberkopf | es: aereos, aéreos, aereo, over | fr: aériens, aerien, overs, ciel, ciels | it: panoramici, panoramico, pano, panor, pan oh, overhead | pt: overs, aéreos bateria
drums/overhead;side=left {band} | xx: ?ol
drums/overhead;side=right {band} | xx: ?or
drums/ride {band} | xx: ride, ride bell, ride cym, ride cymbal, !rd, rde, rides, ride bow | de: Ridebecken | es: plato ride | it: piatto ride | pt: prato conduçao, condução | fr: cymbale ride
drums/cymbal {band} | xx: cym, cymb, cymbals, crash, !cr, china, splash, crash cymbal, crashes, cymbal, cyms, crsh, crash cym, china cymbal, splash cymbal, cym swell, !cymbal roll, crash 1, !stack, effect cymbal, cymb swell, chinas, crashs, hi cym, crash ride | de: Becken, Crashbecken, Chinabecken | es: platillos, platos, plato, crash plato | fr: cymbales, cymbale | it: piatti, piatto | pt: pratos, prato, ataque | nl: bekkens, bekken | sv: cymbal, cymbaler
percussion/cymbal {orch} | xx: !cymbals, !cym, suspended cymbal, susp cym, sus cym, suscym, piatti sospeso, sus cymbal, suspended cym, crash cymbals, clash cymbals, hand cymbals, susp cymbal, piatti a due, finger cymbals, finger cymbal, ztg, zils, antique cymbals, zill | de: hängendes Becken, Beckenpaar, Zimbeln | fr: cymbale suspendue, cymbales frappées, crotale | it: piatto sospeso | es: platillo suspendido, crotalos, chinchines, platillos de choque
drums/room {band} | xx: drum room, dr room, drm room, drums room, drumroom, kit room, crush mic, crush, trash mic, dirt mic, knee mic, front of kit, fok, drum crush, smash mic, !smash, drum smash, hallway mic, drum ambience, drum amb, dr amb, drum far, drum hall, wurst mic, crotch mic, crotch, drum mono room, drum mono, mono drum, kit mono, trashy room, room crush, room smash, krm, drum rm, dr rm, drums amb, drum rooms, drum overall | de: Drumraum, Schlagzeugraum, Drum Raum | es: ambiente bateria, sala bateria, room bateria | fr: ambiance batterie, room batterie | it: ambiente batteria, stanza batteria | pt: ambiente bateria, sala bateria | sv: trumrum
drums/room;open=room {band} | xx: !room, !rooms, !rm, !rms, !room mic, !room mics, !room mono, !mono room, !rm mono, !rooms far, !rm close, !far room, !stairwell, !stairs, !hallway, !corridor, !bathroom, !garage, !kitchen, !chamber room, !knee, !lobby, !booth room, !basement | de: !Treppenhaus, !Flur, !Keller, !Raum, !Raummikro, !Räume, !Raummikrofon | es: !sala, !ambiente, !ambientes, !cuarto | fr: !piece, !salle | it: !stanza, !ambiente | pt: !sala, !ambiencia | nl: !ruimte, !kamer | sv: !rum, !rumsmick
drums/kit {band} | xx: drums, drum, drm, drms, !dr, drum kit, !kit, drum set, drumset, drumkit, drs, drum bus, drums bus, drum sub, drum mix, drum stem, edrums, e drums, elec drums, electronic drums, drum machine, !drum pad, pads drums, trap set, drum kit mic, kit mic, kit, cocktail kit, drum sum, drm bus, drumz, drum fill, fills, drum fills, drum st, drum stereo, drum group, top kick, power kit, room kit, jazz kit, brush kit, analog kit, standard kit | de: Schlagzeug, Schlgz, Schlzg, Drums, Trommeln | es: batería, bateria, bata, bater | fr: batterie, batt | it: batteria, batt | pt: bateria, batera | nl: drumstel, slagwerkset, drums | sv: trummor, trumset, trumma, trummset
drums/room;side=left {band} | xx: ?rl
drums/room;side=right {band} | xx: ?rr
drums/loop {elec} | xx: drum loop, !loop, !loops, !beat, beats, breakbeat, drum break, breaks, beat loop, top loop, toploop, tops, amen, groove loop, break loop, drm loop, drumloop, drum lp, break beat, trap beat, perc drum loop, rhythm loop, drum groove, beat 1 | de: Drumloop | fr: boucle, boucle batterie | es: bucle bateria, ritmo | pt: loop bateria, batida
drums/kick {elec} | xx: 909 kick, 808 kick, kick 808, kick punch, kick layer, kick low, kick top, sub kick smp, kick fx, gated kick, kick dist, kck 2
drums/snare {elec} | xx: 808 snare, snare clap, 909 snare, snare layer, snare roll, snare build, snr roll, clap snare, snare reverse
percussion/percussion {latin} | xx: perc, !pc, prc, percussion, percs, percussions, auxperc, aux perc, aux percussion, perc bus, prcs, perc loop, percussion loop, perk, toys, hand percussion, hand perc, perc misc, latin perc, orch perc, percussion ensemble, misc perc, percuss, pcs, ethnic perc, world perc, aux prc, perc hi, perc lo, perc kit, orchestral percussion, hit perc, small perc, metals, skins, !woods | de: Perkussion, Schlagwerk, Schlw, Percs, Kleinperkussion | es: percusión, percu, percusiones, percus, percusion menor | fr: percussion, percus, percu, percussions, petites percussions | it: percussioni, perc, percussione | pt: percussão, percussao, percussões, percurssao | nl: slagwerk, percussie, slagw | sv: slagverk, perkussion, slagv
percussion/hand-drum {latin} | xx: hand drum, hand drums, handdrum, hand drm | de: Handtrommel, Handtrommeln | sv: handtrumma | nl: handtrom
percussion/shaker {latin} | xx: shaker, shakers, shk, shkr, egg shaker, !egg, eggs, shake, shkrs, shakr, shaker loop, shaka, shker, soft shaker, caxixi shaker, rattle, rattles, shakers loop | de: Rassel, Schüttelrohr, Rasseln, Schüttelei | es: sonajero, shaker, sonaja | fr: œuf, oeuf, shaker, hochet | it: ovetto, sonaglio | pt: chocalho, ovinho, caxixi, chocalhos | nl: schudei, schudbuis | sv: skakare, äggskakare, shakerägg
percussion/maraca {latin} | xx: maraca, maracas, mrcs, marac | de: Rumbakugeln, Maracas
percussion/cabasa {latin} | xx: cabasa, afuche, cabaza, afoxe, afoxé, axatse | pt: xequerê, xequere, agbê, agbe
percussion/shekere {latin} | xx: shekere, sekere, chekere, shakere
percussion/caxixi {latin} | xx: caxixi, caxixis
percussion/ganza {latin} | xx: ganza, ganzá, ganzas
percussion/tambourine {band} | xx: tambourine, tamb, tambo, tmb, !tam, tambourines, tambs, tamborine, tambourin, hh tamb, tambo loop, jingle ring, tmbrn, tambrn | de: Schellenkranz, Schellenring, Tamburin, Schellentrommel | es: pandereta, panderetas | fr: tambour de basque, tambourin | it: tamburello, cembalo a sonagli, tamburo basco | pt: pandeireta, pandeirola, meia lua | nl: tamboerijn | sv: tamburin
percussion/pandeiro {latin} | xx: pandeiro, pandeiros, pandero
percussion/riq {arab} | xx: riq, riqq, req, rik, reque, riqs
percussion/clap {band} | xx: clap, claps, clp, hand clap, handclap, hand claps, handclaps, clps, group clap, gang clap, gang claps, clap layer, clap loop, 808 clap, 909 clap, clap snap, stomp clap, clapping | de: Klatschen, Klatscher, Händeklatschen, Haendeklatschen | es: palmas, palmada, aplauso palmas | fr: claps, claquement, clappements, mains, claquement de mains | it: battimani, mani | pt: palmas, palma | nl: handgeklap, klap, klappen | sv: handklapp, klapp, handklappningar
percussion/snap {band} | xx: snap, snaps, finger snap, finger snaps, fingersnap, fingersnaps, fingersnips, !click fingers, snp, snps | de: Schnipsen, Fingerschnipsen, Schnipser | es: chasquidos, chasquido | fr: claquements de doigts, doigts | it: schiocchi, schiocco dita | pt: estalos, estalo de dedos | nl: vingerknip, knippen | sv: fingerknäpp, knäpp
percussion/stomp {band} | xx: stomp, stomps, foot stomp, footstomp, stomp box, stompbox, feet, foot stomps, boot stomp, kick stomp, stmp, foot tap, foot | de: Stampfen, Stampfer, Fussstampfer | fr: pieds, stomp pied, podorythmie | es: zapateado, pisotones | pt: pisada | it: piede, battito piede | sv: stamp | nl: stampen, gestamp
percussion/tap {folk} | xx: tap dance, taps, tap shoes, clogs, step dance, clogging
percussion/conga {latin} | xx: conga, congas, cga, cgas, cng, conga lo, conga hi, conga mute, mute hi conga, open hi conga, low conga, quinto conga, tumbadora, tumbadoras, tumba, tumbao, quinto, conga slap, cnga, kongas, conga loop, super tumba | de: Konga, Kongas
percussion/bongo {latin} | xx: bongo, bongos, bng, bngs, hi bongo, low bongo, bongo bell hi, bongoes, bongó
percussion/timbale {latin} | xx: timbale, timbales, tmbl, timbales hi, timbs, high timbale, low timbale, pailas, paila, timbal cubano, timbalitos, timbale fill, timbali latini, cascara, cáscara, timbal macho, timbal hembra, timbal agudo, timbal grave, macho hembra, timbales macho
percussion/timbal {latin} | pt: timbau, !timbal
percussion/djembe {latin} | xx: djembe, djembes, djm, jembe, djembé, djembés, djemb, djemba, jenbe, dejembe
percussion/dunun {latin} | xx: dunun, dununs, doundoun, doundouns, djun djun, djundjun, dundun, dundunba, doundounba, sangban, kenkeni, dununba, dun dun
percussion/talking-drum {latin} | xx: talking drum, tama, talking drums, gangan, dondo, kalangu, talk drum
percussion/sabar {latin} | xx: sabar, sabars, nder, sabar ensemble, thiol, mbung mbung
percussion/kpanlogo {latin} | xx: kpanlogo, panlogo, kpanlogos
percussion/ashiko {latin} | xx: ashiko, ashikos
percussion/bata {latin} | xx: bata drum, batá, bata drums, iya, itotele, okonkolo, batas
percussion/bougarabou {latin} | xx: bougarabou
percussion/gankogui {latin} | xx: gankogui, gankogi, gonkogui, gakogui, double bell
percussion/kalimba {latin} | xx: kalimba, kalimbas, mbira, thumb piano, sanza, likembe, daumenklavier, mbiras, karimba | fr: sanza, piano à pouces
percussion/balafon {latin} | xx: balafon, balafons, bala, balaphone, balafone
percussion/log-drum {latin} | xx: log drum, log drums, logdrum, slit drum, tongue drum, schlitztrommel, amapiano log, log
percussion/udu {latin} | xx: udu, udu drum, udus, clay pot, ibo drum
percussion/calabash {latin} | xx: calabash, calabaza, calebasse, calebas, water drum, water gourd
percussion/cajon {latin} | xx: cajon, cajón, cajons, cajon lo, cajon in, cajon out, cajon front, cajon back, cajones, kahon, cajn, cajon tap | fr: cajon | pt: cajon, caixa flamenca
percussion/guiro {latin} | xx: guiro, güiro, guiros, guira, güira, reco reco, reco-reco, rekoreko, short guiro, long guiro, guayo, gurio, guero | de: Ratschgurke | pt: reco
percussion/clave {latin} | xx: clave, claves, clavés, clves, rumba clave, son clave, rumba | de: Klanghölzer, Klanghoelzer, Claves | fr: claves | pt: clavas
percussion/castanet {orch} | xx: castanets, castanet, castanettes, castnts, castagnets | de: Kastagnetten | es: castañuelas, castanuelas | fr: castagnettes | it: nacchere, castagnette | pt: castanholas | nl: castagnetten | sv: kastanjetter
percussion/cowbell {latin} | xx: cowbell, cow bell, cwb, cowbells, cow bells, cwbl, mambo bell, cha bell, chacha bell, bongo bell, campana bell, cow bel, moooore cowbell, 808 cowbell, !cb | de: Kuhglocke, Kuhglocken | es: cencerro, campana de mano, cencerros | fr: cloche à vache, cloche, cloches de vache | it: campanaccio, campanacci | pt: cincerro, caneca | nl: koebel, koebellen | sv: koskälla, koklocka
percussion/almglocken {orch} | xx: almglocken, tuned cowbells, alpine bells | de: Almglocken, Herdenglocken
percussion/agogo {latin} | xx: agogo, agogos, agogô, agogó, high agogo, low agogo, agogo bells, agogo bell, agg
percussion/triangle {orch} | xx: triangle, trgl, tri, tria, triangles, mute triangle, open triangle, trngl, triang | de: Triangel, Trgl | es: triángulo, triangulo | fr: triangle | it: triangolo | pt: triângulo, triangulo forro | nl: triangel | sv: triangel
percussion/chimes {band} | xx: !chimes, wind chimes, bar chimes, windchimes, barchimes, mark tree, marktree, chime, wind chime, bar chime, chm, chms, chimes gliss, shell chimes, bamboo chimes, glass chimes | de: Windspiel, Klangspiel | es: cortina, cortinas, carrillon de viento | fr: carillon éolien | it: chimes, albero di campane | pt: carrilhão, pau de chuva carrilhao | sv: vindspel | nl: windgong
percussion/sleigh-bell {orch} | xx: sleigh bells, sleighbells, sleigh bell, jingle bells, jingles, jingle bell, sleigh, sleighs, jingle stick | de: Schellen, Schlittenglocken, Schellenstab | es: cascabeles, cascabel | fr: grelots, grelot | it: sonagli, sonagliera | pt: guizos | nl: sleebellen, belletjes | sv: bjällror, bjällra
percussion/bell {orch} | xx: !bells, !bell, bls, hand bells, handbells, handbell, church bell, church bells, bell plate, bell hit, ship bell, bell tone, big bell, bell 808 | de: Glocke, Glocken, Handglocken, Kirchenglocken | es: campanas, campana | fr: cloches | it: campana, campane, campanelle | pt: sino, sinos | nl: bel, bellen, klok, klokken | sv: klocka, klockor
percussion/tubular-bell {orch} | xx: tubular bells, tubular bell, tub bells, tubbells, !chimes, tb bells, tubulars, orch chimes, tubular, tub bell | de: Röhrenglocken, Roehrenglocken, Röhrengl | es: campanas tubulares | fr: cloches tubulaires, cloches tubes | it: campane tubolari | pt: sinos tubulares | nl: buisklokken, buisbellen | sv: rörklockor
percussion/gong {orch} | xx: gong, gongs, tam tam, tamtam, !tt gong, tam-tam, tamtams, wind gong, bowed gong, opera gong, nipple gong, tam tams, gong roll, water gong | fr: tam-tam
percussion/singing-bowl {folk} | xx: singing bowl, singing bowls, tibetan bowl, crystal bowl, bowls, tibetan bowls, rin | de: Klangschale, Klangschalen | fr: bol tibétain, bols tibétains | es: cuencos, cuenco tibetano | it: campana tibetana, campane tibetane | pt: tigela tibetana | nl: klankschaal, klankschalen | sv: klangskål
percussion/woodblock {orch} | xx: woodblock, wood block, woodblocks, wood blocks, wdblk, wblk, hi wood block, low wood block, wb, wdblock, wood bl, piccoloblock, piccolo block, jam block, jamblock, jam blk | de: Holzblock, Holzblöcke, !Holzbl | es: caja china, bloque de madera | fr: bloc de bois, bloc chinois, wood-block | it: blocco di legno, legnetti, blocchetti | pt: bloco de madeira, bloco sonoro | nl: houtblok, houtblokken | sv: träblock
percussion/temple-block {orch} | xx: temple block, temple blocks, templeblock, templeblocks, tmpl blks, temple blk, muyu, mokugyo | de: Tempelblock, Tempelblöcke | fr: temple-block, temple-blocks | it: blocco cinese, temple
percussion/ratchet {orch} | xx: ratchet, ratchets | de: Ratsche | es: carraca, matraca | fr: crécelle | it: raganella | pt: matraca | nl: ratel | sv: skallra
percussion/whip {orch} | xx: whip, slapstick, whip crack, slap stick | de: Peitsche | es: látigo, latigo | fr: fouet | it: frusta | pt: chicote | nl: zweep | sv: piska
percussion/vibraslap {latin} | xx: vibraslap, vibra slap, vibraslaps, vslap, vslp, quijada, jawbone
percussion/flexatone {orch} | xx: flexatone, flexaton
percussion/anvil {orch} | xx: anvil, anvils | de: Amboss | fr: enclume | it: incudine | es: yunque | pt: bigorna
percussion/bell-tree {orch} | xx: bell tree, belltree
percussion/rainstick {folk} | xx: rainstick, rain stick, rainsticks, rstick | de: Regenmacher, Regenstab, Regenrohr | es: palo de lluvia | fr: bâton de pluie | it: bastone della pioggia | pt: pau de chuva | nl: regenstok, regenmaker | sv: regnstav
percussion/thunder-sheet {orch} | xx: thunder sheet, thundersheet | de: Donnerblech | fr: tôle, plaque tonnerre | it: lastra
percussion/wind-machine {orch} | xx: wind machine, windmachine, aeoliphone | de: Windmaschine | fr: éoliphone, machine à vent | it: macchina del vento
percussion/lions-roar {orch} | xx: lions roar, lion's roar, string drum
percussion/ocean-drum {folk} | xx: ocean drum, oceandrum, sea drum
percussion/spring-drum {folk} | xx: spring drum, thunder tube
percussion/spoon {folk} | xx: spoons, spoon, spns | fr: cuillères, cuilleres | de: Löffel | es: cucharas | it: cucchiai
percussion/bone {folk} | xx: !bones, rhythm bones, castagnette ossa
percussion/washboard {folk} | xx: washboard, wash board, frottoir, rubboard, wshbrd | de: Waschbrett | nl: wasbord | sv: tvättbräda
percussion/bodhran {folk} | xx: bodhran, bodhrán, bodhrans, bodran, bowron, bohdran, bdhrn
percussion/lambeg {folk} | xx: lambeg
percussion/davul {arab} | xx: davul, tapan, tupan, tapans, dahol, daouli, goč, goc, davulu, toppan, tupani
percussion/tabla {ind} | xx: tabla, tablas, tbla, tabla baya, bayan tabla, dayan, tabla dayan, tabla bayan, baya, tabl | fr: tablâ
percussion/dholak {ind} | xx: dholak, dholaks, dholki, naal, dholk
percussion/dhol {ind} | xx: dhol, dhols, dhoul
percussion/mridangam {ind} | xx: mridangam, mridanga, mrdangam, mridang, khol, mridangm, mrudangam
percussion/ghatam {ind} | xx: ghatam, gatam, ghata
percussion/kanjira {ind} | xx: kanjira, khanjira, ganjira
percussion/morsing {ind} | xx: morsing, morchang
percussion/manjira {ind} | xx: manjira, manjeera, taal cymbals, kartal, kartals, khartal, jhanj, talam
percussion/pakhawaj {ind} | xx: pakhawaj, pakhavaj
percussion/chenda {ind} | xx: chenda, thavil, tavil, idakka
percussion/darbuka {arab} | xx: darbuka, darbukas, darabuka, doumbek, dumbek, derbouka, derbake, tabla arab, tarabuka, darbouka, doumbeks, drbk, tablah, egyptian tabla, tarambuka, darabukka, dumbec, derbeki, derbuka
percussion/bendir {arab} | xx: bendir, bendirs, bendhir
percussion/frame-drum {arab} | xx: frame drum, frame drums, framedrum, framedrums, frmdrm, daf, duff, def, daire, dayereh, tar drum, mazhar, deff, tamburello sud, dafs | de: Rahmentrommel, Rahmentrommeln | fr: tambour sur cadre | es: pandero cuadrado, adufe, bandir | it: tammurriata | sv: ramtrumma
percussion/tammorra {folk} | it: tammorra, tammorre
percussion/tombak {arab} | xx: tombak, zarb, tonbak, dombak, tompak
percussion/qraqeb {arab} | xx: qraqeb, krakebs, qarqaba, karkabou, krakeb, karkaba, qarkabeb, carcabas
percussion/tbel {arab} | xx: tbel, tbal, ganga drum
percussion/katim {arab} | xx: katem, sagat, sagats, cymbal arab
percussion/repique {latin} | xx: repique, repinique, repiques, repique de mao, repinique 1, repeque
percussion/tamborim {latin} | xx: tamborim, tamborins, tamborims, tamborin
percussion/cuica {latin} | xx: cuica, cuíca, mute cuica, open cuica, cuicas, quica
percussion/zabumba {latin} | xx: zabumba, zabumbas, alfaia, alfaias
percussion/atabaque {latin} | xx: atabaque, atabaques
percussion/berimbau {latin} | xx: berimbau, berimbaus, birimbao
percussion/tantan {latin} | xx: tantan, tan tan, rebolo, tantã
percussion/candombe {latin} | xx: candombe, chico candombe, repique candombe, piano candombe
percussion/bombo-leguero {latin} | xx: bombo legüero, bombo leguero, leguero
percussion/tambora {latin} | xx: tambora, tamboras, tambora dominicana
percussion/marimbula {latin} | xx: marimbula, marimbola
percussion/cununo {latin} | xx: cununo, cununos, alegre drum, tambor alegre, llamador, tambor alegre hembra
percussion/taiko {orch} | xx: taiko, taikos, taiko drum, taiko ensemble, odaiko, shime daiko, shime, nagado, taik, tko, chu daiko, o-daiko, taikoes
percussion/timpani {orch} | xx: timpani, timp, timps, timpano, tymp, tymps, timpany, tmp, kettledrum, kettledrums, kettle drums, tympani, timpani roll, timpanis | de: Pauke, Pauken, Pk, Pkn | es: timbales sinfonicos, !timbales, timbales orq | fr: timbales, timbale, !timb | it: timpani, timpano | pt: tímpanos, timpanos | nl: pauken, pauk | sv: pukor, puka, orkesterpukor
percussion/vibraphone {orch} | xx: vibes, vibraphone, vib, vibs, vibra, vibraphon, vibrafon, vbs, vbph, vibrph, vibephone, bowed vibes, vibes lo, vibes hi, vibra phone | de: Vibraphon, Vibr | es: vibráfono, vibrafono | fr: vibraphone | it: vibrafono, vibraf | pt: vibrafone | nl: vibrafoon | sv: vibrafon
percussion/marimba {orch} | xx: marimba, marimbas, mba, mrmb, marim, bass marimba, marimba lo, mrba | de: Marimbaphon | es: marimba
percussion/xylophone {orch} | xx: xylophone, xylo, xyl, xylophon, xylos, xylorimba, xylph | de: Xylophon, Xylofon | es: xilófono, xilofono, xilofon | fr: xylophone | it: xilofono, silofono | pt: xilofone | nl: xylofoon | sv: xylofon
percussion/glockenspiel {orch} | xx: glock, glockenspiel, glk, glocken spiel, glocks, glsp, glockensp, orch bells, orchestra bells, bell lyra, glockspiel, glokenspiel, metallophone, glck, music bells | de: Glockenspiel, Glsp, Metallophon | es: lira, metalofono, campanelli | fr: jeu de timbres, carillon, métallophone | it: campanelli, metallofono | pt: metalofone | nl: klokkenspel | sv: klockspel
percussion/mallet {orch} | xx: mallets, mallet, mlts, pitched perc, tuned perc, tuned percussion, pitched percussion, mallet perc, keyboard perc | de: Stabspiele | fr: claviers percussion | es: placas, láminas, laminas | it: tastiere percussioni
percussion/steel-drum {latin} | xx: steel drum, steel drums, steeldrum, steeldrums, steelpan, steel pan, steel pans, steelpans, tenor pan, cello pan, stldrm, steel band, double seconds, lead pan, bass pan, stl pan | de: Steeltrommel | fr: steel-drum | es: tambor metalico
percussion/handpan {folk} | xx: handpan, hang drum, handpans, hang, hand pan, steel tongue
percussion/music-box {film} | xx: music box, musicbox, toy box | de: Spieluhr, Spieldose | fr: boîte à musique, boite a musique | es: caja de musica, cajita de musica | it: carillon musicale, scatola musicale | pt: caixinha de musica | nl: muziekdoos, speeldoos | sv: speldosa
percussion/gamelan {folk} | xx: gamelan, bonang, saron, gender gamelan, kempul, gong ageng, angklung, kempli
percussion/waterphone {film} | xx: waterphone, water phone
percussion/body-percussion {band} | xx: body percussion, body perc, bodyperc, beatbody, chest hit, knee slap, knee slaps, thigh slap, lap slap, body slap | de: Bodypercussion, Körperperkussion | fr: percussion corporelle, percussions corporelles | es: percusion corporal
percussion/kokiriko {x} | xx: kokiriko, cha cha bell perc, whistle perc
percussion/samba-whistle {latin} | xx: samba whistle, apito, short whistle, long whistle, police whistle | pt: apito
percussion/brake-drum {orch} | xx: brake drum, brakedrum, metal plate, brake drums, iron pipe, anvil perc, metal hit perc, trash can, oil drum
percussion/junk {band} | xx: junk perc, junk percussion, found perc, found percussion, pots and pans, bottle, bottles, glass perc, keys perc, table hit, coins, bucket, cardboard box
percussion/crotale {orch} | xx: crotales, crotale, crot
percussion/drum-line {orch} | xx: tenor drum, tenor drums, quads marching, marching bass, drumline, drum line, wirbel, rührtrommel, tambour provencal, !tenors, quints | de: Landsknechtstrommel | fr: caisse roulante
percussion/jews-harp {folk} | xx: jews harp, jaw harp, mouth harp jaw, guimbarde, marranzano, khomus, dan moi | de: Maultrommel | it: scacciapensieri | fr: guimbarde | es: trompa gallega, arpa de boca | sv: mungiga
percussion/guacharaca {latin} | xx: guacharaca, guacharacas
percussion/guache {latin} | xx: guache, guasa, guasá
percussion/alegre {latin} | xx: !alegre
percussion/caja-vallenata {latin} | xx: caja vallenata
percussion/glass-harmonica {film} | xx: glass harmonica, glass harp, glass armonica | de: Glasharfe, Glasharmonika
`;
