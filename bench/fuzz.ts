// Seeded faults in files, read as reports are. Nothing may crash or stand still, and what is lost must be named:
// npm run bench:fuzz -- [how many] [seed].
import { fuzz } from '../server/testing/fuzz';
import { sized } from './size';

const [wanted, seed] = [sized(5000, process.argv[2]), Number(process.argv[3] ?? 1)];
let unhandled = 0;
process.on('unhandledRejection', () => unhandled++);
const began = process.memoryUsage().rss;
const { counts, papers } = await fuzz(wanted, seed, console.log);
for (const [kind, count] of Object.entries(counts))
  console.log(
    kind.padEnd(8),
    Object.entries(count)
      .map(([what, many]) => `${what} ${many}`)
      .join(', '),
  );
console.log(
  `unhandled rejections here: ${unhandled}; memory of the process grew by ${Math.round((process.memoryUsage().rss - began) / 1e6)} MB over ${wanted} files of ${papers} papers, seed ${seed}.`,
);
