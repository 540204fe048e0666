'use client';
import { useState } from 'react';
import { type Fault, faultText, type SessionView, type StyleView } from '@/contracts';
import { describeReading, type OwnWord } from '@/core/naming';
import {
  applyChanges,
  type Change,
  isFolder,
  isTrack,
  type SessionState,
  type Track,
  tracksInOrder,
} from '@/core/session';
import { correctedName, type NameLesson, namesFor, proposalEdits, withWord } from '@/core/style';
import {
  api,
  faultOf,
  knownNames,
  proposalWith,
  type SessionStore,
  useNamesAnswer,
  useSession,
  useSessionStore,
} from '@/ui/client';
import { Button, Icon, Line } from '@/ui/kit';

const NAMES_SHOWN = 4;

/** After a correction: the word that would have read the name so, and what else it would change. */
export function LearnOffer({ track }: { readonly track: Track }) {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const { session, style } = view;
  const lessons = useNamesAnswer<'lessons'>(() => {
    const corrected = correctedName(session, style, track.id);
    return corrected && { kind: 'lessons', ...corrected };
  }, [session, style, track.id]);
  const [isRemembering, setRemembering] = useState(false);
  if (!lessons || lessons.length === 0) return null;
  const tracks = tracksInOrder(session);
  const remember = async (lesson: NameLesson): Promise<void> => {
    setRemembering(true);
    const words = withWord(session.words, lesson.word);
    // What follows is made of the names as they are read with the new word, in the session as it is by then.
    await knownNames().whenRead(...namesFor({ ...session, words }, style));
    store
      .getState()
      .commit(`Remember “${lesson.word.text}”`, (now) =>
        lessonEdits(now, [track, ...others(lesson, tracks)], lesson),
      );
    setRemembering(false);
  };
  return (
    <section className="fm-learn" aria-label="Remember it">
      <h3>Remember it for this delivery</h3>
      {lessons.map((lesson) => (
        <div key={lesson.word.text} className="fm-below-2">
          <Button
            tone="choice"
            className="fm-wide"
            disabled={isRemembering}
            onClick={() => void remember(lesson)}
          >
            <Icon name="bookmark-plus" />{' '}
            <span className="fm-grow">
              <span className="fm-chip fm-mono">{lesson.word.text}</span> is {describeReading(lesson.word)}
            </span>
          </Button>
          <p className="fm-faint fm-tight">
            {lesson.before === null ? 'The word meant nothing before.' : `Read as ${lesson.before} before.`}{' '}
            {also(others(lesson, tracks))}
          </p>
        </div>
      ))}
    </section>
  );
}

/** A word becomes one of the delivery. In a sorted session the others follow at once, what a person has set is kept; before that the proposal has them. */
function lessonEdits(
  view: SessionView,
  [corrected, ...also]: readonly Track[],
  { word }: NameLesson,
): Change[] {
  const { session, style } = view;
  const words: Change = { kind: 'words.set', words: withWord(session.words, word) };
  const after = applyChanges(session, [words]);
  if (!after.ok || !Object.values(session.nodes).some(isFolder)) return [words];
  const following = new Set(
    [corrected, ...also].flatMap((meant) => {
      const t = meant && session.nodes[meant.id];
      return isTrack(t) && (meant === corrected || !t.byHand.includes('family')) ? [t.id] : [];
    }),
  );
  const proposal = proposalWith({ ...view, session: after.session }, style);
  return [words, ...proposalEdits(after.session, style, proposal, following)];
}

/** Other tracks that a lesson would have read otherwise. */
const others = ({ also }: NameLesson, tracks: readonly Track[]): Track[] =>
  also.flatMap(({ at }) => tracks[at] ?? []);

function also(changed: readonly Track[]): string {
  if (changed.length === 0) return 'Nothing else changes.';
  const names = changed
    .slice(0, NAMES_SHOWN)
    .map((t) => t.receivedName)
    .join(', ');
  return `Also changes ${names}${changed.length > NAMES_SHOWN ? ` and ${changed.length - NAMES_SHOWN} more` : ''}.`;
}

/** What was remembered, with the way back. */
export function RememberedWords() {
  const store = useSessionStore();
  const { session, style } = useSession((s) => s.view);
  const { words } = session;
  const [fault, setFault] = useState<Fault | null>(null);
  if (words.length === 0) return null;
  const forget = (word: OwnWord): void =>
    void store
      .getState()
      .commit(`Forget “${word.text}”`, [{ kind: 'words.set', words: words.filter((w) => w !== word) }]);
  return (
    <>
      <h3>Remembered for this delivery</h3>
      <ul className="fm-evidence">
        {words.map((w) => (
          <Line key={w.text} as="li">
            <span className="fm-chip fm-mono">{w.text}</span>{' '}
            <span className="fm-grow">{describeReading(w)}</span>{' '}
            <Button tone="quiet" onClick={() => forget(w)} aria-label={`Forget ${w.text}`}>
              Forget
            </Button>
          </Line>
        ))}
      </ul>
      {session.style && (
        <Button
          className="fm-above-2"
          onClick={() => {
            setFault(null);
            void keepInStyle(session, store.getState().commit).catch((cause: unknown) =>
              setFault(faultOf(cause)),
            );
          }}
        >
          Save in the house style
        </Button>
      )}
      {session.style && (
        <p className="fm-faint fm-above-1">
          It becomes the next version of {style.name}, which this session then follows. Other sessions stay
          with theirs.
        </p>
      )}
      {fault && (
        <p className="fm-attention" role="alert">
          {faultText(fault)}
        </p>
      )}
    </>
  );
}

/** Makes the words of a delivery words of its house: the newest version of the style with them is kept as the next, and followed. */
async function keepInStyle(
  { style: ref, words, name }: SessionState,
  commit: SessionStore['commit'],
): Promise<void> {
  if (!ref) return;
  const newest = await api<StyleView>(`/api/styles/${ref.id}`);
  const learned = words.reduce(withWord, newest.style.words);
  const { version } = await api<{ version: number }>(`/api/styles/${ref.id}`, 'POST', {
    base: newest.version,
    style: { ...newest.style, words: learned },
    note: `learned from ${name}`.slice(0, 200),
  });
  commit(`Follow ${newest.name} v${version}`, [
    { kind: 'style.use', style: { id: ref.id, version } },
    { kind: 'words.set', words: [] },
  ]);
}
