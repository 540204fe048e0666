import {
  DataTypes,
  Model,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelAttributeColumnOptions,
  type CreationOptional,
  type Sequelize,
} from 'sequelize';
import type { FieldsOf } from '@/core/session';
import { columnsOf, initRecordModels } from './record-models';

/** Columns of what is said of the song. */
type SongColumns = Record<keyof FieldsOf<'song'>, ModelAttributeColumnOptions>;

/** A JSONB column: any plain value. */
type Json = object | null;

/** A session's head; the rest of it lies in the tables that refer to it. */
export class SessionModel extends Model<
  InferAttributes<SessionModel>,
  InferCreationAttributes<SessionModel>
> {
  declare id: string;
  declare name: string;
  declare artist: string;
  declare notes: string;
  declare key: string;
  /** Songs of one delivery stand together under this name; empty = a song of its own. */
  declare project: CreationOptional<string>;
  declare sampleRateHz: CreationOptional<number | null>;
  declare revision: CreationOptional<number>;
  declare timekeepers: CreationOptional<Json>;
  declare cutBars: CreationOptional<number | null>;
  /** House style it follows; null = the one every house begins with. */
  declare style: CreationOptional<Json>;
  /** Read from `style` by the database, so that it can refer to it. */
  declare readonly styleId: CreationOptional<string | null>;
  declare readonly styleVersion: CreationOptional<number | null>;
  declare conform: CreationOptional<Json>;
  /** Off the list, kept. */
  declare archivedAt: CreationOptional<Date | null>;
  /** In the waste basket since then. */
  declare deletedAt: CreationOptional<Date | null>;
  declare createdAt: CreationOptional<Date>;
  declare updatedAt: CreationOptional<Date>;
}

/** A blob that is whole and in the store. */
export class BlobModel extends Model<InferAttributes<BlobModel>, InferCreationAttributes<BlobModel>> {
  declare sha256: string;
  declare sizeBytes: string | number;
}

/** A blob whose bytes are not in the store but where they were found, and how that file looked then. */
export class InPlaceFileModel extends Model<
  InferAttributes<InPlaceFileModel>,
  InferCreationAttributes<InPlaceFileModel>
> {
  declare sha256: string;
  declare path: string;
  declare sizeBytes: string | number;
  declare modifiedMs: string | number;
}

/** A file as received, and what its passes found. */
export class RecordingModel extends Model<
  InferAttributes<RecordingModel>,
  InferCreationAttributes<RecordingModel>
> {
  declare id: string;
  declare sessionId: string;
  declare receivedName: string;
  declare sizeBytes: string | number;
  declare state: string;
  declare fault: CreationOptional<Json>;
  /** What is played: the file as received, or the WAV made from it. */
  declare sha256: CreationOptional<string | null>;
  /** The file as received where that is another; null = the same. */
  declare originalSha256: CreationOptional<string | null>;
  declare container: CreationOptional<string | null>;
  declare codec: CreationOptional<string | null>;
  declare lossy: CreationOptional<boolean>;
  /** Its place among the channels of the file, from 0; null = the whole file. */
  declare channelIndex: CreationOptional<number | null>;
  /** The file as it came, where this is one of its channels. */
  declare fileName: CreationOptional<string | null>;
  declare metadata: CreationOptional<Json>;
  /** Where it lay on this machine when it was taken in without copying; null = it was sent. */
  declare sourcePath: CreationOptional<string | null>;
  declare sampleRateHz: CreationOptional<number | null>;
  declare channels: CreationOptional<number | null>;
  declare encoding: CreationOptional<string | null>;
  declare bitDepth: CreationOptional<number | null>;
  declare lengthFrames: CreationOptional<string | number | null>;
  declare header: CreationOptional<Json>;
  declare facts: CreationOptional<Json>;
  /** Of notes: what {@link facts} are of sound. */
  declare notes: CreationOptional<Json>;
  declare truePeakDbtp: CreationOptional<number | null>;
  declare peaksSha256: CreationOptional<string | null>;
  declare onsetsSha256: CreationOptional<string | null>;
  declare sketchSha256: CreationOptional<string | null>;
  declare levelsSha256: CreationOptional<string | null>;
  /** What the listening pass made of it. */
  declare heard: CreationOptional<Json>;
  declare convertedSha256: CreationOptional<string | null>;
  declare convertedRateHz: CreationOptional<number | null>;
  /** The copy holds the samples as they are, only said to be at another rate. */
  declare convertedKept: CreationOptional<boolean>;
  /** Both sides of what was joined of two; null = received. */
  declare madeFrom: CreationOptional<Json>;
  declare createdAt: CreationOptional<Date>;
}

