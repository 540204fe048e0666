export {
  formatBytes,
  formatDb,
  formatDuration,
  formatMs,
  formatPan,
  formatPercent,
  formatRate,
  formatRepitch,
} from './numbers';
export { Kbd } from './kbd';
export { Pictogram, pictureOf } from './pictogram';
export { cssColor, Waveform, type WaveformProps } from './waveform';
export {
  deviceRatio,
  drawWaveform,
  freshCanvas,
  peakLevelFor,
  type PeakView,
  type WavePaint,
} from './draw-waveform';
export { type Sounding, sumShape } from './sum-shape';
export { drawSoon } from './draw-soon';
export { SummedWaveform } from './summed-waveform';
export { LEVEL_SCALES, levelHeight, type LevelScale, setLevelScale, useLevelScale } from './level-scale';
export { type KeptChoice, keptChoice } from './kept-choice';
export { useElementSize } from './use-element-size';
export { THEMES, type Theme, ThemeSwitch, useChosenTheme, useTheme } from './theme-switch';
export { setTypeSize, TYPE_SIZES, type TypeSize, useTypeSize } from './type-size';
export { setSingleKeys, singleKeysOn, useShortcuts, type Shortcut } from './shortcuts';
export { CopyButton } from './copy-button';
export { FernMark } from './fern-mark';
export { type DifferingPath, differingPath } from './differing-path';
export { Button, type ButtonProps, type ButtonTone, IconButton } from './button';
export { Check, CheckBox, FileInput, RadioButton, Select, Slider, TextInput } from './inputs';
export { EnteredField } from './entered-field';
export { Field } from './field';
export { Empty } from './empty';
export { ColumnHead, Table, type TableOrder } from './table';
export { Tabs } from './tabs';
export { Labelled } from './labelled';
export { Line } from './line';
export { Notice } from './notice';
export { Bar, Progress } from './progress';
export { Dialog } from './dialog';
export { Icon, type IconName } from './icon';
export { figureFont } from './figure-font';
export { Menu, MenuAt, type MenuItem } from './menu';
export { NumberField, type NumberFieldProps } from './number-field';
export { type NumberRange, readNumber, type TypedNumber } from './number-text';
export { type Held, useHeld } from './use-held';
export { type LongPressHandlers, useLongPress } from './use-long-press';
export { type ChangeWindow, useWindowGestures } from './use-window-gestures';
export {
  Clock,
  setTimeUnit,
  TIME_UNITS,
  type TimeUnit,
  useClock,
  useTimeUnit,
  type WriteClock,
} from './clock';
export { type PanHandlers, type Sight, useWindowPan } from './use-window-pan';
export { fitted, panned, rulerStep, type WaveWindow, type WindowLimits, zoomed } from './wave-window';
export { axis, roundTicks, widened } from './scales';
export { barStep, clockStep } from './steps';
export { later } from './later';
export { Panel } from './panel';
export { ErrorTip } from './error-tip';
export { Confirm } from './confirm';
