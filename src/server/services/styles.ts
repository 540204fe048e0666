import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import {
  parseHouseStyle,
  readStyleFile,
  type StyleListItem,
  type StyleView,
  writeStyleFile,
} from '@/contracts';
import type { SessionState, StyleRef } from '@/core/session';
import { DEFAULT_STYLE, type HouseStyle } from '@/core/style';
import { db, isUuid, SessionModel, StyleModel, StyleVersionModel } from '../db';
import { RequestFault } from '../http';

/** Versions never change: each is read once. */
const read = new Map<string, HouseStyle>();
const MOST_READ = 200;

/** A stored version as a style; fields that came later are as in the default. */
function toStyle(row: StyleVersionModel, name: string): HouseStyle {
  const key = `${row.styleId}@${row.version}`;
  const known = read.get(key);
  if (known) return known;
  const parsed = parseHouseStyle(row.body);
  if (!parsed.ok)
    throw new Error(
      `house style ${name} v${row.version} in the database is damaged: ${parsed.error.issues.map((i) => i.message).join('; ')}`,
    );
  const style = { ...parsed.value.style, version: row.version };
  if (read.size >= MOST_READ) read.clear();
  read.set(key, style);
  return style;
}

/** The style a session follows. */
export async function styleOf(
  session: Pick<SessionState, 'style'>,
  transaction?: Transaction,
): Promise<HouseStyle> {
  if (session.style === null) return DEFAULT_STYLE;
  const row = await StyleVersionModel.findOne({
    where: { styleId: session.style.id, version: session.style.version },
    transaction,
  });
  const head = row ? await StyleModel.findByPk(row.styleId, { transaction }) : null;
  return row && head ? toStyle(row, head.name) : DEFAULT_STYLE;
}

/** Highest version of the style a session follows; null for the built-in one. */
export async function newestVersion(session: Pick<SessionState, 'style'>): Promise<number | null> {
  return session.style === null
    ? null
    : ((await StyleVersionModel.max<number | null, StyleVersionModel>('version', {
        where: { styleId: session.style.id },
      })) ?? null);
}

/** What a new session follows: the newest version of the default style. */
export async function defaultStyleRef(transaction?: Transaction): Promise<StyleRef | null> {
  const head = await StyleModel.findOne({ where: { isDefault: true }, transaction });
  return head
    ? {
        id: head.id,
        version: await StyleVersionModel.max<number, StyleVersionModel>('version', {
          where: { styleId: head.id },
          transaction,
        }),
      }
    : null;
}

/** Refuses a style or version that is not there. */
export async function mustHaveStyle(ref: StyleRef, transaction?: Transaction): Promise<void> {
  if (
    (await StyleVersionModel.count({ where: { styleId: ref.id, version: ref.version }, transaction })) === 0
  )
    throw new RequestFault({ code: 'style.not_found' });
}

/** All house styles with their versions and the sessions that use them; the default first, then by name. `removed`: also those taken out of the lists. */
export async function listStyles(removed = false): Promise<StyleListItem[]> {
  db();
  const [heads, versions, sessions] = await Promise.all([
    StyleModel.findAll(removed ? {} : { where: { removedAt: null } }),
    StyleVersionModel.findAll({
      attributes: ['styleId', 'version', 'note', 'madeAt'],
      order: [['version', 'DESC']],
    }),
    SessionModel.findAll({ attributes: ['id', 'name', 'styleId', 'styleVersion'], order: [['name', 'ASC']] }),
  ]);
  return heads
    .map((h): StyleListItem => ({
      id: h.id,
      name: h.name,
      isDefault: h.isDefault,
      versions: versions
        .filter((v) => v.styleId === h.id)
        .map((v) => ({
          version: v.version,
          note: v.note,
          at: (v.madeAt as Date).toISOString(),
          sessions: sessions
            .filter((s) => s.styleId === h.id && s.styleVersion === v.version)
            .map((s) => ({ id: s.id, name: s.name })),
        })),
    }))
    .sort((a, b) => Number(b.isDefault) - Number(a.isDefault) || a.name.localeCompare(b.name, 'en'));
}

async function head(id: string, transaction?: Transaction): Promise<StyleModel> {
  db();
  const found = isUuid(id)
    ? await StyleModel.findByPk(id, {
        transaction,
        ...(transaction ? { lock: transaction.LOCK.UPDATE } : {}),
      })
    : null;
  if (!found) throw new RequestFault({ code: 'style.not_found' });
  return found;
}

