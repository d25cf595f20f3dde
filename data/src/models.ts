import { ENGINE_VERSION } from '@umbo/core/base';
import type { JobKind } from './jobKinds.ts';
import {
  DataTypes,
  Model,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type ModelAttributes,
  type ModelStatic,
  type Sequelize,
} from 'sequelize';

export class Shoot extends Model<InferAttributes<Shoot>, InferCreationAttributes<Shoot>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare createdAt: CreationOptional<Date>;
}

export type PhotographState = 'untouched' | 'in work' | 'done';

export class Photograph extends Model<InferAttributes<Photograph>, InferCreationAttributes<Photograph>> {
  declare id: CreationOptional<number>;
  declare shootId: number;
  declare assetId: number;
  declare name: string;
  declare width: number;
  declare height: number;
  /** Bits per channel of the file that was imported. */
  declare bits: 8 | 16;
  /** The profile the pixels were converted from. */
  declare profile: string;
  declare state: CreationOptional<PhotographState>;
  /** When it was taken, by the camera's clock as if that showed UTC; null: not known. */
  declare takenAt: CreationOptional<Date | null>;
  /** What it was taken with, as JSON. */
  declare shotWith: CreationOptional<string>;
  /** Since when it has been in the bin; null: it is not. */
  declare removedAt: CreationOptional<Date | null>;
  declare createdAt: CreationOptional<Date>;
}

/** A picture that masks show: imported by somebody, or found by Umbo. */
export class MaskPictureRow extends Model<InferAttributes<MaskPictureRow>, InferCreationAttributes<MaskPictureRow>> {
  declare id: CreationOptional<number>;
  declare shootId: number;
  declare assetId: number;
  declare name: string;
  declare width: number;
  declare height: number;
  declare isFound: boolean;
  declare createdAt: CreationOptional<Date>;
}

/** The edit of one photograph. */
export class DocumentRow extends Model<InferAttributes<DocumentRow>, InferCreationAttributes<DocumentRow>> {
  declare photographId: number;
  /** Grows with every accepted batch of changes. */
  declare revision: number;
  /** How many history entries are in effect; the ones after it can be redone. */
  declare position: number;
  declare body: string;
}

/** A batch of changes that was accepted, and the revision that it led to. */
export class BatchRow extends Model<InferAttributes<BatchRow>, InferCreationAttributes<BatchRow>> {
  declare photographId: number;
  declare id: string;
  declare revision: number;
}

export class HistoryRow extends Model<InferAttributes<HistoryRow>, InferCreationAttributes<HistoryRow>> {
  declare photographId: number;
  /** 1, 2, 3, ... */
  declare seq: number;
  declare entryId: string;
  declare label: string;
  declare patches: string;
  declare inverse: string;
  declare createdAt: CreationOptional<Date>;
}

/** A named state of an edit. */
export class VersionRow extends Model<InferAttributes<VersionRow>, InferCreationAttributes<VersionRow>> {
  declare id: CreationOptional<number>;
  declare photographId: number;
  declare name: string;
  declare body: string;
  declare createdAt: CreationOptional<Date>;
}

/** What went along from one photograph to others, and the edit that it was taken from, as it was. */
export class CarryRow extends Model<InferAttributes<CarryRow>, InferCreationAttributes<CarryRow>> {
  declare id: string;
  declare shootId: number;
  /** Null: the photograph is gone. */
  declare sourceId: number | null;
  declare sourceName: string;
  declare sourceSha256: string;
  declare how: string;
  declare choice: string;
  declare body: string;
  /** Whether nothing is changed by it. */
  declare isTrial: CreationOptional<boolean>;
  /** The treatment that it is of, and which version of it; null: of none. */
  declare treatmentId: CreationOptional<string | null>;
  declare treatmentVersion: CreationOptional<number | null>;
  declare createdAt: CreationOptional<Date>;
}

/** A way of working that is kept for every shoot. */
export class TreatmentRow extends Model<InferAttributes<TreatmentRow>, InferCreationAttributes<TreatmentRow>> {
  declare id: string;
  declare name: string;
  declare note: string;
  /** The newest. */
  declare version: number;
  declare createdAt: CreationOptional<Date>;
}