/** One line of the edit log. */
export class EditModel extends Model<InferAttributes<EditModel>, InferCreationAttributes<EditModel>> {
  declare sessionId: string;
  declare revision: number;
  declare action: string;
  declare ofRevision: number | null;
  declare undoable: boolean;
  declare label: string;
  declare author: string;
  declare edits: Json;
  declare inverse: Json;
  /** Named by the page that made it; null = made here. */
  declare batchId: CreationOptional<string | null>;
  declare madeAt: CreationOptional<Date>;
}

/** A job as people see it; the queue itself is graphile-worker's. */
export class JobModel extends Model<InferAttributes<JobModel>, InferCreationAttributes<JobModel>> {
  declare id: string;
  declare kind: string;
  declare sessionId: string | null;
  declare subject: string;
  declare payload: Json;
  declare state: string;
  declare progress: CreationOptional<number>;
  /** Times it was begun and not ended. */
  declare attempts: CreationOptional<number>;
  declare cancelRequested: CreationOptional<boolean>;
  declare result: CreationOptional<Json>;
  declare fault: CreationOptional<Json>;
  declare createdAt: CreationOptional<Date>;
  declare startedAt: CreationOptional<Date | null>;
  declare finishedAt: CreationOptional<Date | null>;
}

/** A conformed recording, named by all that decides its bytes. */
export class ConformFileModel extends Model<
  InferAttributes<ConformFileModel>,
  InferCreationAttributes<ConformFileModel>
> {
  declare sessionId: string;
  declare key: string;
  declare sha256: string;
  declare dataOffset: number;
  declare lengthFrames: string | number;
  declare channels: number;
  declare ratioMin: number;
  declare ratioMax: number;
  /** Level that makes an audition as loud as what was played, dB. */
  declare matchDb: CreationOptional<number>;
  /** Only a few bars, for an audition. */
  declare excerpt: boolean;
  declare createdAt: CreationOptional<Date>;
}

/** The records of a session as they were at a revision. */
export class SnapshotModel extends Model<
  InferAttributes<SnapshotModel>,
  InferCreationAttributes<SnapshotModel>
> {
  declare sessionId: string;
  declare revision: number;
  declare records: Json;
}

/** A named revision to go back to. */
export class CheckpointModel extends Model<
  InferAttributes<CheckpointModel>,
  InferCreationAttributes<CheckpointModel>
> {
  declare id: string;
  declare sessionId: string;
  declare name: string;
  declare revision: number;
  declare createdAt: CreationOptional<Date>;
}

/** What was found between two recordings of a session, by the hashes of their sound. */
export class RelationModel extends Model<
  InferAttributes<RelationModel>,
  InferCreationAttributes<RelationModel>
> {
  declare sessionId: string;
  declare kind: string;
  declare a: string;
  declare b: string;
  /** Null = looked at, and nothing to say. */
  declare facts: Json;
}

/** A finding put aside by a person. */
export class DismissalModel extends Model<
  InferAttributes<DismissalModel>,
  InferCreationAttributes<DismissalModel>
> {
  declare sessionId: string;
  declare key: string;
  declare note: string;
  declare madeAt: CreationOptional<Date>;
}

