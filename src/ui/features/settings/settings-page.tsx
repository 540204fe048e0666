'use client';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import type { MachineView } from '@/contracts';
import {
  Button,
  CheckBox,
  FernMark,
  formatBytes,
  Kbd,
  LEVEL_SCALES,
  type LevelScale,
  Select,
  setLevelScale,
  setSingleKeys,
  setTimeUnit,
  setTypeSize,
  singleKeysOn,
  type Theme,
  THEMES,
  TIME_UNITS,
  type TimeUnit,
  TYPE_SIZES,
  type TypeSize,
  useChosenTheme,
  useLevelScale,
  useTimeUnit,
  useTypeSize,
} from '@/ui/kit';
import { setWalk, useWalk } from '@/ui/client';
import { latencyText, MeasureTapLatency, useTapLatency } from '@/ui/listening';

const THEME_NAMES: Readonly<Record<Theme, string>> = {
  system: 'as the computer has it',
  light: 'light',
  dark: 'dark',
};
const SIZE_NAMES: Readonly<Record<TypeSize, string>> = {
  '90': 'smaller (90 %)',
  '100': 'usual (100 %)',
  '112': 'larger (112 %)',
  '125': 'large (125 %)',
  '150': 'very large (150 %)',
};
const SCALE_NAMES: Readonly<Record<LevelScale, string>> = {
  lifted: 'quiet sounds lifted',
  linear: 'in proportion',
  db: 'in dB, from −60 dBFS',
};

const TIME_NAMES: Readonly<Record<TimeUnit, string>> = {
  minutes: 'minutes and seconds (1:23.456)',
  seconds: 'seconds (83.456 s)',
};

/** What holds for this browser, and what the machine is set to. */
export function SettingsPage({ machine }: { readonly machine: MachineView }) {
  const [theme, setTheme] = useChosenTheme();
  const size = useTypeSize();
  const scale = useLevelScale();
  const unit = useTimeUnit();
  return (
    <main className="fm-sessions fm-settings">
      <header className="fm-sessions-head">
        <Link href="/" aria-label="Fernmoss: all sessions">
          <FernMark />
        </Link>
        <h1>Settings</h1>
        <span className="fm-faint">Look, keys and messages hold for this browser and are kept at once.</span>
        <span className="fm-top-spring" />
        <Link href="/" className="fm-quiet">
          Sessions
        </Link>
        <Link href="/styles" className="fm-quiet">
          House styles
        </Link>
      </header>
      <section aria-labelledby="settings-look">
        <h2 id="settings-look">Look</h2>
        <Choice label="Theme" value={theme} of={THEMES} names={THEME_NAMES} onChoose={setTheme} />
        <Choice
          label="Size of type"
          value={size}
          of={['90', ...TYPE_SIZES.filter((s) => s !== '90')]}
          names={SIZE_NAMES}
          onChoose={setTypeSize}
        />
        <Choice
          label="Heights of waveforms"
          value={scale}
          of={LEVEL_SCALES}
          names={SCALE_NAMES}
          onChoose={setLevelScale}
        />
        <Choice
          label="Times and lengths"
          value={unit}
          of={TIME_UNITS}
          names={TIME_NAMES}
          onChoose={setTimeUnit}
        />
      </section>
      <section aria-labelledby="settings-taps">
        <h2 id="settings-taps">Tapping</h2>
        <Latency />
      </section>
      <section aria-labelledby="settings-walk">
        <h2 id="settings-walk">First walk</h2>
        <WalkAgain />
      </section>
      <section aria-labelledby="settings-keys">
        <h2 id="settings-keys">Keys</h2>
        <SingleKeys />
        <p className="fm-faint">
          In a session <Kbd>?</Kbd> lists all keys, whether they are on or off.
        </p>
      </section>
      <section aria-labelledby="settings-messages">
        <h2 id="settings-messages">Messages</h2>
        <Messages />
      </section>
      <section aria-labelledby="settings-machine">
        <h2 id="settings-machine">This machine</h2>
        <dl className="fm-settings-facts">
          <dt>Fernmoss</dt>
          <dd className="fm-mono">{machine.version}</dd>
          <dt>Free for sessions</dt>
          <dd>{formatBytes(machine.freeBytes)}</dd>
          <dt>Folders that may be used</dt>
          <dd>
            {machine.allowedFolders.length === 0 ? (
              <>
                none. Started with <span className="fm-mono">FERNMOSS_FOLDERS=/one:/another</span>, recordings
                can be used from there in place and packages written there.
              </>
            ) : (
              <ul className="fm-plain-list fm-mono fm-break">
                {machine.allowedFolders.map((path) => (
                  <li key={path}>{path}</li>
                ))}
              </ul>
            )}
          </dd>
        </dl>
        <p className="fm-faint">
          Each session’s own space is seen and cleaned by its size in the list. What is applied by itself to
          what arrives is a setting of the house style.
        </p>
      </section>
    </main>
  );
}

