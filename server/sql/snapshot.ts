// Keeps the tables that other programs look into as the datasets are published.
import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { csvLine } from '../store/publish';
import { copyOf } from '../export/out-rows';
import { provenanceOf } from '../export/provenance';
import { builtThread } from '../setup/built';
import { programFlags } from '../setup/engine';
import type { Unnumbered } from '../setup/numbered';
import { dataTableOf, headingWithUnit } from '../store/data-table';
import { publicationOf, type Publication } from '../store/dataset';
import { sqlType } from '../store/names';
import { allPipelines, type StoredPipeline } from '../store/pipelines';
import { isTokenOf } from '../store/readers';
import { literal, quoted, type Store } from '../store/store';
import type { HouseAsks, Opening, ProcessTells } from './process';
import { readerRole } from './prepared';

/** Published datasets, as other programs may look into them with SQL. */
export class SqlSnapshot {
  private process: ChildProcess | undefined;
  private readonly waiting = new Map<number, { resolve: (rows: unknown[]) => void; reject: (error: Error) => void }>();
  private nextId = 1;
  private following: Promise<void> = Promise.resolve();
  private closed = false;
  /** Port that is listened on. */
  port = 0;

  private constructor(
    private readonly store: Store,
    private readonly opening: Opening,
    private readonly reading: <T>(publication: number, work: () => Promise<T>) => Promise<T>,
    private readonly failed: (error: Error) => void,
  ) {}

  /**
   * Starts the process. It answers at once; what is published comes in as it is copied.
   * @param reading keeps the rows of a publication while some work goes on
   * @throws when its port is taken, or the certificate is none
   */
  static async open(
    store: Store,
    opening: Opening,
    reading: SqlSnapshot['reading'],
    failed: (error: Error) => void,
  ): Promise<SqlSnapshot> {
    const snapshot = new SqlSnapshot(store, opening, reading, failed);
    try {
      await snapshot.start();
    } catch (error) {
      await snapshot.close();
      throw error;
    }
    void snapshot.follow();
    return snapshot;
  }

  /** Brings the tables up to what is published now, after what is under way. */
  follow(): Promise<void> {
    return (this.following = this.following
      .then(() => (this.closed ? undefined : this.bringUp()))
      .catch((error: Error) => {
        if (!this.closed) this.failed(error);
      }));
  }

  /** Closes the connections of a reader whose token was taken back, or is another one now. */
  async shut(reader: string): Promise<void> {
    await this.ask({ shut: reader }).catch(() => undefined);
  }

  async close(): Promise<void> {
    this.closed = true;
    const child = this.process;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
    await this.following;
  }

  private async start(): Promise<void> {
    const child = fork(fileURLToPath(builtThread('sql-process')), [], {
      serialization: 'advanced',
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      execArgv: [...programFlags],
    });
    this.process = child;
    child.on('message', (told: ProcessTells) => {
      if ('asks' in told)
        return void isTokenOf(this.store, told.reader, told.token).then(
          (known) => child.connected && child.send({ id: told.asks, known } satisfies HouseAsks),
          this.failed,
        );
      if ('emptied' in told) return void this.follow();
      const asker = this.waiting.get(told.id);
      this.waiting.delete(told.id);
      if ('failed' in told) asker?.reject(Object.assign(new Error(told.failed), { code: told.code }));
      else asker?.resolve(told.rows);
    });
    child.on('exit', () => {
      const error = new Error('The process for SQL has ended.');
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
      if (this.closed || this.port === 0) return;
      this.failed(error);
      setTimeout(() => void this.again(), 1000).unref();
    });
    const [port] = (await this.ask({ open: { ...this.opening, port: this.port || this.opening.port } })) as [number];
    this.port = port;
  }

  /** Starts another process in the place of one that has ended; what cannot be started is tried again. */
  private async again(): Promise<void> {
    if (this.closed) return;
    try {
      await this.start();
      await this.follow();
    } catch (error) {
      this.failed(error as Error);
      this.process?.kill('SIGKILL');
    }
  }

  private ask(question: Unnumbered<HouseAsks>): Promise<unknown[]> {
    return new Promise((resolve, reject) => {
      const id = this.nextId++;
      if (!this.process?.connected) return void reject(new Error('The process for SQL has ended.'));
      this.waiting.set(id, { resolve, reject });
      this.process.send({ id, ...question });
    });
  }

  private async bringUp(): Promise<void> {
    const there = new Map(
      ((await this.ask({ rows: 'select name, token from house.dataset' })) as { name: string; token: string }[]).map(
        ({ name, token }) => [name, token],
      ),
    );
    for (const pipeline of await allPipelines(this.store)) {
      const publication = await publicationOf(this.store, pipeline.id);
      if (!publication) continue;
      const token = there.get(pipeline.viewName);
      there.delete(pipeline.viewName);
      const says = `${publication.token} ${pipeline.document.name}`;
      // One that cannot be copied keeps none of the others from it.
      if (token !== says)
        await this.reading(publication.id, () => this.copy(pipeline, publication, says)).catch(
          (error: Error) => this.closed || this.failed(error),
        );
    }
    // Pipelines that are no more.
    for (const name of there.keys())
      await this.ask({ script: `begin; drop table if exists published.${quoted(name)}; ${forgotten(name)}; commit` });
  }