/** What a treatment does since one of its versions. */
export class TreatmentVersionRow extends Model<InferAttributes<TreatmentVersionRow>, InferCreationAttributes<TreatmentVersionRow>> {
  declare treatmentId: string;
  declare version: number;
  /** An edit with one group. */
  declare body: string;
  /** The layers that are found anew, as JSON. */
  declare solve: string;
  /** Of the photograph that it was made on; empty: not known. */
  declare sourceSha256: string;
  /** How that photograph looked. */
  declare picture: CreationOptional<Buffer | null>;
  declare createdAt: CreationOptional<Date>;
}

/** A mask that is kept with the shoot. */
export class MaskRow extends Model<InferAttributes<MaskRow>, InferCreationAttributes<MaskRow>> {
  declare id: CreationOptional<number>;
  declare shootId: number;
  declare name: string;
  /** An edit with one layer, as JSON. */
  declare body: string;
}

/** An ICC profile that is kept with the shoot. */
export class ProfileRow extends Model<InferAttributes<ProfileRow>, InferCreationAttributes<ProfileRow>> {
  declare id: CreationOptional<number>;
  declare shootId: number;
  declare name: string;
  declare colours: 'rgb' | 'grey' | 'cmyk';
  /** Of its bytes. */
  declare sha256: string;
  declare icc: Buffer;
}

export class PaletteRow extends Model<InferAttributes<PaletteRow>, InferCreationAttributes<PaletteRow>> {
  declare id: CreationOptional<number>;
  declare shootId: number;
  declare name: string;
}

export class SwatchRow extends Model<InferAttributes<SwatchRow>, InferCreationAttributes<SwatchRow>> {
  declare id: CreationOptional<number>;
  declare paletteId: number;
  declare name: string;
  /** Encoded sRGB, 0..1, as are g and b. */
  declare r: number;
  declare g: number;
  declare b: number;
}

export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

export class Job extends Model<InferAttributes<Job>, InferCreationAttributes<Job>> {
  declare id: CreationOptional<number>;
  declare kind: JobKind;
  /** Null for what is of a file that is no photograph yet. */
  declare photographId: CreationOptional<number | null>;
  /** The mask that an import became. */
  declare maskPictureId: CreationOptional<number | null>;
  declare state: CreationOptional<JobState>;
  declare options: string;
  /** The name of the edit as it was when a file of it was asked for; null: the job works on what is there. */
  declare edit: CreationOptional<string | null>;
  declare revision: number;
  /** The engine that it was made for: only those of that version or a newer one can do it. */
  declare engine: CreationOptional<number>;
  /** 0..1 */
  declare progress: CreationOptional<number>;
  declare attempts: CreationOptional<number>;
  declare leaseUntil: CreationOptional<Date | null>;
  declare leaseHolder: CreationOptional<string | null>;
  declare assetId: CreationOptional<number | null>;
  declare error: CreationOptional<string | null>;
  /** What was asked for together: hand-overs, or what is carried to several photographs. */
  declare batchId: CreationOptional<string | null>;
  /** The size of the picture before it is brought to that of the file; null: the photograph's. */
  declare width: CreationOptional<number | null>;
  declare height: CreationOptional<number | null>;
  /** Whether somebody waits for it: it is taken before what is not. */
  declare urgent: CreationOptional<boolean>;
  /** What came of it, as JSON. */
  declare outcome: CreationOptional<string | null>;
  declare createdAt: CreationOptional<Date>;
  declare endedAt: CreationOptional<Date | null>;
}

// Sequelize writes into column descriptions: each column gets its own.
const id = () => ({ type: DataTypes.INTEGER.UNSIGNED, primaryKey: true, autoIncrement: true });
const whole = (more = {}) => ({ type: DataTypes.INTEGER.UNSIGNED, allowNull: false, ...more });
const key = () => whole({ primaryKey: true });
const text = () => ({ type: DataTypes.TEXT('long'), allowNull: false });
const string = (more = {}) => ({ type: DataTypes.STRING, allowNull: false, ...more });
const number = () => ({ type: DataTypes.DOUBLE, allowNull: false });
const created = () => ({ type: DataTypes.DATE(3), allowNull: false, defaultValue: DataTypes.NOW });

type Bind = (model: ModelStatic<Model>, tableName: string, columns: ModelAttributes) => void;