/** A house style; what it says lies in its versions. */
export class StyleModel extends Model<InferAttributes<StyleModel>, InferCreationAttributes<StyleModel>> {
  declare id: string;
  declare name: string;
  /** New sessions follow it; one at most. */
  declare isDefault: CreationOptional<boolean>;
  declare createdAt: CreationOptional<Date>;
  /** Out of the lists; what was made with it still finds it. */
  declare removedAt: CreationOptional<Date | null>;
}

/** One version of a house style; never changed. */
export class StyleVersionModel extends Model<
  InferAttributes<StyleVersionModel>,
  InferCreationAttributes<StyleVersionModel>
> {
  declare styleId: string;
  declare version: number;
  declare body: Json;
  declare note: string;
  declare madeAt: CreationOptional<Date>;
}

/** A package made or being made. */
export class HandoverModel extends Model<
  InferAttributes<HandoverModel>,
  InferCreationAttributes<HandoverModel>
> {
  declare id: string;
  declare sessionId: string;
  declare number: number;
  declare state: string;
  declare jobId: CreationOptional<string | null>;
  declare folderName: string;
  declare sizeBytes: CreationOptional<string | number | null>;
  declare revision: number;
  declare report: CreationOptional<Json>;
  declare fault: CreationOptional<Json>;
  /** Folders on this machine it was written to as well. */
  declare copies: CreationOptional<Json>;
  declare createdAt: CreationOptional<Date>;
}

const str = DataTypes.TEXT;
const int = DataTypes.INTEGER;
// Sequelize writes into the column objects it is given, so each column gets its own.
const key = () => ({ type: DataTypes.STRING(64), primaryKey: true }) as const;
const uuidKey = () => ({ type: DataTypes.UUID, primaryKey: true }) as const;
const created = () => ({ type: DataTypes.DATE, defaultValue: DataTypes.NOW }) as const;
const intKey = () => ({ type: DataTypes.INTEGER, primaryKey: true }) as const;

