import { type PackagePlan, PLAYED_BASE } from '@/core/delivery';

/** The package's files as a tree in plain text; `played` = what lies beside it as it was played. */
export function PackageTree({
  plan,
  played = null,
  title,
}: {
  readonly plan: PackagePlan;
  readonly played?: PackagePlan | null;
  readonly title: string;
}) {
  const of = (folder: string) => plan.files.filter((f) => f.path.startsWith(`data/${folder}/`));
  const mapped = plan.anchors.length > 1;
  const marked = plan.markers.length > 0;
  const audio = of('audio');
  const reference = of('reference');
  return (
    <div className="fm-tree fm-mono">
      <div>{title}/</div>
      <Branch
        name="data/audio/"
        items={audio.map((f) => ({
          name: f.path.split('/').at(-1) ?? '',
          note: f.channels === 1 ? 'mono' : 'stereo',
        }))}
      />
      {reference.length > 0 && (
        <Branch
          name="data/reference/"
          items={reference.map((f) => ({
            name: f.path.split('/').at(-1) ?? '',
            note: f.trackId === null ? 'made here' : f.channels === 1 ? 'mono' : 'stereo',
          }))}
        />
      )}
      {plan.takes.length > 0 && (
        <Branch
          name="data/takes/"
          items={plan.takes.map((f) => ({
            name: f.path.split('/').at(-1) ?? '',
            note: f.channels === 1 ? 'mono' : 'stereo',
          }))}
        />
      )}
      {plan.notes.length > 0 && (
        <Branch
          name="data/notes/"
          items={plan.notes.map((f) => ({
            name: f.path.split('/').at(-1) ?? '',
            note: f.tiedTo === 'bars' ? 'notes, tied to bars' : 'notes, tied to time',
          }))}
        />
      )}
      <Branch
        name="data/session/"
        items={[
          ...(mapped ? [{ name: 'tempo-and-markers.mid', note: 'tempo map, meters' }] : []),
          ...(marked ? [{ name: 'markers.csv', note: 'named places' }] : []),
          { name: 'tracks.csv', note: 'order, routing, levels' },
          { name: 'session.dawproject', note: 'folders, colours, clips' },
          { name: 'timing.json', note: 'for programs' },
          { name: 'cover-note.html', note: 'for people' },
        ]}
      />
      {played && (
        <Branch
          name={PLAYED_BASE}
          items={[
            { name: 'audio/, reference/', note: `${played.files.length} files as played` },
            ...(played.takes.length > 0
              ? [{ name: 'takes/', note: `${played.takes.length} takes as played` }]
              : []),
            {
              name: 'session/',
              note: played.anchors.length > 1 ? 'their tempo map, marks, times' : 'their times',
            },
          ]}
        />
      )}
      <div>├ manifest-sha256.txt</div>
      <div>└ bagit.txt, bag-info.txt</div>
    </div>
  );
}

function Branch({
  name,
  items,
}: {
  readonly name: string;
  readonly items: readonly { readonly name: string; readonly note: string }[];
}) {
  return (
    <>
      <div>├ {name}</div>
      {items.map((item, i) => (
        <div key={item.name} className="fm-tree-leaf">
          <span>
            │&nbsp;&nbsp;{i === items.length - 1 ? '└' : '├'} {item.name}
          </span>
          <span className="fm-faint">{item.note}</span>
        </div>
      ))}
    </>
  );
}