function Choice<T extends string>({
  label,
  value,
  of,
  names,
  onChoose,
}: {
  readonly label: string;
  readonly value: T;
  readonly of: readonly T[];
  readonly names: Readonly<Record<T, string>>;
  readonly onChoose: (value: T) => void;
}) {
  return (
    <label className="fm-setting">
      <span>{label}</span>
      <Select isNarrow value={value} onChange={(e) => onChoose(e.target.value as T)}>
        {of.map((key) => (
          <option key={key} value={key}>
            {names[key]}
          </option>
        ))}
      </Select>
    </label>
  );
}

function SingleKeys() {
  const [isOn, setOn] = useState(true);
  // What is kept in this browser is known after the first paint.
  // eslint-disable-next-line react-hooks/set-state-in-effect
  useEffect(() => setOn(singleKeysOn()), []);
  return (
    <label className="fm-setting">
      <CheckBox
        checked={isOn}
        onChange={(e) => {
          setSingleKeys(e.target.checked);
          setOn(e.target.checked);
        }}
      />
      <span>Keys of a single letter, digit or Space</span>
    </label>
  );
}

/** How late taps come on this machine, and measuring it. */
function Latency() {
  const ms = useTapLatency();
  const [isMeasuring, setMeasuring] = useState(false);
  if (isMeasuring) return <MeasureTapLatency onDone={() => setMeasuring(false)} />;
  return (
    <p>
      Tap latency <span className="fm-mono">{latencyText(ms)}</span>: taken out of every tap at Tempo.{' '}
      <Button onClick={() => setMeasuring(true)}>Measure</Button>
    </p>
  );
}

/** Whether the browser may tell that work is done. */
function Messages() {
  const [allowed, setAllowed] = useState<NotificationPermission | 'none' | null>(null);
  useEffect(
    // eslint-disable-next-line react-hooks/set-state-in-effect
    () => setAllowed('Notification' in window ? Notification.permission : 'none'),
    [],
  );
  if (allowed === 'none') return <p>This browser has no messages.</p>;
  if (allowed === 'granted')
    return <p>The browser tells when the work of a session is done while you look elsewhere.</p>;
  if (allowed === 'denied')
    return (
      <p>
        Messages are not allowed: the browser’s settings of this page can allow them. The title of the tab
        tells that work is done all the same.
      </p>
    );
  return (
    <p>
      <Button
        disabled={allowed === null}
        onClick={() => void Notification.requestPermission().then(setAllowed)}
      >
        Tell me when work is done
      </Button>{' '}
      <span className="fm-faint">The browser asks once more.</span>
    </p>
  );
}

/** The walk in five steps, called again: in whatever session is opened next. */
function WalkAgain() {
  const at = useWalk();
  const isOn = at !== 'new' && at !== 'left';
  return (
    <p>
      {isOn
        ? `It is at step ${at} of 5, above the stage of every session.`
        : 'Five steps from the recordings to the package, above the stage of the session you open next.'}{' '}
      <Button onClick={() => setWalk(isOn ? 'left' : '1')}>{isOn ? 'Leave it' : 'Show it'}</Button>
    </p>
  );
}
