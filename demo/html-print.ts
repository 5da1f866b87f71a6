import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Prints a page of HTML through a browser. @param day of printing, as eight digits: the same file comes out every time @param options.tagged whether the file tells its tables */
export function printHtml(html: string, day: string, { tagged = true }: { tagged?: boolean } = {}): Buffer {
  const folder = mkdtempSync(join(tmpdir(), 'report-'));
  try {
    writeFileSync(join(folder, 'report.html'), html);
    execFileSync(
      process.env.CHROME_BIN ?? 'chromium',
      [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        `--user-data-dir=${join(folder, 'profile')}`,
        '--no-pdf-header-footer',
        ...(tagged ? [] : ['--disable-pdf-tagging']),
        `--print-to-pdf=${join(folder, 'report.pdf')}`,
        join(folder, 'report.html'),
      ],
      { stdio: 'ignore' },
    );
    return Buffer.from(
      readFileSync(join(folder, 'report.pdf'))
        .toString('latin1')
        .replace(/D:\d{14}/g, `D:${day}090000`),
      'latin1',
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
