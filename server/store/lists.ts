import type { List } from '../../core/sheet/list';
import type { Session, Store } from './store';

export interface StoredListFile {
  readonly name: string;
  readonly version: string;
  readonly savedAt: string;
  readonly rows: number;
  readonly columns: readonly string[];
}

/** The files that were uploaded, as they are now. */
export const listFiles = async (store: Session): Promise<StoredListFile[]> =>
  (
    await store.query<{ name: string; version: string; savedat: string; rows: number; columns: string }>(
      'select f.name, f.version, f.saved_at as savedat, l.rows, l.columns from list_file f join list_version l on l.version = f.version order by f.name',
    )
  ).map(({ savedat, columns, ...file }) => ({ ...file, savedAt: savedat, columns: JSON.parse(columns) as string[] }));

export async function listFile(store: Session, name: string): Promise<StoredListFile | undefined> {
  return (await listFiles(store)).find((file) => file.name === name);
}

/** The content of a version, as JSON. */
export async function listContent(store: Session, version: string): Promise<string | undefined> {
  const [row] = await store.query<{ content: string }>('select content from list_version where version = $1', [
    version,
  ]);
  return row?.content;
}

const addVersion = (session: Session, version: string, content: string) => {
  const { rows, columns } = JSON.parse(content) as List;
  return session.execute(
    'insert into list_version (version, content, rows, columns) values ($1, $2, $3, $4) on conflict (version) do nothing',
    [version, content, rows, JSON.stringify(columns.map(({ name }) => name))],
  );
};

/** Saves a file under its name; rows that were made with the one before keep it. */
export const saveListFile = (
  store: Store,
  name: string,
  { version, content }: { version: string; content: string },
  who: string,
): Promise<void> =>
  store.transaction(async (session) => {
    await addVersion(session, version, content);
    await session.execute(
      'insert into list_file (name, version, saved_by) values ($1, $2, $3) on conflict (name) do update set version = excluded.version, saved_at = now(), saved_by = excluded.saved_by',
      [name, version, who],
    );
    await clearLists(session);
  });

export const deleteListFile = (store: Store, name: string): Promise<void> =>
  store.transaction(async (session) => {
    await session.execute('delete from list_file where name = $1', [name]);
    await clearLists(session);
  });

/** Versions that are no file and with which no rows were made are gone. */
const clearLists = (session: Session) =>
  session.execute(
    'delete from list_version l where not exists (select 1 from list_file f where f.version = l.version) and not exists (select 1 from part_list p where p.version = l.version)',
  );

/** A list that a part was made with: by which step, in which version. */
export interface PartList {
  readonly step: string;
  readonly version: string;
}

/** Writes down the lists that a part is made with. @param contentOf the content of a version that is not kept yet */
export async function addPartLists(
  session: Session,
  part: number,
  lists: readonly PartList[],
  contentOf: (version: string) => Promise<string>,
): Promise<void> {
  for (const { step, version } of lists) {
    const [known] = await session.query('select 1 from list_version where version = $1', [version]);
    if (!known) await addVersion(session, version, await contentOf(version));
    await session.execute('insert into part_list (part, step, version) values ($1, $2, $3)', [part, step, version]);
  }
}

export const partLists = (store: Session, part: number): Promise<PartList[]> =>
  store.query<{ step: string; version: string }>('select step, version from part_list where part = $1', [part]);

/** Clears what is left of parts that are gone. */
export const clearUnusedLists = (store: Store): Promise<number> => clearLists(store);