/** Binds the models to a connection pool. */
export function bindModels(db: Sequelize): void {
  const bind: Bind = (model, tableName, columns) => void model.init(columns, { sequelize: db, tableName, timestamps: false });
  bindShoots(bind);
  bindEdits(bind);
  bindWork(bind);
}

function bindShoots(bind: Bind): void {
  bind(Shoot, 'shoots', { id: id(), name: string(), createdAt: created() });
  bind(Photograph, 'photographs', {
    id: id(),
    shootId: whole(),
    assetId: whole(),
    name: string(),
    width: whole(),
    height: whole(),
    bits: whole(),
    profile: string(),
    state: string({ defaultValue: 'untouched' }),
    takenAt: DataTypes.DATE,
    shotWith: string({ defaultValue: '{}' }),
    removedAt: DataTypes.DATE(3),
    createdAt: created(),
  });
  bind(MaskPictureRow, 'mask_pictures', {
    id: id(),
    shootId: whole(),
    assetId: whole(),
    name: string(),
    width: whole(),
    height: whole(),
    isFound: { type: DataTypes.BOOLEAN, allowNull: false },
    createdAt: created(),
  });
  bind(MaskRow, 'masks', { id: id(), shootId: whole(), name: string(), body: text() });
  bind(ProfileRow, 'profiles', {
    id: id(),
    shootId: whole(),
    name: string(),
    colours: string(),
    sha256: string(),
    icc: { type: DataTypes.BLOB('medium'), allowNull: false },
  });
  bind(PaletteRow, 'palettes', { id: id(), shootId: whole(), name: string() });
  bind(SwatchRow, 'swatches', { id: id(), paletteId: whole(), name: string(), r: number(), g: number(), b: number() });
}

function bindEdits(bind: Bind): void {
  bind(DocumentRow, 'documents', { photographId: key(), revision: whole(), position: whole(), body: text() });
  bind(BatchRow, 'batches', { photographId: key(), id: string({ primaryKey: true }), revision: whole() });
  bind(HistoryRow, 'history', {
    photographId: key(),
    seq: key(),
    entryId: string(),
    label: string(),
    patches: text(),
    inverse: text(),
    createdAt: created(),
  });
  bind(VersionRow, 'versions', { id: id(), photographId: whole(), name: string(), body: text(), createdAt: created() });
  bind(CarryRow, 'carries', {
    id: string({ primaryKey: true }),
    shootId: whole(),
    sourceId: DataTypes.INTEGER.UNSIGNED,
    sourceName: string(),
    sourceSha256: string(),
    how: string(),
    choice: text(),
    body: text(),
    isTrial: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
    treatmentId: DataTypes.STRING,
    treatmentVersion: DataTypes.INTEGER.UNSIGNED,
    createdAt: created(),
  });
  bind(TreatmentRow, 'treatments', {
    id: string({ primaryKey: true }),
    name: string(),
    note: text(),
    version: whole(),
    createdAt: created(),
  });
  bind(TreatmentVersionRow, 'treatment_versions', {
    treatmentId: string({ primaryKey: true }),
    version: key(),
    body: text(),
    solve: text(),
    sourceSha256: string(),
    picture: DataTypes.BLOB('medium'),
    createdAt: created(),
  });
}

function bindWork(bind: Bind): void {
  bind(Job, 'jobs', {
    id: id(),
    kind: string(),
    photographId: DataTypes.INTEGER.UNSIGNED,
    maskPictureId: DataTypes.INTEGER.UNSIGNED,
    state: string({ defaultValue: 'queued' }),
    options: text(),
    edit: DataTypes.STRING,
    revision: whole(),
    engine: whole({ defaultValue: ENGINE_VERSION }),
    progress: { type: DataTypes.FLOAT, allowNull: false, defaultValue: 0 },
    attempts: whole({ defaultValue: 0 }),
    leaseUntil: DataTypes.DATE(3),
    leaseHolder: DataTypes.STRING,
    assetId: DataTypes.INTEGER.UNSIGNED,
    error: DataTypes.STRING,
    batchId: DataTypes.STRING,
    width: DataTypes.INTEGER.UNSIGNED,
    height: DataTypes.INTEGER.UNSIGNED,
    urgent: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: true },
    outcome: DataTypes.TEXT('long'),
    createdAt: created(),
    endedAt: DataTypes.DATE(3),
  });
}
