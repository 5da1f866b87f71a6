// Writes the database that every new data folder and every run in memory begins with.
import { writeFileSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';

const db = await PGlite.create();
writeFileSync(process.argv[2], Buffer.from(await (await db.dumpDataDir('none')).arrayBuffer()));
await db.close();
