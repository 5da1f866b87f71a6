import type { RequestHandler } from 'express';
import { allPipelines } from '../store/pipelines';
import { runById, runsOf } from '../store/runs';
import type { Deps } from './deps';

const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** A plain page with the latest result of every pipeline. */
export const resultPage =
  ({ store }: Deps): RequestHandler =>
  async (_request, response) => {
    const parts: string[] = [];
    for (const pipeline of await allPipelines(store)) {
      const [last] = await runsOf(store, pipeline.id, 1);
      const detail = last && (await runById(store, last.id));
      const rows = detail?.reports
        .map((r) => `<tr><td>${escaped(r.path)}<td>${r.state}<td class="n">${r.rows}<td class="n">${r.held}<td class="n">${r.misfits}<td>${r.details.problems.map(escaped).join('<br>')}`)
        .join('');
      parts.push(
        `<h2>${escaped(pipeline.document.name)}</h2><p>${escaped(pipeline.folder)}. Last refresh: ${last ? `${last.state}, <b id="rows">${last.rows ?? 0}</b> rows` : 'none yet'}.
         <a href="/api/pipelines/${pipeline.id}/dataset.csv">Dataset as CSV</a></p>
         <table><thead><tr><th>Report<th>State<th>Rows<th>Held<th>Misfits<th>Problems</thead><tbody>${rows ?? ''}</tbody></table>`,
      );
    }
    response.type('html').send(`<!doctype html><html lang="en"><meta charset="utf-8"><title>Able Sieve</title>
<style>body{font:14px/1.45 sans-serif;margin:24px;background:#F3F5F4;color:#1B2530}table{border-collapse:collapse;background:#fff}td,th{border:1px solid #D3D9D6;padding:4px 10px;text-align:left;vertical-align:top}.n{text-align:right;font-variant-numeric:tabular-nums}a{color:#98461A}</style>
<h1>Able Sieve</h1>${parts.join('') || '<p>No pipeline yet. Make one with: able-sieve run PIPELINE.sieve.json --reports FOLDER --data FOLDER</p>'}</html>`);
  };