/** Binds all models to a connection. Names are explicit: class names are minified in production builds. */
export function initModels(sequelize: Sequelize): void {
  const options = (modelName: string, tableName: string) => ({
    sequelize,
    modelName,
    tableName,
    underscored: true,
    timestamps: false,
  });
  initRecordModels(sequelize);
  SessionModel.init(
    {
      id: uuidKey(),
      ...(columnsOf('song') as SongColumns),
      project: { type: str, defaultValue: '' },
      styleId: DataTypes.UUID,
      styleVersion: int,
      revision: int,
      archivedAt: DataTypes.DATE,
      deletedAt: DataTypes.DATE,
      createdAt: created(),
      updatedAt: created(),
    },
    options('session', 'sessions'),
  );
  BlobModel.init({ sha256: key(), sizeBytes: DataTypes.BIGINT }, options('blob', 'blobs'));
  InPlaceFileModel.init(
    { sha256: key(), path: str, sizeBytes: DataTypes.BIGINT, modifiedMs: DataTypes.BIGINT },
    options('inPlaceFile', 'in_place_files'),
  );
  RecordingModel.init(
    {
      id: uuidKey(),
      sessionId: DataTypes.UUID,
      receivedName: str,
      sizeBytes: DataTypes.BIGINT,
      state: str,
      fault: DataTypes.JSONB,
      sha256: { type: str, field: 'sha256' },
      originalSha256: { type: str, field: 'original_sha256' },
      container: str,
      codec: str,
      lossy: { type: DataTypes.BOOLEAN, defaultValue: false },
      channelIndex: int,
      fileName: { type: DataTypes.TEXT },
      metadata: DataTypes.JSONB,
      sourcePath: str,
      sampleRateHz: int,
      channels: int,
      encoding: str,
      bitDepth: int,
      lengthFrames: DataTypes.BIGINT,
      header: DataTypes.JSONB,
      facts: DataTypes.JSONB,
      notes: DataTypes.JSONB,
      truePeakDbtp: DataTypes.DOUBLE,
      peaksSha256: { type: str, field: 'peaks_sha256' },
      onsetsSha256: { type: str, field: 'onsets_sha256' },
      sketchSha256: { type: str, field: 'sketch_sha256' },
      levelsSha256: { type: str, field: 'levels_sha256' },
      heard: DataTypes.JSONB,
      convertedSha256: { type: str, field: 'converted_sha256' },
      convertedRateHz: int,
      convertedKept: { type: DataTypes.BOOLEAN, defaultValue: false },
      madeFrom: DataTypes.JSONB,
      createdAt: created(),
    },
    options('recording', 'recordings'),
  );
  EditModel.init(
    {
      sessionId: uuidKey(),
      revision: intKey(),
      action: str,
      ofRevision: int,
      undoable: DataTypes.BOOLEAN,
      label: str,
      author: str,
      edits: DataTypes.JSONB,
      inverse: DataTypes.JSONB,
      batchId: DataTypes.UUID,
      madeAt: created(),
    },
    options('edit', 'edits'),
  );
  JobModel.init(
    {
      id: uuidKey(),
      kind: str,
      sessionId: DataTypes.UUID,
      subject: str,
      payload: DataTypes.JSONB,
      state: str,
      progress: DataTypes.DOUBLE,
      attempts: DataTypes.INTEGER,
      cancelRequested: DataTypes.BOOLEAN,
      result: DataTypes.JSONB,
      fault: DataTypes.JSONB,
      createdAt: created(),
      startedAt: DataTypes.DATE,
      finishedAt: DataTypes.DATE,
    },
    options('job', 'jobs'),
  );
  StyleModel.init(
    {
      id: uuidKey(),
      name: str,
      isDefault: { type: DataTypes.BOOLEAN, defaultValue: false },
      createdAt: created(),
      removedAt: DataTypes.DATE,
    },
    options('style', 'styles'),
  );
  StyleVersionModel.init(
    { styleId: uuidKey(), version: intKey(), body: DataTypes.JSONB, note: str, madeAt: created() },
    options('styleVersion', 'style_versions'),
  );
  HandoverModel.init(
    {
      id: uuidKey(),
      sessionId: DataTypes.UUID,
      number: int,
      state: str,
      jobId: DataTypes.UUID,
      folderName: str,
      sizeBytes: DataTypes.BIGINT,
      revision: int,
      report: DataTypes.JSONB,
      fault: DataTypes.JSONB,
      copies: { type: DataTypes.JSONB, defaultValue: [] },
      createdAt: created(),
    },
    options('handover', 'handovers'),
  );
  SnapshotModel.init(
    { sessionId: uuidKey(), revision: { type: int, primaryKey: true }, records: DataTypes.JSONB },
    options('snapshot', 'snapshots'),
  );
  CheckpointModel.init(
    { id: uuidKey(), sessionId: DataTypes.UUID, name: str, revision: int, createdAt: created() },
    options('checkpoint', 'checkpoints'),
  );
  RelationModel.init(
    { sessionId: uuidKey(), kind: key(), a: key(), b: key(), facts: DataTypes.JSONB },
    options('relation', 'relations'),
  );
  DismissalModel.init(
    { sessionId: uuidKey(), key: key(), note: str, madeAt: created() },
    options('dismissal', 'dismissals'),
  );
  ConformFileModel.init(
    {
      sessionId: uuidKey(),
      key: key(),
      sha256: { type: str, field: 'sha256' },
      dataOffset: int,
      lengthFrames: DataTypes.BIGINT,
      channels: int,
      ratioMin: DataTypes.DOUBLE,
      ratioMax: DataTypes.DOUBLE,
      matchDb: { type: DataTypes.DOUBLE, defaultValue: 0 },
      excerpt: DataTypes.BOOLEAN,
      createdAt: created(),
    },
    options('conformFile', 'conform_files'),
  );
}
