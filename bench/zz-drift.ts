import { readdir, readFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { parsePipeline } from '../core/pipeline/document';
import { expectingOf } from '../core/pipeline/expecting';
import { carryReport } from '../core/pipeline/carry';
import { differencesOf, type Seen } from '../core/drift/differences';
import { differenceSentence, decisionWords } from '../core/drift/words';
import { reportContent } from '../server/work/report-content';
const cacheFolder = '/tmp/zz-cache';
const [doc, folder, verbose] = process.argv.slice(2);
const document = parsePipeline(JSON.parse(await readFile(doc, 'utf8')));
const seen: Seen[] = [];
let ms = 0;
for (const path of (await readdir(folder, { recursive: true })).filter((n) => n.endsWith('.pdf')).sort()) {
  const bytes = await readFile(join(folder, path));
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const { content } = await reportContent({ file: join(folder, path), sha256, cacheFolder, path } as never, {} as never).catch(() => ({ content: undefined }) as never);
  if (!content) continue;
  const r = carryReport(document, { key: path, path, pages: content.pages, tables: content.tables });
  const t = performance.now();
  seen.push({ key: path, path, period: null, known: false, profile: r.profile() });
  ms += performance.now() - t;
  if (verbose === path) console.log(JSON.stringify(seen.at(-1)!.profile, null, 1));
}
const t = performance.now();
const ds = differencesOf(seen, expectingOf(document));
console.log(folder, seen.length, 'profiles', ms.toFixed(0), 'ms; differences', (performance.now() - t).toFixed(1), 'ms; json', JSON.stringify(seen).length / seen.length);
for (const d of ds) console.log(' ', d.holds ? 'HOLD' : 'look', differenceSentence(d), '|', d.proposals.map((p) => decisionWords(d, p) + (p.likeness ?? '')).join(' · '));
