import { Command, CommanderError, InvalidArgumentError } from 'commander';
import { thisBuild } from './setup/build';
import { configFrom, dataOption, serverOptions } from './setup/config';

// Commands are loaded when asked for, so that --help answers at once.
const wholeNumber = (text: string) => {
  if (!/^\d+$/.test(text)) throw new InvalidArgumentError('Expected a whole number.');
  return Number(text);
};

const program = new Command('able-sieve')
  .description('Turns the same PDF reports, week after week, into one dataset that traces to the paper.')
  .version(thisBuild.release)
  .showHelpAfterError('(able-sieve COMMAND --help says more)');

program
  .command('tables')
  .description('print the tables found in a PDF file')
  .argument('<file>', 'PDF file')
  .option('--pages <range>', 'pages such as 2-8 or 1,3,5-7')
  .option('--password <password>', 'password of the file')
  .option('--whole-pages', 'offer every page as a whole, too')
  .option('--reading <name>', 'read by tagged, ruled, aligned or line by line, where a table can be')
  .option('--json', 'print JSON')
  .action(async (file: string, options) => (await import('./commands/tables')).tables(file, options));

program
  .command('run')
  .description('carry a pipeline over a folder of reports')
  .argument('<pipeline>', 'pipeline document, NAME.sieve.json')
  .requiredOption('--reports <folder>', 'folder of the reports')
  .option(
    '--out <file>',
    'write the dataset to a file, by its ending: .csv, .tsv, .xlsx, .json, .jsonl, .parquet, .sql, .zip (data package)',
  )
  .option('--csv <how>', 'how CSV is written, such as separator=semicolon&decimal=comma')
  .option('--let-go', 'reports that are gone from the folder may leave the dataset, however many')
  .addOption(dataOption())
  .action(async (pipeline: string, options) => (await import('./commands/run')).run(pipeline, options));

program
  .command('trace')
  .description('print the place on paper of a cell of the published dataset')
  .argument('<pipeline>', 'pipeline document, or the name of a pipeline')
  .argument('<row>', 'row of the dataset, from 1', wholeNumber)
  .argument('<column>', 'heading of the column')
  .addOption(dataOption().makeOptionMandatory())
  .option('--json', 'print JSON')
  .action(async (pipeline: string, row: number, column: string, options) =>
    (await import('./commands/trace')).trace(pipeline, row, column, options),
  );

program
  .command('out')
  .description('write a published dataset, or some of it, to a file')
  .argument('<pipeline>', 'pipeline document, or the name of a pipeline')
  .argument(
    '<file>',
    'file, its format by its ending: .csv, .tsv, .xlsx, .json, .jsonl, .parquet, .sql, .zip (data package)',
  )
  .addOption(dataOption().makeOptionMandatory())
  .option('--columns <headings>', 'headings with commas between; all columns if left out')
  .option('--where <condition...>', 'rows that meet a condition, such as "Boxes >= 10"; may be given again')
  .option('--order <headings>', 'headings with commas between, desc behind one for the largest first')
  .option('--csv <how>', 'how CSV is written, such as separator=semicolon&decimal=comma')
  .action(async (pipeline: string, file: string, options) =>
    (await import('./commands/out')).out(pipeline, file, options),
  );

program
  .command('verify')
  .description('check an evidence slip, or a bundle of them, against the reports')
  .argument('<slip>', 'evidence slip, an HTML file, or a bundle of them, a ZIP file')
  .requiredOption('--reports <folder>', 'folder of the reports')
  .action(async (slip: string, options) => (await import('./commands/verify')).verify(slip, options));

const serveCommand = program.command('serve').description('start the server');
for (const option of serverOptions()) serveCommand.addOption(option);
serveCommand.action(async (options) => (await import('./commands/serve')).serveUntilStopped(configFrom(options)));

/** One sentence, no stack: what is wrong and what to do. */
const said = (error: unknown) => `${error instanceof Error ? error.message : String(error)}\n`;

/** Ends the process whatever is still open in it, once the sentence is written. */
const endWith = (error: unknown) => process.stderr.write(said(error), () => process.exit(1));

// A promise that nobody waits for any more must not end the program with a stack trace.
process.on('unhandledRejection', (error) => void process.stderr.write(said(error)));
// A mistake of the program: it ends, but without a stack trace, and the data folder is free.
process.on('uncaughtException', endWith);
// Who reads what is printed may have read enough (| head).
process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1));
program.exitOverride();
try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CommanderError) process.exitCode = error.exitCode;
  else endWith(error);
}