  /** Copies a dataset beside the one that is there, and puts it in its place in one transaction. */
  private async copy(pipeline: StoredPipeline, publication: Publication, says: string): Promise<void> {
    const { viewName, document } = pipeline;
    const columns = publication.columns;
    // No dataset has a name with blanks.
    const incoming = 'house."rows that arrive"';
    await this.ask({
      script: `drop table if exists ${incoming}; create table ${incoming} (ordinal bigint, report integer, page integer, ${columns.map(({ identifier, type }) => `${quoted(identifier)} ${sqlType(type)}`).join(', ') || 'nothing text'})`,
    });
    const startRow = `(select pp.start_row from publication_part pp where pp.publication = ${publication.id} and pp.part = d.part)`;
    const cells = [
      `${startRow} + d.ordinal + 1`,
      'd.report',
      'd.page',
      ...columns.map(({ identifier }) => `d.${quoted(identifier)}`),
    ];
    for await (const csv of copyOf(this.store, publication, cells)) await this.ask({ into: incoming, csv });
    const provenance = await provenanceOf(this.store, pipeline, publication);
    const problems = await this.store.patient.query<{
      ordinal: string;
      report: number;
      page: number;
      identifier: string;
      text: string;
      expected: string;
    }>(
      `select pp.start_row + p.ordinal + 1 as ordinal, d.report, d.page, p.identifier, p.text, p.expected from dataset_problem p join publication_part pp on pp.part = p.part
       join ${quoted(await dataTableOf(this.store, pipeline.id))} d on d.part = p.part and d.ordinal = p.ordinal where pp.publication = ${publication.id}`,
    );
    const lines = (rows: readonly (readonly (string | number | boolean | null)[])[]) =>
      Buffer.from(rows.map((row) => csvLine([viewName, ...row])).join(''));
    // Each in a turn of its own, under a name that nobody looks for; they are given their own with the rows.
    await this.ask({
      script: beside
        .map((table) => `drop table if exists house.${table}; create table house.${table} (like about.${table})`)
        .join(';'),
    });
    const idOf = new Map(provenance.reports.map(({ report, path }) => [path, report]));
    await this.ask({
      into: 'house.reports',
      csv: lines(
        provenance.reports.map(({ report, path, period, sha256, rows, held, stale }) => [
          report,
          period,
          path,
          sha256,
          rows,
          held,
          stale,
          publication.publishedAt,
          publication.version,
        ]),
      ),
    });
    await this.ask({
      into: 'house.problems',
      csv: lines(
        problems.map(({ ordinal, report, page, identifier, text, expected }) => [
          ordinal,
          report,
          page,
          identifier,
          text,
          expected,
        ]),
      ),
    });
    await this.ask({
      into: 'house.printed_totals',
      csv: lines(
        provenance.totals.map(({ report, page, label, column, printed, computed, outcome, why }) => [
          idOf.get(report) ?? null,
          page,
          label,
          column,
          printed,
          computed,
          outcome,
          why,
        ]),
      ),
    });
    const table = `published.${quoted(viewName)}`;
    const note = `${document.name}: published ${publication.publishedAt}, ${publication.rows} rows; ${publication.misfits} printed texts did not fit their column and are null (about.problems). ordinal: the row's number in the dataset`;
    await this.ask({
      script: [
        'begin',
        `drop table if exists ${table}`,
        `alter table ${incoming} set schema published`,
        `alter table published."rows that arrive" rename to ${quoted(viewName)}`,
        `grant select on ${table} to ${readerRole}`,
        `comment on table ${table} is ${literal(note)}`,
        ...columns.map(
          (column) => `comment on column ${table}.${quoted(column.identifier)} is ${literal(headingWithUnit(column))}`,
        ),
        forgotten(viewName),
        ...beside.map((each) => `insert into about.${each} select * from house.${each}; drop table house.${each}`),
        `insert into house.dataset values (${literal(viewName)}, ${literal(says)})`,
        'commit',
      ].join(';\n'),
    });
    await this.ask({ script: `analyze ${table}` });
  }
}

/** Tables that tell of all datasets, in the schema `about`. */
const beside = ['reports', 'problems', 'printed_totals'];

const forgotten = (name: string) =>
  [
    ...beside.map((table) => `delete from about.${table} where dataset = ${literal(name)}`),
    `delete from house.dataset where name = ${literal(name)}`,
  ].join('; ');