async function versionOf(
  id: string,
  version: number | null,
  transaction?: Transaction,
): Promise<StyleVersionModel> {
  const row =
    version === null
      ? await StyleVersionModel.findOne({ where: { styleId: id }, order: [['version', 'DESC']], transaction })
      : Number.isSafeInteger(version)
        ? await StyleVersionModel.findOne({ where: { styleId: id, version }, transaction })
        : null;
  if (!row) throw new RequestFault({ code: 'style.not_found' });
  return row;
}

/** One style in one version; null = the newest. */
export async function viewStyle(id: string, version: number | null = null): Promise<StyleView> {
  const found = await head(id);
  const row = await versionOf(id, version);
  const item = (await listStyles(true)).find((s) => s.id === id) as StyleListItem;
  return { ...item, version: row.version, style: toStyle(row, found.name) };
}

async function insert(style: HouseStyle, note: string): Promise<string> {
  const id = randomUUID();
  await db().transaction(async (transaction) => {
    await StyleModel.create({ id, name: style.name }, { transaction });
    await StyleVersionModel.create(
      { styleId: id, version: 1, body: { ...style, version: 1 }, note },
      { transaction },
    );
  });
  return id;
}

/** A new style from the text of a file; returns its id. */
export async function importStyle(text: string): Promise<string> {
  db();
  const file = readStyleFile(text);
  if (!file.ok)
    throw new RequestFault({
      code: 'style.not_readable',
      issues: file.error.issues.map((i) =>
        i.line === null ? i.message : `line ${i.line}, column ${i.column}: ${i.message}`,
      ),
    });
  return insert(file.value.style, `from a file, there version ${file.value.style.version}`);
}

/** A new style that begins as a version of another; returns its id. */
export async function copyStyle(id: string, version: number | null, name: string): Promise<string> {
  const from = await viewStyle(id, version);
  return insert({ ...from.style, name }, `a copy of ${from.name} v${from.version}`);
}

/** Keeps a changed style as its next version. Refused if it was changed meanwhile: `base` is the version the change began from. */
export async function saveStyle(id: string, base: number, body: unknown, note: string): Promise<number> {
  const parsed = parseHouseStyle(body);
  if (!parsed.ok)
    throw new RequestFault({ code: 'request.invalid', issues: parsed.error.issues.map((i) => i.message) });
  return db().transaction(async (transaction) => {
    const found = await head(id, transaction);
    const newest = await versionOf(id, null, transaction);
    if (newest.version !== base) throw new RequestFault({ code: 'style.stale', version: newest.version });
    const version = base + 1;
    const { style } = parsed.value;
    await StyleVersionModel.create(
      { styleId: id, version, body: { ...style, version }, note },
      { transaction },
    );
    // One that was removed, and that a session follows again, is back in the lists.
    await found.update({ name: style.name, removedAt: null }, { transaction });
    return version;
  });
}

/** New sessions follow this style from now on. */
export async function makeDefault(id: string): Promise<void> {
  await db().transaction(async (transaction) => {
    const found = await head(id, transaction);
    await StyleModel.update({ isDefault: false }, { where: { isDefault: true }, transaction });
    await found.update({ isDefault: true, removedAt: null }, { transaction });
  });
}

/** Takes a style that no session uses, and that is not the default, out of the lists. A session that goes back to when it used it still finds it. */
export async function removeStyle(id: string): Promise<void> {
  await db().transaction(async (transaction) => {
    const found = await head(id, transaction);
    const sessions = await SessionModel.count({ where: { styleId: id }, transaction });
    if (found.isDefault || sessions > 0) throw new RequestFault({ code: 'style.in_use', sessions });
    await found.update({ removedAt: new Date() }, { transaction });
  });
}

/** A style as a file: its text and what the file is called. */
export async function styleFile(
  id: string,
  version: number | null,
): Promise<{ readonly text: string; readonly fileName: string }> {
  const { style, name } = await viewStyle(id, version);
  const plain =
    name
      .normalize('NFD')
      .replace(/\p{M}/gu, '')
      .replace(/[^A-Za-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 60) || 'house-style';
  return { text: writeStyleFile(style), fileName: `${plain}_v${style.version}.yaml` };
}
