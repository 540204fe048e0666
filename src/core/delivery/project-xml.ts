import {
  type Bus,
  isFolder,
  isTrack,
  levelDb,
  listRows,
  NOWHERE,
  ROOT,
  type Send,
  type SessionState,
} from '../session';
import { type HouseStyle, rowColor } from '../style';
import type { MidiSong } from '../time';
import { dbToGain, roundTo } from '../units';
import { type PackagePlan, PPQ } from './plan';

/** Text safe inside XML 1.0: markup escaped, characters XML forbids left out. */
export const xmlText = (text: string): string =>
  text
    .replace(/[^\u0009\u000a\u000d\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;');

/** Gives out ids as xs:ID wants them: `id0`, `id1` … */
function idMaker(): () => string {
  let next = 0;
  return () => `id${next++}`;
}

const number = (x: number): string => String(roundTo(x, 9));

/**
 * `project.xml` of the open exchange container: folders, tracks, buses, levels, pans, tempo, meters, markers, clips at their places.
 * A folder with a sum bus carries that bus as its own channel; other buses and the returns stand after the tracks. Levels hold
 * those of groups, for which the format has no members; what goes nowhere has no destination.
 * `notes`: the files of notes of the plan, by track, as they are handed over; counted in quarters where there is a map.
 * Audio lies beside the container (`external`), lanes count in seconds: the safest reading for recorded takes.
 * Source: DAWproject 1.0 (open specification), element order as in the subset schema of docs/project-subset.xsd.
 */
export function projectXml(
  plan: PackagePlan,
  session: SessionState,
  style: HouseStyle,
  version: string,
  notes: ReadonlyMap<string, MidiSong> = new Map(),
): string {
  const id = idMaker();
  const tempoId = id();
  const meterId = id();
  const mixId = id();
  const busIds = new Map(session.busOrder.map((b) => [b, id()]));
  const trackIds = new Map(Object.keys(session.nodes).map((n) => [n, id()]));
  const fileOf = new Map(plan.files.map((f) => [f.trackId, f]));
  const destination = (busId: string | null): string | null =>
    busId === null ? mixId : busId === NOWHERE ? null : (busIds.get(busId) ?? mixId);
  const color = (c: string | null): string => (c === null ? '' : ` color="${c}"`);
  const pan = (value: number): string =>
    `<Pan id="${id()}" value="${number((value + 1) / 2)}" unit="normalized" min="0" max="1" name="Pan"/>`;
  // `max` is the range a reader may show: wide enough for what is set, which is never made less.
  const volume = (db: number): string =>
    `<Volume id="${id()}" value="${number(dbToGain(db))}" unit="linear" min="0" max="${number(Math.max(2, dbToGain(db)))}" name="Volume"/>`;
  const sendXml = (own: number, s: Send): string =>
    `<Send id="${id()}" destination="${busIds.get(s.busId) ?? ''}" type="${s.before ? 'pre' : 'post'}">${pan(s.pan ?? own)}${volume(s.gainDb)}</Send>`;
  const channel = (
    own: string,
    c: {
      role: string;
      channels: number;
      to: string | null;
      muted: boolean;
      pan: number;
      gainDb: number;
      sends?: readonly Send[];
    },
  ): string =>
    `<Channel id="${own}" role="${c.role}" audioChannels="${c.channels}"${c.to === null ? '' : ` destination="${c.to}"`} solo="false"><Mute id="${id()}" value="${c.muted}" name="Mute"/>${pan(c.pan)}${c.sends && c.sends.length > 0 ? `<Sends>${c.sends.map((s) => sendXml(c.pan, s)).join('')}</Sends>` : ''}${volume(c.gainDb)}</Channel>`;

  const busChannel = (bus: Bus): string =>
    channel(busIds.get(bus.id) ?? '', {
      role: bus.kind === 'return' ? 'effect' : 'submix',
      channels: 2,
      to: destination(bus.outputBusId),
      muted: bus.muted,
      pan: bus.pan,
      gainDb: bus.gainDb,
      sends: bus.sends,
    });
  /** Bus → the folder that sums into it; the first, if several do. */
  const folderOf = new Map(
    [...listRows(session)]
      .reverse()
      .flatMap(({ node }) => (isFolder(node) && node.busId !== null ? [[node.busId, node.id] as const] : [])),
  );

  const structure = (parentId: string): string =>
    (session.children[parentId] ?? [])
      .map((nodeId) => {
        const node = session.nodes[nodeId];
        const own = trackIds.get(nodeId) ?? '';
        if (isFolder(node)) {
          const bus =
            node.busId !== null && folderOf.get(node.busId) === nodeId
              ? session.buses[node.busId]
              : undefined;
          return `<Track id="${own}" name="${xmlText(node.name)}" contentType="tracks"${color(node.color)} loaded="true">${bus ? busChannel(bus) : ''}${structure(nodeId)}</Track>`;
        }
        const file = fileOf.get(nodeId);
        if (isTrack(node) && notes.has(nodeId))
          return `<Track id="${own}" name="${xmlText(node.name)}" contentType="notes"${color(node.color)} comment="${xmlText(`received as ${node.receivedName}`)}" loaded="true">${channel(id(), { role: 'regular', channels: 2, to: destination(node.busId), muted: node.muted, pan: node.pan, gainDb: levelDb(session, node), sends: node.sends })}</Track>`;
        if (!isTrack(node) || !file) return '';
        return `<Track id="${own}" name="${xmlText(node.name)}" contentType="audio"${color(node.color)} comment="${xmlText(`received as ${node.receivedName}`)}" loaded="true">${channel(id(), { role: 'regular', channels: file.channels, to: destination(node.busId), muted: node.muted, pan: node.pan, gainDb: levelDb(session, node), sends: node.sends })}</Track>`;
      })
      .join('\n');
  const buses = session.busOrder
    .filter((b) => !folderOf.has(b))
    .map((b) => {
      const bus = session.buses[b];
      return bus
        ? `<Track id="${id()}" name="${xmlText(bus.name)}" contentType="audio"${color(bus.color)} loaded="true">${busChannel(bus)}</Track>`
        : '';
    })
    .join('\n');
  // Muted: it is there to be listened for, not to be mixed.
  const clickId = id();
  const click = plan.files
    .filter((f) => f.trackId === null)
    .map(
      (f) =>
        `<Track id="${clickId}" name="${xmlText(f.name)}" contentType="audio" color="${style.colors.click}" comment="made for this package" loaded="true">${channel(id(), { role: 'regular', channels: f.channels, to: mixId, muted: true, pan: 0, gainDb: 0 })}</Track>`,
    )
    .join('\n');
  const mix = `<Track id="${id()}" name="Mix bus" contentType="audio" color="${rowColor(style, 'mix-bus', 'Mix bus')}" loaded="true">${channel(mixId, { role: 'master', channels: 2, to: null, muted: false, pan: 0, gainDb: 0 })}</Track>`;
  const duration = plan.lengthFrames / plan.sampleRateHz;
  const lanes = plan.files
    .map((f) => {
      const own = f.trackId === null ? clickId : trackIds.get(f.trackId);
      return own === undefined
        ? ''
        : `<Lanes id="${id()}" track="${own}"><Clips id="${id()}"><Clip time="0" duration="${number(duration)}" contentTimeUnit="seconds" playStart="0" name="${xmlText(f.name)}"><Audio id="${id()}" algorithm="raw" channels="${f.channels}" sampleRate="${plan.sampleRateHz}" duration="${number(duration)}"><File path="${xmlText(f.path.replace(/^data\//, '../'))}" external="true"/></Audio></Clip></Clips></Lanes>`;
    })
    .join('\n');
  const noteLanes = plan.notes
    .map((f) => {
      const song = notes.get(f.trackId);
      return song
        ? noteLane(song, {
            mapped: plan.anchors.length > 1,
            track: trackIds.get(f.trackId) ?? '',
            name: f.name,
            id,
          })
        : '';
    })
    .join('\n');
  const firstTempo = tempoSteps(plan)[0]?.bpm ?? 120;
  const firstMeter = plan.meters[0] ?? { numerator: 4, denominator: 4 };
  return `<?xml version="1.0" encoding="UTF-8"?>
<Project version="1.0">
<Application name="Fernmoss" version="${version}"/>
<Transport><Tempo id="${tempoId}" name="Tempo" value="${number(firstTempo)}" unit="bpm" min="1" max="1000"/><TimeSignature id="${meterId}" numerator="${firstMeter.numerator}" denominator="${firstMeter.denominator}"/></Transport>
<Structure>
${structure(ROOT)}
${click}
${buses}
${mix}
</Structure>
<Arrangement id="${id()}">
${plan.meters.length > 0 ? `<TimeSignatureAutomation id="${id()}" timeUnit="beats"><Target parameter="${meterId}"/>${plan.meters.map((m) => `<TimeSignaturePoint time="${number(m.quarters)}" numerator="${m.numerator}" denominator="${m.denominator}"/>`).join('')}</TimeSignatureAutomation>` : ''}
${
  plan.anchors.length > 1
    ? `<TempoAutomation id="${id()}" timeUnit="beats" unit="bpm"><Target parameter="${tempoId}"/>${tempoSteps(
        plan,
      )
        .map((t) => `<RealPoint time="${number(t.quarters)}" value="${number(t.bpm)}" interpolation="hold"/>`)
        .join('')}</TempoAutomation>`
    : ''
}
${plan.markers.length > 0 ? `<Markers id="${id()}" timeUnit="${plan.anchors.length > 1 ? 'beats' : 'seconds'}">${plan.markers.map((m) => `<Marker time="${number(m.quarters ?? m.seconds)}" name="${xmlText(m.text)}" color="${rowColor(style, 'section', m.text)}"/>`).join('')}</Markers>` : ''}
<Lanes id="${id()}" timeUnit="seconds">
${lanes}
${noteLanes}
</Lanes>
</Arrangement>
<Scenes/>
</Project>
`;
}

/** Notes of a file in one clip; the element and its attributes from memory of the specification. */
function noteLane(
  song: MidiSong,
  {
    mapped,
    track,
    name,
    id,
  }: { readonly mapped: boolean; readonly track: string; readonly name: string; readonly id: () => string },
): string {
  const unit = mapped ? 'beats' : 'seconds';
  const at = (tick: number): number => (mapped ? tick / PPQ : song.toSeconds(tick));
  const notes = song.tracks.flatMap((t) => t.notes);
  const end = notes.reduce((m, n) => Math.max(m, at(n.tick + n.lengthTicks)), 0);
  const list = notes
    .map(
      (n) =>
        `<Note time="${number(at(n.tick))}" duration="${number(at(n.tick + n.lengthTicks) - at(n.tick))}" channel="${n.channel}" key="${n.pitch}" vel="${number(n.velocity / 127)}"/>`,
    )
    .join('');
  return `<Lanes id="${id()}" track="${track}" timeUnit="${unit}"><Clips id="${id()}" timeUnit="${unit}"><Clip time="0" duration="${number(end)}" contentTimeUnit="${unit}" playStart="0" name="${xmlText(name)}"><Notes id="${id()}" timeUnit="${unit}">${list}</Notes></Clip></Clips></Lanes>`;
}

/** Tempo from each anchor to the next, quarters a minute. */
function tempoSteps(plan: PackagePlan): { quarters: number; bpm: number }[] {
  return plan.anchors.slice(0, -1).map((a, i) => {
    const b = plan.anchors[i + 1] as { quarters: number; seconds: number };
    return { quarters: a.quarters, bpm: (60 * (b.quarters - a.quarters)) / (b.seconds - a.seconds) };
  });
}

/** `metadata.xml` of the container. */
export const projectMetadataXml = (session: SessionState): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<MetaData><Title>${xmlText(session.name)}</Title><Artist>${xmlText(session.artist)}</Artist><Comment>${xmlText(session.notes)}</Comment></MetaData>\n`;
